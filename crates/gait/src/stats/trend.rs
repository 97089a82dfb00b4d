//! Robust trend: the Theil–Sen slope (Theil 1950; Sen 1968, J Am Stat Assoc 63:1379) with Sen's
//! interval, widened for values that resemble their neighbours.

use statrs::distribution::{ContinuousCDF, Normal, StudentsT};

use crate::base::number::count;
use crate::stats::descriptive::{lag1_covariance, mean, median, variance};
use crate::stats::quantiles::normal_within;
use crate::stats::wander::variance_of_sum;

/// A slope with its 95 % interval.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Slope {
    /// Median of the slopes between all pairs of points.
    pub value: f64,
    /// Lower end.
    pub lo: f64,
    /// Upper end.
    pub hi: f64,
    /// Two-sided chance of as much without a trend: of so steep a line (Student's t), and where values
    /// are tied, as counts are, of so many pairs going one way (Kendall's S, normal with ties and the
    /// step between its values taken into account; Kendall, Rank Correlation Methods, 1970; value from
    /// memory).
    pub p: f64,
}

/// More points than this are averaged in blocks of equal number first, which keeps the cost
/// O(n) and the slope where it is.
const MOST_POINTS: usize = 400;

/// Likeness of neighbours that is usual about a trend, and how many values' worth is known of it before
/// they are seen: a horse's form lasts longer than from one session to the next, and a dozen values
/// tell their likeness only to ±0.3 (project default).
const USUAL: (f64, f64) = (0.1, 25.0);

/// Theil–Sen slope of y over x (in order of x); `None` for fewer than three points or when all x
/// are the same. The interval is Sen's, from ranks of the pairwise slopes, stretched about the slope by
/// what a fitted line errs more by among values alike by r^k at k apart than among independent ones;
/// r is the lag-1 autocorrelation of what the slope leaves over beside what is usual ([`USUAL`]), between
/// 0 and 0.8.
///
/// ```
/// use umlauf_gait::stats::trend::theil_sen;
/// // One session gone wrong does not bend the trend.
/// let days = [0.0, 1.0, 2.0, 3.0, 4.0, 5.0];
/// let slope = theil_sen(&days, &[1.0, 3.0, 5.0, 7.0, 90.0, 11.0]).expect("a slope");
/// assert!((slope.value - 2.0).abs() < 1e-9);
/// ```
pub fn theil_sen(x: &[f64], y: &[f64]) -> Option<Slope> {
    let (x, y) = (blocks(x), blocks(y));
    let plain = sen(&x, &y)?;
    let rest: Vec<f64> = x.iter().zip(&y).map(|(x, y)| y - plain.value * x).collect();
    let s2 = variance(&rest);
    let n = count(rest.len());
    let seen = if s2 > 0.0 { lag1_covariance(&rest) / s2 } else { 0.0 };
    let r = ((n * seen + USUAL.1 * USUAL.0) / (n + USUAL.1)).clamp(0.0, 0.8);
    // How much more a slope errs through values that are alike than through independent ones.
    let middle = mean(&x);
    let pulls = || x.iter().map(|x| x - middle);
    let alone: f64 = pulls().map(|w| w * w).sum();
    let wider = (variance_of_sum(pulls(), r) / alone).max(1.0).sqrt();
    Some(Slope {
        value: plain.value,
        lo: plain.value - wider * (plain.value - plain.lo),
        hi: plain.value + wider * (plain.hi - plain.value),
        p: if is_tied(&y) { kendall(&x, &y, wider) } else { by_line(&x, &y, wider) },
    })
}

/// Whether some values are the same, as counts and shares are.
fn is_tied(y: &[f64]) -> bool {
    let mut sorted = y.to_vec();
    sorted.sort_by(f64::total_cmp);
    sorted.windows(2).any(|w| w[0] >= w[1])
}

/// Two-sided chance of so steep a fitted line without a trend (Student's t), its error `wider` times
/// that of independent values.
fn by_line(x: &[f64], y: &[f64], wider: f64) -> f64 {
    let (mx, my) = (mean(x), mean(y));
    let xx: f64 = x.iter().map(|x| (x - mx) * (x - mx)).sum();
    let slope = x.iter().zip(y).map(|(x, y)| (x - mx) * (y - my)).sum::<f64>() / xx;
    let left = x.iter().zip(y).map(|(x, y)| (y - my - slope * (x - mx)).powi(2)).sum::<f64>();
    let dof = count(x.len()) - 2.0;
    let error = wider * (left / dof / xx).sqrt();
    StudentsT::new(0.0, 1.0, dof).map_or(1.0, |t| (2.0 * t.sf((slope / error).abs())).min(1.0))
}

