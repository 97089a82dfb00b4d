//! The web page, built into the binary.

use axum::http::{HeaderValue, StatusCode, Uri, header};
use axum::response::{IntoResponse as _, Response};

use crate::assets::Dist;

/// A file of the page; addresses of screens get the page itself.
pub async fn page(uri: Uri) -> Response {
    let path = uri.path().trim_start_matches('/');
    if let Some(file) = Dist::get(path) {
        return answer(path, file.data.into_owned());
    }
    let looks_like_file = path.rsplit('/').next().is_some_and(|last| last.contains('.'));
    if looks_like_file {
        return (StatusCode::NOT_FOUND, "there is no such file").into_response();
    }
    match Dist::get("index.html") {
        Some(file) => answer("index.html", file.data.into_owned()),
        None => (
            StatusCode::SERVICE_UNAVAILABLE,
            "The page was not built into this program: run `make build`.",
        )
            .into_response(),
    }
}

fn answer(path: &str, data: Vec<u8>) -> Response {
    let mime = mime_guess::from_path(path).first_or_octet_stream();
    let mut response = data.into_response();
    if let Ok(value) = HeaderValue::from_str(mime.as_ref()) {
        response.headers_mut().insert(header::CONTENT_TYPE, value);
    }
    // Names under assets/ carry a hash of what is in them.
    let keep = if path.starts_with("assets/") {
        "public, max-age=31536000, immutable"
    } else {
        "no-cache"
    };
    response.headers_mut().insert(header::CACHE_CONTROL, HeaderValue::from_static(keep));
    response
}
