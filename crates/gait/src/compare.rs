//! Comparing two samples: Welch's t test (Welch 1947, Biometrika 34:28; value from memory) and
//! Holm's adjustment for many verdicts at once (Holm 1979, Scand J Stat 6:65; value from memory).

use statrs::distribution::{ContinuousCDF, StudentsT};

use crate::phase::count;
use crate::uncertainty::{mean, variance};

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
    let t = StudentsT::new(0.0, 1.0, dof).ok()?;
    let se = se2.sqrt();
    let half = t.inverse_cdf(0.975) * se;
    let p = 2.0 * t.sf((value / se).abs());
    Some(Difference { value, se, dof, ci95: (value - half, value + half), p })
}

/// Holm's step-down adjusted probabilities, in the order given: each is at most the chance that
/// any true "no difference" among them is called one.
pub fn holm(p: &[f64]) -> Vec<f64> {
    let mut order: Vec<usize> = (0..p.len()).collect();
    order.sort_by(|a, b| p[*a].total_cmp(&p[*b]));
    let mut out = vec![1.0; p.len()];
    let mut most: f64 = 0.0;
    for (rank, k) in order.into_iter().enumerate() {
        most = most.max((count(p.len() - rank) * p[k]).min(1.0));
        out[k] = most;
    }
    out
}
