//! Quantities that must never be mixed up, each in a type of its own.

use thiserror::Error;

/// True seconds: the world's clock, after the slow-motion factor has been taken out.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub struct Seconds(pub f64);

/// A time on the file's own clock, whole microseconds.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct FileMicros(pub i64);

/// Metres on the ground.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub struct Metres(pub f64);

/// Frames captured in one true second.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub struct FrameRate(f64);

/// How many times slower the file runs than the world: 1 for normal footage, 8 for footage
/// captured at 240 and stored at 30 frames/s.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub struct SlowFactor(f64);

/// A quantity outside the range in which it means anything.
#[derive(Clone, Debug, Error, PartialEq)]
pub enum UnitError {
    /// A frame rate that no camera has.
    #[error("a frame rate must lie between 1 and 100000 frames/s; {0} does not")]
    FrameRate(f64),
    /// A slow factor that no camera makes.
    #[error("a slow-motion factor must lie between 0.01 and 1000; {0} does not")]
    SlowFactor(f64),
}

impl FrameRate {
    /// A capture rate in frames per true second.
    ///
    /// # Errors
    /// [`UnitError::FrameRate`] outside 1 to 100,000 or when not a number.
    pub fn new(per_second: f64) -> Result<Self, UnitError> {
        if (1.0..=100_000.0).contains(&per_second) {
            Ok(Self(per_second))
        } else {
            Err(UnitError::FrameRate(per_second))
        }
    }

    /// Frames per true second.
    pub fn per_second(self) -> f64 {
        self.0
    }

    /// Standard deviation of a mark stepped to the first frame that shows it: 1/(f·√12), the
    /// spread of a uniform error one frame wide.
    ///
    /// ```
    /// use umlauf_gait::base::units::FrameRate;
    /// // A stepped mark lies anywhere within its frame: one frame over the root of twelve.
    /// let rate = FrameRate::new(120.0).expect("a frame rate");
    /// assert!((rate.mark_sd().0 - 1.0 / 120.0 / 12f64.sqrt()).abs() < 1e-12);
    /// ```
    pub fn mark_sd(self) -> Seconds {
        Seconds(1.0 / (self.0 * 12f64.sqrt()))
    }
}

/// A person who taps footfalls while the footage plays.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tapper {
    /// Scatter of a tap in the tapper's own time.
    pub scatter: Seconds,
}

impl Default for Tapper {
    /// 45 ms (project default), until the person has been measured.
    fn default() -> Self {
        Self { scatter: Seconds(0.045) }
    }
}

impl Tapper {
    /// Standard deviation of a mark tapped at playback rate `rate` of the true speed, on frames
    /// captured at `frames`: √((rate·scatter)² + 1/(12 f²)).
    pub fn mark_sd(self, rate: f64, frames: Option<FrameRate>) -> Seconds {
        let frame = frames.map_or(0.0, |f| f.mark_sd().0);
        Seconds((rate * self.scatter.0).hypot(frame))
    }
}

impl SlowFactor {
    /// No slow motion: the file's clock is the world's.
    pub const NORMAL: Self = Self(1.0);

    /// A slow-motion factor.
    ///
    /// # Errors
    /// [`UnitError::SlowFactor`] outside 0.01 to 1000 or when not a number.
    pub fn new(factor: f64) -> Result<Self, UnitError> {
        if (0.01..=1000.0).contains(&factor) {
            Ok(Self(factor))
        } else {
            Err(UnitError::SlowFactor(factor))
        }
    }

    /// The plain number.
    pub fn get(self) -> f64 {
        self.0
    }

    /// True time of a moment of the file: file time / slow factor. The one place where the two
    /// clocks meet.
    ///
    /// ```
    /// use umlauf_gait::base::units::{FileMicros, SlowFactor};
    /// let four_times_slower = SlowFactor::new(4.0).expect("a factor");
    /// let at = four_times_slower.true_seconds(FileMicros(2_000_000));
    /// assert!((at.0 - 0.5).abs() < 1e-12);
    /// assert!(SlowFactor::new(0.0).is_err());
    /// ```
    pub fn true_seconds(self, at: FileMicros) -> Seconds {
        #[expect(clippy::cast_precision_loss, reason = "a file is under 2^52 µs long")]
        let file = at.0 as f64;
        Seconds(file / 1e6 / self.0)
    }
}
