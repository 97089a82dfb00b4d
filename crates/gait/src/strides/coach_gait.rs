//! The gait that the coach says of a stretch stands over the one that the marks show.

use crate::base::gait::Label;
use crate::marks::coach_word::{CoachWord, at};
use crate::strides::bout::Bout;
use crate::strides::stride::Stride;

/// Gives bouts the gait that was said of their middle; neighbours that become alike are one bout.
/// A canter keeps the leads its marks show.
pub fn apply(bouts: Vec<Bout>, strides: &[Stride], said: &[CoachWord]) -> Vec<Bout> {
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
