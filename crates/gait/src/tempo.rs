//! Tempo: stride duration, strides/min and their errors.
//!
//! T̄ = (t_n − t_0)/n; SE² = s²/n_e + 2σ²/n²: the horse's own spread over the effective number of
//! strides, plus the two end marks. n_e = n(1 − r)/(1 + r) with r = (lag-1 covariance + σ²)/s²,
//! because neighbouring durations share a mark, which puts −σ² into their covariance.

use crate::phase::count;
use crate::uncertainty::{
    Estimate, TimingError, effective_n, lag1_covariance, mean, t95, variance,
};

/// Stride duration of a bout and what follows from it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tempo {
    /// Stride duration, s.
    pub duration: Estimate,
    /// Strides/min.
    pub tempo: Estimate,
}

/// Tempo from the durations of strides that follow one another in `runs` unbroken runs (1 when
/// none is missing). `None` without strides.
pub fn tempo(durations: &[f64], runs: usize, timing: Option<TimingError>) -> Option<Tempo> {
    let n = durations.len();
    if n == 0 {
        return None;
    }
    let t = mean(durations);
    let (sd, se) = match timing {
        Some(timing) if n >= 2 => {
            let noise = timing.sd * timing.sd;
            let own = true_variance(durations, timing);
            let r = if n >= 8 && own > 0.0 {
                ((lag1_covariance(durations) + noise) / own).clamp(0.0, 0.8)
            } else {
                0.0
            };
            let ends = 2.0 * noise * count(runs.max(1)) / (count(n) * count(n));
            (Some(own.sqrt()), Some((own / effective_n(n, r) + ends).sqrt()))
        }
        _ => (None, None),
    };
    let q = t95(count(n) - 1.0);
    let interval = |value: f64, se: Option<f64>| se.map(|se| (value - q * se, value + q * se));
    let per_min = 60.0 / t;
    let slope = per_min / t;
    Some(Tempo {
        duration: Estimate { value: t, sd, ci95: interval(t, se), n },
        tempo: Estimate {
            value: per_min,
            sd: sd.map(|s| s * slope),
            ci95: interval(per_min, se.map(|s| s * slope)),
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
