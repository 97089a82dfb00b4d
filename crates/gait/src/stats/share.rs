//! A share with its interval.

use crate::base::number::count;

/// Wilson's 95 % interval of a share of `n`.
///
/// ```
/// use umlauf_gait::stats::share::wilson;
/// // Eight of ten: the interval is lopsided, and stays within 0 and 1.
/// let (lo, hi) = wilson(0.8, 10);
/// assert!((lo - 0.490).abs() < 1e-3 && (hi - 0.943).abs() < 1e-3);
/// ```
pub fn wilson(share: f64, n: usize) -> (f64, f64) {
    const Z2: f64 = 1.959_963_985 * 1.959_963_985;
    let n = count(n);
    let middle = (share + Z2 / (2.0 * n)) / (1.0 + Z2 / n);
    let half = (Z2 * (share * (1.0 - share) / n + Z2 / (4.0 * n * n))).sqrt() / (1.0 + Z2 / n);
    ((middle - half).max(0.0), (middle + half).min(1.0))
}
