//! What horses usually show, for series too short to tell it themselves. One table; each value with
//! its reason.

/// Spread and likeness before a clip is looked at.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Usual {
    /// Median of the spread (standard deviation between strides), in the unit of the values.
    pub spread: f64,
    /// Standard deviation of the spread's natural logarithm over horses and bouts.
    pub log_sd: f64,
    /// Mean likeness of neighbours (lag-1 correlation).
    pub likeness: f64,
    /// Its standard deviation over horses and bouts.
    pub likeness_sd: f64,
}

/// Stride durations, as a share of the mean: regular work lies between 1 and 5 %, most of it about
/// 2.5 (project default, after the bands of regularity); half of all bouts within a factor of 1.7.
/// Under a rider neighbours are alike: a stride that comes late is made up over the next two or
/// three (project default).
pub const STRIDES: Usual = Usual { spread: 0.028, log_sd: 0.75, likeness: 0.3, likeness_sd: 0.2 };

/// Lengths of strides over the ground, as a share of the mean: they follow the durations, and a
/// rider on a line holds them a little closer (project default).
pub const LENGTHS: Usual = Usual { spread: 0.015, log_sd: 0.75, likeness: 0.3, likeness_sd: 0.2 };

/// Place of one footfall in its stride, as a share of the stride: a hoof keeps its place to about
/// half a per cent, two thirds of all bouts within a factor of two (project default). Known less well
/// beforehand, an interval over five strides would shrink by more than a fifth with the sixth. One
/// landing tells less of the next than one stride does.
pub const PLACES: Usual = Usual { spread: 0.005, log_sd: 0.7, likeness: 0.1, likeness_sd: 0.2 };

/// Air, as a share of the stride: it takes up what a stride is longer or shorter than the last, a good
/// third of the durations' spread, and is alike as they are (project default). Two thirds of all bouts within
/// a factor of 2.2, for a stance may take up the rest or not.
pub const AIR: Usual = Usual { spread: 0.011, log_sd: 0.8, likeness: 0.25, likeness_sd: 0.2 };

/// Duty factors, as a share of their mean: a stance that keeps its length while the stride does not
/// moves the factor as much as the duration moves, one that goes with the stride not at all (project
/// default, nearer to the first).
pub const DUTY: Usual = Usual { spread: 0.020, log_sd: 0.9, likeness: 0.3, likeness_sd: 0.2 };

impl Usual {
    /// The same in a unit `by` times as small.
    pub fn scaled(self, by: f64) -> Self {
        Self { spread: self.spread * by, ..self }
    }
}
