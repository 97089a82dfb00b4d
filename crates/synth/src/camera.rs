//! A pinhole camera on a tripod, in arena coordinates (x across, y along, z up, metres).

use crate::vec3::{V3, v3};

/// Where the camera stands and how it is turned.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Camera {
    /// The lens.
    pub at: V3,
    /// Turn from looking across the arena (+x) towards the C end (+y), radians.
    pub yaw: f64,
    /// Turn upwards, radians.
    pub pitch: f64,
    /// Focal length in pixels.
    pub focal_px: f64,
    /// Picture width and height in pixels.
    pub size: (u32, u32),
}

/// A point in the picture.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Seen {
    /// Pixels from the left edge.
    pub x: f64,
    /// Pixels from the top edge.
    pub y: f64,
    /// Distance along the line of sight, m.
    pub depth: f64,
}

impl Camera {
    /// Directions to the right, up and ahead of the picture.
    pub fn axes(&self) -> (V3, V3, V3) {
        let (s, c) = self.yaw.sin_cos();
        let (ps, pc) = self.pitch.sin_cos();
        let ahead = v3(c * pc, s * pc, ps);
        let right = v3(s, -c, 0.0);
        (right, right.cross(ahead), ahead)
    }

    /// Where a point of the arena appears; `None` behind the camera or nearer than half a metre.
    pub fn see(&self, p: V3) -> Option<Seen> {
        let (right, up, ahead) = self.axes();
        let d = p - self.at;
        let depth = d.dot(ahead);
        if depth < 0.5 {
            return None;
        }
        let (w, h) = (f64::from(self.size.0), f64::from(self.size.1));
        Some(Seen {
            x: w / 2.0 + self.focal_px * d.dot(right) / depth,
            y: h / 2.0 - self.focal_px * d.dot(up) / depth,
            depth,
        })
    }

    /// Direction of sight through a pixel.
    pub fn ray(&self, x: f64, y: f64) -> V3 {
        let (right, up, ahead) = self.axes();
        let (w, h) = (f64::from(self.size.0), f64::from(self.size.1));
        ahead * self.focal_px + right * (x - w / 2.0) + up * (h / 2.0 - y)
    }
}
