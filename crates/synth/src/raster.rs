//! Triangles to pixels: a depth buffer with four samples a pixel, smooth shading and one sun.

use std::sync::LazyLock;

use crate::camera::Camera;
use crate::mesh::{Colour, Mesh};
use crate::vec3::{V3, v3};

/// Samples a pixel in each direction.
const FINE: usize = 2;

/// Light of the scene.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Light {
    /// Towards the sun, unit length.
    pub sun: V3,
    /// Share of light that comes from everywhere.
    pub ambient: f64,
}

/// A finely sampled picture of meshes, to be laid over a background.
pub struct Canvas {
    camera: Camera,
    width: usize,
    height: usize,
    depth: Vec<f32>,
    colour: Vec<Colour>,
    shadow: Vec<bool>,
}

impl Canvas {
    /// An empty canvas for a camera's picture.
    pub fn new(camera: Camera) -> Self {
        let (width, height) = (camera.size.0 as usize * FINE, camera.size.1 as usize * FINE);
        let n = width * height;
        Self {
            camera,
            width,
            height,
            depth: vec![f32::INFINITY; n],
            colour: vec![[0.0; 3]; n],
            shadow: vec![false; n],
        }
    }

    /// Draws a mesh whose vertices `place` takes into the arena.
    pub fn draw(
        &mut self,
        mesh: &Mesh,
        light: &Light,
        place: impl Fn(V3) -> V3,
        turn: impl Fn(V3) -> V3,
    ) {
        let eye = self.camera.at;
        let seen: Vec<Option<[f64; 3]>> =
            mesh.vertices.iter().map(|v| self.see(place(v.at))).collect();
        let lit: Vec<Colour> = mesh
            .vertices
            .iter()
            .map(|v| shade(v.colour, turn(v.normal), (eye - place(v.at)).unit(), light))
            .collect();
        for t in &mesh.triangles {
            let k = t.map(|i| i as usize);
            if let [Some(a), Some(b), Some(c)] = k.map(|i| seen[i]) {
                let colours = k.map(|i| lit[i]);
                self.fill([a, b, c], |canvas, at, weights, depth| {
                    if depth < canvas.depth[at] {
                        canvas.depth[at] = depth;
                        canvas.colour[at] = std::array::from_fn(|ch| {
                            (0..3).map(|i| weights[i] * colours[i][ch]).sum()
                        });
                    }
                });
            }
        }
    }

    /// Marks the shadow that a mesh throws on the ground (z = 0).
    pub fn cast(&mut self, mesh: &Mesh, light: &Light, place: impl Fn(V3) -> V3) {
        let seen: Vec<Option<[f64; 3]>> = mesh
            .vertices
            .iter()
            .map(|v| {
                let p = place(v.at);
                let fall = p.z.max(0.0) / light.sun.z;
                self.see(v3(p.x - light.sun.x * fall, p.y - light.sun.y * fall, 0.0))
            })
            .collect();
        for t in &mesh.triangles {
            if let [Some(a), Some(b), Some(c)] = t.map(|i| seen[i as usize]) {
                self.fill([a, b, c], |canvas, at, _, _| canvas.shadow[at] = true);
            }
        }
    }

    fn see(&self, p: V3) -> Option<[f64; 3]> {
        #[expect(clippy::cast_precision_loss, reason = "2")]
        let fine = FINE as f64;
        self.camera.see(p).map(|s| [s.x * fine, s.y * fine, s.depth])
    }

