//! Footage of a ride: one picture a frame, from a camera that stands still or follows.

use umlauf_gait::base::limb::Side;

use crate::camera::Camera;
use crate::coat::Coat;
use crate::figure::figure;
use crate::furniture;
use crate::mesh::Mesh;
use crate::pose::Pose;
use crate::raster::{Canvas, Light};
use crate::rider::face;
use crate::scene;
use crate::truth::Truth;
use crate::vec3::{V3, v3};

/// How a ride is filmed.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Shot {
    /// Picture size in pixels.
    pub size: (u32, u32),
    /// Frames per second.
    pub rate: f64,
    /// Where the tripod stands.
    pub tripod: V3,
    /// Focal length in pixels for a picture 1280 wide.
    pub focal_px: f64,
    /// Whether the camera turns with the horse.
    pub panning: bool,
    /// Filmed before the first and after the last stride, s.
    pub margin_s: f64,
    /// Cones on the ground, arena coordinates.
    pub cones: &'static [(f64, f64)],
}

/// A ride, its shot and the horse's colours, ready to be drawn frame by frame.
pub struct Film {
    /// The ride.
    pub truth: Truth,
    /// The shot.
    pub shot: Shot,
    coat: Coat,
    furniture: Mesh,
    light: Light,
}

impl Film {
    /// Prepares a film.
    pub fn new(truth: Truth, shot: Shot, coat: Coat) -> Self {
        let light = Light { sun: v3(-0.52, -0.30, 0.80).unit(), ambient: 0.42 };
        let mut furniture = furniture::furniture();
        furniture::cones(&mut furniture, shot.cones);
        Self { truth, shot, coat, furniture, light }
    }

    /// Number of frames.
    pub fn frames(&self) -> usize {
        let length = self.truth.duration() + 2.0 * self.shot.margin_s;
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a short clip")]
        let n = (length * self.shot.rate).floor() as usize;
        n
    }

    /// Time of a frame on the ride's clock, s.
    pub fn time(&self, frame: usize) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "a short clip")]
        let k = frame as f64;
        k / self.shot.rate - self.shot.margin_s
    }

    /// The camera at a frame.
    pub fn camera(&self, frame: usize) -> Camera {
        let ride = &self.truth.ride;
        // A camera that stands still looks at the middle of the way.
        let along = if self.shot.panning {
            ride.body_at(self.time(frame)) + 0.10 * ride.withers
        } else {
            ride.body_at(self.truth.duration()) / 2.0
        };
        let (x, y) = ride.arena(along, 0.0);
        let target = v3(x, y, 0.62 * ride.withers) - self.shot.tripod;
        Camera {
            at: self.shot.tripod,
            yaw: target.y.atan2(target.x),
            pitch: (target.z / target.x.hypot(target.y)).atan(),
            focal_px: self.shot.focal_px * f64::from(self.shot.size.0) / 1280.0,
            size: self.shot.size,
        }
    }

    /// Where a frame shows the middle of the rider's face, pixels; `None` behind the camera.
    pub fn face(&self, frame: usize) -> Option<(f64, f64)> {
        let pose = Pose::at(&self.truth, self.time(frame));
        let at = face(&pose);
        let (x, y) = self.truth.ride.arena(pose.along + at.x, at.y);
        let seen = self.camera(frame).see(v3(x, y, at.z))?;
        Some((seen.x, seen.y))
    }

    /// Draws a frame: 8-bit RGB, row by row.
    pub fn draw(&self, frame: usize) -> Vec<u8> {
        let camera = self.camera(frame);
        let pose = Pose::at(&self.truth, self.time(frame));
        let body = figure(&pose, &self.coat);
        let ride = self.truth.ride;
        let place = |p: V3| {
            let (x, y) = ride.arena(pose.along + p.x, p.y);
            v3(x, y, p.z)
        };
        let turn = |n: V3| match ride.rein {
            Side::Left => v3(-n.y, n.x, n.z),
            Side::Right => v3(n.y, -n.x, n.z),
        };
        let mut canvas = Canvas::new(camera);
        canvas.cast(&body, &self.light, place);
        canvas.cast(&self.furniture, &self.light, |p| p);
        canvas.draw(&self.furniture, &self.light, |p| p, |n| n);
        canvas.draw(&body, &self.light, place, turn);
        canvas.over(&scene::background(&camera))
    }
}
