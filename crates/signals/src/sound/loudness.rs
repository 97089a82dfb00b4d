//! How loud the sound is in all bands together: what rings after something louder, and what dies away.

use crate::number::{count, of_rank};
use crate::sound::bands::Powers;

/// An echo comes within so many ms, and is fainter than its sound by so many times in power.
const ECHO: (usize, f64) = (90, 3.0);

/// A hoof has died away after so many ms, when a voice or a string still sounds; and for so long it is
/// listened to then.
const GONE: (usize, usize) = (60, 100);

/// Power in all bands together, each in multiples of what is usual in it: a millisecond's.
pub struct Loudness(Vec<f64>);

impl Loudness {
    /// Of the bands' powers.
    pub fn of(bands: &[Powers; 5]) -> Self {
        let n = bands.iter().map(Vec::len).min().unwrap_or(0);
        let mut out = vec![0.0; n];
        for powers in bands {
            let usual = f64::from(of_rank(&powers[..n], n / 2).unwrap_or(0.0)).max(1e-15);
            out.iter_mut().zip(powers).for_each(|(o, p)| *o += f64::from(*p) / usual);
        }
        Self(out)
    }

    /// The most from one millisecond to before another.
    fn most(&self, from: usize, to: usize) -> f64 {
        self.part(from, to).iter().copied().fold(0.0, f64::max)
    }

    fn part(&self, from: usize, to: usize) -> &[f64] {
        let to = to.min(self.0.len());
        &self.0[from.min(to)..to]
    }

    /// Whether what begins at a millisecond is fainter by far than what was heard just before.
    pub fn rings(&self, k: usize) -> bool {
        let before = self.most(k.saturating_sub(ECHO.0), k.saturating_sub(12));
        before > ECHO.1 * self.most(k, k + 14)
    }

    /// How much louder what begins at a millisecond is than what is left of it when a hoof has died away, as a
    /// natural logarithm; 0 at the end of the sound.
    pub fn dies(&self, k: usize) -> f64 {
        let later = self.part(k + GONE.0, k + GONE.1);
        let now = self.part(k, k + 25);
        if later.len() < 20 || now.is_empty() {
            return 0.0;
        }
        let mean = |of: &[f64]| of.iter().sum::<f64>() / count(of.len());
        (mean(now) / mean(later).max(1e-9)).ln()
    }
}
