//! Timing error and how it reaches every figure.
//!
//! A mark stepped to a frame is off by a uniform error one frame wide, σ = 1/(f√12). Errors of
//! marks on a frame grid do not simply average out: when the stride is nearly a whole number of
//! frames long, every stride is rounded the same way. [`TimingError::grid_variance`] keeps that
//! share in every interval.

use crate::base::number::count;
use crate::base::units::FrameRate;

/// What a clip's marks are worth.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TimingError {
    /// Standard deviation of one mark, s.
    pub sd: f64,
    /// The frame grid that marks stand on, when any were stepped to frames.
    pub grid: Option<FrameRate>,
    /// Share of the marks that stand on it, 0 to 1.
    pub on_grid: f64,
}

impl TimingError {
    /// Variance of the mean grid error of n marks one stride apart, s².
    ///
    /// The rounding of a mark is a sawtooth of its place in the frame. Over strides of `stride_s`
    /// the place moves by F = frac(T f) a stride and diffuses with the horse's own spread, so the
    /// errors of two marks d strides apart covary by Σ_m cos(2πmdF) exp(−2π²m²f²·d·s²)/(2π²m²)
    /// in frames² (the sawtooth's Fourier series, with each harmonic damped by the diffusion).
    /// Off the grid the marks are independent: σ²/n. Where only a share w of them stands on it, the
    /// mean holds w² of the one and the rest of the other.
    pub fn grid_variance(&self, n: usize, stride_s: f64, spread_s: f64) -> f64 {
        let Some(rate) = self.grid else {
            return self.sd * self.sd / count(n.max(1));
        };
        if self.on_grid >= 1.0 {
            return all_on_grid(rate, n, stride_s, spread_s);
        }
        let w = self.on_grid;
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "at most n")]
        let stepped = ((w * count(n)).round() as usize).max(1);
        let own = (self.sd * self.sd - w * rate.mark_sd().0.powi(2)).max(0.0);
        w * w * all_on_grid(rate, stepped, stride_s, spread_s) + own / count(n.max(1))
    }
}

/// [`TimingError::grid_variance`] of n marks that all stand on the grid.
fn all_on_grid(rate: FrameRate, n: usize, stride_s: f64, spread_s: f64) -> f64 {
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

#[cfg(test)]
mod tests {
    use super::TimingError;
    use crate::base::units::FrameRate;

    /// Stepped marks at 60 frames/s, a share of them replaced by taps of 30 ms.
    fn mixed(tapped: f64) -> Option<TimingError> {
        let rate = FrameRate::new(60.0).ok()?;
        let sd = ((1.0 - tapped) * rate.mark_sd().0.powi(2) + tapped * 0.03f64.powi(2)).sqrt();
        Some(TimingError { sd, grid: Some(rate).filter(|_| tapped < 1.0), on_grid: 1.0 - tapped })
    }

    #[test]
    fn one_tap_leaves_the_others_on_their_grid() {
        // Strides of a whole number of frames: rounding never averages out on the grid.
        let variance = |tapped| mixed(tapped).map_or(f64::NAN, |t| t.grid_variance(40, 0.75, 0.0));
        let (none, one, all) = (variance(0.0), variance(1.0 / 40.0), variance(1.0));
        // One frame squared over twelve, of which the series keeps its first three terms.
        let kept = (1.0 + 1.0 / 4.0 + 1.0 / 9.0) * 6.0 / std::f64::consts::PI.powi(2);
        assert!((none / (kept / 60f64.powi(2) / 12.0) - 1.0).abs() < 0.01, "{none}");
        assert!((one / none - 1.0).abs() < 0.1, "{one} {none}");
        assert!((all - 0.03f64.powi(2) / 40.0).abs() < 1e-12);
    }

    #[test]
    fn the_share_on_the_grid_moves_the_error_without_a_jump() {
        let at = |k: u32| {
            mixed(f64::from(k) / 50.0).map_or(f64::NAN, |t| t.grid_variance(50, 0.75, 0.0))
        };
        for k in 0..50 {
            assert!((at(k + 1) - at(k)).abs() < 0.06 * at(0), "{k}: {} {}", at(k), at(k + 1));
        }
    }
}
