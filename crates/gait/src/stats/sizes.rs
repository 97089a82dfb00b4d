//! Sizes: figures that cannot be negative. Noise makes a size larger than it is; small ones most.

use crate::stats::quantiles::normal_within;

/// A size seen as `seen`, the length of three normal errors of standard deviation `error` about the
/// true size: its median-unbiased value and 95 % interval, by inverting the distribution of the
/// length.
///
/// ```
/// use umlauf_gait::stats::sizes::size_in_space;
/// // Far above its error a size is what it seems …
/// let (value, (lo, hi)) = size_in_space(10.0, 0.1);
/// assert!((value - 10.0).abs() < 0.01 && (hi - lo - 0.392).abs() < 0.01);
/// // … and one that is all noise may be nothing.
/// let (value, (lo, hi)) = size_in_space(1.2, 1.0);
/// assert!(value == 0.0 && lo == 0.0 && hi > 1.2);
/// ```
pub fn size_in_space(seen: f64, error: f64) -> (f64, (f64, f64)) {
    let at = |share: f64| error * size_below(seen / error, share);
    (at(0.5), (at(0.975), at(0.025)))
}

/// The true size at which a length of at most `seen` has this probability; 0 when even no size at
/// all makes it less probable. Both in units of the error.
fn size_below(seen: f64, share: f64) -> f64 {
    let (mut lo, mut hi) = (0.0, seen + 6.0);
    if length_within(seen, lo) <= share {
        return 0.0;
    }
    for _ in 0..60 {
        let middle = f64::midpoint(lo, hi);
        if length_within(seen, middle) > share {
            lo = middle;
        } else {
            hi = middle;
        }
    }
    f64::midpoint(lo, hi)
}

/// Probability that the length of a vector of three standard normal errors about one of length
/// `size` is at most `r`: Φ(r − s) − Φ(−r − s) − [φ(r − s) − φ(r + s)]/s, the noncentral χ with
/// three degrees of freedom.
pub fn length_within(r: f64, size: f64) -> f64 {
    let below = |z: f64| 0.5 * (1.0 + z.signum() * normal_within(z.abs()));
    let density = |z: f64| (-0.5 * z * z).exp() / std::f64::consts::TAU.sqrt();
    if size < 1e-4 {
        return normal_within(r) - 2.0 * r * density(r);
    }
    below(r - size) - below(-r - size) - (density(r - size) - density(r + size)) / size
}
