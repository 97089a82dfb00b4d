//! Tempo: stride duration, strides/min and their errors.
//!
//! T̄ = (t_n − t_0)/n. Its error has two parts: the strides' own wandering, s²·v(n, r) with spread s
//! and likeness r as [`StrideWander`] knows them (v: `variance_of_mean`), and the end footfalls of every
//! unbroken stretch, 2κ²/(L·n²), where L limbs were marked at both. The interval is that of the whole
//! posterior of s and r.

use crate::base::number::count;
use crate::figures::stretches::Stretches;
use crate::figures::stride_wander::StrideWander;
use crate::stats::descriptive::variance;
use crate::stats::estimate::Estimate;
use crate::stats::timing_error::TimingError;
use crate::stats::wander::variance_of_mean;

/// Stride duration of a bout and what follows from it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tempo {
    /// Stride duration, s.
    pub duration: Estimate,
    /// Strides/min.
    pub tempo: Estimate,
}

/// Tempo of stretches of strides; without intervals where their wandering is not known. `None`
/// without strides.
pub fn tempo(
    stretches: &Stretches,
    timing: Option<TimingError>,
    wander: Option<&StrideWander>,
) -> Option<Tempo> {
    let n = stretches.strides;
    if n == 0 {
        return None;
    }
    let t = stretches.seconds / count(n);
    let half = wander.map(|w| {
        let ends = 2.0 * w.footfall * stretches.ends / (count(n) * count(n));
        w.wander.half_width(0.95, |c| c.variance * variance_of_mean(n, c.likeness) + ends)
    });
    let sd =
        timing.zip(wander).map(|(timing, _)| true_variance(&stretches.durations, timing).sqrt());
    // The tempo's error by the delta method.
    let per_min = 60.0 / t;
    let slope = per_min / t;
    let around = |value: f64, half: Option<f64>| half.map(|h| (value - h, value + h));
    Some(Tempo {
        duration: Estimate { value: t, sd, ci95: around(t, half), n },
        tempo: Estimate {
            value: per_min,
            sd: sd.map(|s| s * slope),
            ci95: around(per_min, half.map(|h| h * slope)),
            n,
        },
    })
}

/// Variance of the durations with the timing error taken out: s_T² − 2σ²(1 + 1/n), never
/// negative. Successive durations share a mark, hence the 1/n.
pub fn true_variance(durations: &[f64], timing: TimingError) -> f64 {
    let noise = 2.0 * timing.sd * timing.sd * (1.0 + 1.0 / count(durations.len()));
    (variance(durations) - noise).max(0.0)
}
