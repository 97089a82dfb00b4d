//! A limb of the flat horse at an instant: the hoof stands or swings by rules of its own, two links
//! reach up to the body.

use umlauf_gait::base::limb::Limb;

use crate::truth::{Stance, Truth};

/// Joints of a limb, m: along the way ridden and above the ground.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Joints {
    /// Where it leaves the body.
    pub root: (f64, f64),
    /// Knee or hock.
    pub middle: (f64, f64),
    /// Fetlock.
    pub fetlock: (f64, f64),
    /// Heel.
    pub heel: (f64, f64),
    /// Toe.
    pub toe: (f64, f64),
    /// Whether it bears weight.
    pub stands: bool,
}

/// The last share of a stance in which the heel is off and the hoof turns over its toe.
pub const BREAKS_OVER: f64 = 0.13;

/// How a horse carries its limbs; lengths by the height at the withers.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Action {
    /// How high a hoof is lifted.
    pub lift: f64,
    /// Length of a hoof.
    pub hoof: f64,
    /// How long limbs are for the body: 1 as usual.
    pub leggy: f64,
}

/// A limb at time `t`.
pub fn limb(truth: &Truth, limb: Limb, t: f64, action: Action) -> Joints {
    let h = truth.ride.withers;
    let (toe, turned, stands) = hoof(truth, limb, t, action);
    let hoof = action.hoof * h;
    // The heel behind the toe, higher by the turn of the hoof.
    let (s, c) = turned.sin_cos();
    let heel = (toe.0 - hoof * c, toe.1 + hoof * s);
    let slope = 0.9 + 0.9 * turned;
    let pastern = 0.085 * h * action.leggy;
    let fetlock =
        (heel.0 + 0.3 * hoof - pastern * slope.cos(), heel.1 + 0.6 * hoof + pastern * slope.sin());
    let body = truth.ride.body_at(t);
    let heave = 0.012 * h * (std::f64::consts::TAU * t / truth.ride.template.stride_s * 2.0).sin();
    let (root, upper, lower, bends) = if limb.is_hind() {
        ((body - 0.31 * h, 0.52 * h + heave), 0.28 * h, 0.25 * h, -1.0)
    } else {
        ((body + 0.27 * h, 0.50 * h + heave), 0.27 * h, 0.21 * h, 1.0)
    };
    let middle = bent(root, fetlock, (upper * action.leggy, lower * action.leggy), bends);
    Joints { root, middle, fetlock, heel, toe, stands }
}

/// Toe, the turn of the hoof over it, and whether it stands.
fn hoof(truth: &Truth, limb: Limb, t: f64, action: Action) -> ((f64, f64), f64, bool) {
    let all = &truth.stances[limb.index()];
    let length = truth.ride.template.speed * truth.ride.template.stride_s;
    let period = truth.ride.template.stride_s;
    let first = all[0];
    let last = all[all.len() - 1];
    let later = |s: Stance, by: f64| Stance {
        on: s.on + by * period,
        off: s.off + by * period,
        along: s.along + by * length,
    };
    let before = later(first, -1.0);
    let after = later(last, 1.0);
    let k = all.partition_point(|s| s.on <= t);
    let own = if k == 0 { before } else { all[k - 1] };
    if (own.on..own.off).contains(&t) {
        let share = (t - own.on) / (own.off - own.on);
        let over = ((share - 1.0 + BREAKS_OVER) / BREAKS_OVER).clamp(0.0, 1.0);
        return ((own.along, 0.0), 0.9 * over * over, true);
    }
    let next = all.get(k).copied().unwrap_or(after);
    let u = ((t - own.off) / (next.on - own.off).max(1e-6)).clamp(0.0, 1.0);
    // Slow as it leaves and as it lands, quick between.
    let way = u - (std::f64::consts::TAU * u).sin() / std::f64::consts::TAU;
    let reach = own.along + (next.along - own.along) * (0.04 * u + 0.96 * way);
    let up = action.lift * truth.ride.withers * (std::f64::consts::PI * u.powf(0.8)).sin().max(0.0);
    let turned = 0.9 * (1.0 - u).powi(2) - 0.25 * (std::f64::consts::PI * u).sin().powi(2) * u
        + 0.6 * (std::f64::consts::PI * u).sin();
    ((reach, up), turned, false)
}

/// The joint between two links from a root to an end, on the side that it bends to.
fn bent(root: (f64, f64), end: (f64, f64), links: (f64, f64), side: f64) -> (f64, f64) {
    let (dx, dy) = (end.0 - root.0, end.1 - root.1);
    let far = dx.hypot(dy).max(1e-6);
    let reach = far.min(0.999 * (links.0 + links.1));
    let along = (links.0 * links.0 - links.1 * links.1 + reach * reach) / (2.0 * reach);
    let out = (links.0 * links.0 - along * along).max(0.0).sqrt();
    let (ux, uy) = (dx / far, dy / far);
    (root.0 + ux * along - side * uy * out, root.1 + uy * along + side * ux * out)
}
