//! The camera of the flat film: it stands on a tripod or is held in the hand, turns after the horse or not,
//! and may zoom. Metres: x along the track to the right, y up, z away from the camera.

/// Where a lens looks at an instant.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Lens {
    /// Height above the ground, m.
    pub height: f64,
    /// Turn to the right, radians.
    pub yaw: f64,
    /// Turn downwards, radians.
    pub down: f64,
    /// Turn about the line of sight, clockwise, radians.
    pub roll: f64,
    /// Focal length, pixels.
    pub focal: f64,
    /// Picture, pixels.
    pub size: (usize, usize),
}

/// A place in the picture, and pixels a metre there.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Spot {
    /// Pixels from the left.
    pub x: f64,
    /// Pixels from the top.
    pub y: f64,
    /// Pixels a metre.
    pub scale: f64,
}

impl Lens {
    fn middle(&self) -> (f64, f64) {
        let half = |n: usize| f64::midpoint(0.0, super::canvas::count(n)) - 0.5;
        (half(self.size.0), half(self.size.1))
    }

    /// Where a point appears.
    pub fn see(&self, x: f64, y: f64, z: f64) -> Spot {
        let (sy, cy) = self.yaw.sin_cos();
        let (right, ahead) = (cy * x - sy * z, sy * x + cy * z);
        let (sd, cd) = self.down.sin_cos();
        let below = self.height - y;
        let (low, depth) = (cd * below - sd * ahead, sd * below + cd * ahead);
        let scale = self.focal / depth.max(0.1);
        let (sr, cr) = self.roll.sin_cos();
        let (mx, my) = self.middle();
        Spot {
            x: mx + scale * (cr * right - sr * low),
            y: my + scale * (sr * right + cr * low),
            scale,
        }
    }

    /// The direction of sight through a pixel, not of length 1.
    pub fn ray(&self, x: f64, y: f64) -> (f64, f64, f64) {
        let (mx, my) = self.middle();
        let (sr, cr) = self.roll.sin_cos();
        let (px, py) = ((x - mx) / self.focal, (y - my) / self.focal);
        let (right, low) = (cr * px + sr * py, cr * py - sr * px);
        let (sd, cd) = self.down.sin_cos();
        let (below, ahead) = (cd * low + sd, cd - sd * low);
        let (sy, cy) = self.yaw.sin_cos();
        (cy * right + sy * ahead, -below, cy * ahead - sy * right)
    }
}

#[cfg(test)]
mod tests {
    use super::Lens;

    #[test]
    fn a_point_lies_on_the_ray_of_the_pixel_it_is_seen_in() {
        let lens =
            Lens { height: 1.6, yaw: 0.3, down: 0.07, roll: 0.02, focal: 900.0, size: (640, 360) };
        for (x, y, z) in [(2.0, 0.0, 9.0), (5.0, 1.4, 11.0), (-1.0, 0.3, 7.0)] {
            let spot = lens.see(x, y, z);
            let (rx, ry, rz) = lens.ray(spot.x, spot.y);
            let far = z / rz;
            assert!((rx * far - x).abs() < 1e-9 && (1.6 + ry * far - y).abs() < 1e-9);
        }
    }
}
