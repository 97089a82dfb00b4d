//! Suspension: the time with no hoof on the ground, signed: an overlap of stances counts as
//! negative, so that means and intervals are not bent towards air that was not there.

use crate::base::gait::{Gait, Label};
use crate::base::limb::{Limb, Side};
use crate::base::number::count;
use crate::stats::estimate::Estimate;
use crate::stats::timing_error::{TimingError, mean_of};
use crate::strides::stride::Stride;

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
/// latest of several noisy marks stride by stride would make every moment of air too short.
pub fn suspension(
    strides: &[Stride],
    label: Label,
    timing: Option<TimingError>,
    stride_s: f64,
    spread_s: f64,
) -> Option<Suspension> {
    let per_stride = label.gait.aerial_phases().filter(|n| *n > 0)?;
    let next_to: Vec<(&Stride, &Stride)> = strides
        .windows(2)
        .filter(|w| (w[1].start - w[0].end).abs() < 1e-9)
        .map(|w| (&w[0], &w[1]))
        .collect();
    let gaps = gaps(strides.first()?, label);
    let chosen: Vec<(Limb, Limb, bool)> =
        gaps.iter().map(|g| g.edges(&next_to)).collect::<Option<_>>()?;
    let values: Vec<f64> = next_to
        .iter()
        .filter_map(|(here, next)| {
            let mut sum = 0.0;
            for (last, first, over) in &chosen {
                let to = if *over { next } else { here };
                sum += to.on[first.index()]? - here.off[last.index()]?;
            }
            Some(sum / count(chosen.len()))
        })
        .collect();
    // Two marks a gap; the mean of two gaps halves their variance.
    let marks = 2.0 / count(chosen.len());
    let each = mean_of(timing, &values, marks, stride_s, spread_s)?;
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

impl Gap {
    /// The limb that leaves last and the one that lands first, by their means from the start of
    /// the stride.
    fn edges(&self, strides: &[(&Stride, &Stride)]) -> Option<(Limb, Limb, bool)> {
        let mean = |get: &dyn Fn(&(&Stride, &Stride)) -> Option<f64>| {
            let all: Vec<f64> = strides.iter().filter_map(get).collect();
            (!all.is_empty()).then(|| all.iter().sum::<f64>() / count(all.len()))
        };
        let off = |limb: Limb| mean(&|(here, _)| Some(here.off[limb.index()]? - here.start));
        let on = |limb: Limb| {
            mean(&|(here, next)| {
                let to = if self.over { next } else { here };
                Some(to.on[limb.index()]? - here.start)
            })
        };
        let last = pick(&self.leaving, off, |a, b| a > b)?;
        let first = pick(&self.landing, on, |a, b| a < b)?;
        Some((last, first, self.over))
    }
}

/// The limb whose figure is best; `None` unless all have one.
fn pick(
    limbs: &[Limb],
    figure: impl Fn(Limb) -> Option<f64>,
    better: impl Fn(f64, f64) -> bool,
) -> Option<Limb> {
    let mut best: Option<(Limb, f64)> = None;
    for limb in limbs {
        let value = figure(*limb)?;
        if best.is_none_or(|(_, b)| better(value, b)) {
            best = Some((*limb, value));
        }
    }
    best.map(|(limb, _)| limb)
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