/// Chance of Kendall's S for y over x, its error `wider` times that of independent values.
fn kendall(x: &[f64], y: &[f64], wider: f64) -> f64 {
    let n = x.len().min(y.len());
    let mut s = 0.0;
    for i in 0..n {
        for j in i + 1..n {
            let ways = (x[j] - x[i], y[j] - y[i]);
            if ways.0 != 0.0 && ways.1 != 0.0 {
                s += ways.0.signum() * ways.1.signum();
            }
        }
    }
    let steps = |t: f64| t * (t - 1.0) * (2.0 * t + 5.0);
    let tied = |of: &[f64]| -> f64 {
        let mut sorted = of.to_vec();
        sorted.sort_by(f64::total_cmp);
        sorted.chunk_by(|a, b| a.total_cmp(b).is_eq()).map(|c| steps(count(c.len()))).sum()
    };
    // Values that are alone add nothing: steps(1) is 0.
    let variance = (steps(count(n)) - tied(x) - tied(y)) / 18.0;
    if variance <= 0.0 {
        return 1.0;
    }
    let z = (s.abs() - 1.0).max(0.0) / (wider * variance.sqrt());
    1.0 - normal_within(z)
}

/// Values of the line at both ends of x, each with its 95 % interval: the middle one of all lines
/// with the slope, known as the residuals and the slope leave it.
pub fn ends(x: &[f64], y: &[f64], slope: &Slope) -> Option<[(f64, f64); 2]> {
    let rest: Vec<f64> = x.iter().zip(y).map(|(x, y)| y - slope.value * x).collect();
    let at = median(rest.clone())?;
    let (n, middle) = (count(rest.len()), mean(x));
    let per_slope = (slope.hi - slope.lo) / (2.0 * 1.96);
    let own = variance(&rest) / n;
    let half = |x: f64| 1.96 * (own + ((x - middle) * per_slope).powi(2)).sqrt();
    let end = |x: f64| (at + slope.value * x, half(x));
    Some([end(*x.first()?), end(*x.last()?)])
}

/// The slope with Sen's interval for independent values.
pub fn sen(x: &[f64], y: &[f64]) -> Option<Slope> {
    let n = x.len().min(y.len());
    let mut slopes = Vec::with_capacity(n * n.saturating_sub(1) / 2);
    for i in 0..n {
        for j in i + 1..n {
            if x[j] > x[i] {
                slopes.push((y[j] - y[i]) / (x[j] - x[i]));
            }
        }
    }
    if n < 3 || slopes.is_empty() {
        return None;
    }
    let pairs = slopes.len();
    // Four ranks of many slopes: picked out, not sorted.
    let mut ranked = |rank: usize| *slopes.select_nth_unstable_by(rank, f64::total_cmp).1;
    let value = f64::midpoint(ranked((pairs - 1) / 2), ranked(pairs / 2));
    let z = Normal::standard().inverse_cdf(0.975);
    let nf = count(n);
    let half = z * (nf * (nf - 1.0) * (2.0 * nf + 5.0) / 18.0).sqrt();
    // Ranks from 1, rounded outwards as SciPy rounds them.
    let rank = |v: f64| {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a rank")]
        let k = v.max(0.0) as usize;
        k.min(pairs - 1)
    };
    let low = rank(((count(pairs) - half) / 2.0).round_ties_even() - 1.0);
    let high = rank(((count(pairs) + half) / 2.0).round_ties_even());
    let (lo, hi) = (ranked(low), ranked(high));
    Some(Slope { value, lo, hi, p: kendall(x, y, 1.0) })
}

/// Values averaged in blocks of equal number, as many as are looked at one by one.
pub fn blocks(values: &[f64]) -> Vec<f64> {
    let size = values.len().div_ceil(MOST_POINTS).max(1);
    values.chunks(size).map(mean).collect()
}
