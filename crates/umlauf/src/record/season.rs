//! The sessions that a record is drawn from.

use serde::Serialize;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::stats::descriptive::median;
use umlauf_store::yard::Session;
use utoipa::ToSchema;

use crate::dates::day_number;
use crate::digest::{self, RiddenBout};

/// A session in the record.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct SessionAt {
    /// Number.
    pub id: i64,
    /// `YYYY-MM-DD`.
    pub date: String,
    /// Days since the first.
    pub day: i64,
    /// Bouts that count.
    pub bouts: usize,
    /// Strides.
    pub strides: usize,
    /// The rider's own score.
    pub score: Option<f64>,
    /// The coach's words.
    pub note: String,
}

/// Sessions that left and right, and movements, are compared over.
pub const RECENT: usize = 4;

/// What the parts of a record are read from.
pub struct Season<'a> {
    /// Sessions in order of time.
    pub sessions: &'a [Session],
    /// Bouts and what was counted.
    pub ridden: &'a digest::HorseDigest,
    /// Bouts that count.
    pub counted: &'a [&'a RiddenBout],
    /// Sessions with bouts that count.
    pub at: &'a [SessionAt],
    /// The gait.
    pub gait: Gait,
    /// The horse's degree of collection.
    pub degree: Option<u8>,
}

/// The horse's own median tempo, the target that stands in for one.
pub(crate) fn usual_tempo(bouts: &[&RiddenBout]) -> Option<f64> {
    let tempos = bouts.iter().filter_map(|b| b.digest.value(Metric::Tempo)).map(|e| e.value);
    median(tempos.collect())
}

pub(crate) fn sessions_at(sessions: &[Session], counted: &[&RiddenBout]) -> Vec<SessionAt> {
    let first = sessions.first().map_or(0, |s| day_number(&s.date));
    sessions
        .iter()
        .filter_map(|s| {
            let own: Vec<&&RiddenBout> = counted.iter().filter(|b| b.session == s.id).collect();
            (!own.is_empty()).then(|| SessionAt {
                id: s.id,
                date: s.date.clone(),
                day: day_number(&s.date) - first,
                bouts: own.len(),
                strides: own.iter().map(|b| b.digest.strides).sum(),
                score: s.about.score,
                note: s.about.note.clone(),
            })
        })
        .collect()
}
