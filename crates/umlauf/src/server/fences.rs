//! Who may reach the server at all.

use std::sync::Arc;

use axum::extract::{Request, State};
use axum::http::{HeaderName, HeaderValue, header};
use axum::middleware::Next;
use axum::response::{IntoResponse as _, Response};

use crate::app::App;
use crate::refused::Refused;

/// The header by which an answer names its yard, and a page the yard it was made of.
pub const YARD: HeaderName = HeaderName::from_static("umlauf-yard");

/// Refuses requests that reach this machine under a foreign name: a page elsewhere must not point
/// a name of its own at this server and read the yard through it. Names without a dot, `.local`
/// and addresses are a machine's own, and so are those it was started with.
pub(crate) async fn local_names_only(
    State(app): State<Arc<App>>,
    request: Request,
    next: Next,
) -> Response {
    let host = request.headers().get(header::HOST).and_then(|h| h.to_str().ok()).unwrap_or("");
    let name = host.rsplit_once(':').filter(|(_, p)| p.bytes().all(|b| b.is_ascii_digit()));
    let name = name.map_or(host, |(name, _)| name).trim_matches(['[', ']']);
    let own = name.parse::<std::net::IpAddr>().is_ok()
        || !name.contains('.')
        || name.ends_with(".local")
        || name.ends_with(".lan")
        || app.network.borrow().names.iter().any(|own| own == name);
    if own { next.run(request).await } else { Refused::ForeignName.into_response() }
}

/// Refuses what another site's page asks for, be it only to look: a yard is read by its own page alone. Browsers say
/// where a request comes from; programs do not, and are no pages.
pub(crate) async fn own_page_only(request: Request, next: Next) -> Response {
    let from = request.headers().get("sec-fetch-site").and_then(|h| h.to_str().ok());
    let of_the_yard = ["/api/", "/media/"].iter().any(|p| request.uri().path().starts_with(p));
    if of_the_yard && from.is_some_and(|from| from != "same-origin" && from != "none") {
        Refused::ForeignName.into_response()
    } else {
        next.run(request).await
    }
}

/// Refuses a page that was made of another yard: what it wants to change stands there, not here.
pub(crate) async fn own_yard_only(
    State(app): State<Arc<App>>,
    request: Request,
    next: Next,
) -> Response {
    let made_of = request.headers().get(&YARD);
    let mut response = if made_of.is_some_and(|yard| yard.as_bytes() != app.identity.as_bytes()) {
        Refused::OtherYard.into_response()
    } else {
        next.run(request).await
    };
    if let Ok(yard) = HeaderValue::from_str(&app.identity) {
        response.headers_mut().insert(YARD, yard);
    }
    response
}
