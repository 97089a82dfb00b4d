//! Stride length and speed from the places where hooves stood.

use crate::limb::Limb;
use crate::phase::count;
use crate::stride::Stride;
use crate::uncertainty::{Estimate, effective_n, lag1_covariance, t95, variance};

/// Speed (m/s) and stride length (m) of a bout, each a mean over strides.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Travel {
    /// Metres per second.
    pub speed: Estimate,
    /// Metres from one footfall of a limb to its next, along the ground.
    pub stride_length: Estimate,
}

/// Travel from hoof positions: between neighbouring strides the mean, over the limbs that stood
/// at known places in both, of distance and of distance / time. `None` without such a pair.
///
/// The interval carries the spread between strides; the error of the positions themselves comes
/// with the calibration they were measured by.
pub fn travel(strides: &[Stride]) -> Option<Travel> {
    let mut lengths = Vec::new();
    let mut speeds = Vec::new();
    for w in strides.windows(2) {
        if (w[1].start - w[0].end).abs() > 1e-9 {
            continue;
        }
        let (mut length, mut speed, mut n) = (0.0, 0.0, 0);
        for limb in Limb::ALL {
            let k = limb.index();
            if let (Some(a), Some(b), Some(ta), Some(tb)) =
                (w[0].at[k], w[1].at[k], w[0].on[k], w[1].on[k])
            {
                let distance = (b.x.0 - a.x.0).hypot(b.y.0 - a.y.0);
                length += distance;
                speed += distance / (tb - ta);
                n += 1;
            }
        }
        if n > 0 {
            lengths.push(length / f64::from(n));
            speeds.push(speed / f64::from(n));
        }
    }
    Some(Travel { speed: plain_mean(&speeds)?, stride_length: plain_mean(&lengths)? })
}

fn plain_mean(values: &[f64]) -> Option<Estimate> {
    let n = values.len();
    if n == 0 {
        return None;
    }
    let value = values.iter().sum::<f64>() / count(n);
    let s2 = variance(values);
    let r = if n >= 8 && s2 > 0.0 { (lag1_covariance(values) / s2).clamp(0.0, 0.8) } else { 0.0 };
    let half = t95(count(n) - 1.0) * (s2 / effective_n(n, r)).sqrt();
    let known = n >= 2;
    Some(Estimate {
        value,
        sd: known.then(|| s2.sqrt()),
        ci95: known.then_some((value - half, value + half)),
        n,
    })
}
