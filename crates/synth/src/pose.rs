//! The horse's joints at an instant.
//!
//! Hooves lead: a hoof on the ground stands still, the joints above it follow by inverse
//! kinematics. Behind, the reciprocal apparatus bends stifle and hock together, so thigh and
//! cannon keep their angle to one another and the three-link limb solves as two links. In front
//! the carpus is locked straight while the limb carries and folds only in swing. All lengths in
//! metres; the frame of a pose moves with the body: x forward, y left, z up.

use std::f64::consts::TAU;

use umlauf_gait::base::limb::{Limb, Side};

use crate::truth::Truth;
use crate::vec3::{V3, v3};

/// Joints of one limb from the top down.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LimbPose {
    /// Hip joint, or the shoulder blade's upper centre of rotation.
    pub root: V3,
    /// Stifle, or the point of the shoulder.
    pub upper: V3,
    /// Hock, or the elbow.
    pub middle: V3,
    /// Hind: the same as the hock; fore: the carpus.
    pub lower: V3,
    /// Fetlock.
    pub fetlock: V3,
    /// Coronet, the top of the hoof.
    pub coronet: V3,
    /// Toe, the foremost point of the sole.
    pub toe: V3,
    /// Turn of the hoof about the toe, radians, heel up positive.
    pub hoof_pitch: f64,
    /// Share of the stance that has passed, `None` in swing.
    pub stance: Option<f64>,
    /// How much longer than its bones the limb was asked to be (1 when it fits).
    pub stretch: f64,
}

/// The whole body at an instant.
#[derive(Clone, Debug, PartialEq)]
pub struct Pose {
    /// Limbs by [`Limb::index`].
    pub limbs: [LimbPose; 4],
    /// Rise of the trunk above its mean, m.
    pub heave: f64,
    /// Turn of the trunk, radians, forehand up positive.
    pub pitch: f64,
    /// Neck above the horizontal, radians.
    pub neck: f64,
    /// Nose in front of the vertical, radians.
    pub nose: f64,
    /// Rider above the saddle, m.
    pub rise: f64,
    /// Tail's swing backwards and sideways, radians.
    pub tail: (f64, f64),
    /// Metres the body has come.
    pub along: f64,
    /// Place in the stride, 0 to 1.
    pub phase: f64,
    /// Height at the withers, m.
    pub h: f64,
}

/// Hip joint in the trunk's frame, withers heights: forward and up.
const HIP: (f64, f64) = (-0.36, 0.775);
/// Centre about which the shoulder blade swings.
const BLADE: (f64, f64) = (0.30, 0.85);
/// Height about which the trunk rocks.
const ROCK: f64 = 0.75;
const FEMUR: f64 = 0.265;
const TIBIA: f64 = 0.285;
const HIND_CANNON: f64 = 0.255;
/// Angle between thigh and hind cannon that the reciprocal apparatus keeps, radians.
const RECIPROCAL: f64 = 0.50;
const FOREARM: f64 = 0.262;
const FORE_CANNON: f64 = 0.192;
const PASTERN: f64 = 0.088;
/// Coronet's centre from the toe on a flat hoof: back and up.
const CORONET: (f64, f64) = (-0.056, 0.050);

impl Pose {
    /// The pose at time `t` (s) of a ride.
    pub fn at(truth: &Truth, t: f64) -> Self {
        let ride = &truth.ride;
        let c = ride.template.carriage;
        let h = ride.withers;
        let phase = stride_phase(truth, t);
        let wave = |times: f64, at: f64| (TAU * times * (phase - at)).cos();
        let heave = -c.heave * h * wave(c.heaves, c.lowest);
        let pitch = c.pitch_deg.to_radians() * wave(1.0, c.forehand_up);
        let nod = -c.nod_deg.to_radians() * wave(c.nods, c.nod_low);
        let along = ride.body_at(t);
        let posting = if c.posting { 0.028 * h * (1.0 - wave(1.0, 0.20)) } else { 0.0 };
        let mut pose = Self {
            limbs: [EMPTY; 4],
            heave,
            pitch,
            // The head stays steadier than the trunk that carries it.
            neck: c.neck_deg.to_radians() + nod - 0.55 * pitch,
            nose: c.nose_deg.to_radians() + 0.5 * nod,
            rise: posting,
            tail: (
                0.22 + 0.03 * ride.template.speed + 0.10 * wave(c.heaves, c.lowest + 0.12),
                0.10 * (TAU * (phase * 0.5 + 0.1)).sin(),
            ),
            along,
            phase,
            h,
        };
        for limb in Limb::ALL {
            pose.limbs[limb.index()] = limb_pose(truth, &pose, limb, t);
        }
        pose
    }

