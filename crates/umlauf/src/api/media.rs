//! Footage by its content: pictures and sound with byte ranges, never compressed, kept by the
//! browser for good since the address is the hash of the content.

use axum::extract::Request;
use axum::http::{HeaderValue, header};
use axum::response::{IntoResponse as _, Response};
use tower::ServiceExt as _;
use tower_http::services::ServeFile;
use umlauf_store::role::Role;

use crate::api::extract::{Path, State};
use crate::films::kind_of_film;
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
    if state.rights.role == Role::Rider {
        let (who, content) = (state.rights.clone(), content.clone());
        let horses = state.read(move |s| s.horses_of_shown_content(&content)).await?;
        if !horses.into_iter().any(|horse| who.sees(horse)) {
            return Err(missing());
        }
    }
    let file = match which.as_str() {
        "proxy" => folder.join("proxy.mp4"),
        "filmstrip" => folder.join("filmstrip.jpg"),
        "original" => {
            let clips = state.with(move |store| store.clips_of_content(&content)).await?;
            folder.join(&clips.first().ok_or_else(missing)?.footage.file)
        }
        _ => return Err(missing()),
    };
    let ending = file.extension().and_then(|e| e.to_str()).unwrap_or_default();
    let kind = match which.as_str() {
        "filmstrip" => "image/jpeg",
        _ => kind_of_film(ending).unwrap_or("application/octet-stream"),
    };
    served(&file, kind, FOR_GOOD, request).await
}

/// What never changes under its address, which is the hash of it, is kept for good by whoever was shown it.
const FOR_GOOD: &str = "private, max-age=31536000, immutable";

/// A film or picture with byte ranges, in which nothing runs, kept by a browser as `kept` says.
pub(crate) async fn served(
    file: &std::path::Path,
    kind: &str,
    kept: &'static str,
    request: Request,
) -> Result<Response, Refused> {
    let alone = opened_alone(&request);
    if !tokio::fs::try_exists(file).await.unwrap_or(false) {
        return Err(Refused::Missing("there is no such footage here"));
    }
    let kind = kind.parse().unwrap_or(mime_guess::mime::APPLICATION_OCTET_STREAM);
    let mut response = match ServeFile::new_with_mime(file, &kind).oneshot(request).await {
        Ok(response) => response.into_response(),
        Err(never) => match never {},
    };
    let headers = response.headers_mut();
    headers.insert(header::CACHE_CONTROL, HeaderValue::from_static(kept));
    // A film may be more than a film: it is shown as one, or kept, and nothing of it runs.
    headers.insert(header::CONTENT_SECURITY_POLICY, HeaderValue::from_static(NOTHING_RUNS));
    if alone {
        headers.insert(header::CONTENT_DISPOSITION, HeaderValue::from_static("attachment"));
    }
    Ok(response)
}

const NOTHING_RUNS: &str = "default-src 'none'; media-src 'self'; img-src 'self'; sandbox";

/// Whether a browser asks for it in order to show it by itself, and not on the page.
fn opened_alone(request: &Request) -> bool {
    let wanted = request.headers().get("sec-fetch-dest").and_then(|h| h.to_str().ok());
    wanted.is_some_and(|w| ["document", "iframe", "frame", "embed", "object"].contains(&w))
}
