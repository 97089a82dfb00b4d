//! Findings of the ground: how long the strides are, whether that can be, what the prints show.

use crate::bouts::bout_figures::BoutFigures;
use crate::bouts::options::Options;
use crate::events::measured::Measured;
use crate::findings::certainty::Certainty;
use crate::findings::finding::Finding;
use crate::findings::ground_kind::GroundKind;
use crate::findings::kind::Kind;
use crate::ground::plausibility::{self};
use crate::ground::scale::Scale;
use crate::ground::travel::{self, Travel};
use crate::marks::movement::MovementKind;

/// From this 95 % error of a stride on, or under this angle, the camera should be moved.
const ROUGH: f64 = 0.06;

const ALONG_DEG: f64 = 25.0;

/// Findings of every bout with strides.
pub fn of_ground(measured: &Measured, options: &Options) -> Vec<Finding> {
    let mut out = Vec::new();
    for (k, bout) in measured.bouts.iter().enumerate().filter(|(_, b)| b.strides > 0) {
        let mut add = |kind, sure| {
            let (start_s, end_s) = (bout.start_s, bout.end_s);
            out.push(Finding { kind: Kind::Ground(kind), bout: k, start_s, end_s, sure });
        };
        lengths(bout, options, &mut add);
        prints(bout, options.thresholds.crooked_m, &mut add);
    }
    out
}

fn lengths(bout: &BoutFigures, options: &Options, add: &mut impl FnMut(GroundKind, Certainty)) {
    let Some(travel) = bout.travel else { return };
    if let Some(what) = bout.impossible {
        add(GroundKind::Impossible { what, gait: bout.label.gait }, Certainty::Clear);
    }
    for other in &bout.other_ways {
        if plausibility::disagree(&travel, other) {
            let of = |t: &Travel| (t.source, t.stride_length);
            add(GroundKind::Disagree { used: of(&travel), other: of(other) }, Certainty::Clear);
        }
    }
    if let Some((angle_deg, share)) = looks_along(bout, options)
        && (angle_deg.is_some_and(|a| a < ALONG_DEG) || share > ROUGH)
    {
        add(GroundKind::MoveCamera { angle_deg, share }, Certainty::Clear);
    }
    let size_free = options.withers.map(|h| travel.stride_length.value / h.0).zip(bout.froude);
    let (length, speed, source) = (travel.stride_length, travel.speed, travel.source);
    add(GroundKind::Stride { length, speed, source, size_free }, Certainty::Clear);
}

/// Angle of sight and error of one stride where the bout was ridden, by the ground plane.
fn looks_along(bout: &BoutFigures, options: &Options) -> Option<(Option<f64>, f64)> {
    let scale = options.scale.as_ref()?;
    let Scale::Ground(plane) = scale else { return None };
    let (at, direction) = bout.prints.way?;
    let length = bout.travel?.stride_length.value;
    let share = 1.96 * travel::scale_error(scale, at, direction, length)?;
    Some((plane.view_angle_deg(at, direction), share))
}

fn prints(bout: &BoutFigures, crooked_m: f64, add: &mut impl FnMut(GroundKind, Certainty)) {
    let said = bout.movement.as_ref().and_then(|m| m.kind.lateral());
    match bout.lateral_seen {
        Some(Ok(seen)) => add(GroundKind::Lateral { seen, said }, Certainty::Clear),
        Some(Err(why)) => add(GroundKind::Untold { why }, Certainty::CannotTell),
        None => {}
    }
    let straight = bout.movement.as_ref().is_none_or(|m| m.kind == MovementKind::Straight);
    if straight
        && bout.lateral_seen.is_none()
        && let Some(beside) = bout.prints.hinds_beside_m
        && let Some((lo, hi)) = beside.ci95
        && beside.value.abs() >= crooked_m
    {
        let clear = lo > crooked_m || hi < -crooked_m;
        if lo > 0.0 || hi < 0.0 {
            let sure = if clear { Certainty::Clear } else { Certainty::Likely };
            add(GroundKind::Crooked { beside }, sure);
        }
    }
}
