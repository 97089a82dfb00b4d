//! The normal density of a stationary series, exactly.

/// Logarithm of the density of `values` under a normal process with these autocovariances (one for
/// each lag from 0, as many as there are values) about an unknown mean, but for a constant: the mean
/// is integrated out. By Durbin's recursion (Durbin 1960, Rev Int Stat Inst 28:233; value from
/// memory), O(n²).
///
/// ```
/// use umlauf_gait::stats::toeplitz::log_density;
/// // Two independent values of variance v about an unknown mean: ½(b − a)²/v spread about 0.
/// let at = |v: f64| log_density(&[v, 0.0], &[1.0, 2.0]);
/// let known = |v: f64| -0.5 * (f64::ln(v) + 0.5 / v);
/// assert!((at(0.3) - at(2.0) - (known(0.3) - known(2.0))).abs() < 1e-12);
/// ```
pub fn log_density(autocovariance: &[f64], values: &[f64]) -> f64 {
    let n = values.len();
    let mut weights: Vec<f64> = Vec::with_capacity(n);
    let mut last: Vec<f64> = Vec::with_capacity(n);
    let mut variance = autocovariance[0];
    let (mut log, mut ones, mut both, mut squares) = (0.0, 0.0, 0.0, 0.0);
    for k in 0..n {
        if k > 0 {
            // The best forecast of a value from the k before it.
            let mut reflected = autocovariance[k];
            for (j, w) in last.iter().enumerate() {
                reflected -= w * autocovariance[k - 1 - j];
            }
            let reflected = reflected / variance;
            weights.clear();
            weights
                .extend(last.iter().zip(last.iter().rev()).map(|(w, back)| w - reflected * back));
            weights.push(reflected);
            variance *= 1.0 - reflected * reflected;
            std::mem::swap(&mut weights, &mut last);
        }
        if variance <= 0.0 {
            return f64::NEG_INFINITY;
        }
        let (mut one, mut value) = (1.0, values[k]);
        for (j, w) in last.iter().enumerate() {
            one -= w;
            value -= w * values[k - 1 - j];
        }
        log += variance.ln();
        ones += one * one / variance;
        both += one * value / variance;
        squares += value * value / variance;
    }
    -0.5 * (log + ones.ln() + squares - both * both / ones)
}
