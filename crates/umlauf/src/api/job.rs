//! Background work: seen, cancelled, tried again.

use serde::Serialize;
use umlauf_store::job::Job;
use utoipa::ToSchema;

use super::{Answer, Path, State};
use crate::problem::Problem;

/// A job.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct JobLine {
    /// Number.
    pub id: i64,
    /// Clip it is for.
    pub clip: i64,
    /// `proxy` or `sound`.
    pub kind: String,
    /// `waiting`, `running`, `done`, `failed` or `cancelled`.
    pub state: String,
    /// Share done.
    pub progress: f64,
    /// Why it failed.
    pub says: String,
}

fn line(job: Job) -> JobLine {
    JobLine {
        id: job.id,
        clip: job.clip,
        kind: job.kind.word().to_owned(),
        state: job.state.word().to_owned(),
        progress: job.progress,
        says: job.says,
    }
}

/// The latest jobs, newest first.
#[utoipa::path(get, path = "/api/jobs", responses((status = 200, body = Vec<JobLine>)))]
pub async fn list(state: State) -> Answer<Vec<JobLine>> {
    let jobs = state.with(umlauf_store::Store::jobs).await?;
    Ok(axum::Json(jobs.into_iter().map(line).collect()))
}

/// Cancels a job.
#[utoipa::path(post, path = "/api/jobs/{job}/cancel", params(("job" = i64, Path,)),
    responses((status = 200, body = JobLine), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn cancel(state: State, Path(id): Path<i64>) -> Answer<JobLine> {
    let job = state.with(move |s| s.steer_job(id, true)).await?;
    state.stop_job(id);
    Ok(axum::Json(line(job)))
}

/// Tries a job again that failed or was cancelled.
#[utoipa::path(post, path = "/api/jobs/{job}/retry", params(("job" = i64, Path,)),
    responses((status = 200, body = JobLine), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn retry(state: State, Path(id): Path<i64>) -> Answer<JobLine> {
    let job = state.with(move |s| s.steer_job(id, false)).await?;
    state.work.notify_one();
    Ok(axum::Json(line(job)))
}
