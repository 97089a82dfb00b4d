//! Everything that is served: `/api`, `/media` and the page.

use std::sync::Arc;
use std::time::Duration;

use axum::Router;
use axum::http::{HeaderName, HeaderValue, header};
use axum::response::IntoResponse as _;
use axum::routing::get;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::csrf::CsrfLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::timeout::RequestBodyTimeoutLayer;

use crate::api::routes::{api, openapi};
use crate::api::{media, shown, tablet};
use crate::app::App;
use crate::refused::Refused;
use crate::server::door::{door, kept_by_nobody_else};
use crate::server::fences::{local_names_only, own_page_only, own_yard_only};
use crate::server::lanes::{Slow, in_turn};
use crate::server::page;

/// Whoever sends a body sends something of it within this time.
const PATIENCE: Duration = Duration::from_secs(60);

/// A header of every answer.
fn says(name: HeaderName, value: &'static str) -> SetResponseHeaderLayer<HeaderValue> {
    SetResponseHeaderLayer::overriding(name, HeaderValue::from_static(value))
}

/// Everything that is served: `/api`, `/media` and the page.
pub fn router(app: Arc<App>) -> Router {
    let document = openapi();
    let (api, _) = api().split_for_parts();
    let nowhere = || async { Refused::Missing("there is nothing at this address") };
    let wrong_method = || async { Refused::WrongMethod };
    let policy = HeaderValue::from_static(
        "default-src 'self'; img-src 'self' data: blob:; media-src 'self' blob:; font-src 'self' data:; \
         style-src 'self' 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; form-action 'self'",
    );
    Router::new()
        .merge(api)
        .route(
            "/api/openapi.json",
            get(move || async move { ([(header::CONTENT_TYPE, "application/json")], document) }),
        )
        .route("/api/{*rest}", axum::routing::any(nowhere))
        .route("/media/{content}/{which}", get(media::media))
        .route("/tablet", get(tablet::page))
        .route("/tablet/yard.crt", get(tablet::certificate))
        .route("/tablet/trusted.svg", get(tablet::trusted))
        .route("/link/{secret}", get(shown::shown))
        .route("/link/{secret}/film", get(shown::film))
        .method_not_allowed_fallback(wrong_method)
        .fallback(page::page)
        .layer(axum::middleware::from_fn_with_state(Slow::new(), in_turn))
        .layer(axum::middleware::from_fn_with_state(Arc::clone(&app), door))
        .layer(axum::middleware::from_fn(kept_by_nobody_else))
        .layer(RequestBodyTimeoutLayer::new(PATIENCE))
        .layer(CsrfLayer::new())
        .layer(CatchPanicLayer::custom(|_: Box<dyn std::any::Any + Send>| {
            Refused::Failed("a handler panicked".to_owned()).into_response()
        }))
        .layer(axum::middleware::from_fn(own_page_only))
        .layer(axum::middleware::from_fn_with_state(Arc::clone(&app), own_yard_only))
        // A film has a stricter one.
        .layer(SetResponseHeaderLayer::if_not_present(header::CONTENT_SECURITY_POLICY, policy))
        .layer(says(header::X_CONTENT_TYPE_OPTIONS, "nosniff"))
        .layer(says(header::REFERRER_POLICY, "no-referrer"))
        // What tells a tablet whether it trusts the yard is asked for over the plain line too.
        .layer(SetResponseHeaderLayer::if_not_present(
            HeaderName::from_static("cross-origin-resource-policy"),
            HeaderValue::from_static("same-origin"),
        ))
        .layer(says(HeaderName::from_static("cross-origin-opener-policy"), "same-origin"))
        .layer(axum::middleware::from_fn_with_state(Arc::clone(&app), local_names_only))
        .with_state(app)
}
