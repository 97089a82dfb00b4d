//! Stance: duty factors and the left–right symmetry of stance times.

use crate::base::limb::Limb;
use crate::base::number::count;
use crate::stats::estimate::Estimate;
use crate::stats::timing_error::{TimingError, mean_of};
use crate::strides::stride::Stride;

/// Duty factor β of one limb over strides: stance / T. `None` when no stride has its off.
pub fn duty(
    strides: &[Stride],
    limb: Limb,
    timing: Option<TimingError>,
    spread_s: f64,
) -> Option<Estimate> {
    let stances: Vec<f64> = strides.iter().filter_map(|s| s.duty(limb)).collect();
    let t = mean_duration(strides);
    // β = stance / T: the two marks of the stance weigh 1/T each.
    mean_of(timing, &stances, 2.0 / (t * t), t, spread_s)
}

/// Symmetry index of stance, 100·(L − R)/(½(L + R)) (Robinson et al. 1987; value from memory),
/// of the fore or the hind pair, per cent: positive when the left stands longer.
pub fn symmetry(
    strides: &[Stride],
    left: Limb,
    timing: Option<TimingError>,
    spread_s: f64,
) -> Option<Estimate> {
    let mut sum = 0.0;
    let differences: Vec<f64> = strides
        .iter()
        .filter_map(|s| {
            let (l, r) = (s.stance(left)?, s.stance(left.opposite())?);
            sum += f64::midpoint(l, r);
            Some(l - r)
        })
        .collect();
    let typical = sum / count(differences.len());
    let t = mean_duration(strides);
    Some(mean_of(timing, &differences, 4.0, t, spread_s)?.scaled(100.0 / typical))
}

/// Mean stride duration, s.
pub fn mean_duration(strides: &[Stride]) -> f64 {
    strides.iter().map(Stride::duration).sum::<f64>() / count(strides.len().max(1))
}
