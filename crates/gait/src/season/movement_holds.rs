//! Enough for the movement: whether the gait holds while a movement is ridden, set against the
//! straight work of the same sessions. Enough collection is what makes the movement easy, so what
//! must hold is the horse's own tempo, rhythm and air.

use crate::season::bout_summary::BoutSummary;
use crate::season::metric::Metric;
use crate::season::verdict::{self, Compared};

/// Whether it is enough.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Held {
    /// Every figure that is watched holds.
    Holds,
    /// One gives way by more than is allowed.
    GivesWay(Metric),
    /// Cannot be told from these bouts.
    CannotTell,
}

/// A movement against straight work.
#[derive(Clone, Debug, PartialEq)]
pub struct MovementHolds {
    /// Whether it is enough.
    pub held: Held,
    /// Figures: first side straight, second side the movement.
    pub rows: Vec<Compared>,
}

/// What a movement may take away from a figure and still be enough, in the figure's unit, at a
/// value of the straight work: the way it may go (+1 up, −1 down, 0 either) and how far (project
/// defaults; tempo within 3 %, common practice).
pub fn allowed(metric: Metric, straight: f64) -> Option<(f64, f64)> {
    Some(match metric {
        Metric::Tempo => (0.0, 0.03 * straight.abs()),
        Metric::Regularity => (1.0, 1.5),
        Metric::Suspension => (-1.0, 20.0),
        _ => return None,
    })
}

/// Sets the bouts of a movement against straight ones of the same gait and rein; `None` when they
/// have no watched figure in common.
pub fn movement_holds(
    straight: &[&BoutSummary],
    movement: &[&BoutSummary],
) -> Option<MovementHolds> {
    // A movement that costs speed costs it: nothing is taken out.
    let rows: Vec<Compared> = verdict::compare_as_ridden(straight, movement, |_| None)
        .into_iter()
        .filter(|c| allowed(c.metric, c.first.value).is_some())
        .collect();
    let told: Vec<(Metric, bool, bool)> = rows.iter().filter_map(held).collect();
    let held = match told.iter().find(|(_, gives_way, _)| *gives_way) {
        _ if told.is_empty() => return None,
        Some((m, ..)) => Held::GivesWay(*m),
        None if told.iter().all(|(.., kept)| *kept) => Held::Holds,
        None => Held::CannotTell,
    };
    Some(MovementHolds { held, rows })
}

/// Whether a figure gives way by more than is allowed, and whether it is sure to keep within it.
fn held(c: &Compared) -> Option<(Metric, bool, bool)> {
    let (way, by) = allowed(c.metric, c.first.value)?;
    let (lo, hi) = c.difference.ci95;
    if way == 0.0 {
        let gone = (lo > 0.0 || hi < 0.0) && c.difference.value.abs() > by;
        return Some((c.metric, gone, lo > -by && hi < by));
    }
    // The interval of the loss.
    let (lo, hi) = if way < 0.0 { (-hi, -lo) } else { (lo, hi) };
    Some((c.metric, lo > 0.0 && way * c.difference.value > by, hi < by))
}

/// How many of the latest values in a row lie beyond a loss (both in the same unit, losses
/// positive).
pub fn in_a_row(losses: &[f64], beyond: f64) -> usize {
    losses.iter().rev().take_while(|l| **l > beyond).count()
}
