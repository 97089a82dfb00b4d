//! The kinds of findings of the ground.

use crate::base::gait::Gait;
use crate::ground::lateral_seen::{Seen, Untold};
use crate::ground::plausibility::Impossible;
use crate::ground::source::Source;
use crate::marks::movement::LateralMovement;
use crate::stats::estimate::Estimate;

/// What the ground tells.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum GroundKind {
    /// How long the strides are.
    Stride {
        /// Length, m.
        length: Estimate,
        /// Speed, m/s.
        speed: Estimate,
        /// Which way it was found.
        source: Source,
        /// Withers heights and Froude number, when the height is known.
        size_free: Option<(f64, f64)>,
    },
    /// A length that no horse has.
    Impossible {
        /// What cannot be.
        what: Impossible,
        /// In which gait.
        gait: Gait,
    },
    /// Two ways that contradict each other.
    Disagree {
        /// The way used, and the length by it.
        used: (Source, Estimate),
        /// The other.
        other: (Source, Estimate),
    },
    /// The camera looks along the track.
    MoveCamera {
        /// Angle between line of sight and track, degrees.
        angle_deg: Option<f64>,
        /// 95 % error of one stride's length by scale and clicks, share.
        share: f64,
    },
    /// What lateral movement the prints show, and what was said.
    Lateral {
        /// Seen.
        seen: Seen,
        /// Said by the coach.
        said: Option<LateralMovement>,
    },
    /// Work on more tracks without a name.
    Untold {
        /// Why.
        why: Untold,
    },
    /// The quarters run beside the forehand on a straight line.
    Crooked {
        /// How far to the left, m.
        beside: Estimate,
    },
}

impl GroundKind {
    /// Whether it asks for attention.
    pub fn is_fault(&self) -> bool {
        match self {
            Self::Stride { .. } | Self::Untold { .. } => false,
            Self::Lateral { seen, said } => said.is_some_and(|s| s != seen.movement),
            _ => true,
        }
    }
}
