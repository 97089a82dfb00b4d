//! Movements met: how often, on which rein, and whether the gait holds in them.

use std::collections::BTreeMap;

use serde::Serialize;
use umlauf_gait::base::limb::Side;
use umlauf_gait::base::thresholds::Thresholds;
use umlauf_gait::marks::movement::MovementKind;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::movement_holds::{self, Held};
use umlauf_gait::stats::descriptive::mean;
use umlauf_gait::words;
use utoipa::ToSchema;

use crate::compare::row::{ComparedRow, row};
use crate::digest::RiddenBout;
use crate::record::season::{RECENT, Season};
use crate::record::story::Story;

/// A movement met.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Exposure {
    /// Movement.
    pub movement: String,
    /// Times.
    pub times: usize,
    /// The next time in words, `ninth`.
    pub next_is: String,
    /// On the left rein.
    pub left: usize,
    /// On the right rein.
    pub right: usize,
    /// Day of the last time.
    pub last: String,
    /// Whether the gait holds in it, rein by rein.
    pub holds: Vec<MovementHolds>,
}

/// Whether the gait holds in a movement on a rein.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct MovementHolds {
    /// `left`, `right`, or not given.
    pub rein: Option<String>,
    /// In words.
    pub says: String,
    /// `holds`, `gives way` or `cannot tell`.
    pub verdict: String,
    /// The movement against straight work of the same sessions.
    pub rows: Vec<ComparedRow>,
    /// Both sides of the latest session as `/api/compare` takes them.
    pub sides: [String; 2],
}

/// Movements that are no steady riding: nothing is held in them.
fn is_exercise(movement: &str) -> bool {
    MovementKind::named(movement).is_exercise()
}

fn is_straight(b: &RiddenBout) -> bool {
    b.movement.as_deref().is_none_or(|m| m == "straight")
}

/// Movements other than straight.
pub fn read(season: &Season<'_>) -> Vec<Exposure> {
    let mut out: BTreeMap<&str, Exposure> = BTreeMap::new();
    let mut met = Vec::new();
    for b in &season.ridden.bouts {
        let Some(movement) = b.movement.as_deref().filter(|m| *m != "straight") else { continue };
        // A stretch that falls into several bouts was met once.
        let stretch = (b.clip, b.stretch);
        if met.contains(&stretch) {
            continue;
        }
        met.push(stretch);
        let sessions = season.sessions;
        let date = sessions.iter().find(|s| s.id == b.session).map_or("", |s| s.date.as_str());
        let e = out.entry(movement).or_insert_with(|| Exposure {
            movement: movement.to_owned(),
            times: 0,
            next_is: String::new(),
            left: 0,
            right: 0,
            last: String::new(),
            holds: Vec::new(),
        });
        e.times += 1;
        e.left += usize::from(b.digest.rein == Some(Side::Left));
        e.right += usize::from(b.digest.rein == Some(Side::Right));
        date.clone_into(&mut e.last);
    }
    for e in out.values_mut() {
        e.next_is = words::numbers::ordinal(e.times + 1);
        if !is_exercise(&e.movement) {
            let reins = [Some(Side::Left), Some(Side::Right), None];
            e.holds = reins.iter().filter_map(|r| holds(season, &e.movement, *r)).collect();
        }
    }
    out.into_values().collect()
}

