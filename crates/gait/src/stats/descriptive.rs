//! Means, spreads and what neighbours have in common.

use crate::base::number::count;

/// The middle value, of an even number the upper of the two; `None` of nothing.
///
/// ```
/// use umlauf_gait::stats::descriptive::median;
/// assert_eq!(median(vec![3.0, 1.0, 2.0]), Some(2.0));
/// assert_eq!(median(Vec::new()), None);
/// ```
pub fn median(mut values: Vec<f64>) -> Option<f64> {
    let middle = values.len() / 2;
    (!values.is_empty()).then(|| *values.select_nth_unstable_by(middle, f64::total_cmp).1)
}

/// Arithmetic mean; NaN for an empty slice.
pub fn mean(values: &[f64]) -> f64 {
    values.iter().sum::<f64>() / count(values.len())
}

/// Sample variance (n − 1), 0 for fewer than two values.
///
/// ```
/// use umlauf_gait::stats::descriptive::variance;
/// assert!((variance(&[1.0, 2.0, 3.0]) - 1.0).abs() < 1e-12);
/// ```
pub fn variance(values: &[f64]) -> f64 {
    if values.len() < 2 {
        return 0.0;
    }
    let m = mean(values);
    values.iter().map(|v| (v - m) * (v - m)).sum::<f64>() / count(values.len() - 1)
}

/// Lag-1 autocovariance: Σ (x_i − x̄)(x_{i+1} − x̄) / (n − 1); 0 for fewer than three values.
pub fn lag1_covariance(values: &[f64]) -> f64 {
    if values.len() < 3 {
        return 0.0;
    }
    let m = mean(values);
    let sum: f64 = values.windows(2).map(|w| (w[0] - m) * (w[1] - m)).sum();
    sum / count(values.len() - 1)
}

/// Effective sample size n(1 − r)/(1 + r) of n values with lag-1 autocorrelation r, never under 1.
///
/// ```
/// use umlauf_gait::stats::descriptive::effective_n;
/// // Twelve strides that resemble their neighbours are worth four independent ones.
/// assert!((effective_n(12, 0.5) - 4.0).abs() < 1e-12);
/// ```
pub fn effective_n(n: usize, r: f64) -> f64 {
    (count(n) * (1.0 - r) / (1.0 + r)).max(1.0)
}
