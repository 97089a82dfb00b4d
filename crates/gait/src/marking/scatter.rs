//! The scatter of a coach's hand, from the same footfalls marked twice.

use crate::base::number;
use crate::marks::footfall::Footfall;

/// Scatter of a coach's hand from the same footfalls marked twice.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Scatter {
    /// Footfalls that were marked both times.
    pub pairs: usize,
    /// Standard deviation of one mark, s: of the differences over √2 (both times scatter alike).
    pub sd_s: f64,
    /// Its 95 % interval from χ².
    pub ci95: (f64, f64),
    /// How much later the second time was, on average, s.
    pub shift_s: f64,
}

/// Fewest pairs that tell a scatter.
pub const FEWEST_PAIRS: usize = 8;

/// Scatter of marks made twice. Each mark is paired with the nearest of its limb within a tenth of
/// a second. `None` for fewer than [`FEWEST_PAIRS`] pairs.
pub fn scatter(first: &[Footfall], second: &[Footfall]) -> Option<Scatter> {
    const REACH_S: f64 = 0.1;
    let apart: Vec<f64> = second
        .iter()
        .filter_map(|b| {
            let same = first.iter().filter(|a| a.limb == b.limb).map(|a| b.on.0 - a.on.0);
            same.min_by(|x, y| x.abs().total_cmp(&y.abs())).filter(|d| d.abs() <= REACH_S)
        })
        .collect();
    if apart.len() < FEWEST_PAIRS {
        return None;
    }
    let n = number::count(apart.len());
    let shift_s = apart.iter().sum::<f64>() / n;
    let sum: f64 = apart.iter().map(|d| (d - shift_s).powi(2)).sum();
    let quantile = |p| crate::stats::quantiles::chi_squared_quantile(n - 1.0, p);
    let end = |p| quantile(p).map(|q| (sum / q / 2.0).sqrt());
    let sd_s = (sum / (n - 1.0) / 2.0).sqrt();
    Some(Scatter { pairs: apart.len(), sd_s, ci95: (end(0.975)?, end(0.025)?), shift_s })
}
