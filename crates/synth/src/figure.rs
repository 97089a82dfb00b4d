//! The horse's body over its joints: trunk, neck, head, limbs, tail, and the rider.

use umlauf_gait::base::limb::{Limb, Side};

use crate::coat::{Coat, WHITE};
use crate::mesh::{Colour, Mesh, Ring, ring};
use crate::pose::{LimbPose, Pose};
use crate::rider::{hand, rider};
use crate::vec3::{V3, v3};

/// Builds horse and rider in the pose's own frame (x forward, y left, z up, metres).
pub fn figure(pose: &Pose, coat: &Coat) -> Mesh {
    let mut mesh = Mesh::default();
    trunk(&mut mesh, pose, coat);
    head_and_neck(&mut mesh, pose, coat);
    for limb in Limb::ALL {
        let first = mesh.vertices.len();
        if limb.is_hind() {
            hind(&mut mesh, pose, limb, coat);
        } else {
            fore(&mut mesh, pose, limb, coat);
        }
        shade_inside(&mut mesh, first, limb.side());
    }
    tail(&mut mesh, pose, coat);
    rider(&mut mesh, pose, coat);
    mesh
}

/// The inner sides of the limbs face the body and get less light.
fn shade_inside(mesh: &mut Mesh, first: usize, side: Side) {
    let outward = if side == Side::Left { 1.0 } else { -1.0 };
    for v in &mut mesh.vertices[first..] {
        let inward = (-v.normal.y * outward).max(0.0);
        #[expect(clippy::cast_possible_truncation, reason = "colours are f32")]
        let k = (1.0 - 0.52 * inward) as f32;
        v.colour = v.colour.map(|c| c * k);
    }
}

/// Trunk rings: forward, up, half-width, half-height, share of the pale colour.
const TRUNK: [(f64, f64, f64, f64, f32); 12] = [
    (-0.545, 0.800, 0.020, 0.035, 0.0),
    (-0.520, 0.800, 0.090, 0.105, 0.0),
    (-0.460, 0.805, 0.135, 0.165, 0.0),
    (-0.380, 0.808, 0.165, 0.182, 0.0),
    (-0.270, 0.800, 0.170, 0.178, 0.1),
    (-0.140, 0.775, 0.160, 0.180, 0.2),
    (0.000, 0.750, 0.168, 0.202, 0.2),
    (0.120, 0.742, 0.162, 0.215, 0.1),
    (0.230, 0.752, 0.145, 0.222, 0.0),
    (0.330, 0.748, 0.130, 0.198, 0.0),
    (0.420, 0.745, 0.105, 0.140, 0.0),
    (0.475, 0.742, 0.045, 0.070, 0.0),
];

fn mix(a: Colour, b: Colour, t: f32) -> Colour {
    std::array::from_fn(|k| a[k] + (b[k] - a[k]) * t)
}

fn trunk(mesh: &mut Mesh, pose: &Pose, coat: &Coat) {
    let h = pose.h;
    let rings: Vec<Ring> = TRUNK
        .iter()
        .map(|&(x, z, wide, deep, pale)| {
            ring(pose.trunk(x, 0.0, z), wide * h, deep * h, mix(coat.body, coat.pale, pale))
        })
        .collect();
    mesh.tube(&rings);
    // Withers and loin carry the top line.
    let top = [
        (-0.44, 0.905, 0.05),
        (-0.30, 0.915, 0.05),
        (-0.10, 0.885, 0.045),
        (0.10, 0.895, 0.042),
        (0.24, 0.940, 0.040),
        (0.37, 0.885, 0.020),
    ];
    let rings: Vec<Ring> = top
        .iter()
        .map(|&(x, z, r)| ring(pose.trunk(x, 0.0, z), r * 1.5 * h, r * h, coat.body))
        .collect();
    mesh.tube(&rings);
}

