//! Regularity: the spread of stride durations, with the timing error taken out, as a share of
//! the mean (coefficient of variation).
//!
//! The spread contains the marks' error twice. On a frame grid a steady horse's durations differ
//! by whole frames with variance F(1 − F)/f², F = frac(T̄ f). A spread is called resolved only
//! when it stands clearly above that floor; otherwise the answer is "at most x %".

use crate::base::number::count;
use crate::figures::stride_wander::StrideWander;
use crate::figures::tempo::true_variance;
use crate::stats::descriptive::{mean, variance};
use crate::stats::timing_error::TimingError;

/// Regularity of a bout, per cent of the stride duration.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Regularity {
    /// Corrected coefficient of variation, %.
    pub value: f64,
    /// The likeliest spread beside what is usual (posterior median), %: what stands for a spread that
    /// the clip cannot resolve.
    pub likely: f64,
    /// Its 95 % interval when resolved.
    pub ci95: Option<(f64, f64)>,
    /// Upper bound (95 %) when the clip cannot resolve it, %.
    pub at_most: Option<f64>,
    /// Whether the clip can tell the horse's spread from the marks' error.
    pub resolved: bool,
}

/// Widest interval of a spread that is still called resolved: its upper end by its lower. Fewer than
/// five strides are that unsure by themselves, and a spread hidden in the marks' error is less sure.
const RESOLVED: f64 = 9.0;

/// Regularity from stride durations in s and how they wander; `None` for fewer than three or when
/// the timing error is not known.
pub fn regularity(
    durations: &[f64],
    timing: Option<TimingError>,
    wander: Option<&StrideWander>,
) -> Option<Regularity> {
    let (timing, wander) = (timing?, &wander?.wander);
    let n = durations.len();
    if n < 3 {
        return None;
    }
    let t = mean(durations);
    let s2 = variance(durations);
    let marks = 2.0 * timing.sd * timing.sd;
    let floor = timing.grid.map_or(marks, |rate| {
        let f = rate.per_second();
        let part = (t * f).rem_euclid(1.0);
        marks.max(timing.on_grid * part * (1.0 - part) / (f * f))
    });
    let percent = |spread: f64| 100.0 * spread / t;
    let value = percent(true_variance(durations, timing).sqrt());
    let likely = percent(wander.spread_quantile(0.5));
    let ends = (wander.spread_quantile(0.025), wander.spread_quantile(0.975));
    let clear = s2 > floor * (1.0 + (12.0 / count(n)).sqrt());
    Some(if clear && ends.1 < RESOLVED * ends.0 {
        let (lo, hi) = (percent(ends.0), percent(ends.1));
        // A few strides may look steadier, or wilder, than a horse can be held to be for them.
        let value = value.clamp(lo, hi);
        Regularity { value, likely, ci95: Some((lo, hi)), at_most: None, resolved: true }
    } else {
        // A spread below one mark's own error cannot be claimed, however alike the strides look.
        let most = wander.spread_quantile(0.95).max((marks / 2.0).sqrt());
        Regularity { value, likely, ci95: None, at_most: Some(percent(most)), resolved: false }
    })
}
