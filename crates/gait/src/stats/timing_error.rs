//! Timing error and how it reaches every figure.
//!
//! A mark stepped to a frame is off by a uniform error one frame wide, σ = 1/(f√12). Errors of
//! marks on a frame grid do not simply average out: when the stride is nearly a whole number of
//! frames long, every stride is rounded the same way. [`TimingError::grid_variance`] keeps that
//! share in every interval.

use crate::base::number::count;
use crate::base::units::FrameRate;
use crate::stats::descriptive::{effective_n, lag1_covariance, mean, variance};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;

/// What a clip's marks are worth.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TimingError {
    /// Standard deviation of one mark, s.
    pub sd: f64,
    /// The frame grid the marks stand on, when they were stepped to frames.
    pub grid: Option<FrameRate>,
}

/// Lag-1 autocorrelation between 0 and 0.8, 0 for fewer than eight values and where it is within
/// the scatter that independent values show (1.3/√n): errors of marks do not resemble their
/// neighbours, and a chance likeness must not widen every interval.
fn resemblance(values: &[f64], s2: f64) -> f64 {
    if values.len() < 8 || s2 <= 0.0 {
        return 0.0;
    }
    let r = lag1_covariance(values) / s2;
    if r < 1.3 / count(values.len()).sqrt() { 0.0 } else { r.min(0.8) }
}

impl TimingError {
    /// Variance of the mean grid error of n marks one stride apart, s².
    ///
    /// The rounding of a mark is a sawtooth of its place in the frame. Over strides of `stride_s`
    /// the place moves by F = frac(T f) a stride and diffuses with the horse's own spread, so the
    /// errors of two marks d strides apart covary by Σ_m cos(2πmdF) exp(−2π²m²f²·d·s²)/(2π²m²)
    /// in frames² (the sawtooth's Fourier series, with each harmonic damped by the diffusion).
    /// Off the grid the marks are independent: σ²/n.
    pub fn grid_variance(&self, n: usize, stride_s: f64, spread_s: f64) -> f64 {
        let Some(rate) = self.grid else {
            return self.sd * self.sd / count(n.max(1));
        };
        let f = rate.per_second();
        let pi = std::f64::consts::PI;
        let mut sum = 1.0 / 12.0;
        // Beyond 400 strides the far covariances are negligible or periodic; the mean over the
        // first 400 stands for them.
        let reach = n.min(400);
        for d in 1..reach {
            let lag = count(d);
            let weight = 2.0 * (1.0 - lag / count(reach));
            for m in 1..=3 {
                let m = f64::from(m);
                let damping = (-2.0 * pi * pi * m * m * f * f * lag * spread_s * spread_s).exp();
                if damping < 1e-6 {
                    break;
                }
                sum += weight * damping * (2.0 * pi * m * lag * stride_s * f).cos()
                    / (2.0 * pi * pi * m * m);
            }
        }
        (sum / count(reach.max(1))).max(0.0) / (f * f)
    }

    /// Mean of per-stride figures, each a combination of marks whose squared weights add up to
    /// `marks` (2 for a gap between two footfalls), with strides of `stride_s` ± `spread_s`.
    ///
    /// The standard error is the larger of s²/n_e (n_e from the series' own lag-1
    /// autocorrelation, floored at 0) and what the frame grid leaves after n strides.
    pub fn mean_of(&self, values: &[f64], marks: f64, stride_s: f64, spread_s: f64) -> Estimate {
        let n = values.len();
        let s2 = variance(values);
        let r = resemblance(values, s2);
        let noise = marks * self.sd * self.sd;
        let grid = marks * self.grid_variance(n, stride_s, spread_s);
        // Off a frame grid the spread between strides holds the marks' whole error already.
        let spread = s2 / effective_n(n, r);
        let se2 = if self.grid.is_none() && n >= 6 { spread } else { spread.max(grid) };
        let half = t95(count(n) - 1.0) * se2.sqrt();
        let value = mean(values);
        Estimate {
            value,
            sd: (n >= 2).then(|| (s2 - noise).max(0.0).sqrt()),
            ci95: (n >= 2).then_some((value - half, value + half)),
            n,
        }
    }
}

/// As [`TimingError::mean_of`], with bare means when the timing error is not known.
pub fn mean_of(
    timing: Option<TimingError>,
    values: &[f64],
    marks: f64,
    stride_s: f64,
    spread_s: f64,
) -> Option<Estimate> {
    if values.is_empty() {
        return None;
    }
    Some(match timing {
        Some(t) => t.mean_of(values, marks, stride_s, spread_s),
        None => Estimate { value: mean(values), sd: None, ci95: None, n: values.len() },
    })
}
