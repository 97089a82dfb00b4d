//! Where the marks look wrong: footfalls that are missing, and strides whose order no horse goes.

use crate::bout::Bout;
use crate::classify::{self, Gait, Pattern};
use crate::footfall::Footfall;
use crate::limb::Limb;
use crate::stride::Stride;
use crate::thresholds::Thresholds;

/// A place to look at again.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Check {
    /// From, s.
    pub from_s: f64,
    /// To, s.
    pub to_s: f64,
    /// What is wrong there.
    pub what: Doubt,
}

/// What looks wrong.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Doubt {
    /// A footfall of this limb is due here and is not marked.
    Missing(Limb),
    /// This stride reads as no gait, or as another one than its neighbours.
    OddStride(Gait),
}

/// Places to look at again, in order of time, at most [`MOST`] of them. Marks are tidy, with those
/// inferred among them.
pub fn checks(
    marks: &[Footfall],
    strides: &[Stride],
    bouts: &[Bout],
    gaited: bool,
    limits: &Thresholds,
) -> Vec<Check> {
    let missing = marks.iter().filter(|m| m.inferred).map(|m| Check {
        from_s: m.on.0,
        to_s: m.on.0,
        what: Doubt::Missing(m.limb),
    });
    let odd = bouts.iter().filter(|b| b.label.gait != Gait::Unclear).flat_map(|b| {
        strides[b.strides.clone()].iter().filter(|s| s.is_marked()).filter_map(|s| {
            let own = classify::label(&Pattern::of(s)?, gaited, limits);
            // Near the border between two kinds of one family a stride may read either way.
            let strange = own.gait == Gait::Unclear
                || own.gait.is_asymmetrical() != b.label.gait.is_asymmetrical();
            strange.then_some(Check {
                from_s: s.start,
                to_s: s.end,
                what: Doubt::OddStride(own.gait),
            })
        })
    });
    let mut out: Vec<Check> = missing.chain(odd).collect();
    out.sort_by(|a, b| a.from_s.total_cmp(&b.from_s));
    out.truncate(MOST);
    out
}

/// More places than this are a table in the wrong order, not slips.
pub const MOST: usize = 400;
