//! Tempo: stride duration, strides/min and their errors.
//!
//! T̄ = (t_n − t_0)/n; SE² = s²/n_e + 2σ²/n²: the horse's own spread over the effective number of
//! strides, plus the two end marks of every unbroken stretch. n_e = n(1 − r)/(1 + r); how s² and r
//! are read with the marks' error taken out (neighbouring durations share a mark, which puts −σ²
//! into their covariance) stands at `own_spread`.

use crate::base::number::count;
use crate::figures::stretches::Stretches;
use crate::stats::descriptive::{effective_n, lag1_covariance, variance};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;
use crate::stats::timing_error::TimingError;

/// Stride duration of a bout and what follows from it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tempo {
    /// Stride duration, s.
    pub duration: Estimate,
    /// Strides/min.
    pub tempo: Estimate,
}

/// Tempo of stretches of strides. `None` without strides.
pub fn tempo(stretches: &Stretches, timing: Option<TimingError>) -> Option<Tempo> {
    let (n, durations) = (stretches.strides, &stretches.durations[..]);
    if n == 0 {
        return None;
    }
    let t = stretches.seconds / count(n);
    let (sd, se, dof) = match timing {
        Some(timing) if durations.len() >= 2 => {
            let noise = timing.sd * timing.sd;
            let (own, r, hidden) = own_spread(stretches, timing);
            let ends = 2.0 * noise * count(stretches.runs) / (count(n) * count(n));
            let effective = effective_n(n, r);
            let se = ((own + 0.5 * hidden) / effective + ends).sqrt();
            (Some(own.sqrt()), Some(se), (effective - 1.0).max(1.0))
        }
        _ => (None, None, 1.0),
    };
    let q = t95(dof);
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

/// What neighbouring strides resemble one another by when a clip cannot tell (project default).
const USUAL_RESEMBLANCE: f64 = 0.35;

/// How many strides' worth of knowledge that is.
const USUAL_WEIGHT: f64 = 20.0;

/// The horse's own variance of stride durations, s², the correlation of neighbours, both with the
/// timing error taken out, and the standard error of that variance: a spread that cannot be seen
/// must not make an interval narrow.
///
/// r is the lag-1 correlation freed of its small-sample bias, (r̂ n + 1)/(n − 4) (Kendall 1954,
/// Biometrika 41:403, to first order; from memory), drawn towards 0.35 the less the clip knows of
/// it, between 0 and 0.8; the variance of n correlated values is too small by
/// 1 − (n/n_e − 1)/(n − 1).
fn own_spread(stretches: &Stretches, timing: TimingError) -> (f64, f64, f64) {
    let by_limbs = stretches.by_limbs.len() >= 4 && stretches.limbs >= 2.0;
    let values = if by_limbs { &stretches.by_limbs } else { &stretches.durations };
    let n = count(values.len());
    // On a frame grid the two hooves of a diagonal are rounded alike.
    let marks = if by_limbs { stretches.limbs / (1.0 + timing.on_grid) } else { 1.0 };
    let noise = timing.sd * timing.sd / marks;
    let all = variance(values);
    let own = (all - 2.0 * noise * (1.0 + 1.0 / n)).max(0.0);
    // Without noise the spread is as sure as its degrees of freedom, which t carries.
    let hidden = (2.0 * noise / all.max(2.0 * noise)) * all * (2.0 / (n - 1.0).max(1.0)).sqrt();
    if values.len() < 8 || all <= 0.0 {
        return (own, 0.0, hidden);
    }
    let known = n * (own / all) * (own / all);
    let seen = (lag1_covariance(values) + noise) / own.max(hidden);
    // A mean over limbs mixes a stride with the next, x_k = a T_k + b T_k+1: its variance is
    // (a² + b² + 2abr) of the strides', its lag-1 covariance ab + (a² + b²)r, to first order in r.
    let (raw, mixed) = if by_limbs {
        let (a, b) = (1.0 - stretches.lateness, stretches.lateness);
        let (squares, product) = (a * a + b * b, a * b);
        let seen = seen.clamp(-0.9, 0.9);
        let raw = (seen * squares - product) / (squares - 2.0 * product * seen).max(0.1);
        (raw, Some((squares, product)))
    } else {
        (seen, None)
    };
    let free = (raw.clamp(-1.0, 1.0) * n + 1.0) / (n - 4.0);
    let r = (known * free + USUAL_WEIGHT * USUAL_RESEMBLANCE) / (known + USUAL_WEIGHT);
    let r = r.clamp(0.0, 0.8);
    let shrunk = 1.0 - ((1.0 + r) / (1.0 - r) - 1.0) / (n - 1.0);
    let of_strides = mixed.map_or(1.0, |(squares, product)| squares + 2.0 * product * r);
    (own / (shrunk.max(0.5) * of_strides), r, hidden)
}

/// Variance of the durations with the timing error taken out: s_T² − 2σ²(1 + 1/n), never
/// negative. Successive durations share a mark, hence the 1/n.
pub fn true_variance(durations: &[f64], timing: TimingError) -> f64 {
    let noise = 2.0 * timing.sd * timing.sd * (1.0 + 1.0 / count(durations.len()));
    (variance(durations) - noise).max(0.0)
}
