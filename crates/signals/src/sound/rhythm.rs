//! The rhythm in which a sound repeats itself: strong enough to be heard where single beats are not.

use std::cell::OnceCell;

use crate::number::{count, place, small};

/// A rhythm about a moment.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Rhythm {
    /// The shortest time after which the sound repeats itself, s: a beat where beats are even, else a
    /// stride.
    pub period_s: f64,
    /// How alike it is then, 0 to 1.
    pub alike: f64,
}

/// Periods that are looked for, ms: from the beat of a quick walk to the stride of a slow canter.
const PERIODS: (usize, usize) = (200, 800);
/// How far a rhythm is looked for again, ms: many periods tell one more exactly.
const FARTHEST: usize = 3200;
/// Stretch in which a rhythm is taken for the same, ms.
const STRETCH: usize = 8000;
/// A rhythm is read anew after so many ms.
pub const STEP: usize = 1000;
/// It is read in grains of so many ms, finer than the window it is seen through; between them a period is told by the
/// parabola through three.
const GRAIN: usize = 8;
/// A shorter period counts when it is nearly as strong as the strongest.
const NEARLY: f64 = 0.75;
/// It counts only as strong as it is at the weakest of so many times it.
const AGAIN: usize = 3;
/// A sound less alike than this after any period has no rhythm.
const FAINTEST: f64 = 0.08;

/// The rhythm about every [`STEP`] of a novelty in ms steps; `None` where nothing repeats itself.
pub fn rhythms(novelty: &[f32]) -> Vec<Option<Rhythm>> {
    let smooth = smoothed(novelty);
    let (step, stretch) = (STEP / GRAIN, STRETCH / GRAIN);
    (0..novelty.len().div_ceil(STEP))
        .map(|k| {
            let middle = k * step + step / 2;
            let from = middle.saturating_sub(stretch / 2).min(smooth.len());
            let to = (from + stretch).min(smooth.len());
            rhythm(&smooth[to.saturating_sub(stretch).min(from)..to])
        })
        .collect()
}

/// The rhythm of a whole novelty in ms steps.
pub fn whole(novelty: &[f32]) -> Option<Rhythm> {
    rhythm(&smoothed(novelty))
}

/// The rhythm of a stretch in grains.
fn rhythm(smooth: &[f32]) -> Option<Rhythm> {
    let n = smooth.len();
    let periods = (PERIODS.0 / GRAIN, PERIODS.1 / GRAIN);
    if n < 2 * periods.1 {
        return None;
    }
    let mean = smooth.iter().map(|v| f64::from(*v)).sum::<f64>() / count(n);
    let centred: Vec<f32> = smooth.iter().map(|v| v - small(mean)).collect();
    let power: f64 = centred.iter().map(|v| f64::from(*v) * f64::from(*v)).sum::<f64>() / count(n);
    if power <= 0.0 {
        return None;
    }
    let farthest = (FARTHEST / GRAIN).min(2 * n / 3);
    // Beyond the periods themselves only what may be some of them is computed.
    let alike: Vec<OnceCell<f64>> = vec![OnceCell::new(); farthest + 1];
    let alike = |lag: usize| {
        *alike[lag]
            .get_or_init(|| f64::from(product(&centred[lag..], &centred)) / count(n - lag) / power)
    };
    let between = |k: usize| {
        let (a, b, c) = (alike(k - 1), alike(k), alike(k + 1));
        count(k) + 0.5 * (a - c) / (a - 2.0 * b + c).min(-1e-12)
    };
    let peaks = |from: usize, to: usize| {
        let to = to.min(farthest.saturating_sub(1));
        (from.max(1)..=to).filter(|k| alike(*k) >= alike(k - 1) && alike(*k) > alike(k + 1))
    };
    let most = peaks(periods.0, periods.1).map(&alike).fold(0.0, f64::max);
    if most < FAINTEST {
        return None;
    }
    // After a period of its own a sound comes round again and again; after a time that is one only by chance, as from
    // the first beat of a canter to the third and from the second to the next first, it does not.
    let again = |k: usize| {
        let times = |n: usize| {
            let about = n * k;
            let room = (k / 8).min(2 * n);
            (about - room..=about + room)
                .filter(|l| *l <= farthest)
                .map(&alike)
                .fold(f64::MIN, f64::max)
        };
        let all = (2..=AGAIN).take_while(|n| n * k <= farthest).map(times);
        all.fold(alike(k), f64::min)
    };
    let most_again = peaks(periods.0, periods.1).map(&again).fold(f64::MIN, f64::max);
    let first = peaks(periods.0, periods.1).find(|k| again(*k) >= NEARLY * most_again)?;
    // Each time it comes round again tells the period more exactly.
    let mut period = between(first);
    for times in 2..=FARTHEST / PERIODS.0 {
        let about = period * count(times);
        let room = (0.25 * period).min(0.06 * about);
        let (from, to) = (about - room, about + room);
        if to >= count(farthest) {
            break;
        }
        let best = peaks(place(from.ceil()), place(to))
            .max_by(|a, b| alike(*a).total_cmp(&alike(*b)))
            .filter(|k| alike(*k) > 0.5 * most);
        match best {
            Some(k) => period = between(k) / count(times),
            None => break,
        }
    }
    Some(Rhythm { period_s: period * count(GRAIN) / 1000.0, alike: most.min(1.0) })
}

/// Sum of the products of two signals as far as the shorter one goes, in eight parts at once.
fn product(a: &[f32], b: &[f32]) -> f32 {
    let n = a.len().min(b.len());
    let (mut a, mut b) = (a[..n].chunks_exact(8), b[..n].chunks_exact(8));
    let mut sums = [0.0f32; 8];
    for (a, b) in a.by_ref().zip(b.by_ref()) {
        sums.iter_mut().zip(a.iter().zip(b)).for_each(|(sum, (a, b))| *sum += a * b);
    }
    let rest: f32 = a.remainder().iter().zip(b.remainder()).map(|(a, b)| a * b).sum();
    sums.iter().sum::<f32>() + rest
}

/// Novelty in grains, seen through a window of some milliseconds: hooves do not keep time to one.
fn smoothed(novelty: &[f32]) -> Vec<f32> {
    const HALF: usize = 14;
    let weight = |k: usize| small(1.0 - count(k.abs_diff(HALF)) / (count(HALF) + 1.0));
    let weights: Vec<f32> = (0..=2 * HALF).map(weight).collect();
    let sum: f32 = weights.iter().sum();
    (0..novelty.len())
        .step_by(GRAIN)
        .map(|k| {
            let from = k.saturating_sub(HALF);
            let to = (k + HALF + 1).min(novelty.len());
            let shift = from + HALF - k;
            let part = novelty[from..to].iter().zip(&weights[shift..]);
            part.map(|(v, w)| v.min(30.0) * w).sum::<f32>() / sum
        })
        .collect()
}
