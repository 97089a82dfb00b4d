//! A gait card: each figure from 0 to 10 by a curve that can be looked at. No overall score.

use crate::base::gait::Gait;
use crate::season::card_row::Row;
use crate::season::metric::Metric;
use crate::season::tally::Tally;

/// A curve from a figure to a mark: straight lines between points, flat beyond them.
pub type Curve = &'static [(f64, f64)];

const REGULARITY: Curve =
    &[(1.0, 10.0), (2.0, 9.0), (3.0, 8.0), (4.0, 7.0), (5.5, 5.0), (7.0, 4.0), (10.0, 2.0)];

/// Distance from the target, %.
const TEMPO: Curve = &[(1.0, 10.0), (2.0, 9.0), (4.0, 7.0), (6.0, 5.0), (10.0, 3.0), (15.0, 1.0)];

const CANTER_AIR: Curve =
    &[(-60.0, 2.0), (-20.0, 4.0), (0.0, 5.0), (40.0, 7.0), (80.0, 9.0), (110.0, 10.0)];

const TROT_AIR: Curve = &[(-40.0, 2.0), (0.0, 5.0), (25.0, 7.0), (55.0, 9.0), (80.0, 10.0)];

const SPLIT: Curve =
    &[(10.0, 10.0), (20.0, 9.0), (40.0, 7.0), (60.0, 5.0), (90.0, 3.0), (130.0, 1.0)];

const UNEVENNESS: Curve =
    &[(0.5, 10.0), (1.0, 9.0), (2.0, 8.0), (3.0, 6.5), (4.5, 5.0), (7.0, 3.0)];

/// Distance from 25 %, % of the stride.
const PLACEMENT: Curve =
    &[(1.0, 10.0), (2.0, 9.0), (4.0, 7.0), (6.0, 5.0), (9.0, 3.0), (12.0, 1.0)];

const ASYMMETRY: Curve =
    &[(1.0, 10.0), (2.0, 9.0), (4.0, 7.0), (6.0, 5.0), (10.0, 3.0), (15.0, 1.0)];

/// Strides from the aid to the gait asked for.
const ANSWER: Curve =
    &[(0.5, 10.0), (1.0, 9.0), (1.5, 8.0), (2.0, 7.0), (3.0, 5.0), (4.0, 3.0), (6.0, 1.0)];

const CLEAN: Curve = &[(0.0, 1.0), (50.0, 4.0), (80.0, 7.0), (90.0, 8.0), (100.0, 10.0)];

/// Progressive transitions cap at 6 once direct ones are expected (common practice).
const DIRECT: Curve = &[(0.0, 6.0), (50.0, 7.0), (100.0, 10.0)];

/// The curve of a figure in a gait, and whether it is over the distance from a target (in per cent
/// for tempo). All are project defaults; a figure without a better way has none.
pub const fn curve(row: Row, gait: Gait) -> Option<(Curve, bool)> {
    let metric = match row {
        Row::Tally(Tally::Answer) => return Some((ANSWER, false)),
        Row::Tally(Tally::Lead | Tally::Changes) => return Some((CLEAN, false)),
        Row::Tally(Tally::Direct) => return Some((DIRECT, false)),
        Row::Figure(metric) => metric,
    };
    Some(match metric {
        Metric::Regularity => (REGULARITY, false),
        Metric::Tempo => (TEMPO, true),
        Metric::Suspension if gait.is_asymmetrical() => (CANTER_AIR, false),
        Metric::Suspension => (TROT_AIR, false),
        Metric::Dissociation => (SPLIT, true),
        Metric::Unevenness => (UNEVENNESS, false),
        Metric::Placement => (PLACEMENT, true),
        Metric::StepAsymmetry | Metric::HindAsymmetry => (ASYMMETRY, true),
        Metric::StrideLength | Metric::HindDuty => return None,
    })
}

/// The mark of a figure, 0 to 10; `None` without a curve, or without the target that it needs.
pub fn mark(row: Row, gait: Gait, value: f64, target: Option<f64>) -> Option<f64> {
    let (curve, from_target) = curve(row, gait)?;
    let x = match (from_target, target) {
        (false, _) => value,
        (true, None) => return None,
        (true, Some(t)) if row == Row::Figure(Metric::Tempo) => 100.0 * (value / t - 1.0).abs(),
        (true, Some(t)) => (value - t).abs(),
    };
    Some(on_curve(curve, x))
}

fn on_curve(curve: Curve, x: f64) -> f64 {
    let (Some(first), Some(last)) = (curve.first(), curve.last()) else { return 0.0 };
    if x <= first.0 {
        return first.1;
    }
    for w in curve.windows(2) {
        if x <= w[1].0 {
            return w[0].1 + (w[1].1 - w[0].1) * (x - w[0].0) / (w[1].0 - w[0].0);
        }
    }
    last.1
}