fn head_and_neck(mesh: &mut Mesh, pose: &Pose, coat: &Coat) {
    let h = pose.h;
    let base = pose.trunk(0.345, 0.0, 0.795);
    let withers = pose.trunk(0.27, 0.0, 0.965);
    let angle = pose.neck + 0.6 * pose.pitch;
    let poll = withers + v3(angle.cos(), 0.0, angle.sin()) * (0.43 * h);
    let throat = poll + v3(-0.015, 0.0, -0.075) * h;
    // The neck leaves the trunk thick, arches, and ends slim at the poll.
    let point = |t: f64, lift: f64| {
        let p = base.lerp(throat, t);
        v3(p.x - lift * 0.5 * h, 0.0, p.z + lift * h)
    };
    let c = coat.body;
    mesh.tube(&[
        ring(base.lerp(throat, -0.18), 0.115 * h, 0.175 * h, c),
        ring(point(0.12, 0.0), 0.105 * h, 0.170 * h, c),
        ring(point(0.38, 0.015), 0.078 * h, 0.132 * h, c),
        ring(point(0.66, 0.028), 0.060 * h, 0.105 * h, c),
        ring(point(0.90, 0.026), 0.052 * h, 0.088 * h, c),
        ring(point(1.06, 0.016), 0.046 * h, 0.066 * h, c),
    ]);
    // Mane, plaited low along the crest.
    let crest = |t: f64| {
        let p = base.lerp(throat, t);
        let d = (throat - base).unit();
        let deep = 0.150 - 0.072 * t;
        v3(p.x - d.z * deep * h, 0.0, p.z + d.x * deep * h)
    };
    let hair = |t: f64| ring(crest(t), 0.024 * h, 0.026 * h, coat.hair);
    mesh.tube(&[hair(0.12), hair(0.3), hair(0.5), hair(0.7), hair(0.88), hair(1.04)]);

    let (s, k) = (pose.nose + 0.35 * pose.pitch).sin_cos();
    let nose = v3(s, 0.0, -k);
    let front = v3(k, 0.0, s);
    let on_head = |down: f64, fore: f64| poll + nose * (down * h) + front * (fore * h);
    mesh.tube(&[
        ring(on_head(-0.030, -0.012), 0.030 * h, 0.034 * h, c),
        ring(on_head(0.015, -0.004), 0.058 * h, 0.066 * h, c),
        ring(on_head(0.085, -0.012), 0.066 * h, 0.092 * h, c),
        ring(on_head(0.155, -0.006), 0.056 * h, 0.082 * h, c),
        ring(on_head(0.235, 0.004), 0.043 * h, 0.060 * h, c),
        ring(on_head(0.315, 0.006), 0.040 * h, 0.050 * h, mix(c, coat.points, 0.5)),
        ring(on_head(0.365, 0.004), 0.041 * h, 0.048 * h, mix(c, coat.points, 0.8)),
        ring(on_head(0.395, 0.000), 0.024 * h, 0.026 * h, coat.points),
    ]);
    // A blaze, cheek pieces and noseband, eyes, ears.
    mesh.tube(&[
        ring(on_head(0.06, 0.070), 0.010 * h, 0.010 * h, WHITE),
        ring(on_head(0.15, 0.069), 0.016 * h, 0.010 * h, WHITE),
        ring(on_head(0.24, 0.058), 0.011 * h, 0.009 * h, WHITE),
    ]);
    let leather: Colour = [0.05, 0.032, 0.022];
    mesh.tube(&[
        ring(on_head(0.262, 0.004), 0.046 * h, 0.060 * h, leather),
        ring(on_head(0.282, 0.005), 0.046 * h, 0.058 * h, leather),
    ]);
    for y in [0.046, -0.046] {
        let side = |p: V3| v3(p.x, y * h * 1.15, p.z);
        mesh.tube(&[
            ring(side(on_head(0.02, -0.02)), 0.008 * h, 0.009 * h, leather),
            ring(side(on_head(0.17, -0.008)), 0.009 * h, 0.009 * h, leather),
            ring(v3(0.0, y * h * 0.95, 0.0) + on_head(0.32, -0.022), 0.008 * h, 0.009 * h, leather),
        ]);
        let eye = on_head(0.095, 0.045);
        mesh.ball(v3(eye.x, y * h * 1.22, eye.z), 0.014 * h, [0.015, 0.012, 0.01]);
        let root = on_head(-0.02, 0.022);
        let tip = on_head(-0.120, 0.052);
        mesh.tube(&[
            ring(v3(root.x, y * h * 0.75, root.z), 0.018 * h, 0.020 * h, c),
            ring(
                v3(root.lerp(tip, 0.5).x, y * h * 0.85, root.lerp(tip, 0.5).z),
                0.017 * h,
                0.022 * h,
                c,
            ),
            ring(v3(tip.x, y * h * 0.8, tip.z), 0.003 * h, 0.004 * h, coat.points),
        ]);
    }
    // Reins to the rider's hands.
    let hand = hand(pose);
    for y in [0.05, -0.05] {
        let bit = on_head(0.325, -0.028);
        let middle = bit.lerp(hand, 0.55);
        mesh.tube(&[
            ring(v3(bit.x, y * h, bit.z), 0.006 * h, 0.007 * h, leather),
            ring(v3(middle.x, y * h * 1.9, middle.z), 0.006 * h, 0.007 * h, leather),
            ring(v3(hand.x, y * h, hand.z), 0.006 * h, 0.007 * h, leather),
        ]);
    }
}

