//! Movements: what is ridden.

use crate::base::limb::Side;

/// A movement as written: `shoulder-in`, `tempi-4x5`, …, with its side.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Movement {
    /// Name.
    pub name: String,
    /// Rein or direction.
    pub side: Option<Side>,
}

impl Movement {
    /// From a detail: a name, optionally followed by a space and a side.
    pub fn named(text: &str) -> Self {
        let (name, side) = match text.rsplit_once(' ') {
            Some((name, side)) => (name, side.parse().ok()),
            None => (text, None),
        };
        let name = if side.is_some() { name } else { text };
        Self { name: name.trim().to_owned(), side }
    }

    /// Every how many strides and how many changes, of `tempi-4` or `tempi-4x5`.
    pub fn tempi(&self) -> Option<(usize, Option<usize>)> {
        let plan = self.name.strip_prefix("tempi-")?;
        let (every, count) = match plan.split_once('x') {
            Some((every, count)) => (every, Some(count.parse().ok()?)),
            None => (plan, None),
        };
        let every = every.parse().ok().filter(|n| (1..=8).contains(n))?;
        Some((every, count))
    }
}

/// A lateral movement.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum LateralMovement {
    /// Forehand in, bent away from the direction of travel.
    ShoulderIn,
    /// Quarters in, bent towards the direction of travel.
    Travers,
    /// Quarters on the track, forehand in, bent towards the direction of travel.
    Renvers,
    /// Sideways and forward, bent towards the direction of travel.
    HalfPass,
    /// Sideways and forward, straight.
    LegYield,
}

impl LateralMovement {
    /// From a movement's name in files.
    pub fn of(movement: &Movement) -> Option<Self> {
        Some(match movement.name.as_str() {
            "shoulder-in" => Self::ShoulderIn,
            "travers" => Self::Travers,
            "renvers" => Self::Renvers,
            "half-pass" => Self::HalfPass,
            "leg-yield" => Self::LegYield,
            _ => return None,
        })
    }

    /// Its name in files.
    pub const fn name(self) -> &'static str {
        match self {
            Self::ShoulderIn => "shoulder-in",
            Self::Travers => "travers",
            Self::Renvers => "renvers",
            Self::HalfPass => "half-pass",
            Self::LegYield => "leg-yield",
        }
    }
}
