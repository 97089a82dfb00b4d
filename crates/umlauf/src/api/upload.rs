//! Footage comes in: begun, sent in pieces that may break off, finished once whole.

use axum::body::Body;
use axum::http::StatusCode;
use futures_util::StreamExt as _;
use serde::{Deserialize, Serialize};
use tokio::io::AsyncWriteExt as _;
use umlauf_store::upload::Upload;
use utoipa::{IntoParams, ToSchema};

use crate::api::extract::{Answer, Json, Path, Query, State};
use crate::api::yard::Added;
use crate::intake::take::take_in;
use crate::problem::Problem;
use crate::refused::Refused;

/// An upload to begin.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewUpload {
    /// Name given by the page, 8 to 64 letters and digits: the same name goes on where it broke off.
    id: String,
    /// Session the clip is for; without one it waits to be sorted.
    session: Option<i64>,
    /// The file's name.
    name: String,
    /// The file's size.
    bytes: u64,
}

/// An upload on its way.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct UploadView {
    /// Name.
    pub id: String,
    /// Session.
    pub session: Option<i64>,
    /// File name.
    pub name: String,
    /// Size.
    pub bytes: u64,
    /// Bytes that have arrived: go on from here.
    pub received: u64,
}

/// Where a piece begins.
#[derive(Clone, Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Piece {
    /// Place of its first byte.
    from: u64,
}

impl From<Upload> for UploadView {
    fn from(u: Upload) -> Self {
        let Upload { id, session, name, bytes, received } = u;
        Self { id, session, name, bytes, received }
    }
}

/// Begins an upload, or finds how far one of this name has come.
#[utoipa::path(post, path = "/api/uploads", request_body = NewUpload,
    responses((status = 200, body = UploadView), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn begin(state: State, Json(new): Json<NewUpload>) -> Answer<UploadView> {
    let upload =
        state.with(move |s| s.begin_upload(&new.id, new.session, &new.name, new.bytes)).await?;
    Ok(axum::Json(upload.into()))
}

/// Uploads on their way.
#[utoipa::path(get, path = "/api/uploads", responses((status = 200, body = Vec<UploadView>)))]
pub async fn uploads(state: State) -> Answer<Vec<UploadView>> {
    let uploads = state.read(umlauf_store::Store::uploads).await?;
    Ok(axum::Json(uploads.into_iter().map(Into::into).collect()))
}

/// Adds bytes to an upload. What has arrived when the connection breaks is kept.
#[utoipa::path(put, path = "/api/uploads/{upload}", params(("upload" = String, Path,), Piece),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = UploadView), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn append(
    state: State,
    Path(id): Path<String>,
    Query(piece): Query<Piece>,
    body: Body,
) -> Answer<UploadView> {
    let Some(_writing) = state.claim(&id) else {
        return Err(Refused::Busy("another page is sending this file; wait for it or close it"));
    };
    let wanted = id.clone();
    let upload = state.with(move |s| s.upload(&wanted)).await?;
    if piece.from != upload.received {
        return Err(Refused::WrongPlace { received: upload.received });
    }
    let path = state.store.upload_file(&id);
    let mut file = tokio::fs::OpenOptions::new().create(true).append(true).open(&path).await?;
    let mut left = upload.bytes - upload.received;
    let mut stream = body.into_data_stream();
    let mut broke = None;
    while let Some(block) = stream.next().await {
        let Ok(block) = block else {
            broke = Some(Refused::BrokenOff("the connection broke off; send the rest"));
            break;
        };
        let size = block.len() as u64;
        if size > left {
            broke = Some(Refused::TooMuch {
                code: "too-long",
                says: "more bytes came than the file was said to have",
            });
            break;
        }
        file.write_all(&block).await?;
        left -= size;
    }
    file.flush().await?;
    if let Some(refused) = broke {
        return Err(refused);
    }
    state.with(move |s| s.upload(&id)).await.map(|u| axum::Json(u.into()))
}

/// Gives up an upload and removes what has arrived.
#[utoipa::path(delete, path = "/api/uploads/{upload}", params(("upload" = String, Path,)),
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn abandon(state: State, Path(id): Path<String>) -> Result<StatusCode, Refused> {
    state.take_away(move |s| s.end_upload(&id)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Makes a clip of an upload that has arrived whole. A file that is not footage is removed; where anything else goes
/// wrong it stays, and may be finished once more.
#[utoipa::path(post, path = "/api/uploads/{upload}/finish", params(("upload" = String, Path,)),
    responses((status = 200, body = Added), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn finish(state: State, Path(id): Path<String>) -> Answer<Added> {
    let Some(_writing) = state.claim(&id) else {
        return Err(Refused::Busy("this file is still being sent"));
    };
    let wanted = id.clone();
    let upload = state.with(move |s| s.upload(&wanted)).await?;
    if upload.received != upload.bytes {
        return Err(Refused::NotWhole { received: upload.received, bytes: upload.bytes });
    }
    let path = state.store.upload_file(&id);
    let taken = take_in(&state, upload.session, &upload.name, &path).await;
    // Only a file that is no footage is of no use: whatever else went wrong may go well next time.
    if taken.as_ref().map_or_else(Refused::is_not_footage, |_| true) {
        state.with(move |s| s.end_upload(&id)).await?;
    }
    Ok(axum::Json(Added { id: taken?.clip() }))
}
