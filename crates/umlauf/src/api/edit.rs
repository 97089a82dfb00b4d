//! Marks: read, changed, undone and done again.

use serde::{Deserialize, Serialize};
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::marking::{next_stride, scatter};
use umlauf_gait::words;
use umlauf_store::hand::HandScatter;
use umlauf_store::marks::Change;
use utoipa::{IntoParams, ToSchema};

use crate::api::extract::{Answer, Json, Path, Query, State};
use crate::clip::mark::{LimbCode, Mark, MarkChange};
use crate::clip::tag::TagEdit;
use crate::clip::{clock, reading};
use crate::desk::{self, Desk};
use crate::problem::Problem;
use crate::refused::Refused;

/// An edit: changes that are made together and undone together.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Edit {
    /// Name given by the page: an edit sent twice is made once.
    edit_id: String,
    /// Whether the limbs are named as a clip marked as a mirror image is read.
    #[serde(default)]
    mirrored: bool,
    /// Changes of footfalls.
    changes: Vec<MarkChange>,
    /// Changes of what is marked beside them.
    #[serde(default)]
    tags: Vec<TagEdit>,
}

/// Footfalls that were foretold, in order of time; none of them counts before it is accepted.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Foretold {
    /// One a limb at most.
    next: Vec<ForetoldMark>,
}

/// A footfall that was foretold.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ForetoldMark {
    /// Limb.
    limb: LimbCode,
    /// On, µs of the file, between frames.
    on_us: i64,
    /// Off.
    off_us: Option<i64>,
}

/// From where to carry on.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct After {
    /// Marks up to here are known, µs of the file.
    after_us: i64,
}

/// Footfalls marked a second time.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Again {
    /// The second time's marks.
    marks: Vec<Mark>,
    /// Keep the scatter: it enters the errors of all stepped marks from now on.
    #[serde(default)]
    keep: bool,
}

/// The coach's own scatter.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Repeatability {
    /// Footfalls marked both times.
    pairs: usize,
    /// Standard deviation of one mark, s; `null` with fewer than eight pairs.
    sd_s: Option<f64>,
    /// Its 95 % interval.
    ci95: Option<[f64; 2]>,
    /// How much later the second time was, on average, s.
    shift_s: Option<f64>,
    /// In words.
    says: String,
}

/// From where to undo or redo.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct From {
    /// Revision that the page shows: a request sent twice acts once.
    revision: i64,
}

/// Marks of a clip and their analysis.
#[utoipa::path(get, path = "/api/clips/{clip}/desk", params(("clip" = i64, Path,)),
    responses((status = 200, body = Desk), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn desk(state: State, Path(id): Path<i64>) -> Answer<Desk> {
    state.read(move |s| desk::desk(s, id, true)).await.map(axum::Json)
}

/// How often a clip was changed.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Revision {
    /// Counts the changes of this clip.
    revision: i64,
}