    /// A point of the trunk, given in withers heights (forward, left, up), with the trunk's rise
    /// and rocking applied.
    pub fn trunk(&self, forward: f64, left: f64, up: f64) -> V3 {
        let (s, c) = self.pitch.sin_cos();
        let (x, z) = (forward * self.h, (up - ROCK) * self.h);
        v3(x * c - z * s, left * self.h, ROCK * self.h + x * s + z * c + self.heave)
    }
}

const EMPTY: LimbPose = LimbPose {
    root: v3(0.0, 0.0, 0.0),
    upper: v3(0.0, 0.0, 0.0),
    middle: v3(0.0, 0.0, 0.0),
    lower: v3(0.0, 0.0, 0.0),
    fetlock: v3(0.0, 0.0, 0.0),
    coronet: v3(0.0, 0.0, 0.0),
    toe: v3(0.0, 0.0, 0.0),
    hoof_pitch: 0.0,
    stance: None,
    stretch: 1.0,
};

fn stride_phase(truth: &Truth, t: f64) -> f64 {
    let s = &truth.starts;
    let k = s.partition_point(|x| *x <= t).clamp(1, s.len() - 1);
    ((t - s[k - 1]) / (s[k] - s[k - 1])).rem_euclid(1.0)
}

/// Toe (metres along the line and above the ground), pastern's angle and share of the stance.
struct Hoof {
    along: f64,
    height: f64,
    pastern: f64,
    stance: Option<f64>,
}

fn hoof(truth: &Truth, limb: Limb, t: f64) -> Hoof {
    let c = truth.ride.template.carriage;
    let own = &truth.stances[limb.index()];
    let k = own.partition_point(|s| s.on <= t).max(1) - 1;
    let here = own[k];
    if t < here.off {
        let s = ((t - here.on) / (here.off - here.on)).max(0.0);
        let pastern = curve(&[(0.0, 36.0), (0.2, 46.0), (0.5, 53.0), (0.8, 38.0), (1.0, 2.0)], s);
        return Hoof { along: here.along, height: 0.0, pastern, stance: Some(s) };
    }
    let next = own.get(k + 1).copied().unwrap_or(here);
    let u = if next.on > here.off { (t - here.off) / (next.on - here.off) } else { 1.0 };
    let u = u.clamp(0.0, 1.0);
    // Quick after lift-off, no ground speed at either end (quintic of least jerk).
    let w = u.powf(0.92);
    let travel = w * w * w * (10.0 - 15.0 * w + 6.0 * w * w);
    // Highest early, and coming down briskly enough that the landing is a moment.
    let (a, b) = (0.95, 1.25);
    let peak: f64 = a / (a + b);
    let shape = (u / peak).powf(a) * ((1.0 - u) / (1.0 - peak)).powf(b);
    let fore = if limb.is_hind() { 0.85 } else { 1.0 };
    let fold = [(0.0, 2.0), (0.18, -52.0), (0.42, -70.0), (0.68, -22.0), (0.88, 26.0), (1.0, 36.0)];
    let pastern = curve(&fold, u);
    let calm = 20.0 * (1.0 - c.fold) * (std::f64::consts::PI * u).sin();
    Hoof {
        along: here.along + (next.along - here.along) * travel,
        height: c.lift * fore * truth.ride.withers * shape,
        pastern: pastern * if pastern < 0.0 { c.fold } else { 1.0 } + calm,
        stance: None,
    }
}

fn limb_pose(truth: &Truth, pose: &Pose, limb: Limb, t: f64) -> LimbPose {
    let h = pose.h;
    let hoof = hoof(truth, limb, t);
    let side = if limb.side() == Side::Left { 1.0 } else { -1.0 };
    let foot_y = side * truth.ride.half_width();
    let pastern = hoof.pastern.to_radians();
    let hoof_pitch = (36f64.to_radians() - pastern).max(0.0) * 0.85;
    let toe = v3(hoof.along - pose.along, foot_y, hoof.height);
    let (s, c) = hoof_pitch.sin_cos();
    let (bx, bz) = (CORONET.0 * h, CORONET.1 * h);
    let coronet = v3(toe.x + bx * c + bz * s, foot_y, toe.z - bx * s + bz * c);
    let fetlock = coronet - v3(pastern.sin(), 0.0, -pastern.cos()) * (PASTERN * h);
    let mut out = LimbPose { fetlock, coronet, toe, hoof_pitch, stance: hoof.stance, ..EMPTY };
    if limb.is_hind() {
        out.root = pose.trunk(HIP.0, side * 0.085, HIP.1);
        hind_chain(&mut out, h);
    } else {
        out.root = pose.trunk(BLADE.0, side * 0.075, BLADE.1);
        fore_chain(&mut out, h);
    }
    out
}

