//! Quantiles of Student's t and of χ².

use statrs::distribution::{ChiSquared, ContinuousCDF, Normal, StudentsT};
use statrs::function::erf::erf;

/// Two-sided 95 % quantile of Student's t with `dof` degrees of freedom.
///
/// ```
/// use umlauf_gait::stats::quantiles::t95;
/// // Student's t, two-sided 95 %, ten degrees of freedom (any table).
/// assert!((t95(10.0) - 2.228).abs() < 1e-3);
/// ```
pub fn t95(dof: f64) -> f64 {
    StudentsT::new(0.0, 1.0, dof.max(1.0)).map_or(1.96, |t| t.inverse_cdf(0.975))
}

/// Quantile of the χ² distribution with `dof` degrees of freedom; `None` unless `dof` is above 0
/// and `probability` between 0 and 1.
///
/// ```
/// use umlauf_gait::stats::quantiles::chi_squared_quantile;
/// let q = chi_squared_quantile(10.0, 0.95).expect("a quantile");
/// assert!((q - 18.307).abs() < 1e-3);
/// ```
pub fn chi_squared_quantile(dof: f64, probability: f64) -> Option<f64> {
    let inside = probability > 0.0 && probability < 1.0;
    inside.then(|| ChiSquared::new(dof).ok().map(|chi| chi.inverse_cdf(probability))).flatten()
}

/// Probability that a standard normal number lies within ± `z`.
///
/// ```
/// use umlauf_gait::stats::quantiles::normal_within;
/// assert!((normal_within(1.959_964) - 0.95).abs() < 1e-6);
/// ```
pub fn normal_within(z: f64) -> f64 {
    erf(z * std::f64::consts::FRAC_1_SQRT_2)
}

/// Quantile of the standard normal distribution.
///
/// ```
/// use umlauf_gait::stats::quantiles::normal_quantile;
/// assert!((normal_quantile(0.975) - 1.959_964).abs() < 1e-6);
/// ```
pub fn normal_quantile(probability: f64) -> f64 {
    Normal::standard().inverse_cdf(probability)
}
