//! Which address is answered by which handler.

use std::sync::Arc;

use utoipa::OpenApi;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::api::{
    act, analyse, archive, arena, bin, clip, compare, edit, found, ground, horse, job, link, me,
    network, one_horse, own, people, record, report, session, setup, trust, upload, vocabulary,
    yard,
};
use crate::app::App;

#[derive(OpenApi)]
#[openapi(info(
    title = "Umlauf",
    description = "Horses, sessions, clips, marks of footfalls and their analysis. Errors are `application/problem+json`."
))]
struct Api;

pub(crate) fn api() -> OpenApiRouter<Arc<App>> {
    OpenApiRouter::with_openapi(Api::openapi())
        .routes(routes!(yard::yard))
        .routes(routes!(vocabulary::read))
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
        .routes(routes!(upload::begin, upload::uploads))
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
        .routes(routes!(arena::figure))
        .routes(routes!(compare::compare))
        .routes(routes!(record::record))
        .routes(routes!(record::set_target))
        .routes(routes!(record::set_mark))
        .routes(routes!(report::of_session))
        .routes(routes!(report::of_period))
        .routes(routes!(report::csv))
        .routes(routes!(archive::export))
        .routes(routes!(archive::import))
        .routes(routes!(trust::check))
        .routes(routes!(trust::backups, trust::choose, trust::back_up))
        .routes(routes!(trust::restore))
        .routes(routes!(one_horse::days))
        .routes(routes!(one_horse::horses))
        .routes(routes!(one_horse::bring))
        .routes(routes!(me::me))
        .routes(routes!(me::sign_in))
        .routes(routes!(me::sign_out))
        .routes(routes!(me::change_password))
        .routes(routes!(people::people, people::add_person))
        .routes(routes!(people::change_person, people::remove_person))
        .routes(routes!(people::set_password))
        .routes(routes!(people::sign_out_person))
        .routes(routes!(act::acts))
        .routes(routes!(network::network, network::open_network))
        .routes(routes!(own::own))
        .routes(routes!(link::links, link::add_link))
        .routes(routes!(link::end_link))
        .routes(routes!(edit::revision))
        .routes(routes!(edit::edit))
        .routes(routes!(edit::undo))
        .routes(routes!(edit::redo))
        .routes(routes!(edit::next))
        .routes(routes!(edit::again))
        .routes(routes!(found::find))
        .routes(routes!(found::shown))
        .routes(routes!(found::anew))
        .routes(routes!(job::jobs))
        .routes(routes!(job::cancel))
        .routes(routes!(job::retry))
        .routes(routes!(analyse::analyse))
}

/// The OpenAPI document as JSON.
pub fn openapi() -> String {
    // The document is a tree of maps: it always serialises.
    api().into_openapi().to_pretty_json().unwrap_or_default()
}
