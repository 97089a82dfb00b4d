//! How long a run of strides lasted: from a footfall to that of the same limb some strides later, by every limb that was
//! marked at both ends.
//!
//! One limb's two end marks put their errors into the tempo of a short bout, four put half of them there; and a hoof
//! that was missed at an end is stood in for by the others.

use std::cmp::Reverse;

use crate::base::limb::Limb;
use crate::base::number::count;
use crate::base::usual;
use crate::strides::stride::{Stride, follows};

/// What is known of a run of strides that follow each other.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RunLength {
    /// From its first end to its last, s.
    pub seconds: f64,
    /// Strides between them.
    pub strides: usize,
    /// How many limbs that rests on; fewer where one is known worse than another.
    pub limbs: f64,
}

/// A footfall that is known worse than this share of a stride ends no run where better ones do.
const TOO_COARSE: f64 = 0.05;

/// One limb's footfalls, by the stride that they are in: when, s, and their own standard deviation, s.
type Landed = Vec<Option<(f64, f64)>>;

impl RunLength {
    /// Of strides that [follow](follows) each other; `after` may be the one that follows them. `None` where no limb
    /// was marked twice.
    pub fn of(run: &[Stride], after: Option<&Stride>) -> Option<Self> {
        let (first, last) = (run.first()?, run.last()?);
        let after = after.filter(|a| follows(last, a));
        let stride = (last.end - first.start) / count(run.len());
        let limbs = landed(run, after);
        let well = |(_, sd): &(f64, f64)| *sd <= TOO_COARSE * stride;
        let fine = limbs.clone().map(|own| own.into_iter().map(|m| m.filter(well)).collect());
        between(&fine, stride).or_else(|| between(&limbs, stride))
    }
}

/// Footfalls by limb. The first hind's are the clock that strides are cut by, and end the last one.
fn landed(run: &[Stride], after: Option<&Stride>) -> [Landed; 4] {
    let mut out: [Landed; 4] = Default::default();
    let first = run[0].first_hind;
    // A limb's clock loses or gains a part of a stride where the first hind becomes the second.
    let clock_only = run.iter().chain(after).any(|s| s.first_hind != first);
    for limb in Limb::ALL {
        let k = limb.index();
        let own = |s: &Stride| {
            let on = s.on[k].filter(|_| !s.inferred[k])?;
            Some((on, s.sd[k].unwrap_or(0.0)))
        };
        let clock = |s: &Stride| {
            let sd = s.sd[s.first_hind.index()].unwrap_or(0.0);
            s.start_is_marked().then_some((s.start, sd))
        };
        if limb == first {
            let end = run
                .last()
                .filter(|s| !s.end_inferred)
                .map(|s| (s.end, after.and_then(|a| a.sd[a.first_hind.index()]).unwrap_or(0.0)));
            out[k] = run.iter().map(clock).chain([end]).collect();
        } else if !clock_only {
            out[k] = run.iter().chain(after).map(own).collect();
        }
    }
    out
}

/// The longest part of the run that a limb was marked at both ends of, by all limbs that were.
fn between(limbs: &[Landed; 4], stride: f64) -> Option<RunLength> {
    let mark = |own: &Landed, at: usize| own.get(at).copied().flatten();
    let ends = limbs.iter().filter_map(|own| {
        let first = own.iter().position(Option::is_some)?;
        let last = own.iter().rposition(Option::is_some)?;
        (first < last).then_some((first, last))
    });
    let share = |(first, last): (usize, usize)| {
        limbs.iter().filter(|own| mark(own, first).is_some() && mark(own, last).is_some()).count()
    };
    let (first, last) = ends.max_by_key(|e| (e.1 - e.0, share(*e), Reverse(e.0)))?;
    let own_scatter = (usual::PLACES.spread * stride).powi(2);
    let says = limbs.each_ref().map(|own| {
        let (from, to) = (mark(own, first)?, mark(own, last)?);
        let weight = 1.0 / (2.0 * own_scatter + from.1 * from.1 + to.1 * to.1);
        Some((to.0 - from.0, weight))
    });
    // Left and right first, so that a mirror image adds up to the very same number.
    let sum = |of: fn((f64, f64)) -> f64| {
        let [lf, rf, lh, rh] = says.map(|s| s.map_or(0.0, of));
        (lf + rf) + (lh + rh)
    };
    let weights = sum(|s| s.1);
    Some(RunLength {
        seconds: sum(|s| s.0 * s.1) / weights,
        strides: last - first,
        limbs: weights * weights / sum(|s| s.1 * s.1),
    })
}
