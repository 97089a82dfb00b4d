//! Where a curve that rose slowly begins to rise fast: the knee of two straight lines.

use crate::least_squares::fitted;
use crate::number::{count, place};

/// A knee in a series of values one apart.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Knee {
    /// Its place, between values.
    pub at: f64,
    /// Its standard deviation, by the noise about the lines and by how steep rises usually are.
    pub sd: f64,
}

/// Values before the rise that the lines are laid through, at most.
const BEFORE: usize = 24;

/// Values above the level that usually make a rise.
pub const STAYS: usize = 4;

/// The knee before `stays` values lie above `level`, from which they rise by `usual` a value or so; `None` when they never
/// do, or at once.
///
/// ```
/// use umlauf_signals::picture::knee::{STAYS, knee};
/// let flat_then_up: Vec<f64> = (0..20).map(|k| f64::from((k - 9).max(0)) * 0.1).collect();
/// assert!((knee(&flat_then_up, 0.4, 0.1, STAYS).unwrap().at - 9.0).abs() < 0.11);
/// assert_eq!(knee(&[0.0; 20], 0.4, 0.1, STAYS), None);
/// // Away for two values only, as a hoof that lands in another's print.
/// let for_a_moment = [0.0, 0.0, 0.0, 0.0, 0.5, 1.0, 0.0, 0.0, 0.0, 0.0];
/// assert_eq!(knee(&for_a_moment, 0.4, 0.5, STAYS), None);
/// assert!((knee(&for_a_moment, 0.4, 0.5, 2).unwrap().at - 3.0).abs() < 0.2);
/// ```
pub fn knee(values: &[f64], level: f64, usual: f64, stays: usize) -> Option<Knee> {
    let mut above = 0;
    let mut end = None;
    for (k, v) in values.iter().enumerate() {
        if v.is_nan() {
            break;
        }
        above = if *v > level { above + 1 } else { 0 };
        if above >= stays {
            end = Some(k + 1 - above);
            break;
        }
    }
    let end = end?;
    let first = end.saturating_sub(BEFORE);
    let seen = &values[first..=end];
    if seen.len() < 4 {
        return None;
    }
    let rises: Vec<(f64, f64, f64)> = (10..10 * (seen.len() - 1))
        .map(|tenth| count(tenth) / 10.0)
        .map(|at| (at, lines(seen, at)))
        .filter(|(_, (_, rise))| *rise > 0.0)
        .map(|(at, (left, rise))| (at, left, rise))
        .collect();
    let least = rises.iter().map(|r| r.1).min_by(f64::total_cmp)?;
    let noise = (least / (count(seen.len()) - 3.0).max(1.0)).max(NOISE * NOISE);
    // Of few values that rise every knee between two is as good: then one of a usual rise is likelier.
    let likely = |(_, left, rise): &(f64, f64, f64)| {
        let unusual = (rise / usual).ln() / FACTOR;
        (-0.5 * ((left - least) / noise + unusual * unusual)).exp()
    };
    let weights: Vec<f64> = rises.iter().map(likely).collect();
    let all: f64 = weights.iter().sum();
    let mean = |of: &dyn Fn(f64) -> f64| {
        rises.iter().zip(&weights).map(|(r, w)| w * of(r.0)).sum::<f64>() / all
    };
    let at = mean(&|at| at);
    let sd = mean(&|other| (other - at).powi(2)).sqrt();
    (all > 0.0).then_some(Knee { at: count(first) + at, sd })
}

/// Values scatter by this at least.
const NOISE: f64 = 0.02;

/// Rises differ by this much, natural logarithms (project default).
const FACTOR: f64 = 0.5;

/// Where values that stood at a level, `rate` a second, make their last step to nothing: a toe that a hoof turns over
/// touches less and less, and then leaves. Where they do not come to nothing, where they have fallen far and stay so;
/// `None` when they do not.
///
/// ```
/// use umlauf_signals::picture::knee::falls;
/// let turns_over = [4.0, 4.0, 4.0, 4.0, 4.0, 2.0, 2.0, 2.0, 0.0, 0.0, 0.0, 0.0];
/// assert_eq!(falls(&turns_over, 60.0), Some(7.5));
/// assert_eq!(falls(&[4.0, 4.0, 4.0, 4.0, 4.0, 2.6, 0.6, 0.6, 0.6, 0.6], 60.0), Some(5.5));
/// assert_eq!(falls(&[4.0, 4.0, 4.0, 4.0, 4.0, 3.0, 1.0, 3.0, 4.0, 4.0], 60.0), None);
/// ```
pub fn falls(values: &[f64], rate: f64) -> Option<f64> {
    let mut first: Vec<f64> = values.iter().take(LEVEL).copied().filter(|v| !v.is_nan()).collect();
    first.sort_by(f64::total_cmp);
    let full = first.get(first.len() / 2).copied().filter(|level| *level > 0.0)?;
    let stays = place((STAYS_S * rate).ceil()).max(2);
    let down = |share: f64| {
        (1..values.len()).find(|k| {
            let later = &values[*k..(k + stays).min(values.len())];
            later.len() == stays && later.iter().all(|v| *v < share * full)
        })
    };
    let crossed = |down: usize, level: f64| {
        let above = (0..down).rev().find(|k| values[*k] >= level)?;
        let (from, to) = (values[above], values[above + 1]);
        Some(count(above) + (from - level) / (from - to))
    };
    if let Some(gone) = down(NOTHING) {
        let step = place((STEP_S * rate).ceil()).max(2);
        let before = values[gone.saturating_sub(step)].min(full);
        return crossed(gone, 0.5 * before);
    }
    crossed(down(FALLEN)?, FALLEN * full)
}

/// Values that tell the level from which a curve falls.
const LEVEL: usize = 5;

/// Less than this share of it is nothing; less than that has fallen far.
const NOTHING: f64 = 0.08;
const FALLEN: f64 = 0.4;

/// So long it stays so, and so long the last step takes, s.
const STAYS_S: f64 = 0.035;
const STEP_S: f64 = 0.014;

/// Least squares of a + b·k + c·max(0, k − at): the squares left, and c.
fn lines(seen: &[f64], at: f64) -> (f64, f64) {
    let row = |k: usize| [1.0, count(k), (count(k) - at).max(0.0)];
    let points = seen.iter().enumerate().map(|(k, v)| (row(k), *v, 1.0));
    let [start, slope, c] = fitted(points, 1e-9);
    let left = seen.iter().enumerate().map(|(k, v)| {
        let [_, along, up] = row(k);
        (v - start - slope * along - c * up).powi(2)
    });
    (left.sum(), c)
}

/// Where values that fall have come to rest: within `share` of `full` above the least of the next
/// `ahead`, and below half of it.
pub fn rest(values: &[f64], full: f64, share: f64, ahead: f64) -> Option<f64> {
    let ahead = place(ahead).max(3);
    for k in 1..values.len() {
        let later = &values[k..(k + ahead).min(values.len())];
        if later.len() < 3 || later.iter().any(|v| v.is_nan()) {
            return None;
        }
        let least = later.iter().copied().fold(f64::INFINITY, f64::min);
        let level = least + share * full;
        if values[k] <= level && values[k] < 0.5 * full {
            let before = values[k - 1];
            let part = ((before - level) / (before - values[k]).max(1e-9)).clamp(0.0, 1.0);
            return Some(count(k) - 1.0 + part);
        }
    }
    None
}
