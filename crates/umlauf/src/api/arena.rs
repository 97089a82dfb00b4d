//! Figures of the arena over HTTP.

use crate::api::extract::{Answer, Json, State};
use crate::arena::{self, Asked, FigureDrawn};
use crate::problem::Problem;

/// Draws and measures a figure.
#[utoipa::path(post, path = "/api/arena/figure", request_body = Asked,
    responses((status = 200, body = FigureDrawn), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn figure(state: State, Json(asked): Json<Asked>) -> Answer<FigureDrawn> {
    state.ask(move |s| arena::drawn(s, &asked)).await.map(axum::Json)
}
