//! Timing error and how it reaches every figure.
//!
//! A mark stepped to a frame is off by a uniform error one frame wide, σ = 1/(f√12). Errors of
//! marks on a frame grid do not simply average out: when the stride is nearly a whole number of
//! frames long, every stride is rounded the same way. [`TimingError::grid_variance`] keeps that
//! share in every interval.

use statrs::distribution::{ContinuousCDF, StudentsT};

use crate::phase::count;
use crate::units::FrameRate;

/// What a clip's marks are worth.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TimingError {
    /// Standard deviation of one mark, s.
    pub sd: f64,
    /// The frame grid the marks stand on, when they were stepped to frames.
    pub grid: Option<FrameRate>,
}

/// A mean over strides with its uncertainty.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Estimate {
    /// Mean.
    pub value: f64,
    /// Spread between strides with the timing error taken out; `None` for fewer than two strides
    /// or when the timing error is not known.
    pub sd: Option<f64>,
    /// 95 % interval of the mean; `None` under the same conditions.
    pub ci95: Option<(f64, f64)>,
    /// Strides it rests on.
    pub n: usize,
}

impl Estimate {
    /// Half the width of the interval.
    pub fn half_width(&self) -> Option<f64> {
        self.ci95.map(|(lo, hi)| (hi - lo) / 2.0)
    }

    /// The same estimate in another unit.
    pub fn scaled(self, by: f64) -> Self {
        let ci95 = self.ci95.map(|(lo, hi)| {
            let (a, b) = (lo * by, hi * by);
            (a.min(b), a.max(b))
        });
        Self { value: self.value * by, sd: self.sd.map(|s| s * by.abs()), ci95, n: self.n }
    }
}

/// Two-sided 95 % quantile of Student's t with `dof` degrees of freedom.
pub fn t95(dof: f64) -> f64 {
    StudentsT::new(0.0, 1.0, dof.max(1.0)).map_or(1.96, |t| t.inverse_cdf(0.975))
}

/// The middle value, of an even number the upper of the two; `None` of nothing.
pub fn median(mut values: Vec<f64>) -> Option<f64> {
    let middle = values.len() / 2;
    (!values.is_empty()).then(|| *values.select_nth_unstable_by(middle, f64::total_cmp).1)
}

/// Arithmetic mean; NaN for an empty slice.
pub fn mean(values: &[f64]) -> f64 {
    values.iter().sum::<f64>() / count(values.len())
}

/// Sample variance (n − 1), 0 for fewer than two values.
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

/// Effective sample size n(1 − r)/(1 + r) of n values with lag-1 autocorrelation r, never under 1.
pub fn effective_n(n: usize, r: f64) -> f64 {
    (count(n) * (1.0 - r) / (1.0 + r)).max(1.0)
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
