//! Whether what was seen to stand goes as a horse does.

use crate::picture::stance::Stance;

/// A stride is at least this long, heights at the withers, when a horse comes along. Wheels print closer.
const CLOSEST: f64 = 0.6;

/// A stride shorter than this, s, …
const QUICKEST_S: f64 = 0.45;

/// … is a gallop's or a racing trot's, and at least this many heights at the withers long: a pony of 1.2 m does 9 m/s in
/// it. A dog trots so quickly, and shorter.
const GALLOPS: f64 = 3.3;

/// No stride lasts longer, s, when a horse comes along: a slow walk's is 1.3 s (common practice).
const SLOWEST_S: f64 = 1.6;

/// No stride is longer than so many heights at the withers and lasts longer than so many seconds: an extended
/// trot is 3.5 m in 0.72 s (Clayton 1994, Equine Vet J 26:230; value from memory).
const LONGEST: (f64, f64) = (2.5, 0.85);

/// A horse has both girdles: fewer than one hoof in so many of one of them is half a horse, or a flag; and so is what
/// does not show a stride of each, from a hoof to the next but one (project default).
const ONE_OF: usize = 8;
const A_STRIDE: usize = 3;

/// Fewer stances of a girdle than this tell nothing.
const FEWEST: usize = 4;

/// What stances tell of what stood.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Steps {
    /// A horse's, as far as they tell.
    Horse,
    /// A horse's, half of whose hooves were not seen.
    Half,
    /// No horse's: too close to one another, or too quick.
    Other,
}

/// What stances, in order of time, tell. `height` is that at the withers, pixels; times of stances are frames,
/// `rate` a second.
pub fn steps(stances: &[Stance], height: f64, rate: f64) -> Steps {
    let girdles = [false, true].map(|fore| {
        let own: Vec<&Stance> = stances.iter().filter(|s| (s.ahead > 0.0) == fore).collect();
        // From a hoof to the next but one is a stride in every gait, and mostly so where one is missed.
        let middle = |of: &dyn Fn(&Stance, &Stance) -> f64| {
            let mut all: Vec<f64> = own.windows(3).map(|w| of(w[0], w[2])).collect();
            all.sort_by(f64::total_cmp);
            all.get(all.len() / 2).copied()
        };
        let stride = middle(&|a, b| (b.x - a.x).abs() / height)?;
        let stride_s = middle(&|a, b| (b.on - a.on) / rate)?;
        (own.len() >= FEWEST).then_some((stride, stride_s))
    });
    let girdles: Vec<(f64, f64)> = girdles.into_iter().flatten().collect();
    let other = |(stride, stride_s): &(f64, f64)| {
        *stride < CLOSEST || (*stride_s < QUICKEST_S && *stride < GALLOPS)
    };
    let half = |(stride, stride_s): &(f64, f64)| {
        *stride_s > SLOWEST_S || (*stride > LONGEST.0 && *stride_s > LONGEST.1)
    };
    let of_fores = stances.iter().filter(|s| s.ahead > 0.0).count();
    let fewer = of_fores.min(stances.len() - of_fores);
    let one_girdle = fewer < A_STRIDE || ONE_OF * fewer < stances.len();
    // Where shadows are taken for hooves one girdle may have too many: that is no better.
    if girdles.iter().any(other) {
        Steps::Other
    } else if one_girdle || (!girdles.is_empty() && girdles.iter().all(half)) {
        Steps::Half
    } else {
        Steps::Horse
    }
}

/// Whether four of five strides of each girdle, from a hoof to the next but one, last nearly as long as its middle one:
/// chance, shadows and hooves missed here and there do not make that.
pub fn even(stances: &[Stance]) -> bool {
    [false, true].into_iter().all(|fore| {
        let ons: Vec<f64> =
            stances.iter().filter(|s| (s.ahead > 0.0) == fore).map(|s| s.on).collect();
        let mut strides: Vec<f64> = ons.windows(3).map(|w| w[2] - w[0]).collect();
        strides.sort_by(f64::total_cmp);
        let Some(usual) = strides.get(strides.len() / 2) else { return false };
        let alike = strides.iter().filter(|s| (*s - usual).abs() < EVEN * usual).count();
        ons.len() >= FEWEST && 5 * alike >= 4 * strides.len()
    })
}

/// Strides that differ by less than this share are as long: twice the spread of a steady horse's (project default).
const EVEN: f64 = 0.05;

#[cfg(test)]
mod tests {
    use super::{Stance, Steps, even, steps};
    use crate::picture::may::May;

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
                lit: 0.0,
                is_one: 1.0,
                may: May::ANY,
            })
            .collect()
    }

    #[test]
    fn hooves_missed_here_and_there_are_not_even() {
        let both = |keep: &dyn Fn(usize) -> bool| {
            let hinds = stances(0.4, 1.0).into_iter().map(|s| Stance { ahead: -0.3, ..s });
            let all: Vec<Stance> = stances(0.4, 1.0).into_iter().chain(hinds).collect();
            let kept = all.into_iter().enumerate().filter(|(k, _)| keep(*k));
            even(&kept.map(|(_, s)| s).collect::<Vec<_>>())
        };
        assert!(both(&|_| true));
        assert!(!both(&|k| ![2, 3, 7].contains(&(k % 10))));
        // Of one girdle alone nothing is said.
        assert!(!both(&|k| k < 10));
    }

    #[test]
    fn horses_from_walk_to_gallop_are_horses_and_dogs_and_wheels_are_none() {
        let told = |stride_s: f64, stride: f64| {
            let fores = stances(0.5 * stride_s, 0.5 * stride);
            let hinds = fores.iter().map(|s| Stance { ahead: -s.ahead, ..*s });
            let all: Vec<Stance> = fores.iter().copied().chain(hinds).collect();
            // What comes in one heap is no whole horse's, however it goes.
            assert_ne!(steps(&fores, 100.0, 60.0), Steps::Horse);
            steps(&all, 100.0, 60.0)
        };
        // Stride durations and lengths by the withers at 1.6 m: a collected walk 1.15 s and 1.57 m, a
        // working trot 0.76 s and 2.7 m, a passage 1.09 s and 1.75 m, a race 0.43 s and 7 m (Clayton 1994
        // and 1995, values from memory).
        for (stride_s, metres) in [(1.15, 1.57), (0.76, 2.7), (1.09, 1.75), (0.43, 7.0)] {
            assert_eq!(told(stride_s, metres / 1.6), Steps::Horse, "{stride_s} s, {metres} m");
        }
        // Every second hoof of the walk and the trot.
        for (stride_s, metres) in [(2.3, 3.15), (1.52, 5.4)] {
            assert_eq!(told(stride_s, metres / 1.6), Steps::Half);
        }
        // A dog of 0.6 m that trots 2.5 m/s with 2.4 strides a second, and one at 4 m/s (common practice).
        assert_eq!(told(0.42, 1.05 / 0.6), Steps::Other);
        assert_eq!(told(0.42, 1.7 / 0.6), Steps::Other);
        // The spokes of a wheel.
        assert_eq!(told(0.5, 0.4), Steps::Other);
    }
}
