//! First times, and pauses in the work.

use serde::Serialize;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::season::returning;
use umlauf_gait::season::tally::Tally;
use umlauf_gait::words;
use umlauf_store::yard::Session;
use utoipa::ToSchema;

use crate::dates::day_number;
use crate::digest::{HorseDigest, RiddenBout};

/// A pause.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct LayOffAt {
    /// Last day before it.
    pub from: String,
    /// First day after it.
    pub to: String,
    /// Days.
    pub days: i64,
}

/// Something for the first time.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Milestone {
    /// Day.
    pub date: String,
    /// Session.
    pub session: i64,
    /// In words.
    pub says: String,
}

/// Pauses between sessions.
pub fn lay_offs(sessions: &[Session]) -> Vec<LayOffAt> {
    let days: Vec<i64> = sessions.iter().map(|s| day_number(&s.date)).collect();
    let date = |day: i64| {
        let at = sessions.iter().find(|s| day_number(&s.date) == day);
        at.map_or_else(String::new, |s| s.date.clone())
    };
    returning::lay_offs(&days)
        .into_iter()
        .map(|l| LayOffAt { from: date(l.from), to: date(l.to), days: l.to - l.from })
        .collect()
}

/// First times: a gait, a movement, changes without a fault.
pub fn read(ridden: &HorseDigest, sessions: &[Session]) -> Vec<Milestone> {
    let mut out = Vec::new();
    let mut seen: Vec<String> = Vec::new();
    for s in sessions {
        let mut first = |says: String| {
            if !seen.contains(&says) {
                seen.push(says.clone());
                out.push(Milestone { date: s.date.clone(), session: s.id, says });
            }
        };
        let own: Vec<&RiddenBout> = ridden.bouts.iter().filter(|b| b.session == s.id).collect();
        for b in &own {
            if !matches!(b.digest.label.gait, Gait::Unclear | Gait::Halt) {
                let gait = words::names::gait_name(b.digest.label.gait).to_lowercase();
                first(format!("First measured {gait}."));
            }
            if let Some(m) = b.movement.as_deref().filter(|m| *m != "straight") {
                first(format!("First {m}."));
            }
        }
        let mut changes = ridden
            .counted
            .iter()
            .filter(|d| d.session == s.id && d.done.tally == Tally::Changes)
            .map(|d| d.done.value > 0.5)
            .peekable();
        if changes.peek().is_some() && changes.all(|clean| clean) {
            first("First session in which every flying change was clean.".to_owned());
        }
    }
    out
}