/// Bouts of a movement on a rein over the last sessions that had it, in this card's gait, and the
/// straight ones of the same sessions.
fn holds(season: &Season<'_>, movement: &str, rein: Option<Side>) -> Option<MovementHolds> {
    let all: Vec<&RiddenBout> = season
        .ridden
        .bouts
        .iter()
        .filter(|b| b.digest.label.gait == season.gait && b.digest.rein == rein)
        .collect();
    let mut sessions: Vec<i64> =
        all.iter().filter(|b| b.movement.as_deref() == Some(movement)).map(|b| b.session).collect();
    sessions.dedup();
    let latest = *sessions.last()?;
    let recent = &sessions[sessions.len().saturating_sub(RECENT)..];
    let of = |want: &dyn Fn(&RiddenBout) -> bool| -> Vec<&BoutSummary> {
        let own = all.iter().filter(|b| recent.contains(&b.session) && want(b));
        own.map(|b| &b.digest).collect()
    };
    let straight = of(&is_straight);
    let inside = of(&|b| b.movement.as_deref() == Some(movement));
    let against = movement_holds::movement_holds(&straight, &inside)?;
    let side = rein.map_or_else(String::new, |r| format!(":{}", r.word()));
    let code = season.gait.code();
    let way = |m: &str| format!("session:{latest}:{code}{side}:in={m}");
    Some(MovementHolds {
        rein: rein.map(|r| r.word().to_owned()),
        says: words::record::movement_holds(&against),
        verdict: match against.held {
            Held::Holds => "holds",
            Held::GivesWay(_) => "gives way",
            Held::CannotTell => "cannot tell",
        }
        .to_owned(),
        rows: against.rows.iter().map(row).collect(),
        sides: [way("straight"), way(movement)],
    })
}

/// Movements in which a rein loses the tempo, sessions running, in sentences without full stop:
/// told from two sessions on, and when their bouts together leave no doubt.
pub fn losses(season: &Season<'_>) -> Vec<Story> {
    let bouts = &season.ridden.bouts;
    let mut movements: Vec<&str> = bouts
        .iter()
        .filter_map(|b| b.movement.as_deref())
        .filter(|m| *m != "straight" && !is_exercise(m))
        .collect();
    movements.sort_unstable();
    movements.dedup();
    let mut out = Vec::new();
    for movement in &movements {
        for rein in [Side::Left, Side::Right] {
            let (times, chance) = running(season, movement, rein);
            if times >= 2 {
                // It was looked for in every movement, on both reins.
                #[expect(clippy::cast_precision_loss, reason = "a few movements")]
                let looks = 2.0 * movements.len() as f64;
                let says = words::record::loses_tempo(rein.word(), movement, times);
                out.push(Story { says, chance: Some((looks * chance).min(1.0)) });
            }
        }
    }
    out
}

/// Sessions running in which a rein lost the tempo in a movement, against straight work, and the
/// chance of as much without a loss.
fn running(season: &Season<'_>, movement: &str, rein: Side) -> (usize, f64) {
    let of = |session: i64, inside: bool| -> Vec<&BoutSummary> {
        let own = season.ridden.bouts.iter().filter(|b| {
            let meant =
                if inside { b.movement.as_deref() == Some(movement) } else { is_straight(b) };
            b.session == session
                && b.digest.label.gait == season.gait
                && b.digest.rein == Some(rein)
                && meant
        });
        own.map(|b| &b.digest).collect()
    };
    let tempo = |of: &[&BoutSummary]| -> Option<f64> {
        let own: Vec<f64> =
            of.iter().filter_map(|d| d.value(Metric::Tempo)).map(|e| e.value).collect();
        (!own.is_empty()).then(|| mean(&own))
    };
    let lost: Vec<(i64, f64)> = season
        .sessions
        .iter()
        .filter_map(|s| {
            let (straight, inside) = (tempo(&of(s.id, false))?, tempo(&of(s.id, true))?);
            Some((s.id, 100.0 * (1.0 - inside / straight)))
        })
        .collect();
    let losses: Vec<f64> = lost.iter().map(|(_, l)| *l).collect();
    let times = movement_holds::in_a_row(&losses, Thresholds::default().lateral_loss_pct);
    let those = &lost[lost.len() - times..];
    let all = |inside: bool| -> Vec<&BoutSummary> {
        those.iter().flat_map(|(id, _)| of(*id, inside)).collect()
    };
    let told = movement_holds::movement_holds(&all(false), &all(true));
    let tempo = told.and_then(|a| a.rows.into_iter().find(|c| c.metric == Metric::Tempo));
    match tempo.filter(|c| c.difference.ci95.1 < 0.0) {
        Some(c) => (times, c.difference.p),
        None => (0, 1.0),
    }
}
