//! Findings of the ground: how long the strides are, whether that can be, what the prints show.

use crate::analysis::{Analysis, BoutFigures, Options};
use crate::classify::Gait;
use crate::finding::{Finding, Kind, Sure};
use crate::ground::{self, Travel};
use crate::lateral::LateralMovement;
use crate::lateral_seen::{Seen, Untold};
use crate::plausible::{self, Impossible};
use crate::scale::{Scale, Source};
use crate::uncertainty::Estimate;

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

/// Quarters this far beside the forehand are crooked, m (project default).
const CROOKED_M: f64 = 0.08;
/// From this 95 % error of a stride on, or under this angle, the camera should be moved.
const ROUGH: f64 = 0.06;
const ALONG_DEG: f64 = 25.0;

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

/// Findings of every bout with strides.
pub fn of_ground(analysis: &Analysis, options: &Options) -> Vec<Finding> {
    let mut out = Vec::new();
    for (k, bout) in analysis.bouts.iter().enumerate().filter(|(_, b)| b.strides > 0) {
        let mut add = |kind, sure| {
            let (start_s, end_s) = (bout.start_s, bout.end_s);
            out.push(Finding { kind: Kind::Ground(kind), bout: k, start_s, end_s, sure });
        };
        lengths(bout, options, &mut add);
        prints(bout, &mut add);
    }
    out
}

fn lengths(bout: &BoutFigures, options: &Options, add: &mut impl FnMut(GroundKind, Sure)) {
    let Some(travel) = bout.travel else { return };
    if let Some(what) = bout.impossible {
        add(GroundKind::Impossible { what, gait: bout.label.gait }, Sure::Clear);
    }
    for other in &bout.other_ways {
        if plausible::disagree(&travel, other) {
            let of = |t: &Travel| (t.source, t.stride_length);
            add(GroundKind::Disagree { used: of(&travel), other: of(other) }, Sure::Clear);
        }
    }
    if let Some((angle_deg, share)) = looks_along(bout, options)
        && (angle_deg.is_some_and(|a| a < ALONG_DEG) || share > ROUGH)
    {
        add(GroundKind::MoveCamera { angle_deg, share }, Sure::Clear);
    }
    let size_free = options.withers.map(|h| travel.stride_length.value / h.0).zip(bout.froude);
    let (length, speed, source) = (travel.stride_length, travel.speed, travel.source);
    add(GroundKind::Stride { length, speed, source, size_free }, Sure::Clear);
}

/// Angle of sight and error of one stride where the bout was ridden, by the ground plane.
fn looks_along(bout: &BoutFigures, options: &Options) -> Option<(Option<f64>, f64)> {
    let scale = options.scale.as_ref()?;
    let Scale::Ground(plane) = scale else { return None };
    let (at, direction) = bout.prints.way?;
    let length = bout.travel?.stride_length.value;
    let share = 1.96 * ground::scale_error(scale, at, direction, length)?;
    Some((plane.view_angle_deg(at, direction), share))
}

fn prints(bout: &BoutFigures, add: &mut impl FnMut(GroundKind, Sure)) {
    let said = bout.movement.as_ref().and_then(LateralMovement::of);
    match bout.lateral_seen {
        Some(Ok(seen)) => add(GroundKind::Lateral { seen, said }, Sure::Clear),
        Some(Err(why)) => add(GroundKind::Untold { why }, Sure::CannotTell),
        None => {}
    }
    let straight = bout.movement.as_ref().is_none_or(|m| m.name == "straight");
    if straight
        && bout.lateral_seen.is_none()
        && let Some(beside) = bout.prints.hinds_beside_m
        && let Some((lo, hi)) = beside.ci95
        && beside.value.abs() >= CROOKED_M
    {
        let clear = lo > CROOKED_M || hi < -CROOKED_M;
        if lo > 0.0 || hi < 0.0 {
            let sure = if clear { Sure::Clear } else { Sure::Likely };
            add(GroundKind::Crooked { beside }, sure);
        }
    }
}
