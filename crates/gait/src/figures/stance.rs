//! Stance: duty factors and the left–right symmetry of stance times.

use crate::base::limb::Limb;
use crate::base::number::count;
use crate::base::usual;
use crate::figures::stretches::{lateness, limb_duration};
use crate::stats::descriptive::mean;
use crate::stats::estimate::Estimate;
use crate::stats::stride_mean::{Shown, StrideMean};
use crate::strides::stride::{Stride, follows};

/// Duty factors β of the limbs over strides: stance / T. `None` for a limb of which no stride has its
/// off.
pub fn duties(strides: &[Stride], over: &StrideMean) -> [Option<Estimate>; 4] {
    // The limbs' mean duration of each stride that the next one follows.
    let durations: Vec<Option<f64>> = strides
        .windows(2)
        .map(|w| follows(&w[0], &w[1]).then(|| limb_duration(&w[0], &w[1])).flatten())
        .map(|d| d.map(|(duration, _)| duration))
        .collect();
    Limb::ALL.map(|limb| duty(strides, &durations, limb, over))
}

fn duty(
    strides: &[Stride],
    durations: &[Option<f64>],
    limb: Limb,
    over: &StrideMean,
) -> Option<Estimate> {
    let shares: Vec<f64> = strides.iter().filter_map(|s| s.duty(limb)).collect();
    // β = stance / T: the two marks of the stance weigh 1/T each.
    let marks = 2.0 / (over.stride_s * over.stride_s);
    if shares.is_empty() {
        return None;
    }
    let beta = mean(&shares);
    let usual = usual::DUTY.scaled(beta);
    // The marks of T cancel from stride to stride and hide how alike neighbours are: the limbs' mean
    // knows T better.
    let (mut series, mut next) = (Vec::with_capacity(shares.len()), 0.0);
    for (stride, duration) in strides.iter().zip(durations) {
        if let (Some(duration), Some(stance)) = (duration, stride.stance(limb)) {
            series.push(beta + (stance - beta * duration) / over.stride_s);
            next += lateness(stride);
        }
    }
    let by = if series.len() + 1 < shares.len() {
        Shown { values: &shares, marks, shared: 0.0, next: 0.0, usual }
    } else {
        Shown {
            values: &series,
            marks,
            shared: 0.0,
            next: next / count(series.len().max(1)),
            usual,
        }
    };
    over.shown(&shares, by)
}

/// Symmetry index of stance, 100·(L − R)/(½(L + R)) (Robinson et al. 1987; value from memory),
/// of the fore or the hind pair, per cent: positive when the left stands longer.
pub fn symmetry(strides: &[Stride], left: Limb, over: &StrideMean) -> Option<Estimate> {
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
    Some(over.of(&differences, 4.0)?.scaled(100.0 / typical))
}
