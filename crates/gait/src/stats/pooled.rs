//! Figures of several bouts taken together, and the chance of a figure so far from what is fine.

use statrs::distribution::{ContinuousCDF, StudentsT};

use crate::base::number::count;
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;

/// A value with its standard error and degrees of freedom.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Known {
    /// Value.
    pub value: f64,
    /// Standard error.
    pub error: f64,
    /// Degrees of freedom of the error.
    pub dof: f64,
}

impl Known {
    /// Of an estimate: half its interval is Student's quantile times the error, with as many degrees
    /// of freedom as strides (what is usual stands in for about one more). `None` without an interval.
    pub fn of(estimate: Estimate) -> Option<Self> {
        let half = estimate.half_width().filter(|h| *h > 0.0)?;
        let dof = count(estimate.n).max(1.0);
        Some(Self { value: estimate.value, error: half / t95(dof), dof })
    }

    /// With an error of known size beside its own (degrees of freedom after Welch and Satterthwaite).
    #[must_use]
    pub fn and(self, error: f64) -> Self {
        let both = self.error.hypot(error);
        Self { error: both, dof: self.dof * (both / self.error).powi(4), ..self }
    }

    /// The precision-weighted mean of independent values; its error grows by Birge's ratio where they
    /// scatter more than their errors explain (Birge 1932, Phys Rev 40:207; value from memory).
    /// `None` for nothing.
    ///
    /// ```
    /// use umlauf_gait::stats::pooled::Known;
    /// let of = |value| Known { value, error: 0.2, dof: 10.0 };
    /// let both = Known::together(&[of(1.0), of(1.2)]).expect("two values");
    /// assert!((both.value - 1.1).abs() < 1e-12);
    /// assert!((both.error - 0.2 / 2f64.sqrt()).abs() < 1e-12);
    /// ```
    pub fn together(values: &[Self]) -> Option<Self> {
        let weight = |k: &Self| k.error.powi(-2);
        let sum: f64 = values.iter().map(weight).sum();
        if !(sum.is_finite() && sum > 0.0) {
            return None;
        }
        let value = values.iter().map(|k| weight(k) * k.value).sum::<f64>() / sum;
        let scatter: f64 = values.iter().map(|k| weight(k) * (k.value - value).powi(2)).sum();
        let grown = (scatter / (count(values.len()) - 1.0).max(1.0)).max(1.0);
        let dof = values.iter().map(|k| k.dof).sum();
        Some(Self { value, error: (grown / sum).sqrt(), dof })
    }

    /// Chance of a value so far above `fine` when the truth is `fine`.
    pub fn chance_above(&self, fine: f64) -> f64 {
        StudentsT::new(0.0, 1.0, self.dof.max(1.0))
            .map_or(1.0, |t| t.sf((self.value - fine) / self.error))
    }

    /// How far above what is fine the truth must lie to be told from it at `chance` four times in
    /// five.
    pub fn shown_from(&self, chance: f64) -> f64 {
        StudentsT::new(0.0, 1.0, self.dof.max(1.0)).map_or(f64::INFINITY, |t| {
            self.error * (t.inverse_cdf(1.0 - chance) + t.inverse_cdf(0.8))
        })
    }
}
