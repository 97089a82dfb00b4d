//! How a bout's stride durations wander: what tempo, regularity and drift share.
//!
//! Every limb times the stride anew, so the durations are read as means over the limbs. A limb's own
//! scatter about its place in the stride counts like an error of its mark: both end up in the clock.

use crate::base::number::count;
use crate::base::usual;
use crate::figures::stretches::Stretches;
use crate::stats::series::Series;
use crate::stats::timing_error::TimingError;
use crate::stats::wander::Wander;

/// Stride durations read for their wandering.
#[derive(Clone, Debug, PartialEq)]
pub struct StrideWander {
    /// Spread (s) and likeness of the stride durations.
    pub wander: Wander,
    /// Variance of one footfall about its place in the stride, s²: the mark's error and the limb's
    /// own scatter.
    pub footfall: f64,
}

/// How many footfalls' worth is known of a limb's scatter before the bout is looked at.
const USUAL_WEIGHT: f64 = 6.0;

/// Wandering of the durations in `stretches`; `None` for fewer than two of them or when a mark's
/// error is not known.
pub fn stride_wander(stretches: &Stretches, timing: Option<TimingError>) -> Option<StrideWander> {
    let timing = timing?;
    if stretches.durations.len() < 2 {
        return None;
    }
    let stride = stretches.seconds / count(stretches.strides);
    let footfall = footfall_variance(stretches, timing, stride);
    let series = series(stretches, footfall);
    let wander = Wander::read(&series, &usual::STRIDES.scaled(stride));
    Some(StrideWander { wander, footfall })
}

/// The durations with what is known of their errors: by limbs where there are enough, else those
/// between first hinds.
pub fn series(stretches: &Stretches, footfall: f64) -> Series<'_> {
    let by_limbs = stretches.by_limbs.len() >= 2 && stretches.limbs >= 2.0;
    let (values, limbs, next) = if by_limbs {
        (&stretches.by_limbs, stretches.limbs, stretches.lateness)
    } else {
        (&stretches.durations, 1.0, 0.0)
    };
    Series { values, noise: 2.0 * footfall / limbs, shared: -0.5, next, detrended: false }
}

/// Never less than the mark's own error; the usual scatter of a hoof stands in while the bout knows
/// little of its own.
fn footfall_variance(stretches: &Stretches, timing: TimingError, stride: f64) -> f64 {
    let mark = timing.sd * timing.sd;
    let usual = mark + (usual::PLACES.spread * stride).powi(2);
    let (seen, n) = stretches.scatter;
    ((seen * n + usual * USUAL_WEIGHT) / (n + USUAL_WEIGHT)).max(mark)
}
