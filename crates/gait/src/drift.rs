//! Slow drift of tempo over a bout: what riders do not feel.

use crate::phase::count;
use crate::stride::Stride;
use crate::thresholds::Thresholds;
use crate::trend::theil_sen;

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

/// Drift of tempo over strides (at least six): robust slope of each stride's tempo over its time.
pub fn drift(strides: &[Stride], limits: &Thresholds) -> Option<Drift> {
    if strides.len() < 6 {
        return None;
    }
    let minutes: Vec<f64> = strides.iter().map(|s| f64::midpoint(s.start, s.end) / 60.0).collect();
    let tempo: Vec<f64> = strides.iter().map(|s| 60.0 / s.duration()).collect();
    let slope = theil_sen(&minutes, &tempo)?;
    let mean = tempo.iter().sum::<f64>() / count(tempo.len());
    let total_share = slope.value * (minutes[minutes.len() - 1] - minutes[0]) / mean;
    let excludes = slope.lo > 0.0 || slope.hi < 0.0;
    Some(Drift {
        per_min: slope.value,
        ci95: (slope.lo, slope.hi),
        total_share,
        flagged: excludes && total_share.abs() > limits.drift_share,
    })
}
