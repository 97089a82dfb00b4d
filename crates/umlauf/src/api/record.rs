//! A horse's record over HTTP, its targets and the coach's own marks.

use axum::http::StatusCode;
use serde::Deserialize;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::season::card_row::Row;
use utoipa::ToSchema;

use crate::api::extract::{Answer, Json, Path, Query, State};
use crate::compare::target::target_key;
use crate::problem::Problem;
use crate::record::filter::Filter;
use crate::record::read::{self, Record};
use crate::refused::Refused;

/// A horse's target.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Target {
    /// Gait.
    gait: String,
    /// Strides/min; `null` takes it away.
    tempo: Option<f64>,
}

/// The coach's own mark for a figure of a session.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct OwnMark {
    /// Gait.
    gait: String,
    /// Figure of the card, by its name in files.
    figure: String,
    /// 0 to 10; `null` takes it back.
    mark: Option<f64>,
}

fn invalid(says: &str) -> Refused {
    Refused::invalid(says)
}

fn gait_of(word: &str) -> Result<Gait, Refused> {
    Gait::named(word).ok_or_else(|| invalid("this is no gait that Umlauf knows"))
}

/// A horse's record.
#[utoipa::path(get, path = "/api/horses/{horse}/record", params(("horse" = i64, Path,), Filter),
    responses((status = 200, body = Record), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn record(
    state: State,
    Path(id): Path<i64>,
    Query(filter): Query<Filter>,
) -> Answer<Record> {
    state.read_at_length(move |s| read::read(s, id, &filter)).await.map(axum::Json)
}

/// Sets a target tempo.
#[utoipa::path(put, path = "/api/horses/{horse}/target", params(("horse" = i64, Path,)),
    request_body = Target,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn set_target(
    state: State,
    Path(id): Path<i64>,
    Json(new): Json<Target>,
) -> Result<StatusCode, Refused> {
    let gait = gait_of(&new.gait)?;
    if new.tempo.is_some_and(|t| !(20.0..=180.0).contains(&t)) {
        return Err(invalid("a target tempo lies between 20 and 180 strides/min"));
    }
    state
        .with(move |s| {
            s.horse(id)?;
            s.set_choice(&target_key(id, gait), new.tempo.map(|t| t.to_string()).as_deref())
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Sets the coach's own mark beside the measured one.
#[utoipa::path(put, path = "/api/sessions/{session}/mark", params(("session" = i64, Path,)),
    request_body = OwnMark,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn set_mark(
    state: State,
    Path(session): Path<i64>,
    Json(new): Json<OwnMark>,
) -> Result<StatusCode, Refused> {
    let gait = gait_of(&new.gait)?;
    let row = Row::named(&new.figure).ok_or_else(|| invalid("this is no figure of a gait card"))?;
    state.with(move |s| s.set_coach_mark(session, gait.code(), row.word(), new.mark)).await?;
    Ok(StatusCode::NO_CONTENT)
}
