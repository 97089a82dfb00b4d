//! Whether what was seen to stand goes as a horse does.

use crate::number::count;
use crate::picture::sides::Stance;

/// Hooves of a girdle stand at least this far from one another in the mean, heights at the withers: half of
/// the shortest stride that still comes along. Wheels print closer.
const CLOSEST: f64 = 0.3;

/// A stride shorter than this, s, …
const QUICKEST_S: f64 = 0.45;

/// … is a gallop's, and at least this many heights at the withers long. A dog trots so quickly and so short.
const GALLOPS: f64 = 2.4;

/// Fewer stances of a girdle than this tell nothing.
const FEWEST: usize = 4;

/// Whether stances, in order of time, are a horse's: far enough from one another and not too quick for it.
/// `height` is that at the withers, pixels; times of stances are frames, `rate` a second.
pub fn are_a_horse(stances: &[Stance], height: f64, rate: f64) -> bool {
    let girdles = [false, true].map(|fore| {
        let own: Vec<&Stance> = stances.iter().filter(|s| (s.ahead > 0.0) == fore).collect();
        let (first, last) = (own.first()?, own.last()?);
        let gaps = count(own.len() - 1);
        let step = (last.x - first.x).abs() / (gaps * height);
        (own.len() >= FEWEST).then(|| (step, (last.on - first.on) / (gaps * rate)))
    });
    girdles.into_iter().flatten().all(|(step, step_s)| {
        let quick = 2.0 * step_s < QUICKEST_S && 2.0 * step < GALLOPS;
        step >= CLOSEST && !quick
    })
}

#[cfg(test)]
mod tests {
    use super::{Stance, are_a_horse};

    /// Stances of a girdle every `step_s` and `step` heights of 100 pixels, 60 frames a second.
    fn stances(step_s: f64, step: f64) -> Vec<Stance> {
        (0..10)
            .map(|k| Stance {
                on: 60.0 * step_s * f64::from(k),
                ahead: 0.3,
                x: 100.0 * step * f64::from(k),
                row: 0.0,
                row_sd: 1.0,
                nearer: 0.0,
            })
            .collect()
    }

    #[test]
    fn horses_from_walk_to_gallop_are_horses_and_dogs_and_wheels_are_none() {
        let horse = |stride_s: f64, stride: f64| {
            are_a_horse(&stances(0.5 * stride_s, 0.5 * stride), 100.0, 60.0)
        };
        // Stride durations and lengths by the withers at 1.6 m: a collected walk 1.15 s and 1.57 m, a
        // working trot 0.76 s and 2.7 m, a passage 1.09 s and 1.75 m, a race 0.43 s and 7 m (Clayton 1994
        // and 1995, values from memory).
        for (stride_s, metres) in [(1.15, 1.57), (0.76, 2.7), (1.09, 1.75), (0.43, 7.0)] {
            assert!(horse(stride_s, metres / 1.6), "{stride_s} s, {metres} m");
        }
        // A dog of 0.6 m that trots 2.5 m/s with 2.4 strides a second (common practice).
        assert!(!horse(0.42, 1.05 / 0.6));
        // The spokes of a wheel.
        assert!(!horse(0.5, 0.4));
    }
}
