//! Horses, their sessions and clips.

use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use umlauf_store::yard::About;
use utoipa::ToSchema;

use crate::api::extract::{Answer, Json, Path, State};
use crate::problem::Problem;
use crate::refused::Refused;
use crate::yard::list::{Yard, read};

/// A new horse.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewHorse {
    /// Name.
    name: String,
    /// Height at the withers, m.
    withers_m: Option<f64>,
    /// Gaited.
    #[serde(default)]
    gaited: bool,
}

/// A session, new or changed.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SessionForm {
    /// `YYYY-MM-DD`.
    #[schema(value_type = String, format = Date)]
    date: jiff::civil::Date,
    /// The coach's words.
    #[serde(default)]
    note: String,
    /// Who rode.
    #[serde(default)]
    rider: String,
    /// Where.
    #[serde(default)]
    arena: String,
    /// Footing.
    #[serde(default)]
    surface: String,
    /// What the rider felt, in their own words.
    #[serde(default)]
    felt: String,
    /// The rider's own score, 0 to 10.
    #[serde(default)]
    score: Option<f64>,
}

impl SessionForm {
    fn about(&self) -> About {
        About {
            note: self.note.clone(),
            rider: self.rider.clone(),
            arena: self.arena.clone(),
            surface: self.surface.clone(),
            felt: self.felt.clone(),
            score: self.score,
        }
    }
}

/// The number of something new.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Added {
    /// Number.
    pub id: i64,
}

/// Horses, sessions and clips.
#[utoipa::path(get, path = "/api/yard", responses((status = 200, body = Yard)))]
pub async fn yard(state: State) -> Answer<Yard> {
    state.read(read).await.map(axum::Json)
}

/// Adds a horse.
#[utoipa::path(post, path = "/api/horses", request_body = NewHorse,
    responses((status = 200, body = Added), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn add_horse(state: State, Json(new): Json<NewHorse>) -> Answer<Added> {
    let horse = state.with(move |s| s.add_horse(&new.name, new.withers_m, new.gaited)).await?;
    Ok(axum::Json(Added { id: horse.id }))
}

/// Adds a session of a horse.
#[utoipa::path(post, path = "/api/horses/{horse}/sessions", request_body = SessionForm,
    params(("horse" = i64, Path,)),
    responses((status = 200, body = Added), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn add_session(
    state: State,
    Path(horse): Path<i64>,
    Json(new): Json<SessionForm>,
) -> Answer<Added> {
    let session =
        state.with(move |s| s.add_session(horse, &new.date.to_string(), &new.about())).await?;
    Ok(axum::Json(Added { id: session.id }))
}

/// Changes what is said of a session.
#[utoipa::path(put, path = "/api/sessions/{session}", request_body = SessionForm,
    params(("session" = i64, Path,)),
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change_session(
    state: State,
    Path(id): Path<i64>,
    Json(form): Json<SessionForm>,
) -> Result<StatusCode, Refused> {
    state.with(move |s| s.change_session(id, &form.date.to_string(), &form.about())).await?;
    Ok(StatusCode::NO_CONTENT)
}
