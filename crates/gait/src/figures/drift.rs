//! Slow drift of tempo over a bout: what riders do not feel.

use crate::base::thresholds::Thresholds;
use crate::figures::stretches::limb_duration;
use crate::stats::descriptive::mean;
use crate::stats::trend::theil_sen;
use crate::strides::stride::Stride;

/// Drift of a bout.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Drift {
    /// Strides/min per minute.
    pub per_min: f64,
    /// 95 % interval.
    pub ci95: (f64, f64),
    /// Drift over the whole bout as a share of its mean tempo.
    pub total_share: f64,
    /// The interval excludes 0 and the total exceeds the limit.
    pub flagged: bool,
}

/// Drift of tempo over the steady strides of a bout (at least six): robust slope of each stride's
/// tempo over its time. The total is over the whole bout, `bout_s` long.
pub fn drift(strides: &[Stride], bout_s: f64, limits: &Thresholds) -> Option<Drift> {
    if strides.len() < 6 {
        return None;
    }
    let (mut minutes, mut tempo) = (Vec::new(), Vec::new());
    for w in strides.windows(2).filter(|w| (w[1].start - w[0].end).abs() < 1e-9) {
        // Every limb times the stride anew: their mean knows it best.
        if let Some((duration, _)) = limb_duration(&w[0], &w[1]) {
            minutes.push(f64::midpoint(w[0].start, w[0].end) / 60.0);
            tempo.push(60.0 / duration);
        }
    }
    let slope = theil_sen(&minutes, &tempo)?;
    let total_share = slope.value * bout_s / 60.0 / mean(&tempo);
    let excludes = slope.lo > 0.0 || slope.hi < 0.0;
    Some(Drift {
        per_min: slope.value,
        ci95: (slope.lo, slope.hi),
        total_share,
        flagged: excludes && total_share.abs() > limits.drift_share,
    })
}
