//! What the Timing desk shows of one clip: marks, their analysis and wheels.

use serde::Serialize;
use umlauf_gait::analysis::about_change;
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::marking::doubtful_marks::{Doubt, DoubtfulMark};
use umlauf_gait::{Analysis, Footfall, Side, words};
use umlauf_store::clip::Clip;
use umlauf_store::{Store, StoreError, marks};
use utoipa::ToSchema;

use crate::clip::clock::{self, SlowQuestion};
use crate::clip::mark::{LimbCode, Mark};
use crate::clip::reading::{analyse, footfall, horse_of, scatter};
use crate::clip::settings::ClipSettings;
use crate::clip::tag::{self, Tag};
use crate::document::wheel::{Wheel, wheels};
use crate::document::whole::{Document, document};
use crate::suggest::found::{Found, Kept, found};
use crate::suggest::wanting::{wanting, why_doubtful};

/// Marks and what follows from them. Suggestions that wait for an answer are among them: the desk shows what
/// they would tell, and nothing else counts them.
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
    /// What the clip told of by itself, when it was looked at.
    pub found: Option<Found>,
    /// Footfalls of each bout, and how many of them nobody has looked at.
    pub unlooked: Vec<Unlooked>,
    /// Edits that can be undone.
    pub can_undo: i64,
    /// Edits that can be done again.
    pub can_redo: i64,
}

/// How many footfalls of a bout nobody has looked at.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
pub struct Unlooked {
    /// Footfalls.
    pub footfalls: usize,
    /// Nobody has looked at so many of them.
    pub unlooked: usize,
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
    let (marks, own) = (store.marks_and_suggestions(id)?, tag::shown(store.tags(id)?));
    let scatter = scatter(store, &clip)?;
    let analysis = analyse(&clip, horse.as_ref(), &marks, &own, scatter);
    let (can_undo, can_redo) = store.journal_depth(id)?;
    let found = Kept::in_clip(store, id)?.map(|kept| {
        let wanting = wanting(&clip, &marks, &analysis.doubtful);
        found(kept, &marks, wanting, clip.settings.mirrored)
    });
    let unlooked = unlooked(&clip, &marks, &analysis);
    let (document, (wheels, around_changes, checks)) = rayon::join(
        || document(&analysis),
        || (wheels(&analysis), around_changes(&analysis), checks(&analysis, &clip, &marks)),
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
        found,
        unlooked,
        settings: clip.settings.into(),
        can_undo,
        can_redo,
    })
}

fn unlooked(clip: &Clip, marks: &[marks::Mark], analysis: &Analysis) -> Vec<Unlooked> {
    let all: Vec<Footfall> = marks.iter().map(|m| footfall(clip, m, 0)).collect();
    let of = |bout: &BoutFigures| {
        let from = all.partition_point(|f| f.on.0 < bout.start_s - EARLY_S);
        let to = all.partition_point(|f| f.on.0 < bout.end_s - EARLY_S).max(from);
        let own = &all[from..to];
        Unlooked {
            footfalls: own.len(),
            unlooked: own.iter().filter(|f| f.origin.is_unseen()).count(),
        }
    };
    analysis.bouts.iter().map(of).collect()
}

/// A fore may land so much before the hind that begins its stride, s.
const EARLY_S: f64 = 0.05;

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

fn checks(analysis: &Analysis, clip: &Clip, marks: &[marks::Mark]) -> Vec<CheckSaid> {
    let said = |c: &DoubtfulMark| CheckSaid {
        from_s: c.from_s,
        to_s: c.to_s,
        limb: match c.what {
            Doubt::Missing(limb) | Doubt::OutOfPlace(limb) => limb.into(),
        },
        says: words::marking::doubtful(c.what),
    };
    let mut out: Vec<CheckSaid> = analysis.doubtful.iter().map(said).collect();
    out.extend(marks.iter().filter_map(|m| {
        let Footfall { limb, on, .. } = footfall(clip, m, 0);
        let says = why_doubtful(m, limb)?;
        Some(CheckSaid { from_s: on.0, to_s: on.0, limb: limb.into(), says })
    }));
    out.sort_by(|a, b| a.from_s.total_cmp(&b.from_s));
    out
}
