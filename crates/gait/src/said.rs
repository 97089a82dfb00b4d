//! What the coach says of a stretch: its gait, its rein, the lead asked for. It stands over what
//! the marks say; a measured number never changes by it.

use crate::bout::Bout;
use crate::classify::{Gait, Label};
use crate::limb::Side;
use crate::stride::Stride;

/// What was said of a stretch, true seconds.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Said {
    /// From.
    pub from_s: f64,
    /// To.
    pub to_s: f64,
    /// The gait ridden.
    pub gait: Option<Gait>,
    /// The rein.
    pub rein: Option<Side>,
    /// The lead asked for.
    pub lead: Option<Side>,
}

/// The latest word on a moment that answers a question.
pub fn at<T>(said: &[Said], time: f64, question: impl Fn(&Said) -> Option<T>) -> Option<T> {
    said.iter().rev().filter(|s| (s.from_s..s.to_s).contains(&time)).find_map(question)
}

/// Gives bouts the gait that was said of their middle; neighbours that become alike are one bout.
/// A canter keeps the leads its marks show.
pub fn apply(bouts: Vec<Bout>, strides: &[Stride], said: &[Said]) -> Vec<Bout> {
    if said.iter().all(|s| s.gait.is_none()) {
        return bouts;
    }
    let mut out: Vec<Bout> = Vec::with_capacity(bouts.len());
    let mut word_before = None;
    for mut bout in bouts {
        let own = &strides[bout.strides.clone()];
        let middle = match (own.first(), own.last()) {
            (Some(a), Some(b)) => f64::midpoint(a.start, b.end),
            _ => continue,
        };
        let word = at(said, middle, |s| s.gait.map(|g| (g, s.from_s)));
        if let Some((gait, _)) = word {
            let leads = gait.is_asymmetrical() && bout.label.gait.is_asymmetrical();
            bout.label =
                if leads { Label { gait, ..bout.label } } else { Label { gait, ..Label::UNCLEAR } };
            bout.confidence = 1.0;
        }
        // One word about two bouts makes them one.
        match out.last_mut() {
            Some(last)
                if word.is_some()
                    && word == word_before
                    && last.label == bout.label
                    && last.strides.end == bout.strides.start =>
            {
                last.strides.end = bout.strides.end;
            }
            _ => out.push(bout),
        }
        word_before = word;
    }
    out
}
