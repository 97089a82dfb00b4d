//! A horse's card: what the coach says of it.

use axum::http::StatusCode;
use umlauf_gait::base::gait::Gait;

use crate::api::extract::{Json, Path, State};
use crate::problem::Problem;
use crate::record::horse_form::HorseForm;
use crate::refused::Refused;

/// Changes a horse's card.
#[utoipa::path(put, path = "/api/horses/{horse}", params(("horse" = i64, Path,)),
    request_body = HorseForm,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change_horse(
    state: State,
    Path(id): Path<i64>,
    Json(form): Json<HorseForm>,
) -> Result<StatusCode, Refused> {
    let gait = form.intended_gait.trim();
    if !gait.is_empty() && Gait::named(gait).is_none() {
        let says = "the intended gait is no gait that Umlauf knows";
        return Err(Refused::invalid(says));
    }
    state.with(move |s| s.change_horse(id, &form.card())).await?;
    Ok(StatusCode::NO_CONTENT)
}
