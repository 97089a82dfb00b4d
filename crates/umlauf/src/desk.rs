//! What the Timing desk shows of one clip: marks, their analysis and wheels.

use serde::Serialize;
use umlauf_gait::analysis::about_change;
use umlauf_gait::marking::doubtful_marks::{Doubt, DoubtfulMark};
use umlauf_gait::{Analysis, Side, words};
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::clip::clock::{self, SlowQuestion};
use crate::clip::mark::{LimbCode, Mark};
use crate::clip::reading::{analyse, horse_of, scatter};
use crate::clip::settings::ClipSettings;
use crate::clip::tag::{self, Tag};
use crate::document::wheel::{Wheel, wheels};
use crate::document::whole::{Document, document};

/// Marks and what follows from them.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Desk {
    /// Counts the changes of this clip.
    pub revision: i64,
    /// Marks in order of time; left out in answers to edits, which the page has applied itself.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(nullable = false)]
    pub marks: Option<Vec<Mark>>,
    /// Aids, letters, notes and what was ridden, in order of time.
    pub tags: Vec<Tag>,
    /// What the coach says of the clip.
    pub settings: ClipSettings,
    /// Whether this was filmed in slow motion, when there is reason to ask.
    pub slow_question: Option<SlowQuestion>,
    /// What a footfall of this clip is worth, in words.
    pub timing_says: String,
    /// The analysis.
    pub analysis: Document,
    /// Wheels, one a bout.
    pub wheels: Vec<Wheel>,
    /// The strides about each flying change, in the order of their events.
    pub around_changes: Vec<Vec<NearChange>>,
    /// Places where the marks look wrong.
    pub checks: Vec<CheckSaid>,
    /// Edits that can be undone.
    pub can_undo: i64,
    /// Edits that can be done again.
    pub can_redo: i64,
}

/// A stride near a flying change.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct NearChange {
    /// Strides from the one in which the change begins: −1 is the one before.
    pub place: i32,
    /// Its start, true seconds.
    pub start_s: f64,
    /// Its end.
    pub end_s: f64,
    /// Lead of the hinds.
    pub hind: Option<String>,
    /// Lead of the fores.
    pub fore: Option<String>,
    /// Moment of air at its end, s, an overlap negative.
    pub air_s: Option<f64>,
    /// Strides/min.
    pub tempo: f64,
}

/// A place where the marks look wrong.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct CheckSaid {
    /// From, true seconds.
    pub from_s: f64,
    /// To.
    pub to_s: f64,
    /// Whose lane.
    pub limb: LimbCode,
    /// In words.
    pub says: String,
}

/// The desk of a clip; with its marks when `with_marks`.
///
/// # Errors
/// What the store meets.
pub fn desk(store: &Store, id: i64, with_marks: bool) -> Result<Desk, StoreError> {
    let clip = store.clip(id)?;
    let horse = horse_of(store, &clip)?;
    let (marks, own) = (store.marks(id)?, tag::shown(store.tags(id)?));
    let scatter = scatter(store, &clip)?;
    let analysis = analyse(&clip, horse.as_ref(), &marks, &own, scatter);
    let (can_undo, can_redo) = store.journal_depth(id)?;
    let (document, (wheels, around_changes, checks)) = rayon::join(
        || document(&analysis),
        || (wheels(&analysis), around_changes(&analysis), checks(&analysis)),
    );
    Ok(Desk {
        revision: clip.revision,
        analysis: document,
        wheels,
        marks: with_marks.then(|| {
            marks.into_iter().map(|m| Mark::of_horse(m, clip.settings.mirrored)).collect()
        }),
        slow_question: clock::question(&clip, &analysis),
        timing_says: clock::timing_says(&clip, scatter),
        tags: own,
        around_changes,
        checks,
        settings: clip.settings.into(),
        can_undo,
        can_redo,
    })
}

fn around_changes(analysis: &Analysis) -> Vec<Vec<NearChange>> {
    let word = |side: Option<Side>| side.map(|s| s.word().to_owned());
    let of = |change| {
        let strides = about_change::about_change(analysis, change).into_iter();
        strides
            .map(|n| NearChange {
                place: n.place,
                start_s: n.start_s,
                end_s: n.end_s,
                hind: word(n.hind),
                fore: word(n.fore),
                air_s: n.suspension_s,
                tempo: n.tempo,
            })
            .collect()
    };
    analysis.events.changes.iter().map(|(change, _)| of(change)).collect()
}

fn checks(analysis: &Analysis) -> Vec<CheckSaid> {
    let said = |c: &DoubtfulMark| CheckSaid {
        from_s: c.from_s,
        to_s: c.to_s,
        limb: match c.what {
            Doubt::Missing(limb) | Doubt::OutOfPlace(limb) => limb.into(),
        },
        says: words::marking::doubtful(c.what),
    };
    analysis.doubtful.iter().map(said).collect()
}
