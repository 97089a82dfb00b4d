//! The mean of a figure over strides, with its interval at every length.

use crate::base::usual::{self, Usual};
use crate::stats::descriptive::{mean, variance};
use crate::stats::estimate::Estimate;
use crate::stats::series::Series;
use crate::stats::timing_error::TimingError;
use crate::stats::wander::{Wander, variance_of_mean};

/// What the mean of a figure over a bout's strides needs beside its values.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct StrideMean {
    /// What a mark is worth; `None` when it is not known.
    pub timing: Option<TimingError>,
    /// Mean stride duration, s.
    pub stride_s: f64,
    /// Spread of the stride durations, s.
    pub spread_s: f64,
}

/// A series in which a figure's wandering shows.
#[derive(Clone, Copy, Debug)]
pub struct Shown<'a> {
    /// Values in the figure's unit, one a stride.
    pub values: &'a [f64],
    /// Squared weights of the marks in one value, added up (2 for a gap between two footfalls).
    pub marks: f64,
    /// Covariance that a shared mark puts between neighbouring values, as a share of one's variance.
    pub shared: f64,
    /// Share of the next stride in a value.
    pub next: f64,
    /// What is usual.
    pub usual: Usual,
}

impl StrideMean {
    /// Mean of per-stride figures that are places of footfalls, each a combination of marks whose
    /// squared weights add up to `marks`. `None` of nothing; without interval for a single value or
    /// when a mark's error is not known.
    pub fn of(&self, values: &[f64], marks: f64) -> Option<Estimate> {
        let usual = usual::PLACES.scaled(marks.sqrt() * self.stride_s);
        self.shown(values, Shown { values, marks, shared: 0.0, next: 0.0, usual })
    }

    /// Mean of `values` whose wandering shows in a series of its own.
    pub fn shown(&self, values: &[f64], by: Shown) -> Option<Estimate> {
        (!values.is_empty()).then(|| self.about(mean(values), values.len(), by))
    }

    /// The interval of a mean `value` over `n` strides: the horse's own wandering as the model of
    /// [`Wander`] reads it, and what the marks leave after n strides, on a frame grid more than a
    /// share.
    pub fn about(&self, value: f64, n: usize, by: Shown) -> Estimate {
        let Some(timing) = self.timing.filter(|_| n >= 2) else {
            return Estimate { value, sd: None, ci95: None, n };
        };
        let noise = by.marks * timing.sd * timing.sd;
        let sd = (variance(by.values) - noise).max(0.0).sqrt();
        let series =
            Series { values: by.values, noise, shared: by.shared, next: by.next, detrended: false };
        let wander = Wander::read(&series, &by.usual);
        let left = by.marks
            * (1.0 + 2.0 * by.shared)
            * timing.grid_variance(n, self.stride_s, self.spread_s);
        let half = wander.half_width(0.95, |c| c.variance * variance_of_mean(n, c.likeness) + left);
        Estimate { value, sd: Some(sd), ci95: Some((value - half, value + half)), n }
    }
}
