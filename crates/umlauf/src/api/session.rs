//! A session at a glance over HTTP.

use crate::api::extract::{Answer, Path, State};
use crate::problem::Problem;
use crate::yard::session::{SessionGlance, read};

/// A session at a glance.
#[utoipa::path(get, path = "/api/sessions/{session}/glance", params(("session" = i64, Path,)),
    responses((status = 200, body = SessionGlance), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn glance(state: State, Path(id): Path<i64>) -> Answer<SessionGlance> {
    state.read(move |s| read(s, id)).await.map(axum::Json)
}
