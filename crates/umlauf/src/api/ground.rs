//! The Ground desk: a clip's scale, hooves and stills.

use serde::Deserialize;
use utoipa::ToSchema;

use crate::api::extract::{Answer, Json, Path, State};
use crate::clip::calibration::Calibration;
use crate::desk::{self, Desk};
use crate::ground;
use crate::ground::view::Ground;
use crate::problem::Problem;

/// A clip's scale, changed as one edit.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CalibrationEdit {
    /// Name given by the page: an edit sent twice is made once.
    edit_id: String,
    /// Revision that the page shows.
    revision: i64,
    /// What the coach says now.
    calibration: Calibration,
}

/// The Ground desk of a clip.
#[utoipa::path(get, path = "/api/clips/{clip}/ground", params(("clip" = i64, Path,)),
    responses((status = 200, body = Ground), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn ground(state: State, Path(id): Path<i64>) -> Answer<Ground> {
    state.read(move |s| ground::desk::ground(s, id)).await.map(axum::Json)
}

/// Changes a clip's scale; it can be undone. Marks stay as they are.
#[utoipa::path(put, path = "/api/clips/{clip}/calibration", params(("clip" = i64, Path,)),
    request_body = CalibrationEdit,
    responses((status = 200, body = Desk), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn calibrate(
    state: State,
    Path(id): Path<i64>,
    Json(edit): Json<CalibrationEdit>,
) -> Answer<Desk> {
    edit.calibration.check()?;
    let who = state.who.clone();
    state
        .with(move |s| {
            let clip = s.clip(id)?;
            let mut settings = clip.settings.clone();
            let kept = serde_json::to_value(&edit.calibration)
                .map_err(|e| umlauf_store::StoreError::Invalid(e.to_string()))?;
            // The same edit sent again finds a later revision, and is made once.
            if clip.revision != edit.revision && settings.calibration.as_ref() != Some(&kept) {
                return Err(umlauf_store::StoreError::Conflict);
            }
            settings.calibration = Some(kept);
            s.change_settings(id, &edit.edit_id, &who, &clip.settings, &settings)?;
            desk::desk(s, id, true)
        })
        .await
        .map(axum::Json)
}