    #[expect(
        clippy::cast_possible_truncation,
        clippy::cast_sign_loss,
        clippy::cast_precision_loss,
        reason = "pixel coordinates are clamped to the picture"
    )]
    fn fill(&mut self, p: [[f64; 3]; 3], mut put: impl FnMut(&mut Self, usize, [f32; 3], f32)) {
        let area =
            (p[1][0] - p[0][0]) * (p[2][1] - p[0][1]) - (p[2][0] - p[0][0]) * (p[1][1] - p[0][1]);
        if area.abs() < 1e-9 {
            return;
        }
        let bound = |axis: usize, size: usize| {
            let lo = p.iter().map(|q| q[axis]).fold(f64::INFINITY, f64::min).floor().max(0.0);
            let hi = p.iter().map(|q| q[axis]).fold(f64::NEG_INFINITY, f64::max).ceil();
            (lo as usize, (hi.min(size as f64 - 1.0)).max(-1.0) as isize)
        };
        let (x0, x1) = bound(0, self.width);
        let (y0, y1) = bound(1, self.height);
        if x1 < x0 as isize || y1 < y0 as isize {
            return;
        }
        // Each weight is linear in x and y: w = w0 + x·wx + y·wy.
        let edge = |a: usize, b: usize| {
            let (wx, wy) = (-(p[b][1] - p[a][1]) / area, (p[b][0] - p[a][0]) / area);
            (-(p[a][0] * wx + p[a][1] * wy), wx, wy)
        };
        let edges = [edge(1, 2), edge(2, 0), edge(0, 1)];
        for y in y0..=y1 as usize {
            let fy = y as f64 + 0.5;
            // The stretch of the row on which all three weights are positive.
            let (mut from, mut to) = (x0 as f64, x1 as f64);
            let row = edges.map(|(w0, wx, wy)| (w0 + fy * wy, wx));
            for (w, wx) in row {
                let zero = -w / wx - 0.5;
                if wx > 0.0 {
                    from = from.max(zero.ceil());
                } else if wx < 0.0 {
                    to = to.min(zero.floor());
                } else if w < 0.0 {
                    to = -1.0;
                }
            }
            if to < from {
                continue;
            }
            for x in from as usize..=to as usize {
                let fx = x as f64 + 0.5;
                let w = row.map(|(w, wx)| (w + fx * wx) as f32);
                let depth = w[0] * p[0][2] as f32 + w[1] * p[1][2] as f32 + w[2] * p[2][2] as f32;
                put(self, y * self.width + x, w, depth);
            }
        }
    }

    /// Lays the canvas over a background of linear colours (row by row) and gives 8-bit RGB.
    pub fn over(&self, background: &[Colour]) -> Vec<u8> {
        let (w, h) = (self.width / FINE, self.height / FINE);
        let mut out = Vec::with_capacity(w * h * 3);
        #[expect(clippy::cast_precision_loss, reason = "4")]
        let share = 1.0 / (FINE * FINE) as f32;
        for y in 0..h {
            for x in 0..w {
                let mut sum = [0f32; 3];
                for sub in 0..FINE * FINE {
                    let at = (y * FINE + sub / FINE) * self.width + x * FINE + sub % FINE;
                    let c = if self.depth[at].is_finite() {
                        self.colour[at]
                    } else if self.shadow[at] {
                        background[y * w + x].map(|v| v * 0.52)
                    } else {
                        background[y * w + x]
                    };
                    for k in 0..3 {
                        sum[k] += c[k] * share;
                    }
                }
                out.extend(sum.map(encode));
            }
        }
        out
    }
}

/// Light on a surface: sun, sky from above, a little sheen.
fn shade(colour: Colour, normal: V3, to_eye: V3, light: &Light) -> Colour {
    let n = normal.unit();
    // Flat boards are seen from either side.
    let n = if n.dot(to_eye) < -0.2 { -n } else { n };
    let sun = n.dot(light.sun).max(0.0);
    let sky = 0.5 + 0.5 * n.z;
    let half = (light.sun + to_eye).unit();
    let sheen = 0.10 * n.dot(half).max(0.0).powi(18);
    #[expect(clippy::cast_possible_truncation, reason = "colours are f32")]
    let (k, sheen) = (
        (light.ambient * (0.45 + 0.75 * sky) + (1.0 - light.ambient) * 1.45 * sun) as f32,
        sheen as f32,
    );
    colour.map(|c| c * k + sheen)
}

/// Linear light to an 8-bit sRGB value (IEC 61966-2-1), from a table fine enough for the darks.
fn encode(v: f32) -> u8 {
    static TABLE: LazyLock<Vec<u8>> = LazyLock::new(|| (0..=STEPS).map(srgb).collect());
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to STEPS")]
    let at = (v.clamp(0.0, 1.0) * f32::from(STEPS) + 0.5) as usize;
    TABLE[at]
}

const STEPS: u16 = 16_384;

fn srgb(step: u16) -> u8 {
    let v = f32::from(step) / f32::from(STEPS);
    let s = if v <= 0.003_130_8 { 12.92 * v } else { 1.055 * v.powf(1.0 / 2.4) - 0.055 };
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 255")]
    let byte = (s * 255.0 + 0.5) as u8;
    byte
}
