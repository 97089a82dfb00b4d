//! The coach's own marks beside the marks of the curves: how far apart, and how sure.

use crate::base::number::count;
use crate::stats::descriptive::{mean, variance};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;

/// Pairs from which their difference is spoken of.
pub const FEWEST: usize = 3;

/// Coach's mark less the curve's, over pairs (coach, curve), on the scale from 0 to 10; the
/// interval is Student's over the pairs, so `None` for fewer than three.
pub fn agreement(pairs: &[(f64, f64)]) -> Option<Estimate> {
    let n = pairs.len();
    if n < FEWEST {
        return None;
    }
    let apart: Vec<f64> = pairs.iter().map(|(coach, curve)| coach - curve).collect();
    let value = mean(&apart);
    let sd = variance(&apart).sqrt();
    let half = t95(count(n) - 1.0) * sd / count(n).sqrt();
    Some(Estimate { value, sd: Some(sd), ci95: Some((value - half, value + half)), n })
}
