//! Footfalls that a clip tells of by itself: looked for, told anew.

use serde::{Deserialize, Serialize};
use umlauf_store::Store;
use umlauf_store::clip::Clip;
use umlauf_store::job::{Job, JobKind, JobState};
use utoipa::ToSchema;

use crate::api::extract::{Answer, Json, Path, State};
use crate::api::job::JobLine;
use crate::clip::mark::{Mark, MarkChange};
use crate::problem::Problem;
use crate::refused::Refused;
use crate::suggest::again::told_anew;
use crate::suggest::found::{Kept, LimbClick};

/// Changes of suggestions that follow from what the coach has said.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
pub struct ToldAnew {
    /// To be made as an edit.
    changes: Vec<MarkChange>,
}

/// Looks for footfalls in a clip, in the background.
#[utoipa::path(post, path = "/api/clips/{clip}/find", params(("clip" = i64, Path,)),
    responses((status = 200, body = JobLine), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn find(state: State, Path(id): Path<i64>) -> Answer<JobLine> {
    let line = state
        .ask(move |s| {
            if s.marks_and_suggestions(id)?.iter().any(|m| m.origin.is_open()) {
                let first =
                    "there are suggestions that wait for an answer: take or remove them first";
                return Err(Refused::invalid(first));
            }
            look(s, id)
        })
        .await?;
    state.wake();
    Ok(axum::Json(line))
}

/// What the coach has shown in a clip by clicks, all of it: what is not in it is taken back.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Shown {
    /// On wraps that the horse wears; several on one limb are several colours.
    wraps: Vec<LimbClick>,
    /// On hooves as they stand.
    hooves: Vec<LimbClick>,
}

/// Most clicks of a kind in a clip.
const MOST_CLICKS: usize = 16;

/// Keeps what was shown, takes suggestions back that wait for an answer, and looks for footfalls anew.
#[utoipa::path(put, path = "/api/clips/{clip}/shown", params(("clip" = i64, Path,)), request_body = Shown,
    responses((status = 200, body = JobLine), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn shown(state: State, Path(id): Path<i64>, Json(asked): Json<Shown>) -> Answer<JobLine> {
    let line = state
        .ask(move |s| {
            let clip = s.clip(id)?;
            has_footage(&clip)?;
            let (width, height) = (f64::from(clip.footage.width), f64::from(clip.footage.height));
            let inside =
                |c: &LimbClick| (0.0..width).contains(&c.x_px) && (0.0..height).contains(&c.y_px);
            let as_it_should =
                |clicks: &[LimbClick]| clicks.len() <= MOST_CLICKS && clicks.iter().all(inside);
            if !as_it_should(&asked.wraps) || !as_it_should(&asked.hooves) {
                return Err(Refused::invalid(
                    "a click on a wrap or a hoof lies inside the picture; 16 of each at most",
                ));
            }
            if at_it(s, id)?.is_some_and(|job| job.state == JobState::Running) {
                return Err(Refused::invalid(
                    "this clip is being looked at: stop that first, or wait",
                ));
            }
            let mirrored = clip.settings.mirrored;
            let mut kept = Kept::in_clip(s, id)?.unwrap_or_default();
            let turned =
                |clicks: Vec<LimbClick>| clicks.into_iter().map(|c| c.turned(mirrored)).collect();
            (kept.wraps, kept.hooves) = (turned(asked.wraps), turned(asked.hooves));
            kept.told_from = Vec::new();
            let body = serde_json::to_string(&kept).map_err(|e| Refused::Failed(e.to_string()))?;
            s.withdraw(id, &body)?;
            look(s, id)
        })
        .await?;
    state.wake();
    Ok(axum::Json(line))
}

/// The job that looks for a clip's footfalls, or will.
fn at_it(store: &Store, clip: i64) -> Result<Option<Job>, Refused> {
    let at_it = |j: &Job| {
        j.clip == clip
            && j.kind == JobKind::Footfalls
            && matches!(j.state, JobState::Waiting | JobState::Running)
    };
    Ok(store.jobs()?.into_iter().find(at_it))
}

fn has_footage(clip: &Clip) -> Result<(), Refused> {
    if clip.footage.codec == "table" {
        let none = "this ride came as a table of footfalls: there is no footage to look at";
        return Err(Refused::invalid(none));
    }
    Ok(())
}

/// Sees to it that a clip is looked at.
fn look(store: &Store, id: i64) -> Result<JobLine, Refused> {
    has_footage(&store.clip(id)?)?;
    let job = match at_it(store, id)? {
        Some(job) => job,
        None => store.job(store.add_job(id, JobKind::Footfalls)?)?,
    };
    Ok(JobLine::of(store, job)?)
}

/// Tells the limbs of suggestions anew, about those that the coach has said.
#[utoipa::path(get, path = "/api/clips/{clip}/told-anew", params(("clip" = i64, Path,)),
    responses((status = 200, body = ToldAnew), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn anew(state: State, Path(id): Path<i64>) -> Answer<ToldAnew> {
    state
        .read(move |s| {
            let mirrored = s.clip(id)?.settings.mirrored;
            let Some(kept) = Kept::in_clip(s, id)? else {
                return Ok(ToldAnew { changes: Vec::new() });
            };
            let changes = told_anew(&kept, &s.marks_and_suggestions(id)?);
            let shown = |m: umlauf_store::marks::Mark| Mark::of_horse(m, mirrored);
            let changes = changes
                .into_iter()
                .map(|c| MarkChange { before: c.before.map(shown), after: c.after.map(shown) });
            Ok(ToldAnew { changes: changes.collect() })
        })
        .await
        .map(axum::Json)
}
