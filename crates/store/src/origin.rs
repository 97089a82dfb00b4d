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
            Self::Suggested { detector: name, sd_s } | Self::Sensor { name, sd_s } => {
                named(name) && sd(*sd_s)
            }
        }
    }
}
