//! How a mark came about, with what its error is known from.

use serde::{Deserialize, Serialize};

/// Who or what put a mark where it is.
#[derive(Clone, Debug, Default, Deserialize, PartialEq, Serialize)]
#[serde(tag = "how", rename_all = "snake_case")]
pub enum Origin {
    /// A person stepped to the frame that shows it, or dragged it there.
    #[default]
    Stepped,
    /// A person tapped it while the footage played.
    Tapped {
        /// Playback rate, 1 for the file's own.
        rate: f64,
    },
    /// A detector suggested it.
    Suggested {
        /// Which detector.
        detector: String,
        /// Standard deviation that the detector gives it, true seconds.
        sd_s: f64,
        /// Chance that it is right, 0 to 1; a detector may give none.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        sure: Option<f64>,
        /// Why it is less than sure.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        why: String,
        /// What the coach has said to it.
        #[serde(default)]
        answer: Answer,
    },
    /// A sensor on the horse gave it.
    Sensor {
        /// Which sensor.
        name: String,
        /// Standard deviation of its time, true seconds.
        sd_s: f64,
    },
}

impl Origin {
    /// Whether its numbers and names can be.
    pub(crate) fn is_possible(&self) -> bool {
        let named = |name: &str| (1..=64).contains(&name.chars().count());
        let sd = |s: f64| (0.0..=1.0).contains(&s);
        match self {
            Self::Stepped => true,
            Self::Tapped { rate } => (0.01..=16.0).contains(rate),
            Self::Suggested { detector, sd_s, sure, why, .. } => {
                named(detector)
                    && sd(*sd_s)
                    && sure.is_none_or(|p| (0.0..=1.0).contains(&p))
                    && why.chars().count() <= LONGEST_WHY
            }
            Self::Sensor { name, sd_s } => named(name) && sd(*sd_s),
        }
    }

    /// Whether it is suggested and not taken: it does not count.
    pub const fn is_open(&self) -> bool {
        matches!(self, Self::Suggested { answer: Answer::Open, .. })
    }
}

/// Letters of a reason at most.
const LONGEST_WHY: usize = 400;

/// What the coach has said to a suggestion.
#[derive(Clone, Copy, Debug, Default, Deserialize, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Answer {
    /// Nothing yet: it is shown, and does not count.
    Open,
    /// Taken with others, not looked at by itself.
    #[default]
    Taken,
    /// Looked at, and taken.
    Looked,
}
