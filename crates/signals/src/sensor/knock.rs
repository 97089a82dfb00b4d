//! Clocks lined up: by a knock that stands alone in both, or by footfalls that both tell of.

use umlauf_gait::base::limb::Limb;

use crate::number::{count, place};

/// A footfall by one source.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Told {
    /// Its limb.
    pub limb: Limb,
    /// When it took the ground, s.
    pub on: f64,
}

/// How far one clock is behind another.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Late {
    /// The first clock shows so much more than the second, s.
    pub by: f64,
    /// Footfalls, or knocks, that agree.
    pub agree: usize,
}

/// A knock stands alone with nothing so long before and after it, s.
const ALONE: f64 = 0.6;

/// Knocks that stand alone in a row of moments, in order of time: a clap, a stamp.
pub fn alone(moments: &[f64]) -> Vec<f64> {
    (0..moments.len())
        .filter(|k| {
            let before = k.checked_sub(1).is_none_or(|b| moments[*k] - moments[b] > ALONE);
            before && moments.get(k + 1).is_none_or(|after| after - moments[*k] > ALONE)
        })
        .map(|k| moments[k])
        .collect()
}

/// Step of the search, s, how near two footfalls are one, and how fine the answer is.
const STEP: f64 = 0.004;
const NEAR: f64 = 0.03;

/// Fewest footfalls that agree, and the least share of the fewer.
const FEWEST: usize = 6;
const SHARE: f64 = 0.5;

/// Another answer that far away, s, is another stride …
const ANOTHER: f64 = 0.2;

/// … and must have this much fewer footfalls that agree.
const FEWER: f64 = 0.9;

/// How much later `felt` is than `seen` on its own clock, within `most` seconds: the offset at which most footfalls of
/// one limb lie on each other. `None` when none fits, or two strides fit as well as each other.
pub fn late(felt: &[Told], seen: &[Told], most: f64) -> Option<Late> {
    let agree = |by: f64| {
        let on = |f: &&Told| {
            let own = |s: &&Told| s.limb == f.limb && (f.on - by - s.on).abs() < NEAR;
            seen.iter().any(|s| own(&s))
        };
        felt.iter().filter(on).count()
    };
    let steps = place((2.0 * most / STEP).round());
    let found: Vec<(f64, usize)> =
        (0..=steps).map(|k| STEP * count(k) - most).map(|by| (by, agree(by))).collect();
    let best = found.iter().map(|f| f.1).max()?;
    if best < FEWEST || count(best) < SHARE * count(felt.len().min(seen.len())) {
        return None;
    }
    // The nearest of equals: a clock is seldom far off.
    let at = found.iter().filter(|f| f.1 == best).map(|f| f.0);
    let by = at.min_by(|a, b| a.abs().total_cmp(&b.abs()))?;
    let other = found.iter().filter(|f| (f.0 - by).abs() > ANOTHER).map(|f| f.1).max();
    if other.is_some_and(|other| count(other) > FEWER * count(best)) {
        return None;
    }
    let mut apart: Vec<f64> = felt
        .iter()
        .filter_map(|f| {
            let own = seen.iter().filter(|s| s.limb == f.limb).map(|s| f.on - s.on);
            own.filter(|d| (d - by).abs() < 2.0 * NEAR)
                .min_by(|a, b| (a - by).abs().total_cmp(&(b - by).abs()))
        })
        .collect();
    apart.sort_by(f64::total_cmp);
    Some(Late { by: *apart.get(apart.len() / 2)?, agree: best })
}
