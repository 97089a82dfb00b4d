//! What there is to choose from, by its name in files and in words.

use serde::Serialize;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::marks::movement::MovementKind;
use umlauf_gait::words::movements::{gait_choice, movement_words};
use utoipa::ToSchema;

/// What there is to choose from.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Vocabulary {
    /// Movements and exercises.
    pub movements: Vec<Choice>,
    /// Gaits that can be ridden.
    pub gaits: Vec<Choice>,
}

/// One of them.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Choice {
    /// Its name in files; of a movement with a plan, what stands before the numbers.
    pub id: String,
    /// In words.
    pub says: String,
    /// `tempi` or `drill` when it asks for numbers.
    pub plan: Option<String>,
}

/// All that there is to choose from.
pub fn vocabulary() -> Vocabulary {
    let movement = |kind: MovementKind| {
        let planned = |id: &str, says: &str| Choice {
            id: id.to_owned(),
            says: says.to_owned(),
            plan: Some(id.to_owned()),
        };
        match kind {
            MovementKind::Tempi { .. } => planned("tempi", "flying changes every n strides"),
            MovementKind::Drill(..) => planned("drill", "transition drill"),
            other => Choice { id: other.name(), says: movement_words(&other), plan: None },
        }
    };
    let gait = |gait: Gait| {
        let says = gait_choice(gait)?.to_owned();
        Some(Choice { id: gait.code().to_owned(), says, plan: None })
    };
    Vocabulary {
        movements: MovementKind::offered().into_iter().map(movement).collect(),
        gaits: Gait::ALL.into_iter().filter_map(gait).collect(),
    }
}
