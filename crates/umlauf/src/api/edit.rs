//! Marks: read, changed, undone and done again.

use serde::Deserialize;
use umlauf_store::marks::Change;
use utoipa::ToSchema;

use super::{Answer, Json, Path, State};
use crate::desk::{self, Desk, MarkChange};
use crate::problem::Problem;

/// An edit: changes that are made together and undone together.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Edit {
    /// Name given by the page: an edit sent twice is made once.
    edit_id: String,
    /// Whether the limbs are named as a clip marked as a mirror image is read.
    #[serde(default)]
    mirrored: bool,
    /// Changes.
    changes: Vec<MarkChange>,
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
    state.with(move |s| desk::desk(s, id, true)).await.map(axum::Json)
}

/// Changes marks; answers when they are safely on disk.
#[utoipa::path(post, path = "/api/clips/{clip}/edits", params(("clip" = i64, Path,)), request_body = Edit,
    responses((status = 200, body = Desk), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn edit(state: State, Path(id): Path<i64>, Json(edit): Json<Edit>) -> Answer<Desk> {
    let mirrored = edit.mirrored;
    let changes: Vec<Change> = edit.changes.into_iter().map(|c| c.in_file(mirrored)).collect();
    state
        .with(move |s| {
            s.edit(id, &edit.edit_id, &changes)?;
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
