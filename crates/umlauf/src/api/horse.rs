//! A horse's card: what the coach says of it.

use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use umlauf_gait::base::gait::Gait;
use umlauf_store::horse::HorseCard;
use utoipa::ToSchema;

use super::{Json, Path, State};
use crate::problem::Problem;

/// A horse's card.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct HorseForm {
    /// Name.
    pub name: String,
    /// Height at the withers, m.
    pub withers_m: Option<f64>,
    /// Gaited.
    #[serde(default)]
    pub gaited: bool,
    /// Year of birth.
    pub born: Option<i32>,
    /// Degree of collection, 1 to 4.
    pub degree: Option<u8>,
    /// The gait it is meant to go, for a gaited horse; by its name in files, or empty.
    #[serde(default)]
    pub intended_gait: String,
    /// `left` or `right`.
    pub weak_side: Option<String>,
    /// Trouble with leads.
    #[serde(default)]
    pub leads: String,
    /// What there was before; not for the rider.
    #[serde(default)]
    pub history: String,
    /// What it is to learn.
    #[serde(default)]
    pub goals: String,
    /// What to mind.
    #[serde(default)]
    pub cautions: String,
}

impl HorseForm {
    /// As the store keeps it.
    pub fn of(card: &HorseCard) -> Self {
        let c = card.clone();
        Self {
            name: c.name,
            withers_m: c.withers_m,
            gaited: c.gaited,
            born: c.born,
            degree: c.degree,
            intended_gait: c.intended_gait,
            weak_side: c.weak_side,
            leads: c.leads,
            history: c.history,
            goals: c.goals,
            cautions: c.cautions,
        }
    }

    fn card(self) -> HorseCard {
        HorseCard {
            name: self.name,
            withers_m: self.withers_m,
            gaited: self.gaited,
            born: self.born,
            degree: self.degree,
            intended_gait: self.intended_gait,
            weak_side: self.weak_side,
            leads: self.leads,
            history: self.history,
            goals: self.goals,
            cautions: self.cautions,
        }
    }
}

/// Changes a horse's card.
#[utoipa::path(put, path = "/api/horses/{horse}", params(("horse" = i64, Path,)),
    request_body = HorseForm,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change_horse(
    state: State,
    Path(id): Path<i64>,
    Json(form): Json<HorseForm>,
) -> Result<StatusCode, Problem> {
    let gait = form.intended_gait.trim();
    if !gait.is_empty() && Gait::named(gait).is_none() {
        let says = "the intended gait is no gait that Umlauf knows";
        return Err(Problem::new(StatusCode::UNPROCESSABLE_ENTITY, "invalid", says));
    }
    state.with(move |s| s.change_horse(id, &form.card())).await?;
    Ok(StatusCode::NO_CONTENT)
}
