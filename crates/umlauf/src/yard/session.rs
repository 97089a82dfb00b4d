//! A session at a glance: what was ridden on which rein, what matters most, felt beside measured.

use serde::Serialize;
use umlauf_gait::season::session;
use umlauf_gait::still::working_frame;
use umlauf_gait::words;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::clip::{reading, tag};
use crate::document::estimate::{self, Estimate};
use crate::document::finding::{self, FindingSaid};
use crate::ground::stills;

/// What was ridden of one gait and lead on one rein, over all clips.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct RiddenLine {
    /// `left`, `right`, or not given.
    pub rein: Option<String>,
    /// Gait and lead in words.
    pub label: String,
    /// Bouts.
    pub bouts: usize,
    /// Strides.
    pub strides: usize,
    /// Time, s.
    pub length_s: f64,
    /// Mean tempo over bouts, each by its precision, strides/min.
    pub tempo: Option<Estimate>,
}

/// One of the findings that matter, and where it is.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Matter {
    /// Clip.
    pub clip: i64,
    /// Its name.
    pub clip_name: String,
    /// The finding.
    pub finding: FindingSaid,
    /// In how many bouts of the session it was found.
    pub times: usize,
}

/// One thing that was looked for.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct LookedFor {
    /// What, as it would have been called.
    pub what: String,
    /// In how much: `6 bouts`, `5 changes`.
    pub places: String,
    /// The size from which it would have been told four times in five; not given for what is seen
    /// as such.
    pub told_from: Option<String>,
}

/// A still of a session.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct SessionStill {
    /// Clip.
    pub clip: i64,
    /// Its name.
    pub clip_name: String,
    /// When, µs of the file.
    pub at_us: i64,
    /// It shows the horse's working frame.
    pub working: bool,
    /// What it shows.
    pub says: Vec<String>,
}

/// A session at a glance.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct SessionGlance {
    /// Number.
    pub id: i64,
    /// Horse.
    pub horse: String,
    /// Its number.
    pub horse_id: i64,
    /// `YYYY-MM-DD`.
    pub date: String,
    /// What was found, in one sentence.
    pub headline: String,
    /// What was ridden.
    pub ridden: Vec<RiddenLine>,
    /// At most three faults that stand when everything looked for is counted, what matters most first.
    pub matters: Vec<Matter>,
    /// Everything that was looked for.
    pub looked_for: Vec<LookedFor>,
    /// Stills for the frame check.
    pub stills: Vec<SessionStill>,
    /// Clips without a stride timed.
    pub untimed: usize,
    /// What the rider felt.
    pub felt: String,
    /// The rider's own score, 0 to 10.
    pub score: Option<f64>,
}

pub(crate) fn read(store: &Store, id: i64) -> Result<SessionGlance, StoreError> {
    let of = store.session(id)?;
    let horse = store.horse(of.horse)?;
    let clips = store.clips_of_session(id)?;
    let analyses = clips
        .iter()
        .map(|c| reading::analysis_of(store, c, Some(&horse)))
        .collect::<Result<Vec<_>, StoreError>>()?;
    let usual = working_frame::working(&stills::working_frames(store, horse.id)?);
    let mut stills = Vec::new();
    for clip in &clips {
        let own = stills::stills(clip, &tag::shown(store.tags(clip.id)?), usual.as_ref());
        stills.extend(own.into_iter().map(|s| SessionStill {
            clip: clip.id,
            clip_name: clip.name.clone(),
            at_us: s.at_us,
            working: s.still.working,
            says: s.says,
        }));
    }
    let ridden = session::ridden(&analyses);
    let matters = session::matters(&analyses);
    let untimed = analyses.iter().filter(|a| a.strides.is_empty()).count();
    Ok(SessionGlance {
        id,
        horse_id: horse.id,
        horse: horse.card.name,
        date: of.date,
        headline: words::session::of_session(&ridden, &matters, &analyses, untimed),
        ridden: ridden
            .iter()
            .map(|r| RiddenLine {
                rein: r.rein.map(|s| s.word().to_owned()),
                label: words::names::label_name(r.label),
                bouts: r.bouts,
                strides: r.strides,
                length_s: r.length_s,
                tempo: r.tempo.as_ref().map(estimate::estimate),
            })
            .collect(),
        matters: matters
            .iter()
            .map(|m| {
                let analysis = &analyses[m.analysis];
                Matter {
                    clip: clips[m.analysis].id,
                    clip_name: clips[m.analysis].name.clone(),
                    finding: finding::finding(&analysis.findings[m.finding], &analysis.schools),
                    times: m.times,
                }
            })
            .collect(),
        looked_for: words::looked_for::of_session(&analyses)
            .into_iter()
            .map(|l| LookedFor {
                what: l.what.to_owned(),
                places: l.places,
                told_from: l.told_from,
            })
            .collect(),
        stills,
        untimed,
        felt: of.about.felt,
        score: of.about.score,
    })
}