/// How often a clip was changed: a page asks whether another one changed it.
#[utoipa::path(get, path = "/api/clips/{clip}/revision", params(("clip" = i64, Path,)),
    responses((status = 200, body = Revision), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn revision(state: State, Path(id): Path<i64>) -> Answer<Revision> {
    let revision = state.read(move |s| s.revision(id)).await?;
    Ok(axum::Json(Revision { revision }))
}

/// Changes marks; answers when they are safely on disk.
#[utoipa::path(post, path = "/api/clips/{clip}/edits", params(("clip" = i64, Path,)), request_body = Edit,
    responses((status = 200, body = Desk), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn edit(state: State, Path(id): Path<i64>, Json(edit): Json<Edit>) -> Answer<Desk> {
    let who = state.who.clone();
    let mirrored = edit.mirrored;
    let changes: Vec<Change> = edit.changes.into_iter().map(|c| c.in_file(mirrored)).collect();
    state
        .with(move |s| {
            let tags = edit.tags.iter().map(TagEdit::stored).collect::<Result<Vec<_>, _>>()?;
            s.edit_all(id, &edit.edit_id, &who, &changes, &tags)?;
            desk::desk(s, id, false)
        })
        .await
        .map(axum::Json)
}

/// Takes back the latest edit.
#[utoipa::path(post, path = "/api/clips/{clip}/undo", params(("clip" = i64, Path,)), request_body = From,
    responses((status = 200, body = Desk), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn undo(state: State, Path(id): Path<i64>, Json(from): Json<From>) -> Answer<Desk> {
    state
        .with(move |s| {
            s.undo(id, from.revision)?;
            desk::desk(s, id, true)
        })
        .await
        .map(axum::Json)
}

/// Does the edit again that was taken back last.
#[utoipa::path(post, path = "/api/clips/{clip}/redo", params(("clip" = i64, Path,)), request_body = From,
    responses((status = 200, body = Desk), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn redo(state: State, Path(id): Path<i64>, Json(from): Json<From>) -> Answer<Desk> {
    state
        .with(move |s| {
            s.redo(id, from.revision)?;
            desk::desk(s, id, true)
        })
        .await
        .map(axum::Json)
}

/// Foretells the next footfall of every limb from the last ones, for carrying on.
#[utoipa::path(get, path = "/api/clips/{clip}/next", params(("clip" = i64, Path,), After),
    responses((status = 200, body = Foretold), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn next(
    state: State,
    Path(id): Path<i64>,
    Query(After { after_us }): Query<After>,
) -> Answer<Foretold> {
    state
        .read(move |s| {
            let (clip, marks) = (s.clip(id)?, s.marks(id)?);
            let slow = clip.settings.slow_factor;
            let footfalls: Vec<_> = marks.iter().map(|m| reading::footfall(&clip, m, 0)).collect();
            #[expect(clippy::cast_precision_loss, reason = "a time within 12 days")]
            let until = Seconds(after_us as f64 / 1e6 / slow);
            #[expect(clippy::cast_possible_truncation, reason = "a time within 12 days")]
            let micros = |t: Seconds| (t.0 * slow * 1e6).round() as i64;
            let foretold = next_stride::next_stride(&footfalls, until).into_iter();
            let next = foretold.map(|f| ForetoldMark {
                limb: f.limb.into(),
                on_us: micros(f.on),
                off_us: f.off.map(micros),
            });
            Ok(Foretold { next: next.collect() })
        })
        .await
        .map(axum::Json)
}

/// Sets footfalls marked a second time against the first: the coach's own scatter.
#[utoipa::path(post, path = "/api/clips/{clip}/again", params(("clip" = i64, Path,)), request_body = Again,
    responses((status = 200, body = Repeatability), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn again(
    state: State,
    Path(id): Path<i64>,
    Json(again): Json<Again>,
) -> Answer<Repeatability> {
    let person = state.who.clone();
    if again.marks.len() > 5000 {
        let most = "a stretch of at most 5000 footfalls is marked twice; take a shorter one";
        return Err(Refused::invalid(most));
    }
    state
        .with(move |s| {
            let clip = s.clip(id)?;
            let mirrored = clip.settings.mirrored;
            let on = |m: &umlauf_store::marks::Mark| reading::footfall(&clip, m, 0);
            let first: Vec<_> = s.marks(id)?.iter().map(on).collect();
            let second: Vec<_> =
                again.marks.into_iter().map(|m| on(&m.in_file(mirrored))).collect();
            let found = scatter::scatter(&first, &second);
            if let Some(found) = found.filter(|_| again.keep) {
                let frame_rate = clock::capture_rate(&clip).map(FrameRate::per_second);
                s.set_hand_scatter(&HandScatter { person, frame_rate, scatter_s: found.sd_s })?;
            }
            Ok(Repeatability {
                pairs: found.map_or(0, |f| f.pairs),
                sd_s: found.map(|f| f.sd_s),
                ci95: found.map(|f| [f.ci95.0, f.ci95.1]),
                shift_s: found.map(|f| f.shift_s),
                says: words::marking::scatter(found),
            })
        })
        .await
        .map(axum::Json)
}
