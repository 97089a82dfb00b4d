//! How the camera moved from one frame to the next.
//!
//! Points with strong edges, spread over the picture, are laid over the next frame by least squares on
//! their grey values, from the coarse picture to the fine one; what moves by itself is weighed down by
//! 1/(1 + (r/s)²)² (Geman and McClure 1985; value from memory). The horse fills the middle, so the sides
//! count more.

use std::sync::OnceLock;

use crate::picture::area::Area;
use crate::picture::grey::Grey;
use crate::picture::overlay::{ERRORS, LOOSE, Overlay, Points, UNKNOWN, solved};
use crate::picture::points::{Kept, Point, points};
use crate::picture::turn::Turn;
use crate::picture::votes::{self, Votes};

/// A picture with its halves and the points by which it is laid over another.
#[derive(Clone, Debug)]
pub struct Layers(Vec<Layer>);

#[derive(Clone, Debug)]
struct Layer {
    picture: Grey,
    /// Only of frames that others are laid over.
    points: OnceLock<Vec<Kept>>,
}

impl Layer {
    fn points(&self) -> impl ExactSizeIterator<Item = Point> {
        self.points.get_or_init(|| points(&self.picture)).iter().map(Kept::point)
    }
}

/// How the camera moved, and how well that is known.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Moved {
    /// From the first frame's pixels to the second's.
    pub turn: Turn,
    /// Share of the weight of all points that moved with the camera, 0 to 1.
    pub agreed: f64,
    /// How well the shifts to the right and down are known: their standard deviations, pixels.
    pub sd: (f64, f64),
}

/// Smallest side of the coarsest layer, pixels.
const COARSEST: usize = 30;

/// Steps shorter than this need no other, pixels of the finest layer and of those from which it goes on.
const NEAR: (f64, f64) = (0.002, 0.02);

impl Layers {
    /// The layers of a picture.
    pub fn of(picture: Grey) -> Self {
        let mut layers = vec![];
        let mut now = picture;
        loop {
            let next = (now.width.min(now.height) >= 2 * COARSEST).then(|| now.half());
            layers.push(Layer { points: OnceLock::new(), picture: now });
            match next {
                Some(half) => now = half,
                None => return Self(layers),
            }
        }
    }

    /// The layers of another picture, no larger, in the memory of these: a thread that makes pictures in place of those of
    /// another keeps as many again.
    #[must_use]
    pub fn again(mut self, picture: Grey) -> Self {
        let made = Self::of(picture);
        self.0.truncate(made.0.len());
        for (old, new) in self.0.iter_mut().zip(made.0) {
            let mut pixels = std::mem::take(&mut old.picture.pixels);
            pixels.clear();
            pixels.extend_from_slice(&new.picture.pixels);
            *old = Layer { picture: Grey { pixels, ..new.picture }, points: OnceLock::new() };
        }
        self
    }

    /// The picture itself.
    pub fn picture(&self) -> &Grey {
        &self.0[0].picture
    }

    /// The picture itself, to be changed; its halves stay as they are.
    pub fn picture_mut(&mut self) -> &mut Grey {
        &mut self.0[0].picture
    }

    /// The picture with its sides halved `k` times, or the smallest there is.
    pub fn layer(&self, k: usize) -> &Grey {
        &self.0[k.min(self.0.len() - 1)].picture
    }

    /// How the camera moved from this frame to another of the same size, looked for close to
    /// `expected`. Nothing to hold on to gives `expected` with nothing agreed.
    pub fn to(&self, later: &Self, expected: Turn, but: Option<&Area>) -> Moved {
        self.laid_from(LAYERS - 1, 0, later, expected, but)
    }

    /// As [`Layers::to`], where the camera is known to have moved as `expected` to about half a pixel.
    pub fn to_nearby(&self, later: &Self, expected: Turn, but: Option<&Area>) -> Moved {
        self.laid_from(0, LOOSE.len() - 2, later, expected, but)
    }

