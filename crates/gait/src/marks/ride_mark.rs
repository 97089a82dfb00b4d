//! What the coach marks beside footfalls: aids, movements, letters, notes.

use crate::base::limb::Side;
use crate::marks::aid::Aid;
use crate::marks::movement::Movement;

/// One mark.
#[derive(Clone, Debug, PartialEq)]
pub struct RideMark {
    /// When, true seconds.
    pub time: f64,
    /// What.
    pub kind: MarkKind,
}

/// Kinds of marks.
#[derive(Clone, Debug, PartialEq)]
pub enum MarkKind {
    /// An aid is given.
    Aid(Aid),
    /// A letter is passed.
    Letter(String),
    /// A movement begins.
    Start(Movement),
    /// A movement ends.
    End(Movement),
    /// Hooves go out of view,
    UnseenStart,
    /// and come back.
    UnseenEnd,
    /// Free text.
    Note(String),
}

/// A movement from its start to its end, s; one without an end mark lasts to the next start, or for
/// good.
#[derive(Clone, Debug, PartialEq)]
pub struct MovementStretch {
    /// From.
    pub from_s: f64,
    /// To.
    pub to_s: f64,
    /// What.
    pub movement: Movement,
}

/// Movements of marks in any order.
pub fn movements(marks: &[RideMark]) -> Vec<MovementStretch> {
    let mut sorted: Vec<&RideMark> = marks.iter().collect();
    sorted.sort_by(|a, b| a.time.total_cmp(&b.time));
    let mut out: Vec<MovementStretch> = Vec::new();
    for mark in sorted {
        match &mark.kind {
            MarkKind::Start(movement) => {
                if let Some(open) = out.last_mut().filter(|s| s.to_s > mark.time) {
                    open.to_s = mark.time;
                }
                out.push(MovementStretch {
                    from_s: mark.time,
                    to_s: f64::INFINITY,
                    movement: movement.clone(),
                });
            }
            MarkKind::End(movement) => {
                let open = out
                    .iter_mut()
                    .rev()
                    .find(|s| s.to_s > mark.time && s.movement.kind == movement.kind);
                if let Some(open) = open {
                    open.to_s = mark.time;
                }
            }
            _ => {}
        }
    }
    out
}

/// The lead asked for at a time: that of the latest canter aid before it.
pub fn asked_lead(marks: &[RideMark], time: f64) -> Option<Side> {
    marks
        .iter()
        .filter(|m| m.time <= time)
        .filter_map(|m| match m.kind {
            MarkKind::Aid(Aid::Canter(Some(side))) => Some((m.time, side)),
            _ => None,
        })
        .max_by(|a, b| a.0.total_cmp(&b.0))
        .map(|(_, side)| side)
}
