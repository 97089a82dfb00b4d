//! Drift of tempo over a bout: a change too slow to be felt, told from a quick one.
//!
//! The slope is Theil and Sen's, which one odd stride does not bend. Its error is that of a fitted
//! line under the wandering that the bout's own strides show about it, with what is usual before
//! them: strides that resemble their neighbours wander, and a wandering over few strides looks like a
//! drift.

use crate::base::number::count;
use crate::base::thresholds::Thresholds;
use crate::base::usual;
use crate::figures::stretches::{lateness, limb_duration};
use crate::stats::descriptive::{mean, variance};
use crate::stats::series::Series;
use crate::stats::trend::{blocks, theil_sen};
use crate::stats::wander::{Cell, Wander, variance_of_sum};
use crate::strides::stride::{Stride, follows};

/// Drift of a bout.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Drift {
    /// Strides/min per minute.
    pub per_min: f64,
    /// 95 % interval.
    pub ci95: (f64, f64),
    /// Chance of so steep a slope in a bout without drift.
    pub by_chance: f64,
    /// Drift over the whole bout as a share of its mean tempo.
    pub total_share: f64,
    /// Largest change within any ten seconds, share.
    pub in_ten_s: f64,
    /// Neither chance nor the limit of what is worth speaking of explains it.
    pub flagged: bool,
}

impl Drift {
    /// Whether it comes too slowly to be felt.
    pub fn is_slow(&self, limits: &Thresholds) -> bool {
        self.in_ten_s.abs() < limits.drift_share
    }
}

/// A line's slope is less scattered than the robust one by this factor (Sen 1968: efficiency about
/// 0.91 for normal values; value from memory).
const ROBUST: f64 = 1.05;

/// What comes within this time may be felt, s (project default).
const QUICK_S: f64 = 10.0;

/// Drift of tempo over the steady strides of a bout (at least three neighbouring pairs): robust
/// slope of each stride's tempo over its time. The total is over the whole bout, `bout_s` long.
/// `footfall` is the variance of a footfall about its place, s²; without it there is no interval and
/// no drift.
pub fn drift(
    strides: &[Stride],
    bout_s: f64,
    footfall: Option<f64>,
    limits: &Thresholds,
) -> Option<Drift> {
    let footfall = footfall?;
    let (mut minutes, mut durations, mut limbs, mut late) = (Vec::new(), Vec::new(), 0.0, 0.0);
    for w in strides.windows(2).filter(|w| follows(&w[0], &w[1])) {
        // Every limb times the stride anew: their mean knows it best.
        if let Some((duration, n)) = limb_duration(&w[0], &w[1]) {
            minutes.push(f64::midpoint(w[0].start, w[0].end) / 60.0);
            durations.push(duration);
            limbs += count(n);
            late += lateness(&w[0]);
        }
    }
    let n = count(durations.len());
    if durations.len() < 3 {
        return None;
    }
    let tempo: Vec<f64> = durations.iter().map(|d| 60.0 / d).collect();
    let per_min = theil_sen(&minutes, &tempo)?.value;
    let (t, next, limbs) = (mean(&durations), late / n, limbs / n);
    let line = Line::through(&minutes, &durations)?;
    let series = Series {
        values: &line.rest,
        noise: 2.0 * footfall / limbs,
        shared: -0.5,
        next,
        detrended: true,
    };
    let wander = Wander::read(&series, &usual::STRIDES.scaled(t));
    let per_duration = 60.0 / (t * t);
    let variance = line.slope_variance(next, footfall / limbs);
    let half = ROBUST * per_duration * wander.half_width(0.95, &variance);
    let by_chance = wander.beyond(line.slope, &variance);
    let total_share = per_min * bout_s / 60.0 / mean(&tempo);
    let in_ten_s = most_in_ten_s(&minutes, &tempo, per_min, bout_s) / mean(&tempo);
    // Size and chance are judged by the same slope, which is known a little better than the robust one.
    let fitted_share = line.slope * bout_s / 60.0 / t;
    let error = half / 1.96 * bout_s / 60.0 / mean(&tempo);
    Some(Drift {
        per_min,
        ci95: (per_min - half, per_min + half),
        by_chance,
        total_share,
        in_ten_s,
        flagged: by_chance <= chance(error, limits) && fitted_share.abs() > limits.drift_share,
    })
}

/// The chance up to which a drift is told whose whole has a standard error of `error`, share: false
/// alarms are spent where a drift worth speaking of can be told. Where the error is larger only a slope
/// far steeper than horses drift would stand out, and chance is the likelier reason for one.
fn chance(error: f64, limits: &Thresholds) -> f64 {
    limits.drift_chance * (CAN_TELL / error.max(CAN_TELL)).powi(FALLS)
}

