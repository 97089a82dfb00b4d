//! The latest session against an earlier one, under like conditions where there is one.

use serde::Serialize;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::verdict;
use umlauf_gait::words;
use umlauf_store::yard::Session;
use utoipa::ToSchema;

use crate::compare::row::{ComparedRow, row};
use crate::dates;
use crate::record::filter;
use crate::record::season::Season;

/// The latest session against an earlier one.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Since {
    /// `last` or `first`.
    pub what: String,
    /// The earlier session.
    pub session: i64,
    /// Its day.
    pub date: String,
    /// Both sides as `/api/compare` takes them.
    pub sides: [String; 2],
    /// The verdict in one sentence.
    pub headline: String,
    /// Figures.
    pub rows: Vec<ComparedRow>,
    /// Conditions that differ, in words; nothing when they are alike.
    pub differs: Vec<String>,
}

/// The latest session against the last one before it and against the first, under like footing,
/// rider and frame rate where there is such a session.
pub fn read(season: &Season<'_>, target: impl Fn(Metric) -> Option<f64> + Copy) -> Vec<Since> {
    let Some((this, earlier)) = season.at.split_last() else { return Vec::new() };
    let of = |id: i64| season.sessions.iter().find(|s| s.id == id);
    let Some(now) = of(this.id) else { return Vec::new() };
    let rate =
        |id: i64| season.counted.iter().find(|b| b.session == id).and_then(|b| filter::rate(b));
    let differs = |then: &Session| {
        let mut out = Vec::new();
        let mut say = |what: &str, a: &str, b: &str| {
            if a != b {
                let or = |t: &str| if t.is_empty() { "not given" } else { t }.to_owned();
                out.push(format!("{what}: {} then, {} now", or(a), or(b)));
            }
        };
        say("footing", &then.about.surface, &now.about.surface);
        say("rider", &then.about.rider, &now.about.rider);
        let words = |id| rate(id).map_or_else(String::new, |r| format!("{r} frames/s"));
        say("film", &words(then.id), &words(now.id));
        out
    };
    let known: Vec<&Session> = earlier.iter().filter_map(|s| of(s.id)).collect();
    let like = |s: &&&Session| differs(s).is_empty();
    let last = known.iter().rev().find(like).or(known.last());
    let first = known.iter().find(like).or(known.first());
    let mut out = Vec::new();
    for (what, then) in [("last", last), ("first", first)] {
        let Some(then) = then else { continue };
        if out.iter().any(|s: &Since| s.session == then.id) {
            continue;
        }
        let bouts = |id: i64| -> Vec<&BoutSummary> {
            season.counted.iter().filter(|b| b.session == id).map(|b| &b.digest).collect()
        };
        let rows = verdict::compare(&bouts(then.id), &bouts(now.id), target);
        let whole = verdict::overall(&rows);
        let code = season.gait.code();
        let (a, b) = (dates::in_words(&then.date), dates::in_words(&now.date));
        out.push(Since {
            what: what.to_owned(),
            session: then.id,
            date: then.date.clone(),
            sides: [format!("session:{}:{code}", then.id), format!("session:{}:{code}", now.id)],
            headline: words::comparison::overall(&rows, whole, &a, &b),
            rows: rows.iter().map(row).collect(),
            differs: differs(then),
        });
    }
    out
}
