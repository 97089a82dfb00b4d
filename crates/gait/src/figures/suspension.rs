//! Suspension: the time with no hoof on the ground, signed: an overlap of stances counts as
//! negative, so that means and intervals are not bent towards air that was not there.

use crate::base::gait::{Gait, Label};
use crate::base::limb::{Limb, Side};
use crate::base::number::count;
use crate::base::usual;
use crate::stats::descriptive::{mean, variance};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::normal_within;
use crate::stats::stride_mean::{Shown, StrideMean};
use crate::strides::stride::{Stride, follows};

/// Suspension of a bout.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Suspension {
    /// One aerial phase, s, signed.
    pub each: Estimate,
    /// Moments of air in a stride: all those the gait has when the interval lies above 0, none
    /// when it lies below, `None` when the clip cannot tell.
    pub phases: Option<usize>,
}

/// Suspension of the strides of a bout. `None` for gaits without it (walk) or when no stride has
/// the offs it needs.
///
/// Which hoof leaves last and which lands first is read once, from the bout's means: taking the
/// latest of several noisy marks stride by stride would make every moment of air too short. What is
/// left of that in the choice by means is taken out again, and widens the interval.
pub fn suspension(strides: &[Stride], label: Label, over: &StrideMean) -> Option<Suspension> {
    let per_stride = label.gait.aerial_phases().filter(|n| *n > 0)?;
    let next_to: Vec<(&Stride, &Stride)> =
        strides.windows(2).filter(|w| follows(&w[0], &w[1])).map(|w| (&w[0], &w[1])).collect();
    let gaps = gaps(strides.first()?, label);
    let chosen: Vec<Edges> = gaps
        .iter()
        .map(|g| g.edges(&next_to, over.timing.map_or(0.0, |t| t.sd)))
        .collect::<Option<_>>()?;
    let values: Vec<f64> = (0..strides.len())
        .filter_map(|k| {
            let here = &strides[k];
            let next = strides.get(k + 1).filter(|next| follows(here, next));
            let mut sum = 0.0;
            for edges in &chosen {
                sum += edges.landing(here, next)? - here.off[edges.last.index()]?;
            }
            Some(sum / count(chosen.len()))
        })
        .collect();
    // Two marks a gap; the mean of two gaps halves their variance.
    let marks = 2.0 / count(chosen.len());
    let usual = usual::AIR.scaled(over.stride_s);
    let mut each =
        over.shown(&values, Shown { values: &values, marks, shared: 0.0, next: 0.0, usual })?;
    let chosen_by = chosen.iter().map(|e| e.by_choice).sum::<f64>() / count(chosen.len());
    let half = each.half_width().map(|half| half.hypot(chosen_by));
    each.value += chosen_by;
    each.ci95 = half.map(|half| (each.value - half, each.value + half));
    let phases = each.ci95.and_then(|(lo, hi)| {
        if lo > 0.0 {
            Some(per_stride)
        } else if hi < 0.0 {
            Some(0)
        } else {
            None
        }
    });
    Some(Suspension { each, phases })
}

/// A moment between two groups of stances that may be air.
struct Gap {
    /// Limbs that leave the ground before it.
    leaving: Vec<Limb>,
    /// Limbs that land after it.
    landing: Vec<Limb>,
    /// The landing belongs to the next stride.
    over: bool,
}

fn gaps(stride: &Stride, label: Label) -> Vec<Gap> {
    if label.gait.is_asymmetrical() {
        return vec![Gap { leaving: Limb::ALL.to_vec(), landing: Limb::ALL.to_vec(), over: true }];
    }
    let side = stride.first_hind.side();
    let pair = |side| match label.gait {
        Gait::Pace => pair_same_side(side).to_vec(),
        _ => pair_diagonal(side).to_vec(),
    };
    let (first, second) = (pair(side), pair(side.opposite()));
    vec![
        Gap { leaving: first.clone(), landing: second.clone(), over: false },
        Gap { leaving: second, landing: first, over: true },
    ]
}

/// The hooves about a moment of air.
struct Edges {
    /// Leaves last.
    last: Limb,
    /// Lands first.
    first: Limb,
    /// The landing belongs to the next stride.
    over: bool,
    /// By how much the choice of the latest and the earliest makes the air too short, s.
    by_choice: f64,
}

