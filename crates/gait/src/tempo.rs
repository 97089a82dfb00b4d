//! Tempo: stride duration, strides/min and their errors.
//!
//! T̄ = (t_n − t_0)/n; SE² = s²/n_e + 2σ²/n²: the horse's own spread over the effective number of
//! strides, plus the two end marks. n_e = n(1 − r)/(1 + r) with r = (lag-1 covariance + σ²)/s²,
//! because neighbouring durations share a mark, which puts −σ² into their covariance.

use crate::phase::count;
use crate::stride::Stride;
use crate::uncertainty::{Estimate, TimingError, effective_n, lag1_covariance, t95, variance};

/// Stride duration of a bout and what follows from it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tempo {
    /// Stride duration, s.
    pub duration: Estimate,
    /// Strides/min.
    pub tempo: Estimate,
}

/// Stretches of strides between two marked footfalls of the first-hind clock. A footfall that is
/// missing inside a stretch does not matter to its mean.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Stretches {
    /// Seconds of all stretches.
    pub seconds: f64,
    /// Strides in them.
    pub strides: usize,
    /// How many stretches.
    pub runs: usize,
    /// Durations of the strides both of whose ends were marked, s.
    pub durations: Vec<f64>,
}

impl Stretches {
    /// The stretches of strides in order of time.
    pub fn of(strides: &[Stride]) -> Self {
        let mut out = Self::default();
        for run in strides.chunk_by(|a, b| (b.start - a.end).abs() < 1e-9) {
            let first = run.iter().position(Stride::start_is_marked);
            let last = run.iter().rposition(|s| !s.end_inferred);
            if let (Some(first), Some(last)) = (first, last)
                && first <= last
            {
                out.seconds += run[last].end - run[first].start;
                out.strides += last + 1 - first;
                out.runs += 1;
            }
            let whole = run.iter().filter(|s| s.start_is_marked() && !s.end_inferred);
            out.durations.extend(whole.map(Stride::duration));
        }
        out
    }
}

/// Tempo of stretches of strides. `None` without strides.
pub fn tempo(stretches: &Stretches, timing: Option<TimingError>) -> Option<Tempo> {
    let (n, durations) = (stretches.strides, &stretches.durations[..]);
    if n == 0 {
        return None;
    }
    let t = stretches.seconds / count(n);
    let known = durations.len();
    let (sd, se) = match timing {
        Some(timing) if known >= 2 => {
            let noise = timing.sd * timing.sd;
            let own = true_variance(durations, timing);
            let r = if known >= 8 && own > 0.0 {
                ((lag1_covariance(durations) + noise) / own).clamp(0.0, 0.8)
            } else {
                0.0
            };
            let ends = 2.0 * noise * count(stretches.runs) / (count(n) * count(n));
            (Some(own.sqrt()), Some((own / effective_n(n, r) + ends).sqrt()))
        }
        _ => (None, None),
    };
    let q = t95(count(known) - 1.0);
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
