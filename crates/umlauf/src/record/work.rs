//! Work and rest: what was filmed of each session, and how long ago it was.

use serde::Serialize;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::returning;
use umlauf_gait::season::workload::{LONGEST_SPELL_S, workload};
use umlauf_gait::words;
use utoipa::ToSchema;

use crate::dates::day_number;
use crate::record::season::Season;

/// How long ago the horse was ridden, and what to mind after a pause.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Now {
    /// Day of the last session.
    pub last_ridden: Option<String>,
    /// Days since then.
    pub days: Option<i64>,
    /// Day of the last session with canter.
    pub last_canter: Option<String>,
    /// Days since then.
    pub canter_days: Option<i64>,
    /// In words.
    pub says: Option<String>,
    /// What to ride after a pause, in words.
    pub returning: Option<String>,
}

/// Work of a session as it was filmed.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Worked {
    /// Session.
    pub session: i64,
    /// Day.
    pub date: String,
    /// Gaits.
    pub gaits: Vec<GaitWork>,
    /// Longest spell without a walk, s.
    pub longest_spell_s: f64,
    /// It is longer than what is common.
    pub too_long: bool,
}

/// Work in a gait.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct GaitWork {
    /// Name.
    pub name: String,
    /// Time, s.
    pub seconds: f64,
    /// Strides.
    pub strides: usize,
}

/// How long ago the horse was ridden on a day.
pub fn now(season: &Season<'_>, today: i64) -> Now {
    let days: Vec<i64> = season.sessions.iter().map(|s| day_number(&s.date)).collect();
    let last = season.sessions.last();
    let canter = season.sessions.iter().rev().find(|s| {
        let own = season.ridden.bouts.iter().filter(|b| b.session == s.id);
        own.into_iter().any(|b| matches!(b.digest.label.gait, Gait::Canter | Gait::Gallop))
    });
    let since = |date: &str| today - day_number(date);
    let says = last.map(|s| {
        let ridden = words::returning::days_ago(since(&s.date));
        match canter {
            Some(c) if c.id == s.id => format!("Ridden {ridden}, canter in it"),
            Some(c) => {
                format!("Ridden {ridden}; canter {}", words::returning::days_ago(since(&c.date)))
            }
            None => format!("Ridden {ridden}; no canter on film yet"),
        }
    });
    Now {
        days: last.map(|s| since(&s.date)),
        last_ridden: last.map(|s| s.date.clone()),
        canter_days: canter.map(|s| since(&s.date)),
        last_canter: canter.map(|s| s.date.clone()),
        says,
        returning: returning::returning(&days, today).map(|r| words::returning::returning(&r)),
    }
}

/// Work session by session.
pub fn read(season: &Season<'_>) -> Vec<Worked> {
    season
        .sessions
        .iter()
        .filter_map(|s| {
            let own: Vec<_> = season.ridden.bouts.iter().filter(|b| b.session == s.id).collect();
            let clips = own.chunk_by(|a, b| a.clip == b.clip);
            let load = workload(
                clips.map(|of| of.iter().map(|b| &b.digest).collect::<Vec<&BoutSummary>>()),
            );
            (!load.gaits.is_empty()).then(|| Worked {
                session: s.id,
                date: s.date.clone(),
                gaits: load
                    .gaits
                    .iter()
                    .map(|g| GaitWork {
                        name: words::names::gait_name(g.gait).to_owned(),
                        seconds: g.seconds,
                        strides: g.strides,
                    })
                    .collect(),
                longest_spell_s: load.longest_spell_s,
                too_long: load.longest_spell_s > LONGEST_SPELL_S,
            })
        })
        .collect()
}
