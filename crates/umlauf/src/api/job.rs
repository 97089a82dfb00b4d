//! Background work: seen, cancelled, tried again.

use serde::Serialize;
use umlauf_store::clip::ProxyState;
use umlauf_store::job::{Job, JobKind, JobState};
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::api::extract::{Answer, Path, State};
use crate::problem::Problem;

/// A job.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct JobLine {
    /// Number.
    pub id: i64,
    /// Clip it is for.
    pub clip: i64,
    /// `proxy`, `sound`, `filmstrip` or `footfalls`.
    pub kind: String,
    /// `waiting`, `running`, `done`, `failed` or `cancelled`.
    pub state: String,
    /// Share done.
    pub progress: f64,
    /// Clip's name.
    pub clip_name: String,
    /// Seconds left, while it runs and that can be told.
    pub left_s: Option<f64>,
    /// Why it failed.
    pub says: String,
}

impl JobLine {
    /// A job for the page.
    pub(crate) fn of(store: &Store, job: Job) -> Result<Self, StoreError> {
        Ok(Self {
            id: job.id,
            clip: job.clip,
            clip_name: store.clip(job.clip)?.name,
            kind: job.kind.word().to_owned(),
            state: job.state.word().to_owned(),
            progress: job.progress,
            left_s: left(&job),
            says: job.says,
        })
    }
}

/// Time that is left if the rest goes on as the part done.
fn left(job: &Job) -> Option<f64> {
    if job.state != JobState::Running || job.progress < 0.02 {
        return None;
    }
    let gone_ms = jiff::Timestamp::now().as_millisecond() - job.began_ms;
    #[expect(clippy::cast_precision_loss, reason = "ms of a job")]
    let gone = gone_ms as f64 / 1000.0;
    Some(gone * (1.0 - job.progress) / job.progress)
}

/// The latest jobs, newest first.
#[utoipa::path(get, path = "/api/jobs", responses((status = 200, body = Vec<JobLine>)))]
pub async fn jobs(state: State) -> Answer<Vec<JobLine>> {
    state
        .read(|s| s.jobs()?.into_iter().map(|job| JobLine::of(s, job)).collect())
        .await
        .map(axum::Json)
}

/// Cancels a job.
#[utoipa::path(post, path = "/api/jobs/{job}/cancel", params(("job" = i64, Path,)),
    responses((status = 200, body = JobLine), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn cancel(state: State, Path(id): Path<i64>) -> Answer<JobLine> {
    let steered = state.with(move |s| JobLine::of(s, s.steer_job(id, true)?)).await?;
    state.stop_job(id);
    Ok(axum::Json(steered))
}

/// Tries a job again that failed or was cancelled.
#[utoipa::path(post, path = "/api/jobs/{job}/retry", params(("job" = i64, Path,)),
    responses((status = 200, body = JobLine), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn retry(state: State, Path(id): Path<i64>) -> Answer<JobLine> {
    let steered = state
        .with(move |s| {
            let job = s.steer_job(id, false)?;
            if job.kind == JobKind::Proxy {
                s.set_proxy(job.clip, ProxyState::Pending, 0)?;
            }
            JobLine::of(s, job)
        })
        .await?;
    state.wake();
    Ok(axum::Json(steered))
}
