//! The rider on the horse.

use crate::coat::Coat;
use crate::mesh::{Colour, Mesh, ring};
use crate::pose::Pose;
use crate::vec3::{V3, v3};

pub fn hand(pose: &Pose) -> V3 {
    let h = pose.h;
    pose.trunk(0.245, 0.0, 1.085) + v3(0.0, 0.0, 0.15 * pose.rise / h)
}

/// How far the rider's upper body leans, and where a place of it is: heights at the withers above the seat, and ahead.
fn upper(pose: &Pose) -> (V3, impl Fn(f64, f64) -> V3) {
    let h = pose.h;
    let rise = v3(0.35 * pose.rise, 0.0, pose.rise);
    // The upper body stays upright over a rocking horse and follows a little late.
    let upright = -0.45 * pose.pitch;
    let seat = pose.trunk(-0.015, 0.0, 1.015) + rise;
    let (s, c) = (upright + 0.05 + pose.rise * 2.2 / h * 0.35).sin_cos();
    (seat, move |z: f64, x: f64| seat + v3(z * s + x * c, 0.0, z * c - x * s) * h)
}

/// Middle of the rider's face.
pub fn face(pose: &Pose) -> V3 {
    upper(pose).1(0.425, 0.015)
}

pub fn rider(mesh: &mut Mesh, pose: &Pose, coat: &Coat) {
    let h = pose.h;
    let leather: Colour = [0.055, 0.034, 0.022];
    let breeches: Colour = [0.62, 0.58, 0.50];
    let boot: Colour = [0.025, 0.022, 0.022];
    let skin: Colour = [0.62, 0.42, 0.31];
    // Cloth, saddle, girth.
    mesh.tube(&[
        ring(pose.trunk(-0.16, 0.0, 0.800), 0.172 * h, 0.172 * h, coat.cloth),
        ring(pose.trunk(0.00, 0.0, 0.790), 0.181 * h, 0.176 * h, coat.cloth),
        ring(pose.trunk(0.155, 0.0, 0.800), 0.163 * h, 0.180 * h, coat.cloth),
    ]);
    mesh.tube(&[
        ring(pose.trunk(-0.135, 0.0, 0.985), 0.075 * h, 0.026 * h, leather),
        ring(pose.trunk(-0.06, 0.0, 0.962), 0.090 * h, 0.030 * h, leather),
        ring(pose.trunk(0.05, 0.0, 0.950), 0.075 * h, 0.030 * h, leather),
        ring(pose.trunk(0.125, 0.0, 0.985), 0.050 * h, 0.026 * h, leather),
    ]);
    let rise = v3(0.35 * pose.rise, 0.0, pose.rise);
    let (seat, up) = upper(pose);
    mesh.tube(&[
        ring(up(-0.015, 0.0), 0.090 * h, 0.075 * h, breeches),
        ring(up(0.06, 0.004), 0.085 * h, 0.070 * h, breeches),
        ring(up(0.10, 0.006), 0.076 * h, 0.060 * h, coat.jacket),
        ring(up(0.20, 0.008), 0.088 * h, 0.064 * h, coat.jacket),
        ring(up(0.30, 0.002), 0.100 * h, 0.062 * h, coat.jacket),
        ring(up(0.345, 0.0), 0.060 * h, 0.042 * h, coat.jacket),
        ring(up(0.365, 0.0), 0.030 * h, 0.030 * h, skin),
    ]);
    mesh.tube(&[
        ring(up(0.375, 0.012), 0.030 * h, 0.032 * h, skin),
        ring(up(0.41, 0.016), 0.043 * h, 0.050 * h, skin),
        ring(up(0.44, 0.014), 0.046 * h, 0.054 * h, skin),
    ]);
    mesh.tube(&[
        ring(up(0.428, 0.012), 0.052 * h, 0.064 * h, boot),
        ring(up(0.455, 0.008), 0.054 * h, 0.062 * h, boot),
        ring(up(0.485, 0.002), 0.042 * h, 0.046 * h, boot),
        ring(up(0.497, 0.0), 0.012 * h, 0.014 * h, boot),
    ]);
    for side in [1.0, -1.0] {
        let across = |p: V3, y: f64| v3(p.x, side * y * h, p.z);
        // Legs hang from the hip; the foot stays in the stirrup.
        let hip = across(seat, 0.075);
        let knee = pose.trunk(0.135, side * 0.183, 0.865) + rise * 0.45;
        let ankle = pose.trunk(0.015, side * 0.195, 0.635);
        let toe = pose.trunk(0.105, side * 0.200, 0.628);
        mesh.tube(&[
            ring(hip, 0.060 * h, 0.070 * h, breeches),
            ring(hip.lerp(knee, 0.5), 0.048 * h, 0.062 * h, breeches),
            ring(knee, 0.036 * h, 0.044 * h, breeches),
        ]);
        mesh.tube(&[
            ring(knee + v3(0.0, 0.0, 0.015 * h), 0.037 * h, 0.044 * h, boot),
            ring(knee.lerp(ankle, 0.4), 0.036 * h, 0.042 * h, boot),
            ring(ankle, 0.024 * h, 0.028 * h, boot),
        ]);
        mesh.tube(&[
            ring(ankle + v3(-0.03 * h, 0.0, 0.0), 0.022 * h, 0.020 * h, boot),
            ring(ankle.lerp(toe, 0.5), 0.024 * h, 0.020 * h, boot),
            ring(toe, 0.018 * h, 0.012 * h, boot),
        ]);
        let shoulder = across(up(0.315, 0.0), 0.105);
        let fist = across(hand(pose), 0.052);
        let elbow = across(up(0.165, -0.005), 0.125);
        mesh.tube(&[
            ring(shoulder, 0.034 * h, 0.038 * h, coat.jacket),
            ring(shoulder.lerp(elbow, 0.5), 0.030 * h, 0.034 * h, coat.jacket),
            ring(elbow, 0.026 * h, 0.030 * h, coat.jacket),
            ring(elbow.lerp(fist, 0.55), 0.024 * h, 0.026 * h, coat.jacket),
            ring(elbow.lerp(fist, 0.9), 0.020 * h, 0.021 * h, coat.jacket),
        ]);
        mesh.ball(fist, 0.024 * h, [0.05, 0.045, 0.04]);
    }
}
