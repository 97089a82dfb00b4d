//! Which lateral movement the prints show: where the horse is bent, and whether it goes towards
//! its bend or away from it.
//!
//! Bent away from the direction of travel is a shoulder-in; bent towards it a travers, a renvers
//! or, off the long side, a half-pass; straight it is a leg-yield. Travers and renvers differ only
//! by the end that stays on the track, so they need the wall.

use crate::ground::arena::Arena;
use crate::ground::hoof_prints::Prints;
use crate::marks::movement::LateralMovement;

/// What the prints show.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Seen {
    /// The movement.
    pub movement: LateralMovement,
    /// Body against the direction of travel, degrees, forehand to the left positive.
    pub body_deg: f64,
    /// Bend from quarters to forehand, degrees, to the left positive.
    pub bend_deg: f64,
}

/// Why prints of work on more than two tracks have no name.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Untold {
    /// The clicks leave the bend or the angle open.
    Vague,
    /// Where the wall is is not known: travers, renvers and half-pass look alike.
    NoWall,
    /// A bend towards the wall that has no name here.
    NoName,
}

/// Smallest body angle of a lateral movement, degrees (project default).
const BODY_DEG: f64 = 6.0;

/// Smallest bend, forehand's axis against the quarters', degrees (project default).
const BEND_DEG: f64 = 8.0;

/// From this angle to the long side the way leads across the arena, degrees (project default).
const ACROSS_DEG: f64 = 8.0;

/// The lateral movement that prints show, or why it has no name. `None` for a horse that goes
/// straight, as far as the prints tell. `way` is the direction of travel and `at` a place on it, in
/// the arena's coordinates; without an arena they are not known to stand to its walls.
pub fn seen(
    prints: &Prints,
    way: Option<((f64, f64), (f64, f64))>,
    arena: Option<Arena>,
) -> Option<Result<Seen, Untold>> {
    let body = prints.body_angle_deg?;
    let (lo, hi) = body.ci95?;
    if lo.abs().max(hi.abs()) < BODY_DEG {
        return None;
    }
    if lo < BODY_DEG && hi > -BODY_DEG {
        // The interval reaches from an angle to none.
        let none = body.value.abs() < BODY_DEG;
        return (!none).then_some(Err(Untold::Vague));
    }
    let Some((bend, (bend_lo, bend_hi))) = prints.bend_deg.and_then(|b| Some((b, b.ci95?))) else {
        return Some(Err(Untold::Vague));
    };
    let straight = bend_lo > -BEND_DEG && bend_hi < BEND_DEG;
    let bent = bend_lo > BEND_DEG || bend_hi < -BEND_DEG;
    let found = |movement| Some(Ok(Seen { movement, body_deg: body.value, bend_deg: bend.value }));
    if straight {
        return found(LateralMovement::LegYield);
    }
    if !bent {
        return Some(Err(Untold::Vague));
    }
    // The forehand points left of the way: the horse goes towards its own right.
    let away = (body.value > 0.0) == (bend.value > 0.0);
    let (Some(arena), Some(((x, _), (dx, dy)))) = (arena, way) else {
        return Some(if away {
            Ok(Seen {
                movement: LateralMovement::ShoulderIn,
                body_deg: body.value,
                bend_deg: bend.value,
            })
        } else {
            Err(Untold::NoWall)
        });
    };
    let off_side = dx.abs().atan2(dy.abs()).to_degrees();
    if off_side > ACROSS_DEG && off_side < 90.0 - ACROSS_DEG {
        return if away { Some(Err(Untold::NoName)) } else { found(LateralMovement::HalfPass) };
    }
    // Along a wall: the nearer long side, on the left or the right of the way.
    let wall_is_left = (x < arena.width / 2.0) == (dy > 0.0);
    let forehand_to_wall = (body.value > 0.0) == wall_is_left;
    match (away, forehand_to_wall) {
        (true, false) => found(LateralMovement::ShoulderIn),
        (true, true) => Some(Err(Untold::NoName)),
        (false, true) => found(LateralMovement::Travers),
        (false, false) => found(LateralMovement::Renvers),
    }
}
