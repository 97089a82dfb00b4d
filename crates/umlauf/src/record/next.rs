//! What to ride next, and why: from the sides, the movements and the findings of the last session.

use serde::Serialize;
use umlauf_gait::base::limb::Side;
use utoipa::ToSchema;

use crate::record::movements::Exposure;
use crate::record::season::Season;
use crate::record::sides::{Sides, weaker};

/// Something to ride, and why.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Next {
    /// Why.
    pub why: String,
    /// What to ride.
    pub tries: Vec<String>,
}

/// Lines that a page has room for.
const MOST: usize = 5;

/// What to ride next.
pub fn read(season: &Season<'_>, sides: &Sides, met: &[Exposure]) -> Vec<Next> {
    let mut out = Vec::new();
    if let Some(side) = weaker(sides) {
        let (weak, better) = match side {
            Side::Left => ("left", "right"),
            Side::Right => ("right", "left"),
        };
        out.push(Next {
            why: format!("The {weak} rein is the weaker one"),
            tries: vec![format!(
                "more but shorter bouts on the {weak} rein; start and end on the {better} one"
            )],
        });
    }
    for e in met {
        for h in e.holds.iter().filter(|h| h.verdict == "gives way") {
            let on = h.rein.as_deref().map_or_else(String::new, |r| format!(" on the {r} rein"));
            out.push(Next {
                why: format!("{}{on}: {}", e.movement, h.says),
                tries: vec![
                    "half a long side of it, then medium trot on the diagonal".to_owned(),
                    "short doses, a few steps on an inner track".to_owned(),
                ],
            });
        }
    }
    let last = season.sessions.iter().rev().find_map(|s| {
        let own: Vec<_> = season.ridden.tries.iter().filter(|(id, _)| *id == s.id).collect();
        (season.at.last().is_some_and(|a| a.id == s.id)).then_some(own)
    });
    // A movement that gives way is not said again as a finding of its last session.
    let said: Vec<String> = out.iter().map(|n| n.why.to_lowercase()).collect();
    for (_, t) in last.unwrap_or_default() {
        let title = t.title.to_lowercase();
        let gives_way = |e: &Exposure| {
            title.contains(&e.movement.to_lowercase())
                && said.iter().any(|why| why.starts_with(&e.movement.to_lowercase()))
        };
        if out.iter().any(|n| n.why == t.title) || met.iter().any(gives_way) {
            continue;
        }
        let tries = t.tries.iter().map(|t| t.trim_end_matches('.').to_owned()).collect();
        out.push(Next { why: t.title.clone(), tries });
    }
    out.truncate(MOST);
    out
}
