//! A horse against itself over sessions: values a session, robust trends, and the gap between the
//! sides.

use crate::season::card_row::Row;
use crate::season::metric::Direction;
use crate::stats::descriptive::{mean, median, variance};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;
use crate::stats::trend::{self, Slope};

/// A figure of one session: the mean over its bouts.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SessionValue {
    /// Day, counted from any day.
    pub day: i64,
    /// The figure; `n` is its bouts.
    pub value: Estimate,
}

/// The mean over a session's bouts with the interval of their spread; one bout keeps its own.
pub fn session_value(bouts: &[Estimate]) -> Option<Estimate> {
    if let [one] = bouts {
        return Some(Estimate { n: 1, ..*one });
    }
    let n = bouts.len();
    if n == 0 {
        return None;
    }
    let means: Vec<f64> = bouts.iter().map(|b| b.value).collect();
    let nf = crate::base::number::count(n);
    let value = mean(&means);
    let half = t95(nf - 1.0) * (variance(&means) / nf).sqrt();
    let sd = Some(variance(&means).sqrt());
    Some(Estimate { value, sd, ci95: Some((value - half, value + half)), n })
}

/// A trend over sessions.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Trend {
    /// Change in 30 days, in the figure's unit.
    pub per_month: Slope,
    /// From the first session to the last, days.
    pub days: i64,
    /// The trend's own value at the first session and at the last, each with half its 95 % interval:
    /// a session's figure is too much by chance to stand for a course.
    pub ends: [(f64, f64); 2],
    /// Whether it goes the better way, the worse, or cannot be told.
    pub course: Course,
}

/// Which way a trend goes.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Course {
    /// The better way.
    Better,
    /// The worse way.
    Worse,
    /// It changes, and neither way is better.
    Changes,
    /// The whole interval, over the time seen, is smaller than what is worth speaking of.
    Steady,
    /// Anything else.
    CannotTell,
}

/// Sessions from which a trend is drawn.
pub const FEWEST: usize = 4;

/// The robust trend of a figure over sessions in order of time (Theil–Sen with Sen's interval).
pub fn trend(row: Row, values: &[SessionValue], target: Option<f64>) -> Option<Trend> {
    let middle = mean(&values.iter().map(|v| v.value.value).collect::<Vec<f64>>());
    course(row.worthwhile(middle), row.direction(), values, target)
}

fn course(
    worth: f64,
    direction: Direction,
    values: &[SessionValue],
    target: Option<f64>,
) -> Option<Trend> {
    if values.len() < FEWEST {
        return None;
    }
    #[expect(clippy::cast_precision_loss, reason = "days")]
    let months: Vec<f64> = values.iter().map(|v| v.day as f64 / 30.0).collect();
    let means: Vec<f64> = values.iter().map(|v| v.value.value).collect();
    let slope = trend::theil_sen(&months, &means)?;
    let days = values.last()?.day - values.first()?.day;
    #[expect(clippy::cast_precision_loss, reason = "days")]
    let span = days as f64 / 30.0;
    let ends = trend::ends(&months, &means, &slope)?;
    let moves = slope.lo > 0.0 || slope.hi < 0.0;
    let course = if slope.lo * span > -worth && slope.hi * span < worth {
        Course::Steady
    } else if !moves || (slope.value * span).abs() < worth {
        Course::CannotTell
    } else {
        let better = match direction {
            Direction::Higher => Some(slope.lo > 0.0),
            Direction::Lower => Some(slope.hi < 0.0),
            Direction::None => None,
            Direction::Target => target.and_then(|t| {
                let error = 0.5 * (slope.hi - slope.lo) * span;
                nearer(ends[0].0, ends[1].0, t, worth, error)
            }),
        };
        match better {
            Some(true) => Course::Better,
            Some(false) => Course::Worse,
            None => Course::Changes,
        }
    };
    Some(Trend { per_month: slope, days, ends, course })
}

/// Whether the second value lies nearer to a target than the first, or farther: by more than the error
/// of their difference and than half the target's `tolerance`, and not both within it. `None` for
/// neither: from 78 to 82 about 80 nothing was lost or gained.
///
/// ```
/// use umlauf_gait::season::progress::nearer;
/// assert_eq!(nearer(78.0, 82.2, 80.0, 1.2, 0.8), None);
/// assert_eq!(nearer(78.0, 84.0, 80.0, 1.2, 0.8), Some(false));
/// ```
pub fn nearer(first: f64, second: f64, target: f64, tolerance: f64, error: f64) -> Option<bool> {
    let (before, after) = ((first - target).abs(), (second - target).abs());
    let told = (after - before).abs() > error.max(0.5 * tolerance) && before.max(after) > tolerance;
    told.then_some(after < before)
}

/// The right side less the left of one session, with the interval of both sides' spread (Welch);
/// one bout a side keeps its own interval.
pub fn side_gap(left: &[Estimate], right: &[Estimate]) -> Option<Estimate> {
    let (l, r) = (session_value(left)?, session_value(right)?);
    let value = r.value - l.value;
    let means = |of: &[Estimate]| of.iter().map(|e| e.value).collect::<Vec<f64>>();
    let ci95 = crate::stats::two_samples::welch(&means(left), &means(right))
        .map(|d| d.ci95)
        .or_else(|| {
            let half = l.half_width()?.hypot(r.half_width()?);
            Some((value - half, value + half))
        });
    Some(Estimate { value, sd: None, ci95, n: l.n.min(r.n) })
}

/// The gap over sessions: their mean with Student's interval of their spread; a single one keeps
/// its own.
pub fn gap_over(gaps: &[SessionValue]) -> Option<Estimate> {
    session_value(&gaps.iter().map(|g| g.value).collect::<Vec<_>>())
}

/// Which way the gap between left and right goes over sessions: its size matters, not its sign.
pub fn gap_trend(row: Row, gaps: &[SessionValue], level: f64) -> Option<Trend> {
    let middle = median(gaps.iter().map(|g| g.value.value).collect())?;
    // Toward nothing is better, on the side where the gap has been.
    let sign = if middle < 0.0 { -1.0 } else { 1.0 };
    let sized: Vec<SessionValue> =
        gaps.iter().map(|g| SessionValue { day: g.day, value: g.value.scaled(sign) }).collect();
    course(row.worthwhile(level), Direction::Lower, &sized, None)
}