fn sock(coat: &Coat, limb: Limb) -> Colour {
    if coat.socks[limb.index()] { WHITE } else { coat.points }
}

fn foot(mesh: &mut Mesh, limb: &LimbPose, h: f64, coat: &Coat, lower: Colour) {
    let (s, c) = limb.hoof_pitch.sin_cos();
    // Points of the hoof from the toe: back and up, turned about the toe.
    let at = |back: f64, up: f64| {
        let (x, z) = (-back * h, up * h);
        v3(limb.toe.x + x * c + z * s, limb.toe.y, limb.toe.z - x * s + z * c)
    };
    mesh.tube(&[
        ring(limb.fetlock.lerp(limb.coronet, 0.15), 0.023 * h, 0.027 * h, lower),
        ring(limb.fetlock.lerp(limb.coronet, 0.6), 0.021 * h, 0.023 * h, lower),
        ring(limb.coronet, 0.026 * h, 0.030 * h, lower),
    ]);
    mesh.tube(&[
        ring(at(0.056, 0.050), 0.025 * h, 0.027 * h, coat.hoof),
        ring(at(0.048, 0.026), 0.030 * h, 0.034 * h, coat.hoof),
        ring(at(0.041, 0.001), 0.034 * h, 0.041 * h, coat.hoof),
    ]);
}

fn hind(mesh: &mut Mesh, pose: &Pose, which: Limb, coat: &Coat) {
    let (h, limb) = (pose.h, &pose.limbs[which.index()]);
    let lower = sock(coat, which);
    let side = if which.side() == Side::Left { 1.0 } else { -1.0 };
    let haunch = pose.trunk(-0.36, side * 0.060, 0.90);
    let (hip, stifle, hock, fetlock) = (limb.root, limb.upper, limb.middle, limb.fetlock);
    let behind = v3(-0.045 * h, 0.0, 0.0);
    mesh.tube(&[
        ring(haunch, 0.060 * h, 0.080 * h, coat.body),
        ring(hip.lerp(stifle, 0.05) + behind, 0.086 * h, 0.135 * h, coat.body),
        ring(hip.lerp(stifle, 0.45) + behind * 0.9, 0.084 * h, 0.142 * h, coat.body),
        ring(hip.lerp(stifle, 0.88) + behind * 0.5, 0.066 * h, 0.105 * h, coat.body),
        ring(stifle.lerp(hock, 0.28), 0.052 * h, 0.072 * h, coat.body),
        ring(stifle.lerp(hock, 0.62), 0.036 * h, 0.046 * h, mix(coat.body, coat.points, 0.3)),
        ring(stifle.lerp(hock, 0.88), 0.027 * h, 0.035 * h, mix(coat.body, coat.points, 0.8)),
    ]);
    // The point of the hock, behind the joint, with the tendon that runs up to the gaskin.
    let gaskin = (stifle - hock).unit();
    let cannon = (fetlock - hock).unit();
    let heel = (gaskin + cannon).unit();
    let point = hock - heel * (0.030 * h) + gaskin * (0.012 * h);
    mesh.tube(&[
        ring(
            stifle.lerp(hock, 0.62) - heel * (0.020 * h),
            0.012 * h,
            0.014 * h,
            mix(coat.body, coat.points, 0.4),
        ),
        ring(stifle.lerp(hock, 0.85) - heel * (0.028 * h), 0.014 * h, 0.015 * h, coat.points),
        ring(point, 0.018 * h, 0.018 * h, coat.points),
        ring(hock.lerp(fetlock, 0.10) - heel * (0.006 * h), 0.014 * h, 0.014 * h, coat.points),
    ]);
    mesh.tube(&[
        ring(stifle.lerp(hock, 0.90), 0.028 * h, 0.036 * h, coat.points),
        ring(hock.lerp(fetlock, 0.10), 0.029 * h, 0.036 * h, coat.points),
        ring(hock.lerp(fetlock, 0.30), 0.021 * h, 0.027 * h, coat.points),
        ring(hock.lerp(fetlock, 0.55), 0.0195 * h, 0.024 * h, mix(coat.points, lower, 0.5)),
        ring(hock.lerp(fetlock, 0.85), 0.021 * h, 0.026 * h, lower),
        ring(fetlock, 0.026 * h, 0.031 * h, lower),
        ring(fetlock.lerp(limb.coronet, 0.3), 0.022 * h, 0.026 * h, lower),
    ]);
    foot(mesh, limb, h, coat, lower);
}

