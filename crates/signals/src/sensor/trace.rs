//! A sensor's samples in order of time, checked.

use thiserror::Error;

use crate::number::place;

/// Acceleration at an instant.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Sample {
    /// When, s of the sensor's clock.
    pub at: f64,
    /// Along the sensor's three axes, m/s², gravity included.
    pub a: [f64; 3],
}

impl Sample {
    /// How far the acceleration is from another's, m/s².
    pub fn from(&self, other: &Self) -> f64 {
        self.a.iter().zip(other.a).map(|(a, b)| (a - b) * (a - b)).sum::<f64>().sqrt()
    }

    /// Size of the acceleration, m/s².
    pub fn size(&self) -> f64 {
        self.a.iter().map(|a| a * a).sum::<f64>().sqrt()
    }
}

/// What a sensor recorded, in order of time.
#[derive(Clone, Debug, PartialEq)]
pub struct Trace {
    /// Samples.
    pub samples: Vec<Sample>,
    /// Usual time from one to the next, s.
    pub step: f64,
}

/// Why a trace says nothing.
#[derive(Clone, Copy, Debug, Error, PartialEq)]
pub enum Unfit {
    /// Too few samples.
    #[error("it holds less than two seconds of a horse that moves")]
    Short,
    /// Too few a second.
    #[error(
        "{0:.0} samples a second are too few to time a hoof: {SLOWEST:.0} at least, better 200"
    )]
    Slow(f64),
    /// More a second than there are.
    #[error("{0:.0} samples a second are more than a sensor takes: are the times in seconds?")]
    Fast(f64),
}

/// Fewest samples a second.
const SLOWEST: f64 = 50.0;

/// Most samples a second (project default): beyond them times are not in seconds.
const FASTEST: f64 = 5_000.0;

/// Between two samples farther apart than this, s (project default), nothing is known of a trunk.
const HOLE: f64 = 0.1;

/// Shortest trace, s.
const SHORTEST: f64 = 2.0;

impl Trace {
    /// A trace from samples in any order; of those of one time the first counts.
    ///
    /// # Errors
    /// When they are too few, or too far apart.
    pub fn of(mut samples: Vec<Sample>) -> Result<Self, Unfit> {
        samples.retain(|s| s.at.is_finite() && s.a.iter().all(|a| a.is_finite()));
        samples.sort_by(|a, b| a.at.total_cmp(&b.at));
        samples.dedup_by(|b, a| b.at - a.at < 1e-6);
        let (Some(first), Some(last)) = (samples.first(), samples.last()) else {
            return Err(Unfit::Short);
        };
        if last.at - first.at < SHORTEST || samples.len() < 2 {
            return Err(Unfit::Short);
        }
        let mut steps: Vec<f64> = samples.windows(2).map(|w| w[1].at - w[0].at).collect();
        let middle = steps.len() / 2;
        let step = *steps.select_nth_unstable_by(middle, f64::total_cmp).1;
        if step * SLOWEST > 1.001 {
            return Err(Unfit::Slow(1.0 / step));
        }
        if step * FASTEST < 0.999 {
            return Err(Unfit::Fast(1.0 / step));
        }
        Ok(Self { samples, step })
    }

    /// The samples of the longest time without a hole in them.
    pub fn longest(&self) -> &[Sample] {
        let long = |s: &&[Sample]| s[s.len() - 1].at - s[0].at;
        let whole = self.samples.chunk_by(|a, b| b.at - a.at <= HOLE);
        whole.max_by(|a, b| long(a).total_cmp(&long(b))).unwrap_or_default()
    }

    /// Samples in a time, at least one.
    pub fn samples_in(&self, seconds: f64) -> usize {
        place((seconds / self.step).round()).max(1)
    }

    /// How much each sample differs from the one before, m/s² a second; nothing across a gap.
    pub fn jerk(&self) -> Vec<f64> {
        let mut out = vec![0.0];
        out.extend(self.samples.windows(2).map(|w| {
            let gap = w[1].at - w[0].at;
            if gap > GAP * self.step { 0.0 } else { w[1].from(&w[0]) / gap }
        }));
        out
    }

    /// Time between two samples, by their mean.
    pub fn between(&self, k: usize) -> f64 {
        let at = |k: usize| self.samples[k.min(self.samples.len() - 1)].at;
        f64::midpoint(at(k.saturating_sub(1)), at(k))
    }

    /// Standard deviation of a moment that lies somewhere between two samples, s.
    pub fn step_sd(&self) -> f64 {
        self.step / 12.0f64.sqrt()
    }
}

/// More than so many usual steps between two samples are a gap.
const GAP: f64 = 3.0;
