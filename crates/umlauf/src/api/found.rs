//! Footfalls that a clip tells of by itself: looked for, told anew.

use serde::{Deserialize, Serialize};
use umlauf_store::job::{JobKind, JobState};
use utoipa::ToSchema;

use crate::api::extract::{Answer, Path, State};
use crate::api::job::JobLine;
use crate::clip::mark::{Mark, MarkChange};
use crate::problem::Problem;
use crate::refused::Refused;
use crate::suggest::again::told_anew;
use crate::suggest::found::Kept;

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
            let clip = s.clip(id)?;
            if clip.footage.codec == "table" {
                let none = "this ride came as a table of footfalls: there is no footage to look at";
                return Err(Refused::invalid(none));
            }
            if s.marks_and_suggestions(id)?.iter().any(|m| m.origin.is_open()) {
                let first =
                    "there are suggestions that wait for an answer: take or remove them first";
                return Err(Refused::invalid(first));
            }
            let at_it = |j: &umlauf_store::job::Job| {
                j.clip == id
                    && j.kind == JobKind::Footfalls
                    && matches!(j.state, JobState::Waiting | JobState::Running)
            };
            let job = match s.jobs()?.into_iter().find(at_it) {
                Some(job) => job,
                None => s.job(s.add_job(id, JobKind::Footfalls)?)?,
            };
            Ok(JobLine::of(s, job)?)
        })
        .await?;
    state.wake();
    Ok(axum::Json(line))
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
