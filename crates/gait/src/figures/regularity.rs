//! Regularity: the spread of stride durations, with the timing error taken out, as a share of
//! the mean (coefficient of variation).
//!
//! The spread contains the marks' error twice. On a frame grid a steady horse's durations differ
//! by whole frames with variance F(1 − F)/f², F = frac(T̄ f). A spread is called resolved only
//! when it stands clearly above that floor; otherwise the answer is "at most x %".

use crate::base::number::count;
use crate::figures::tempo::true_variance;
use crate::stats::descriptive::{mean, variance};
use crate::stats::quantiles::chi_squared_quantile;
use crate::stats::timing_error::TimingError;

/// Regularity of a bout, per cent of the stride duration.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Regularity {
    /// Corrected coefficient of variation, %.
    pub value: f64,
    /// Its 95 % interval when resolved.
    pub ci95: Option<(f64, f64)>,
    /// Upper bound (95 %) when the clip cannot resolve it, %.
    pub at_most: Option<f64>,
    /// Whether the clip can tell the horse's spread from the marks' error.
    pub resolved: bool,
}

/// Regularity from stride durations in s; `None` for fewer than four strides or when the timing
/// error is not known.
pub fn regularity(durations: &[f64], timing: Option<TimingError>) -> Option<Regularity> {
    let timing = timing?;
    let n = durations.len();
    if n < 4 {
        return None;
    }
    let t = mean(durations);
    let s2 = variance(durations);
    let marks = 2.0 * timing.sd * timing.sd;
    let floor = timing.grid.map_or(marks, |rate| {
        let f = rate.per_second();
        let part = (t * f).rem_euclid(1.0);
        marks.max(timing.on_grid * part * (1.0 - part) / (f * f))
    });
    let resolved = s2 > floor * (1.0 + (12.0 / count(n)).sqrt());
    let dof = count(n) - 1.0;
    let quantiles = [0.975, 0.025, 0.05].map(|p| chi_squared_quantile(dof, p));
    let [Some(high), Some(low), Some(bound)] = quantiles else { return None };
    let spread = |quantile: f64| s2 * dof / quantile;
    let percent = |v: f64| 100.0 * v.max(0.0).sqrt() / t;
    let noise = marks * (1.0 + 1.0 / count(n));
    let value = percent(true_variance(durations, timing));
    Some(if resolved {
        let ci95 = (percent(spread(high) - noise), percent(spread(low) - noise));
        Regularity { value, ci95: Some(ci95), at_most: None, resolved }
    } else {
        // A spread below one mark's own error cannot be claimed, however alike the strides look.
        let most = (spread(bound) - marks).max(marks / 2.0);
        Regularity { value, ci95: None, at_most: Some(percent(most)), resolved }
    })
}
