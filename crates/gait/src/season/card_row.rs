//! A row of a gait card: a figure of bouts, or a tally.

use crate::season::metric::{Direction, Metric};
use crate::season::tally::Tally;

/// A row of a card: a figure of bouts, or a tally.
#[derive(Clone, Copy, Debug, Eq, Hash, PartialEq)]
pub enum Row {
    /// A figure of bouts.
    Figure(Metric),
    /// What is done once, counted or timed.
    Tally(Tally),
}

impl Row {
    /// Its name in files.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Figure(m) => m.word(),
            Self::Tally(d) => d.word(),
        }
    }

    /// By its name in files.
    pub fn named(word: &str) -> Option<Self> {
        Metric::named(word).map(Self::Figure).or_else(|| Tally::named(word).map(Self::Tally))
    }

    /// Its name for a coach.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Figure(m) => m.name(),
            Self::Tally(d) => d.name(),
        }
    }

    /// Its unit.
    pub const fn unit(self) -> &'static str {
        match self {
            Self::Figure(m) => m.unit(),
            Self::Tally(d) => d.unit(),
        }
    }

    /// Digits after the point.
    pub const fn digits(self) -> usize {
        match self {
            Self::Figure(m) => m.digits(),
            Self::Tally(d) => d.digits(),
        }
    }

    /// Which way is better.
    pub const fn direction(self) -> Direction {
        match self {
            Self::Figure(m) => m.direction(),
            Self::Tally(d) => d.direction(),
        }
    }

    /// The smallest change worth speaking of at a value.
    pub fn worthwhile(self, value: f64) -> f64 {
        match self {
            Self::Figure(m) => m.worthwhile(value),
            Self::Tally(d) => d.worthwhile(),
        }
    }
}

impl From<Metric> for Row {
    fn from(metric: Metric) -> Self {
        Self::Figure(metric)
    }
}
