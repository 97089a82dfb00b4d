//! The whole yard as a download.

use axum::body::Body;
use axum::http::{HeaderValue, header};
use axum::response::Response;
use tokio_util::io::ReaderStream;

use super::State;
use crate::archive;
use crate::problem::Problem;

/// The whole yard as a ZIP of JSON, CSV and footage.
#[utoipa::path(get, path = "/api/export",
    responses((status = 200, content_type = "application/zip", body = Vec<u8>), (status = "5XX", body = Problem, content_type = "application/problem+json")))]
pub async fn export(state: State) -> Result<Response, Problem> {
    let app = std::sync::Arc::clone(&state);
    let file = tokio::task::spawn_blocking(move || -> anyhow::Result<std::fs::File> {
        use std::io::Seek as _;
        // It has no name: it is gone when the download ends, however that may be.
        let mut file = tempfile::tempfile_in(app.store.incoming_folder())?;
        archive::export(&app.store, &mut file)?;
        file.rewind()?;
        Ok(file)
    })
    .await
    .map_err(|e| Problem::internal(&e))?
    .map_err(|e| Problem::internal(&format!("{e:#}")))?;
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