/// Standard error up to which a drift can be told, share: one of 5 % stands two and a half of it off
/// nothing (project default), …
const CAN_TELL: f64 = 0.02;

/// … and how fast the chance that is allowed falls beyond it (project default, by simulation: slower, long
/// bouts of a horse that wanders are told to drift in more than 2 %; faster, drifts of 5 % are missed).
const FALLS: i32 = 8;

/// A straight line through durations over time.
struct Line {
    /// Seconds a minute.
    slope: f64,
    /// What each duration pulls at the slope with.
    pulls: Vec<f64>,
    /// Durations less the line.
    rest: Vec<f64>,
}

impl Line {
    fn through(minutes: &[f64], durations: &[f64]) -> Option<Self> {
        let (middle, t) = (mean(minutes), mean(durations));
        let squares: f64 = minutes.iter().map(|m| (m - middle) * (m - middle)).sum();
        if squares <= 0.0 {
            return None;
        }
        let pulls: Vec<f64> = minutes.iter().map(|m| (m - middle) / squares).collect();
        let slope: f64 = pulls.iter().zip(durations).map(|(w, d)| w * d).sum();
        let rest =
            minutes.iter().zip(durations).map(|(m, d)| d - t - slope * (m - middle)).collect();
        Some(Self { slope, pulls, rest })
    }

    /// Variance of the slope for each spread and likeness: strides that share the part `next` with
    /// the one after them, and footfalls of variance `footfall` that end one and begin the next.
    fn slope_variance(&self, next: f64, footfall: f64) -> impl Fn(&Cell) -> f64 {
        let before = std::iter::once(0.0).chain(self.pulls.iter().copied());
        let here = self.pulls.iter().copied().chain(std::iter::once(0.0));
        let neighbours = || before.clone().zip(here.clone());
        let marks: f64 = neighbours().map(|(a, b)| (a - b) * (a - b)).sum::<f64>() * footfall;
        let strides: Vec<f64> = neighbours().map(|(a, b)| next * a + (1.0 - next) * b).collect();
        let last = std::cell::Cell::new((f64::NAN, 0.0));
        move |c| {
            // Cells come sorted by likeness.
            if last.get().0.total_cmp(&c.likeness).is_ne() {
                let sum = variance_of_sum(strides.iter().copied(), c.likeness);
                last.set((c.likeness, sum));
            }
            c.variance * last.get().1 + marks
        }
    }
}

/// Largest change of tempo within ten seconds, strides/min: that of the slope, unless a change
/// within ten seconds between two steady tempi describes the bout clearly better.
fn most_in_ten_s(minutes: &[f64], tempo: &[f64], per_min: f64, bout_s: f64) -> f64 {
    let even = per_min * bout_s.min(QUICK_S) / 60.0;
    let (x, y) = (blocks(minutes), blocks(tempo));
    if bout_s <= 1.5 * QUICK_S || x.len() < 8 {
        return even;
    }
    let (_, straight) = fitted(&x, &y);
    let mut best = (even, straight);
    for k in 2..x.len() - 2 {
        let ramp: Vec<f64> =
            x.iter().map(|m| ((m - x[k]) * 60.0 / (0.5 * QUICK_S)).clamp(-1.0, 1.0)).collect();
        let (height, left) = fitted(&ramp, &y);
        if left < best.1 {
            best = (2.0 * height, left);
        }
    }
    // Chosen among many places, and strides are alike: it takes more than a little.
    let spread = variance(&y).min(best.1 / (count(y.len()) - 3.0).max(1.0)).max(1e-12);
    if straight - best.1 > CLEARLY_BETTER * spread { best.0 } else { even }
}

/// By how much a quick change must describe a bout better than a slow one, in variances of a
/// stride: the best of some dozen places, among strides alike by 0.3, is better by 8 in one slow
/// drift of twenty (project default, by simulation).
const CLEARLY_BETTER: f64 = 8.0;

/// Slope of y over x by least squares, and the squares it leaves.
fn fitted(x: &[f64], y: &[f64]) -> (f64, f64) {
    let (mx, my) = (mean(x), mean(y));
    let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
    for (x, y) in x.iter().zip(y) {
        xx += (x - mx) * (x - mx);
        xy += (x - mx) * (y - my);
        yy += (y - my) * (y - my);
    }
    if xx <= 0.0 {
        return (0.0, yy);
    }
    (xy / xx, yy - xy * xy / xx)
}
