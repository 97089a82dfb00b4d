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
    /// Footfalls that agree.
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

/// Step of the search, s, how near two footfalls are one, and how far two that are one lie apart (standard deviation).
const STEP: f64 = 0.004;
const NEAR: f64 = 0.03;
const APART: f64 = 0.008;

/// Fewest footfalls that agree, and the least share of the fewer.
const FEWEST: usize = 6;
const SHARE: f64 = 0.5;

/// Another answer that far away, s, is another stride …
const ANOTHER: f64 = 0.2;

/// … and must agree this much less.
const LESS: f64 = 0.8;

/// How much later `felt` is than `seen` on its own clock, within `most` seconds: the offset at which footfalls of
/// one limb lie on each other best. No two strides are of one length, which tells one from the next. `None` when nothing
/// fits, or two strides fit nearly as well as each other.
pub fn late(felt: &[Told], seen: &[Told], most: f64) -> Option<Late> {
    let of = |limb: Limb| {
        let mut own: Vec<f64> = seen.iter().filter(|s| s.limb == limb).map(|s| s.on).collect();
        own.sort_by(f64::total_cmp);
        own
    };
    let seen_of = Limb::ALL.map(of);
    let nearest = |f: &Told, by: f64| {
        let own = &seen_of[f.limb.index()];
        let next = own.partition_point(|on| *on < f.on - by);
        (next.saturating_sub(1)..(next + 1).min(own.len()))
            .map(|k| f.on - own[k] - by)
            .filter(|d| d.abs() < NEAR)
            .min_by(|a, b| a.abs().total_cmp(&b.abs()))
    };
    let fit = |by: f64| -> f64 {
        let near = felt.iter().filter_map(|f| nearest(f, by));
        near.map(|d| (-0.5 * (d / APART).powi(2)).exp()).sum()
    };
    let steps = place((2.0 * most / STEP).round());
    let found: Vec<(f64, f64)> =
        (0..=steps).map(|k| STEP * count(k) - most).map(|by| (by, fit(by))).collect();
    let (by, best) = found.iter().copied().max_by(|a, b| a.1.total_cmp(&b.1))?;
    let agree = felt.iter().filter(|f| nearest(f, by).is_some()).count();
    if agree < FEWEST || count(agree) < SHARE * count(felt.len().min(seen.len())) {
        return None;
    }
    let others = found.iter().filter(|f| (f.0 - by).abs() > ANOTHER);
    if others.map(|f| f.1).fold(0.0, f64::max) > LESS * best {
        return None;
    }
    let mut apart: Vec<f64> = felt.iter().filter_map(|f| nearest(f, by).map(|d| d + by)).collect();
    apart.sort_by(f64::total_cmp);
    Some(Late { by: *apart.get(apart.len() / 2)?, agree })
}
