//! Suspension: the time with no hoof on the ground, signed: an overlap of stances counts as
//! negative, so that means and intervals are not bent towards air that was not there.

use crate::classify::{Gait, Label};
use crate::limb::{Limb, Side};
use crate::stride::Stride;
use crate::uncertainty::{Estimate, TimingError, mean_of};

/// Suspension of a bout.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Suspension {
    /// One aerial phase, s, signed.
    pub each: Estimate,
    /// Moments of air in a stride: all those the gait has when the interval lies above 0, none
    /// when it lies below, `None` when the clip cannot tell.
    pub phases: Option<usize>,
}

/// Suspension of the strides of a bout; `next_start` of a stride is its end. `None` for gaits
/// without it (walk) or when no stride has the offs it needs.
pub fn suspension(
    strides: &[Stride],
    label: Label,
    timing: Option<TimingError>,
    stride_s: f64,
    spread_s: f64,
) -> Option<Suspension> {
    let per_stride = label.gait.aerial_phases().filter(|n| *n > 0)?;
    let values: Vec<f64> =
        strides.windows(2).filter_map(|w| of_stride(&w[0], &w[1], label)).collect();
    let each = mean_of(timing, &values, 2.0, stride_s, spread_s)?;
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

/// One stride's signed suspension, s; `next` gives the first hoof down of the following stride.
/// In two-beat gaits the mean of its two.
pub fn of_stride(stride: &Stride, next: &Stride, label: Label) -> Option<f64> {
    // Strides with a hole between them share no moment of air.
    if (next.start - stride.end).abs() > 1e-9 {
        return None;
    }
    if label.gait.is_asymmetrical() {
        return after_canter(stride, next);
    }
    let first_side = stride.first_hind.side();
    let (first, second) = match label.gait {
        Gait::Pace => (pair_same_side(first_side), pair_same_side(first_side.opposite())),
        _ => (pair_diagonal(first_side), pair_diagonal(first_side.opposite())),
    };
    let between =
        |from: &Stride, a: [Limb; 2], to: &Stride, b: [Limb; 2]| Some(on(to, b)? - off(from, a)?);
    let one = between(stride, first, stride, second)?;
    let two = between(stride, second, next, first)?;
    Some(f64::midpoint(one, two))
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

fn on(stride: &Stride, pair: [Limb; 2]) -> Option<f64> {
    Some(stride.on[pair[0].index()]?.min(stride.on[pair[1].index()]?))
}

fn off(stride: &Stride, pair: [Limb; 2]) -> Option<f64> {
    Some(stride.off[pair[0].index()]?.max(stride.off[pair[1].index()]?))
}

fn latest(times: [Option<f64>; 4]) -> Option<f64> {
    times.into_iter().try_fold(f64::NEG_INFINITY, |m, t| Some(m.max(t?)))
}

fn earliest(times: [Option<f64>; 4]) -> Option<f64> {
    times.into_iter().flatten().reduce(f64::min)
}
