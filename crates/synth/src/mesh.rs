//! Bodies as tubes: rings swept along a line, with colours and normals at every vertex.

use crate::vec3::{V3, v3};

/// Linear colour, 0 to 1 each.
pub type Colour = [f32; 3];

/// A vertex.
#[derive(Clone, Copy, Debug)]
pub struct Vertex {
    /// Place.
    pub at: V3,
    /// Outward direction, unit length.
    pub normal: V3,
    /// Colour before light.
    pub colour: Colour,
}

/// Triangles over shared vertices.
#[derive(Clone, Debug, Default)]
pub struct Mesh {
    /// Vertices.
    pub vertices: Vec<Vertex>,
    /// Triangles.
    pub triangles: Vec<[u32; 3]>,
}

/// One ring of a tube: an ellipse about `at`.
#[derive(Clone, Copy, Debug)]
pub struct Ring {
    /// Centre.
    pub at: V3,
    /// Half-width across (left–right).
    pub wide: f64,
    /// Half-height in the sagittal plane.
    pub deep: f64,
    /// Colour.
    pub colour: Colour,
}

/// A ring.
pub const fn ring(at: V3, wide: f64, deep: f64, colour: Colour) -> Ring {
    Ring { at, wide, deep, colour }
}

const SIDES: u32 = 14;
/// Rings drawn between two given ones.
const BETWEEN: usize = 4;

impl Mesh {
    /// Adds a tube through rings, rounded by a Catmull–Rom spline, closed at both ends.
    pub fn tube(&mut self, rings: &[Ring]) {
        let fine = smooth(rings);
        let first = self.size();
        for (k, r) in fine.iter().enumerate() {
            let before = fine[k.saturating_sub(1)].at;
            let after = fine[(k + 1).min(fine.len() - 1)].at;
            let along = (after - before).unit();
            let across = v3(0.0, 1.0, 0.0);
            let across = (across - along * across.dot(along)).unit();
            let up = along.cross(across).unit();
            for i in 0..SIDES {
                let (s, c) = (std::f64::consts::TAU * f64::from(i) / f64::from(SIDES)).sin_cos();
                self.vertices.push(Vertex {
                    at: r.at + across * (r.wide * c) + up * (r.deep * s),
                    normal: (across * (c / r.wide.max(1e-6)) + up * (s / r.deep.max(1e-6))).unit(),
                    colour: r.colour,
                });
            }
        }
        #[expect(clippy::cast_possible_truncation, reason = "a tube has few rings")]
        let rings = fine.len() as u32;
        for k in 0..rings - 1 {
            for i in 0..SIDES {
                let (a, b) = (first + k * SIDES + i, first + k * SIDES + (i + 1) % SIDES);
                self.triangles.push([a, b, a + SIDES]);
                self.triangles.push([b, b + SIDES, a + SIDES]);
            }
        }
        self.cap(first, fine[0], -(fine[1].at - fine[0].at).unit());
        let n = fine.len();
        self.cap(
            first + (rings - 1) * SIDES,
            fine[n - 1],
            (fine[n - 1].at - fine[n - 2].at).unit(),
        );
    }

    fn cap(&mut self, first: u32, r: Ring, normal: V3) {
        let centre = self.size();
        self.vertices.push(Vertex { at: r.at, normal, colour: r.colour });
        for i in 0..SIDES {
            self.triangles.push([centre, first + i, first + (i + 1) % SIDES]);
        }
    }

    /// Adds a ball.
    pub fn ball(&mut self, at: V3, radius: f64, colour: Colour) {
        let rings: Vec<Ring> = (0..=6)
            .map(|k| {
                let (s, c) = (std::f64::consts::PI * f64::from(k) / 6.0).sin_cos();
                let r = (radius * s).max(radius * 0.02);
                ring(at + v3(0.0, 0.0, -radius * c), r, r, colour)
            })
            .collect();
        self.tube(&rings);
    }

    /// Adds a flat quad given by its corners in order.
    pub fn quad(&mut self, corners: [V3; 4], colour: Colour) {
        let normal = (corners[1] - corners[0]).cross(corners[3] - corners[0]).unit();
        let first = self.size();
        for at in corners {
            self.vertices.push(Vertex { at, normal, colour });
        }
        self.triangles.push([first, first + 1, first + 2]);
        self.triangles.push([first, first + 2, first + 3]);
    }

    /// Adds an upright box between two opposite corners.
    pub fn block(&mut self, a: V3, b: V3, colour: Colour) {
        let p = |x: bool, y: bool, z: bool| {
            v3(if x { b.x } else { a.x }, if y { b.y } else { a.y }, if z { b.z } else { a.z })
        };
        for flip in [false, true] {
            self.quad(
                [
                    p(flip, false, false),
                    p(flip, true, false),
                    p(flip, true, true),
                    p(flip, false, true),
                ],
                colour,
            );
            self.quad(
                [
                    p(false, flip, false),
                    p(true, flip, false),
                    p(true, flip, true),
                    p(false, flip, true),
                ],
                colour,
            );
            self.quad(
                [
                    p(false, false, flip),
                    p(true, false, flip),
                    p(true, true, flip),
                    p(false, true, flip),
                ],
                colour,
            );
        }
    }

    fn size(&self) -> u32 {
        u32::try_from(self.vertices.len()).unwrap_or(u32::MAX)
    }
}

fn smooth(rings: &[Ring]) -> Vec<Ring> {
    let n = rings.len();
    let mut out = Vec::with_capacity(n * BETWEEN);
    for k in 0..n - 1 {
        let p = [rings[k.saturating_sub(1)], rings[k], rings[k + 1], rings[(k + 2).min(n - 1)]];
        for step in 0..BETWEEN {
            #[expect(clippy::cast_precision_loss, reason = "a handful")]
            let t = step as f64 / BETWEEN as f64;
            out.push(between(&p, t));
        }
    }
    out.push(rings[n - 1]);
    out
}

fn between(p: &[Ring; 4], t: f64) -> Ring {
    let spline = |f: &dyn Fn(&Ring) -> f64| {
        let (a, b, c, d) = (f(&p[0]), f(&p[1]), f(&p[2]), f(&p[3]));
        0.5 * (2.0 * b
            + (c - a) * t
            + (2.0 * a - 5.0 * b + 4.0 * c - d) * t * t
            + (3.0 * b - a - 3.0 * c + d) * t * t * t)
    };
    #[expect(clippy::cast_possible_truncation, reason = "colours are f32")]
    let blend = t as f32;
    let colour =
        std::array::from_fn(|k| p[1].colour[k] + (p[2].colour[k] - p[1].colour[k]) * blend);
    Ring {
        at: v3(spline(&|r| r.at.x), spline(&|r| r.at.y), spline(&|r| r.at.z)),
        wide: spline(&|r| r.wide).max(0.001),
        deep: spline(&|r| r.deep).max(0.001),
        colour,
    }
}
