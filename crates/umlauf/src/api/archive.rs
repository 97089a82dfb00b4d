//! The whole yard as a download, and back again.

use axum::body::Body;
use axum::http::{HeaderValue, header};
use axum::response::Response;
use futures_util::StreamExt as _;
use serde::Serialize;
use tokio::io::AsyncWriteExt as _;
use tokio_util::io::ReaderStream;
use umlauf_store::StoreError;
use utoipa::ToSchema;

use crate::api::extract::{Answer, State};
use crate::archive::export;
use crate::archive::restore::{Restored, restore};
use crate::problem::Problem;
use crate::refused::Refused;

/// The whole yard as a ZIP of JSON, CSV and footage.
#[utoipa::path(get, path = "/api/export",
    responses((status = 200, content_type = "application/zip", body = Vec<u8>), (status = "5XX", body = Problem, content_type = "application/problem+json")))]
pub async fn export(state: State) -> Result<Response, Refused> {
    let app = std::sync::Arc::clone(&state);
    let file = tokio::task::spawn_blocking(move || -> Result<std::fs::File, Refused> {
        use std::io::Seek as _;
        // It has no name: it is gone when the download ends, however that may be.
        let mut file = tempfile::tempfile_in(app.store.incoming_folder())?;
        export::export(&app.store, &mut file)?;
        file.rewind()?;
        Ok(file)
    })
    .await??;
    let bytes = file.metadata()?.len();
    let mut response =
        Response::new(Body::from_stream(ReaderStream::new(tokio::fs::File::from_std(file))));
    let headers = response.headers_mut();
    headers.insert(header::CONTENT_TYPE, HeaderValue::from_static("application/zip"));
    headers.insert(header::CONTENT_LENGTH, HeaderValue::from(bytes));
    headers.insert(
        header::CONTENT_DISPOSITION,
        HeaderValue::from_static("attachment; filename=\"yard.umlauf.zip\""),
    );
    Ok(response)
}

/// What came back from a ZIP.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
pub struct BroughtBack {
    /// Horses.
    pub horses: usize,
    /// Clips.
    pub clips: usize,
    /// Films.
    pub films: usize,
    /// Films that the ZIP does not hold.
    pub missing: usize,
}

/// Puts a yard back from its ZIP, all or nothing; only where there is none yet.
#[utoipa::path(post, path = "/api/import",
    request_body(content = Vec<u8>, content_type = "application/zip"),
    responses((status = 200, body = BroughtBack), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn import(state: State, body: Body) -> Answer<BroughtBack> {
    // Refused before gigabytes are sent, and again when they have come.
    if state.with(|s| Ok(!s.tables_are_empty()?)).await? {
        let says = StoreError::Invalid(umlauf_store::archive::NOT_EMPTY.to_owned());
        return Err(says.into());
    }
    let folder = state.store.incoming_folder();
    let packed = tempfile::NamedTempFile::new_in(folder)?;
    let mut file = tokio::fs::File::from_std(packed.reopen()?);
    let mut stream = body.into_data_stream();
    while let Some(block) = stream.next().await {
        let block = block.map_err(|_| {
            Refused::BrokenOff("the connection broke off; nothing was put back: send the ZIP again")
        })?;
        file.write_all(&block).await?;
    }
    file.flush().await?;
    let app = std::sync::Arc::clone(&state);
    let restored =
        tokio::task::spawn_blocking(move || restore(&app.store, packed.path())).await??;
    state.wake();
    let Restored { horses, clips, films, missing } = restored;
    Ok(axum::Json(BroughtBack { horses, clips, films, missing }))
}