/// Direction in the sagittal plane at `a` radians forward of straight down.
fn down(a: f64) -> (f64, f64) {
    (a.sin(), -a.cos())
}

fn hind_chain(limb: &mut LimbPose, h: f64) {
    let (lf, lt, lm) = (FEMUR * h, TIBIA * h, HIND_CANNON * h);
    // Thigh and cannon keep their angle: together they are one link of length `a`, turned `psi`.
    let (fx, fz) = (lf + lm * RECIPROCAL.cos(), lm * RECIPROCAL.sin());
    let (a, psi) = (fx.hypot(fz), fz.atan2(fx));
    let (dx, dz) = (limb.fetlock.x - limb.root.x, limb.fetlock.z - limb.root.z);
    let wanted = dx.hypot(dz);
    let d = wanted.clamp((a - lt).abs() * 1.02, (a + lt) * 0.998);
    limb.stretch = wanted / d;
    let towards = dx.atan2(-dz);
    let bend = ((a * a + d * d - lt * lt) / (2.0 * a * d)).clamp(-1.0, 1.0).acos();
    let thigh = towards + bend + psi;
    let cannon = thigh - RECIPROCAL;
    let (fdx, fdz) = down(thigh);
    let (cdx, cdz) = down(cannon);
    let fraction = |k: f64| limb.root.y + (limb.fetlock.y - limb.root.y) * k;
    limb.upper = v3(limb.root.x + lf * fdx, fraction(0.25), limb.root.z + lf * fdz);
    limb.middle = v3(limb.fetlock.x - lm * cdx, fraction(0.65), limb.fetlock.z - lm * cdz);
    limb.lower = limb.middle;
}

fn fore_chain(limb: &mut LimbPose, h: f64) {
    let (lr, lc) = (FOREARM * h, FORE_CANNON * h);
    let (dx, dz) = (limb.fetlock.x - limb.root.x, limb.fetlock.z - limb.root.z);
    let d = dx.hypot(dz);
    let towards = dx.atan2(-dz);
    // The blade and upper arm give a little length; the elbow lies behind the limb's line.
    let upper = (d - 0.995 * (lr + lc)).clamp(0.285 * h, 0.42 * h);
    let (ex, ez) = down(towards * 0.72 - 0.10);
    let elbow = v3(limb.root.x + upper * ex, 0.0, limb.root.z + upper * ez);
    let (qx, qz) = (limb.fetlock.x - elbow.x, limb.fetlock.z - elbow.z);
    let wanted = qx.hypot(qz);
    let q = wanted.clamp((lr - lc).abs() * 1.05, (lr + lc) * 0.9995);
    limb.stretch = wanted / q;
    let line = qx.atan2(-qz);
    let bend = ((lr * lr + q * q - lc * lc) / (2.0 * lr * q)).clamp(-1.0, 1.0).acos();
    let (rx, rz) = down(line + bend);
    let fraction = |k: f64| limb.root.y + (limb.fetlock.y - limb.root.y) * k;
    limb.middle = v3(elbow.x, fraction(0.4), elbow.z);
    limb.lower =
        v3(elbow.x + lr * rx * limb.stretch, fraction(0.72), elbow.z + lr * rz * limb.stretch);
    let (sx, sz) = down(towards * 0.5 + 0.50);
    limb.upper = v3(limb.root.x + 0.22 * h * sx, fraction(0.3), limb.root.z + 0.22 * h * sz);
}

/// Smooth curve through keys (place, value): cubic Hermite with slopes limited so that it never
/// overshoots (Fritsch and Carlson 1980).
fn curve(keys: &[(f64, f64)], at: f64) -> f64 {
    let n = keys.len();
    let k = keys.partition_point(|key| key.0 <= at).clamp(1, n - 1) - 1;
    let secant = |i: usize| (keys[i + 1].1 - keys[i].1) / (keys[i + 1].0 - keys[i].0);
    let slope = |i: usize| {
        if i == 0 || i == n - 1 {
            return if i == 0 { secant(0) } else { secant(n - 2) };
        }
        let (a, b) = (secant(i - 1), secant(i));
        if a * b <= 0.0 { 0.0 } else { 2.0 * a * b / (a + b) }
    };
    let width = keys[k + 1].0 - keys[k].0;
    let s = ((at - keys[k].0) / width).clamp(0.0, 1.0);
    let (s2, s3) = (s * s, s * s * s);
    (2.0 * s3 - 3.0 * s2 + 1.0) * keys[k].1
        + (s3 - 2.0 * s2 + s) * width * slope(k)
        + (3.0 * s2 - 2.0 * s3) * keys[k + 1].1
        + (s3 - s2) * width * slope(k + 1)
}
