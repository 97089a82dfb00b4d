//! A horse's card, as the page reads and writes it.

use serde::{Deserialize, Serialize};
use umlauf_store::horse::HorseCard;
use utoipa::ToSchema;

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

    pub(crate) fn card(self) -> HorseCard {
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
