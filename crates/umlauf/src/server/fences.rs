//! Who may reach the server at all.

use axum::http::header;

use crate::refused::Refused;

/// Refuses requests that reach this machine under a foreign name: a page elsewhere must not point
/// a name of its own at this server and read the yard through it. Names without a dot, `.local`
/// and addresses are a machine's own.
pub(crate) async fn local_names_only(
    request: axum::extract::Request,
    next: axum::middleware::Next,
) -> axum::response::Response {
    let host = request.headers().get(header::HOST).and_then(|h| h.to_str().ok()).unwrap_or("");
    let name = host.rsplit_once(':').filter(|(_, p)| p.bytes().all(|b| b.is_ascii_digit()));
    let name = name.map_or(host, |(name, _)| name).trim_matches(['[', ']']);
    let own = name.parse::<std::net::IpAddr>().is_ok()
        || !name.contains('.')
        || name.ends_with(".local")
        || name.ends_with(".lan");
    if own {
        next.run(request).await
    } else {
        axum::response::IntoResponse::into_response(Refused::ForeignName)
    }
}
