//! The HTTP interface: handlers extract, call the store or the core, and answer.

pub mod analyse;
pub mod archive;
pub mod bin;
pub mod clip;
pub mod compare;
pub mod edit;
pub mod ground;
pub mod horse;
pub mod job;
pub mod media;
pub mod page;
pub mod plan;
pub mod record;
pub mod report;
pub mod session;
pub mod setup;
pub mod upload;
pub mod yard;

use std::sync::Arc;

use axum::Router;
use axum::extract::{FromRequest, FromRequestParts};
use axum::http::{HeaderValue, StatusCode, header};
use axum::routing::get;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::csrf::CsrfLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use utoipa::OpenApi;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::app::App;
use crate::problem::Problem;

/// JSON in, with refusals as problems.
#[derive(FromRequest)]
#[from_request(via(axum::Json), rejection(Problem))]
pub struct Json<T>(pub T);

/// Parts of the address, with refusals as problems.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Path), rejection(Problem))]
pub struct Path<T>(pub T);

/// Options of the address, with refusals as problems.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Query), rejection(Problem))]
pub struct Query<T>(pub T);

type State = axum::extract::State<Arc<App>>;
type Answer<T> = Result<axum::Json<T>, Problem>;

#[derive(OpenApi)]
#[openapi(info(
    title = "Umlauf",
    description = "Horses, sessions, clips, marks of footfalls and their analysis. Errors are `application/problem+json`."
))]
struct Api;

fn api() -> OpenApiRouter<Arc<App>> {
    OpenApiRouter::with_openapi(Api::openapi())
        .routes(routes!(yard::yard))
        .routes(routes!(yard::add_horse))
        .routes(routes!(yard::add_session))
        .routes(routes!(yard::change_session, bin::remove_session))
        .routes(routes!(bin::restore_session))
        .routes(routes!(horse::change_horse, bin::remove_horse))
        .routes(routes!(bin::restore_horse))
        .routes(routes!(bin::restore_clip))
        .routes(routes!(bin::space))
        .routes(routes!(bin::empty))
        .routes(routes!(setup::setup, setup::change))
        .routes(routes!(setup::keys, setup::change_keys))
        .routes(routes!(setup::hand, setup::forget_hand))
        .routes(routes!(upload::begin, upload::list))
        .routes(routes!(upload::append, upload::abandon))
        .routes(routes!(upload::finish))
        .routes(routes!(clip::clip, bin::remove_clip))
        .routes(routes!(clip::place))
        .routes(routes!(clip::settings))
        .routes(routes!(clip::frames))
        .routes(routes!(clip::sound))
        .routes(routes!(clip::footfalls))
        .routes(routes!(clip::captions))
        .routes(routes!(clip::clicks))
        .routes(routes!(session::glance))
        .routes(routes!(edit::desk))
        .routes(routes!(ground::ground))
        .routes(routes!(ground::calibrate))
        .routes(routes!(plan::figure))
        .routes(routes!(compare::compare))
        .routes(routes!(record::record))
        .routes(routes!(record::set_target))
        .routes(routes!(record::set_mark))
        .routes(routes!(report::of_session))
        .routes(routes!(report::of_period))
        .routes(routes!(report::csv))
        .routes(routes!(archive::export))
        .routes(routes!(archive::import))
        .routes(routes!(edit::revision))
        .routes(routes!(edit::edit))
        .routes(routes!(edit::undo))
        .routes(routes!(edit::redo))
        .routes(routes!(edit::next))
        .routes(routes!(edit::again))
        .routes(routes!(job::list))
        .routes(routes!(job::cancel))
        .routes(routes!(job::retry))
        .routes(routes!(analyse::analyse))
}

/// The OpenAPI document as JSON.
pub fn openapi() -> String {
    // The document is a tree of maps: it always serialises.
    api().into_openapi().to_pretty_json().unwrap_or_default()
}

/// Everything that is served: `/api`, `/media` and the page.
pub fn router(app: Arc<App>) -> Router {
    let document = openapi();
    let (api, _) = api().split_for_parts();
    let nowhere = || async {
        Problem::new(StatusCode::NOT_FOUND, "not-found", "there is nothing at this address")
    };
    let wrong_method = || async {
        Problem::new(
            StatusCode::METHOD_NOT_ALLOWED,
            "method-not-allowed",
            "this address does not take that method; see /api/openapi.json",
        )
    };
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
        .method_not_allowed_fallback(wrong_method)
        .fallback(page::page)
        .layer(CsrfLayer::new())
        .layer(CatchPanicLayer::custom(|_: Box<dyn std::any::Any + Send>| {
            axum::response::IntoResponse::into_response(Problem::internal(&"a handler panicked"))
        }))
        .layer(SetResponseHeaderLayer::overriding(header::CONTENT_SECURITY_POLICY, policy))
        .layer(SetResponseHeaderLayer::overriding(
            header::X_CONTENT_TYPE_OPTIONS,
            HeaderValue::from_static("nosniff"),
        ))
        .layer(axum::middleware::from_fn(local_names_only))
        .with_state(app)
}

/// Refuses requests that reach this machine under a foreign name: a page elsewhere must not point
/// a name of its own at this server and read the yard through it. Names without a dot, `.local`
/// and addresses are a machine's own.
async fn local_names_only(
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
        axum::response::IntoResponse::into_response(Problem::new(
            StatusCode::FORBIDDEN,
            "foreign-name",
            "open Umlauf by this machine's own name or address",
        ))
    }
}
