//! Comparing two samples: Welch's t test (Welch 1947, Biometrika 34:28; value from memory) and
//! Holm's adjustment for many verdicts at once (Holm 1979, Scand J Stat 6:65; value from memory).

use statrs::distribution::{ContinuousCDF, StudentsT};

use crate::base::number::count;
use crate::stats::descriptive::{mean, variance};

/// A difference of two means.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Difference {
    /// Mean of the second less mean of the first.
    pub value: f64,
    /// Standard error.
    pub se: f64,
    /// Degrees of freedom (Welch–Satterthwaite).
    pub dof: f64,
    /// 95 % interval.
    pub ci95: (f64, f64),
    /// Two-sided probability of such a difference by chance.
    pub p: f64,
}

/// Welch's t test of the mean of `b` against that of `a`, in the samples' unit. `None` for fewer
/// than two values a side, or when neither side varies.
///
/// ```
/// use umlauf_gait::stats::two_samples::welch;
/// let d = welch(&[79.1, 78.8, 79.4, 79.0], &[81.0, 81.4, 80.7, 81.2]).expect("a difference");
/// assert!((d.value - 2.0).abs() < 1e-9 && d.p < 0.001);
/// ```
pub fn welch(a: &[f64], b: &[f64]) -> Option<Difference> {
    if a.len() < 2 || b.len() < 2 {
        return None;
    }
    let (na, nb) = (count(a.len()), count(b.len()));
    let (va, vb) = (variance(a) / na, variance(b) / nb);
    from_errors(mean(b) - mean(a), (va, na - 1.0), (vb, nb - 1.0))
}

/// As [`welch`], from the squared standard errors of both means with their degrees of freedom.
pub fn from_errors(value: f64, a: (f64, f64), b: (f64, f64)) -> Option<Difference> {
    let se2 = a.0 + b.0;
    if !se2.is_finite() || se2 <= 0.0 {
        return None;
    }
    let dof = se2 * se2 / (a.0 * a.0 / a.1 + b.0 * b.0 / b.1);
    with_dof(value, se2, dof)
}

impl Difference {
    /// Whether it is smaller than `size`, either way, at 95 %: both one-sided tests agree, which is to
    /// say that its 90 % interval lies within (Schuirmann 1987, J Pharmacokinet Biopharm 15:657; value
    /// from memory).
    pub fn is_within(&self, size: f64) -> bool {
        let quantile = StudentsT::new(0.0, 1.0, self.dof).map_or(1.645, |t| t.inverse_cdf(0.95));
        self.value.abs() + quantile * self.se < size
    }

    /// The same with a further error of known variance, independent of its own. Neither its interval nor
    /// its `p` gets smaller.
    pub fn widened(self, variance: f64) -> Self {
        /// Degrees of freedom of what is known beforehand.
        const KNOWN: f64 = 30.0;
        if variance <= 0.0 {
            return self;
        }
        let wider = from_errors(self.value, (self.se * self.se, self.dof), (variance, KNOWN));
        wider.map_or(self, |wider| Self {
            p: wider.p.max(self.p),
            ci95: (wider.ci95.0.min(self.ci95.0), wider.ci95.1.max(self.ci95.1)),
            ..wider
        })
    }
}

fn with_dof(value: f64, se2: f64, dof: f64) -> Option<Difference> {
    if !se2.is_finite() || se2 <= 0.0 {
        return None;
    }
    let t = StudentsT::new(0.0, 1.0, dof).ok()?;
    let se = se2.sqrt();
    let half = t.inverse_cdf(0.975) * se;
    let p = 2.0 * t.sf((value / se).abs());
    Some(Difference { value, se, dof, ci95: (value - half, value + half), p })
}

/// Holm's step-down adjusted probabilities, in the order given: each is at most the chance that
/// any true "no difference" among them is called one.
///
/// ```
/// use umlauf_gait::stats::two_samples::holm;
/// let adjusted = holm(&[0.01, 0.04, 0.03]);
/// assert!((adjusted[0] - 0.03).abs() < 1e-12);
/// assert!((adjusted[1] - 0.06).abs() < 1e-12 && (adjusted[2] - 0.06).abs() < 1e-12);
/// ```
pub fn holm(p: &[f64]) -> Vec<f64> {
    holm_weighted(p, &vec![1.0; p.len()])
}

/// The same where some count for more than others: each has its share of the chance allowed in
/// proportion to its weight (Holm 1979, section 4).
///
/// ```
/// use umlauf_gait::stats::two_samples::holm_weighted;
/// // Three quarters of 5 % are 3.75 %: a chance of 3 % stands, and leaves all of it to the other.
/// let adjusted = holm_weighted(&[0.03, 0.04], &[3.0, 1.0]);
/// assert!((adjusted[0] - 0.04).abs() < 1e-12 && (adjusted[1] - 0.04).abs() < 1e-12);
/// ```
pub fn holm_weighted(p: &[f64], weights: &[f64]) -> Vec<f64> {
    let mut order: Vec<usize> = (0..p.len()).collect();
    order.sort_by(|a, b| (p[*a] / weights[*a]).total_cmp(&(p[*b] / weights[*b])));
    let mut left: f64 = weights.iter().sum();
    let mut out = vec![1.0; p.len()];
    let mut most: f64 = 0.0;
    for k in order {
        most = most.max((p[k] / weights[k] * left).min(1.0));
        out[k] = most;
        left -= weights[k];
    }
    out
}

/// The difference of two sides' means at one value of a covariate: both sides share a slope over
/// it (analysis of covariance). Pairs are (covariate, value). `None` for fewer than three a side,
/// or a covariate that does not vary within the sides.
pub fn at_one_covariate(a: &[(f64, f64)], b: &[(f64, f64)]) -> Option<Difference> {
    if a.len() < 3 || b.len() < 3 {
        return None;
    }
    let middle = |side: &[(f64, f64)]| {
        let n = count(side.len());
        let sum = side.iter().fold((0.0, 0.0), |s, p| (s.0 + p.0, s.1 + p.1));
        (sum.0 / n, sum.1 / n)
    };
    let (ma, mb) = (middle(a), middle(b));
    let (mut sxx, mut sxy, mut syy) = (0.0, 0.0, 0.0);
    for (side, m) in [(a, ma), (b, mb)] {
        for (x, y) in side {
            sxx += (x - m.0) * (x - m.0);
            sxy += (x - m.0) * (y - m.1);
            syy += (y - m.1) * (y - m.1);
        }
    }
    if sxx <= 0.0 {
        return None;
    }
    let slope = sxy / sxx;
    let (na, nb) = (count(a.len()), count(b.len()));
    let dof = na + nb - 3.0;
    let residual = (syy - slope * sxy).max(0.0) / dof;
    let apart = mb.0 - ma.0;
    let se2 = residual * (1.0 / na + 1.0 / nb + apart * apart / sxx);
    with_dof((mb.1 - ma.1) - slope * apart, se2, dof)
}

/// The smallest true difference that a pair like this would have shown, with an interval that
/// excludes 0, in four cases of five: (t₀.₉₇₅ + t₀.₈)·SE.
pub fn smallest_shown(of: &Difference) -> f64 {
    StudentsT::new(0.0, 1.0, of.dof)
        .map_or(f64::INFINITY, |t| (t.inverse_cdf(0.975) + t.inverse_cdf(0.8)) * of.se)
}
