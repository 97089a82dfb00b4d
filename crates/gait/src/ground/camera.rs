//! The camera that a map of the ground implies: its focal length and where it stands.
//!
//! With square pixels and the optical axis through the middle of the picture the columns of
//! the map are K·r₁, K·r₂ and K·t (up to a factor), r₁ and r₂ being of one length and at right
//! angles: two equations for the focal length (Zhang 2000, IEEE PAMI 22:1330; value from memory).

use nalgebra::{Matrix3, Vector3};

/// A camera before the ground.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct CameraPose {
    /// Where it stands, m.
    pub at: (f64, f64),
    /// How high, m.
    pub height_m: f64,
    /// Focal length, px.
    pub focal_px: f64,
}

/// 1/f², px⁻², of a map from ground (m) to picture (px); nothing when the map leaves it open.
pub fn inverse_focal_squared(map: &[[f64; 3]; 3], size: (f64, f64)) -> Option<f64> {
    let h = centred(map, size);
    let (a1, c1) = (h[(0, 0)] * h[(0, 1)] + h[(1, 0)] * h[(1, 1)], h[(2, 0)] * h[(2, 1)]);
    let a2 = h[(0, 0)].powi(2) + h[(1, 0)].powi(2) - h[(0, 1)].powi(2) - h[(1, 1)].powi(2);
    let c2 = h[(2, 0)].powi(2) - h[(2, 1)].powi(2);
    // The two are one equation seen from two turns of the ground's axes: both count alike.
    let weight = 4.0 * a1 * a1 + a2 * a2;
    (weight > 0.0).then(|| -(4.0 * a1 * c1 + a2 * c2) / weight).filter(|q| q.is_finite())
}

/// The camera of a map, when it has one.
pub fn pose(map: &[[f64; 3]; 3], size: (f64, f64)) -> Option<CameraPose> {
    let q = inverse_focal_squared(map, size).filter(|q| *q > 0.0)?;
    let focal = q.sqrt().recip();
    let h = centred(map, size);
    let k = Matrix3::from_diagonal(&Vector3::new(1.0 / focal, 1.0 / focal, 1.0));
    let m = k * h;
    let scale = f64::midpoint(m.column(0).norm(), m.column(1).norm());
    let (r1, r2): (Vector3<f64>, Vector3<f64>) = (m.column(0) / scale, m.column(1) / scale);
    let r3 = r1.cross(&r2);
    let t: Vector3<f64> = m.column(2) / scale;
    // The ground point p is seen at R·p + t; the camera is where that is 0.
    let turn = Matrix3::from_columns(&[r1, r2, r3]);
    let at = -(turn.try_inverse()? * t);
    let real = at.iter().all(|v| v.is_finite());
    real.then(|| CameraPose { at: (at.x, at.y), height_m: at.z.abs(), focal_px: focal })
}

/// The map with the picture's middle as its origin, positive before the camera.
fn centred(map: &[[f64; 3]; 3], (w, h): (f64, f64)) -> Matrix3<f64> {
    let map = Matrix3::from_fn(|r, c| map[r][c]);
    Matrix3::new(1.0, 0.0, -w / 2.0, 0.0, 1.0, -h / 2.0, 0.0, 0.0, 1.0) * map
}
