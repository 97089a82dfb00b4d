//! Footage by its content: pictures and sound with byte ranges, never compressed, kept by the
//! browser for good since the address is the hash of the content.

use axum::extract::Request;
use axum::http::{HeaderValue, header};
use axum::response::{IntoResponse as _, Response};
use tower::ServiceExt as _;
use tower_http::services::ServeFile;

use crate::api::extract::{Path, State};
use crate::refused::Refused;

/// Serves `original` or `proxy` of a content.
pub async fn media(
    state: State,
    Path((content, which)): Path<(String, String)>,
    request: Request,
) -> Result<Response, Refused> {
    let missing = || Refused::Missing("there is no such footage here");
    if content.len() != 64 || !content.bytes().all(|b| b.is_ascii_hexdigit()) {
        return Err(missing());
    }
    let folder = state.store.footage_folder(&content);
    let file = match which.as_str() {
        "proxy" => folder.join("proxy.mp4"),
        "filmstrip" => folder.join("filmstrip.jpg"),
        "original" => {
            let clips = state.with(move |store| store.clips_of_content(&content)).await?;
            folder.join(&clips.first().ok_or_else(missing)?.footage.file)
        }
        _ => return Err(missing()),
    };
    let mime = mime_guess::from_path(&file).first_or_octet_stream();
    if !tokio::fs::try_exists(&file).await.unwrap_or(false) {
        return Err(missing());
    }
    let mut response = match ServeFile::new_with_mime(&file, &mime).oneshot(request).await {
        Ok(response) => response.into_response(),
        Err(never) => match never {},
    };
    response.headers_mut().insert(
        header::CACHE_CONTROL,
        HeaderValue::from_static("private, max-age=31536000, immutable"),
    );
    Ok(response)
}