    /// From layer `coarsest` on; the first `known` rounds of least squares, in which a place may be far off,
    /// are left out.
    fn laid_from(
        &self,
        coarsest: usize,
        known: usize,
        later: &Self,
        expected: Turn,
        but: Option<&Area>,
    ) -> Moved {
        let first = (self.0.len().min(later.0.len()) - 1).min(coarsest);
        #[expect(clippy::cast_possible_truncation, clippy::cast_possible_wrap, reason = "layers")]
        let scale = |k: usize| 0.5f64.powi(k as i32);
        let mut turn = expected.scaled(scale(first));
        let mut moved = Moved { turn, agreed: 0.0, sd: UNKNOWN };
        for k in (0..=first).rev() {
            let from = &self.0[k];
            let size = (from.picture.width, from.picture.height);
            let but = but.map(|a| a.scaled(scale(k)));
            let near = if k > 0 { NEAR.1 } else { NEAR.0 };
            let points = Points::of(from.points(), size, but.as_ref());
            let Overlay { turn: own, agreed, sd } =
                points.onto(&later.0[k].picture, turn, known, near);
            moved = Moved { turn: own, agreed, sd };
            turn = own.scaled(2.0);
        }
        let grown = (moved.turn.a - 1.0).abs().max(moved.turn.b.abs());
        if grown < MOST_GROWN && moved.agreed > 0.0 {
            moved
        } else {
            Moved { turn: expected, agreed: 0.0, sd: UNKNOWN }
        }
    }

    /// What the sides and the middle of this picture and a later one, laid over one another by `turn`, say of
    /// how much a lens bends them: information (1 over the variance), and information times 1/f², f in pixels.
    /// For a camera that turns to the side, what is seen x pixels from the middle goes by faster by x²/f².
    pub fn bend(&self, later: &Self, turn: Turn) -> (f64, f64) {
        let Some(layer) = self.0.first() else { return (0.0, 0.0) };
        let to = later.picture();
        #[expect(clippy::cast_precision_loss, reason = "pixels")]
        let (mx, my) = (layer.picture.width as f64 / 2.0, layer.picture.height as f64 / 2.0);
        let way = turn.of(mx, my).0 - mx;
        let (mut normal, mut right) = ([[0.0f64; 4]; 4], [0.0f64; 4]);
        let (mut across, mut own, mut own_right) = ([0.0f64; 4], 0.0, 0.0);
        for p in layer.points() {
            let Some(rest) = seen(to, turn, &p).map(|v| v - p.value) else { continue };
            let error = p.error(ERRORS.0, ERRORS.1);
            let far = rest / (2.0 * error);
            let w = f64::from(p.counts / ((1.0 + far * far).powi(2) * error * error));
            let (gx, gy) = (f64::from(p.slope.0), f64::from(p.slope.1));
            let (x, y) = (f64::from(p.x) - mx, f64::from(p.y) - my);
            let row = [gx, gy, (gx * x + gy * y) / mx, (gy * x - gx * y) / mx];
            let between = x + 0.5 * way;
            let bends = way * (gx * between * between + gy * between * y);
            for i in 0..4 {
                for j in i..4 {
                    normal[i][j] += w * row[i] * row[j];
                }
                right[i] -= w * row[i] * f64::from(rest);
                across[i] += w * row[i] * bends;
            }
            own += w * bends * bends;
            own_right -= w * bends * f64::from(rest);
        }
        for (k, row) in normal.iter_mut().enumerate() {
            row[k] += 1e-9;
        }
        let (Some(a), Some(b)) = (solved(normal, across), solved(normal, right)) else {
            return (0.0, 0.0);
        };
        let dot = |u: &[f64; 4]| across.iter().zip(u).map(|(p, q)| p * q).sum::<f64>();
        ((own - dot(&a)).max(0.0), own_right - dot(&b))
    }

    /// What the blocks of this picture vote for: see [`Votes`].
    pub fn votes(&self, later: &Self) -> Votes {
        let last = self.0.len().min(later.0.len()) - 1;
        let k = (0..last).find(|k| self.0[*k].picture.width <= SEARCHED).unwrap_or(last);
        votes::votes(&self.0[k].picture, &later.0[k].picture, self.0[0].picture.width)
    }
}

/// Widest layer that is searched, pixels.
const SEARCHED: usize = 200;

/// More than this share a camera does not zoom or turn about its line of sight in 50 ms.
const MOST_GROWN: f64 = 0.06;

/// Layers in which a motion that is nearly known is looked for.
const LAYERS: usize = 3;

#[expect(clippy::cast_possible_truncation, reason = "pixels")]
fn seen(picture: &Grey, turn: Turn, p: &Point) -> Option<f32> {
    let (x, y) = turn.of(f64::from(p.x), f64::from(p.y));
    picture.at(x as f32, y as f32)
}