fn fore(mesh: &mut Mesh, pose: &Pose, which: Limb, coat: &Coat) {
    let (h, limb) = (pose.h, &pose.limbs[which.index()]);
    let lower = sock(coat, which);
    let side = if which.side() == Side::Left { 1.0 } else { -1.0 };
    let top = pose.trunk(0.255, side * 0.055, 0.90);
    let (shoulder, elbow, carpus, fetlock) = (limb.upper, limb.middle, limb.lower, limb.fetlock);
    let body = coat.body;
    mesh.tube(&[
        ring(top, 0.030 * h, 0.070 * h, body),
        ring(top.lerp(shoulder, 0.45), 0.062 * h, 0.105 * h, body),
        ring(shoulder.lerp(elbow, 0.35), 0.066 * h, 0.095 * h, body),
        ring(elbow.lerp(carpus, 0.02) + v3(0.012 * h, 0.0, 0.0), 0.052 * h, 0.075 * h, body),
        ring(elbow.lerp(carpus, 0.28), 0.042 * h, 0.056 * h, body),
        ring(elbow.lerp(carpus, 0.62), 0.031 * h, 0.039 * h, mix(body, coat.points, 0.4)),
        ring(elbow.lerp(carpus, 0.88), 0.028 * h, 0.033 * h, mix(body, coat.points, 0.9)),
        ring(carpus, 0.030 * h, 0.036 * h, coat.points),
    ]);
    mesh.tube(&[
        ring(elbow.lerp(carpus, 0.94), 0.029 * h, 0.034 * h, coat.points),
        ring(carpus.lerp(fetlock, 0.06), 0.029 * h, 0.034 * h, coat.points),
        ring(carpus.lerp(fetlock, 0.26), 0.020 * h, 0.025 * h, coat.points),
        ring(carpus.lerp(fetlock, 0.55), 0.0185 * h, 0.0235 * h, mix(coat.points, lower, 0.5)),
        ring(carpus.lerp(fetlock, 0.84), 0.020 * h, 0.025 * h, lower),
        ring(fetlock, 0.025 * h, 0.030 * h, lower),
        ring(fetlock.lerp(limb.coronet, 0.3), 0.021 * h, 0.025 * h, lower),
    ]);
    foot(mesh, limb, h, coat, lower);
}

fn tail(mesh: &mut Mesh, pose: &Pose, coat: &Coat) {
    let h = pose.h;
    let (back, sway) = pose.tail;
    let root = pose.trunk(-0.500, 0.0, 0.905);
    let mut rings = Vec::new();
    let mut at = root;
    for k in 0..7 {
        let t = f64::from(k) / 6.0;
        // Carried at the dock, hanging below; sideways more towards the end.
        let lean = back * 2.6 * (1.0 - t).powi(2) + back * 0.55;
        let thick = [0.020, 0.030, 0.040, 0.044, 0.042, 0.034, 0.012][k as usize];
        rings.push(ring(at, thick * 0.85 * h, thick * h, coat.hair));
        at = at + v3(-lean.sin(), sway * t, -lean.cos()) * (0.108 * h);
    }
    mesh.tube(&rings);
}
