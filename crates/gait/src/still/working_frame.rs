//! A still against the horse's working frame.

use crate::base::number::count;
use crate::stats::descriptive::{mean, variance};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;
use crate::still::frame_check::{Frame, fields, fields_mut};

/// The horse's working frame: means over stills, each with the interval of their spread.
pub fn working(stills: &[Frame]) -> Option<Frame> {
    if stills.is_empty() {
        return None;
    }
    let mut out = Frame::default();
    for (k, field) in fields_mut(&mut out).into_iter().enumerate() {
        let own: Vec<Estimate> = stills.iter().filter_map(|s| fields(s)[k]).collect();
        let values: Vec<f64> = own.iter().map(|e| e.value).collect();
        let n = values.len();
        if n == 0 {
            continue;
        }
        let clicks: f64 = own.iter().filter_map(Estimate::half_width).map(|h| h * h).sum::<f64>()
            / count(n).powi(2);
        let spread = t95(count(n) - 1.0) * (variance(&values) / count(n)).sqrt();
        let half = if n >= 2 { clicks.sqrt().max(spread) } else { clicks.sqrt() };
        let value = mean(&values);
        *field = Some(Estimate { value, sd: None, ci95: Some((value - half, value + half)), n });
    }
    Some(out)
}

/// A still against the working frame.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Outline {
    /// Front and back have shortened alike: the whole frame has closed.
    Closed,
    /// Only the front has: the neck was pulled in.
    NeckOnly,
    /// Front or back is longer.
    Longer,
    /// Neither differs by more than the limit.
    AsWorking,
    /// The clicks leave it open.
    CannotTell,
}

/// Outline of a still against the working frame.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct AgainstWorking {
    /// Change of the front, per cent.
    pub front_pct: Estimate,
    /// Change of the back, per cent.
    pub back_pct: Estimate,
    /// Change of the base of support, per cent.
    pub base_pct: Option<Estimate>,
    /// Verdict.
    pub outline: Outline,
}

/// Changes smaller than this are none, per cent (project default).
const LEAST_PCT: f64 = 4.0;

/// Sets a still against the working frame; `None` when front or back is not known of both.
pub fn against_working(now: &Frame, working: &Frame) -> Option<AgainstWorking> {
    let change = |a: Option<Estimate>, b: Option<Estimate>| {
        let (a, b) = (a?, b?);
        let value = 100.0 * (a.value / b.value - 1.0);
        let half = a.half_width()?.hypot(b.half_width()? * a.value / b.value) * 100.0 / b.value;
        Some(Estimate { value, sd: None, ci95: Some((value - half, value + half)), n: b.n })
    };
    let (front, back) = (change(now.front, working.front)?, change(now.back, working.back)?);
    let shorter = |e: Estimate| e.value <= -LEAST_PCT && e.ci95.is_some_and(|(_, hi)| hi < 0.0);
    let longer = |e: Estimate| e.value >= LEAST_PCT && e.ci95.is_some_and(|(lo, _)| lo > 0.0);
    let held = |e: Estimate| e.value > -LEAST_PCT && e.value.abs() < LEAST_PCT;
    let outline = if shorter(front) && shorter(back) {
        Outline::Closed
    } else if shorter(front) && held(back) {
        // Held must mean clearly less shortened than the front.
        let apart = front.half_width().zip(back.half_width());
        let clear = apart.is_some_and(|(a, b)| back.value - front.value > a.hypot(b));
        if clear { Outline::NeckOnly } else { Outline::CannotTell }
    } else if longer(front) || longer(back) {
        Outline::Longer
    } else if held(front) && held(back) {
        Outline::AsWorking
    } else {
        Outline::CannotTell
    };
    let base_pct = change(now.base, working.base);
    Some(AgainstWorking { front_pct: front, back_pct: back, base_pct, outline })
}
