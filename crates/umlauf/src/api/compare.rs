//! Side by side over HTTP.

use serde::Deserialize;
use utoipa::IntoParams;

use crate::api::extract::{Answer, Query, State};
use crate::compare::comparison::{self, Comparison};
use crate::problem::Problem;

/// Two sides. A side is `bout:CLIP:PLACE`, `clip:CLIP:GAIT` or `session:SESSION:GAIT`; behind a
/// session may stand `:left` or `:right`, and `:in=MOVEMENT` (`straight` for bouts without one),
/// `:before=MOVEMENT` or `:after=MOVEMENT`.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct Sides {
    /// The first.
    a: String,
    /// The second.
    b: String,
}

/// Compares two sides.
#[utoipa::path(get, path = "/api/compare", params(Sides),
    responses((status = 200, body = Comparison), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn compare(state: State, Query(sides): Query<Sides>) -> Answer<Comparison> {
    state.read_at_length(move |s| comparison::both(s, &sides.a, &sides.b)).await.map(axum::Json)
}