impl Edges {
    /// When the limb that lands first does so after a stride. The hind that begins a stride has landed
    /// at the end of the last one too, so that one's air is not lost.
    fn landing(&self, here: &Stride, next: Option<&Stride>) -> Option<f64> {
        match (self.over, next) {
            (false, _) => here.on[self.first.index()],
            (true, Some(next)) => next.on[self.first.index()],
            (true, None) => (self.first == here.first_hind).then_some(here.end),
        }
    }
}

impl Gap {
    /// The limb that leaves last and the one that lands first, by their means from the start of
    /// the stride.
    fn edges(&self, strides: &[(&Stride, &Stride)], mark_sd: f64) -> Option<Edges> {
        let middle = |get: &dyn Fn(&(&Stride, &Stride)) -> Option<f64>| {
            let all: Vec<f64> = strides.iter().filter_map(get).collect();
            (!all.is_empty()).then(|| mean(&all))
        };
        let off = |limb: Limb| middle(&|(here, _)| Some(here.off[limb.index()]? - here.start));
        let on = |limb: Limb| {
            middle(&|(here, next)| {
                let to = if self.over { next } else { here };
                Some(to.on[limb.index()]? - here.start)
            })
        };
        let [last, before] = latest_two(&self.leaving, off)?;
        let [first, after] = latest_two(&self.landing, |limb| on(limb).map(|s| -s))?;
        let apart = |get: &dyn Fn(&(&Stride, &Stride)) -> Option<f64>| {
            let all: Vec<f64> = strides.iter().filter_map(get).collect();
            by_choice(&all, mark_sd)
        };
        let leaving = apart(&|(here, _)| Some(here.off[last.index()]? - here.off[before.index()]?));
        let landing = apart(&|(here, next)| {
            let to = if self.over { next } else { here };
            Some(to.on[after.index()]? - to.on[first.index()]?)
        });
        Some(Edges { last, first, over: self.over, by_choice: leaving + landing })
    }
}

/// How much later the later of two hooves seems on average because it was chosen for being late, s:
/// with a mean distance D known to ± e, e·(φ(z) − z·(1 − Φ(z))), z = D/e (the mean of the larger of
/// two normal values; Clark 1961, Oper Res 9:145; value from memory).
fn by_choice(apart: &[f64], mark_sd: f64) -> f64 {
    let n = count(apart.len());
    let e = (variance(apart).max(2.0 * mark_sd * mark_sd) / n).sqrt();
    if n < 2.0 || e <= 0.0 {
        return 0.0;
    }
    let z = mean(apart).abs() / e;
    let density = (-0.5 * z * z).exp() / std::f64::consts::TAU.sqrt();
    e * (density - z * (1.0 - normal_within(z)) / 2.0)
}

/// The two limbs whose figures are the largest, in falling order; `None` unless all have one.
fn latest_two(limbs: &[Limb], figure: impl Fn(Limb) -> Option<f64>) -> Option<[Limb; 2]> {
    let mut all: Vec<(Limb, f64)> =
        limbs.iter().map(|l| Some((*l, figure(*l)?))).collect::<Option<_>>()?;
    all.sort_by(|a, b| b.1.total_cmp(&a.1));
    Some([all.first()?.0, all.get(1)?.0])
}

/// Signed suspension between two strides of canter, s: from the last hoof off to the first on.
pub fn after_canter(stride: &Stride, next: &Stride) -> Option<f64> {
    Some(earliest(next.on)? - latest(stride.off)?)
}

const fn pair_diagonal(hind: Side) -> [Limb; 2] {
    match hind {
        Side::Left => [Limb::LH, Limb::RF],
        Side::Right => [Limb::RH, Limb::LF],
    }
}

const fn pair_same_side(side: Side) -> [Limb; 2] {
    match side {
        Side::Left => [Limb::LH, Limb::LF],
        Side::Right => [Limb::RH, Limb::RF],
    }
}

fn latest(times: [Option<f64>; 4]) -> Option<f64> {
    times.into_iter().try_fold(f64::NEG_INFINITY, |m, t| Some(m.max(t?)))
}

fn earliest(times: [Option<f64>; 4]) -> Option<f64> {
    times.into_iter().flatten().reduce(f64::min)
}
