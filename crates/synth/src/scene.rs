//! What lies behind everything drawn: sand, grass, the dune line and the sky over Watthof.

use crate::camera::Camera;
use crate::furniture::SIDE_X;
use crate::mesh::Colour;
use crate::vec3::V3;

/// What lies behind everything drawn, linear colours row by row.
pub fn background(camera: &Camera) -> Vec<Colour> {
    let (w, h) = camera.size;
    let mut out = Vec::with_capacity((w * h) as usize);
    for y in 0..h {
        for x in 0..w {
            let ray = camera.ray(f64::from(x) + 0.5, f64::from(y) + 0.5);
            out.push(if ray.z < -1e-9 {
                ground(camera, camera.at + ray * (camera.at.z / -ray.z))
            } else {
                sky(ray)
            });
        }
    }
    out
}

#[expect(clippy::cast_possible_truncation, reason = "colours are f32")]
fn ground(camera: &Camera, p: V3) -> Colour {
    let away = (p - camera.at).length();
    let haze = ((away - 40.0) / 900.0).clamp(0.0, 0.75) as f32;
    let base: Colour = if p.x < SIDE_X + 0.25 {
        // Sand: soft patches, the harrow's lines along the track, a worn band where horses go.
        let fade = (1.0 - away / 90.0).clamp(0.0, 1.0);
        let patch = noise(p.x * 1.3, p.y * 0.7) - 0.5;
        let grain = noise(p.x * 9.0, p.y * 5.0) - 0.5;
        let lines = (p.x * 21.0 + 1.5 * noise(p.y * 0.2, 3.0)).sin();
        let worn = (-((p.x - 18.6) / 0.8).powi(2)).exp();
        let k = 1.0
            + fade * (0.10 * patch + 0.10 * grain * (0.6 + worn) + 0.03 * lines * (1.0 - worn))
            - 0.10 * worn;
        [0.50, 0.40, 0.275].map(|c: f32| c * k as f32)
    } else {
        let tuft = noise(p.x * 0.5, p.y * 0.5) - 0.5;
        [0.20, 0.24, 0.10].map(|c: f32| c * (1.0 + 0.25 * tuft as f32))
    };
    std::array::from_fn(|k| base[k] + ([0.66, 0.70, 0.72][k] - base[k]) * haze)
}

#[expect(clippy::cast_possible_truncation, reason = "colours are f32")]
fn sky(ray: V3) -> Colour {
    let flat = ray.x.hypot(ray.y);
    let rise = ray.z / flat;
    let bearing = ray.y.atan2(ray.x);
    let dune = 0.016 + 0.010 * (bearing * 9.0).sin() + 0.006 * (bearing * 23.0 + 1.0).sin();
    if rise < dune {
        let t = (rise / dune) as f32;
        return std::array::from_fn(|k| [0.30, 0.33, 0.22][k] + [0.16, 0.14, 0.12][k] * t);
    }
    let t = (rise / 0.35).clamp(0.0, 1.0) as f32;
    std::array::from_fn(|k| {
        [0.74, 0.78, 0.80][k] + ([0.42, 0.56, 0.70][k] - [0.74, 0.78, 0.80][k]) * t
    })
}

/// Value noise between 0 and 1, smooth, period none.
fn noise(x: f64, y: f64) -> f64 {
    let (ix, iy) = (x.floor(), y.floor());
    let ease = |t: f64| t * t * (3.0 - 2.0 * t);
    let (fx, fy) = (ease(x - ix), ease(y - iy));
    #[expect(clippy::cast_possible_truncation, reason = "grid cells near the arena")]
    let corner = |dx: i64, dy: i64| lattice(ix as i64 + dx, iy as i64 + dy);
    let low = corner(0, 0) + (corner(1, 0) - corner(0, 0)) * fx;
    let high = corner(0, 1) + (corner(1, 1) - corner(0, 1)) * fx;
    low + (high - low) * fy
}

fn lattice(x: i64, y: i64) -> f64 {
    let mut n = x.wrapping_mul(0x1f1f_1f1f) ^ y.wrapping_mul(0x5f35_6495);
    n = (n ^ (n >> 15)).wrapping_mul(0x2c1b_3c6d);
    n = (n ^ (n >> 12)).wrapping_mul(0x297a_2d39);
    #[expect(clippy::cast_precision_loss, reason = "24 bits")]
    let v = ((n ^ (n >> 15)) & 0xff_ffff) as f64;
    v / 16_777_216.0
}
