//! How the camera moved from one frame to the next.
//!
//! Points with strong edges, spread over the picture, are laid over the next frame by least squares on
//! their grey values, from the coarse picture to the fine one; what moves by itself is weighed down by
//! 1/(1 + (r/s)²)² (Geman and McClure 1985; value from memory). The horse fills the middle, so the sides
//! count more.

use std::sync::OnceLock;

use crate::picture::area::Area;
use crate::picture::grey::Grey;
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

/// Nothing known of a shift.
const UNKNOWN: (f64, f64) = (f64::INFINITY, f64::INFINITY);

/// Smallest side of the coarsest layer, pixels.
const COARSEST: usize = 30;
/// Error of a grey value, and of a place in pixels as far as the camera's motion is simpler than this
/// model: what a point's difference is weighed by.
const ERRORS: (f32, f32) = (1.5, 0.25);
/// How much farther off the first rounds of least squares expect a place to be.
const LOOSE: [f32; 5] = [5.0, 4.0, 3.0, 2.0, 1.0];
/// Rounds of least squares a layer.
const ROUNDS: usize = 8;

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
            moved = laid_over(
                &self.0[k],
                &later.0[k].picture,
                turn,
                known,
                but.map(|a| a.scaled(scale(k))).as_ref(),
            );
            turn = if k > 0 { moved.turn.scaled(2.0) } else { moved.turn };
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

/// Least squares on the grey values of a layer's points, from `turn` on.
fn laid_over(from: &Layer, to: &Grey, mut turn: Turn, known: usize, but: Option<&Area>) -> Moved {
    #[expect(clippy::cast_precision_loss, reason = "pixels")]
    let (mx, my) = (from.picture.width as f64 / 2.0, from.picture.height as f64 / 2.0);
    let (mut agreed, mut sd) = (0.0, UNKNOWN);
    let mut residuals: Vec<f32> = Vec::with_capacity(from.points().len());
    // Points that the other picture shows, by how much they differ there, and their errors.
    let mut shown: Vec<(Point, f32, f32)> = Vec::with_capacity(from.points().len());
    for round in known..ROUNDS {
        // A place that may still be far off makes strong edges differ: they must not be weighed down
        // for it, or level ones alone would decide.
        let off = ERRORS.1 * LOOSE[round.min(LOOSE.len() - 1)];
        shown.clear();
        shown.extend(from.points().filter_map(|p| {
            let rest = seen(to, turn, &p)? - p.value;
            Some((p, rest, p.error(ERRORS.0, off)))
        }));
        residuals.clear();
        residuals.extend(shown.iter().map(|(_, rest, error)| rest.abs() / error));
        if residuals.len() < 24 {
            return Moved { turn, agreed: 0.0, sd: UNKNOWN };
        }
        let middle = residuals.len() / 2;
        let s = 2.0 * residuals.select_nth_unstable_by(middle, f32::total_cmp).1.max(0.5);
        let (mut normal, mut right) = ([[0.0f64; 4]; 4], [0.0f64; 4]);
        let (mut kept, mut all) = (0.0, 0.0);
        for (p, r, error) in &shown {
            let far = r / (s * error);
            let w = 1.0 / ((1.0 + far * far).powi(2) * error * error);
            let counts = match but {
                Some(area) if area.holds(p.x, p.y) => 0.0,
                Some(_) => 1.0,
                None => p.counts,
            };
            kept += f64::from(counts * if far.abs() < 1.0 { 1.0 } else { 0.0 });
            all += f64::from(counts);
            let (gx, gy) = (f64::from(p.slope.0), f64::from(p.slope.1));
            let (x, y) = (f64::from(p.x) - mx, f64::from(p.y) - my);
            // How the value changes with the shift, the enlargement and the turn about the middle.
            let row = [gx, gy, (gx * x + gy * y) / mx, (gy * x - gx * y) / mx];
            let w = f64::from(w * counts);
            for i in 0..4 {
                for j in i..4 {
                    normal[i][j] += w * row[i] * row[j];
                }
                right[i] -= w * row[i] * f64::from(*r);
            }
        }
        agreed = kept / all.max(1e-9);
        let ridge = 1e-4 * (normal[0][0] + normal[1][1]) + 1e-9;
        for (k, row) in normal.iter_mut().enumerate() {
            row[k] += ridge;
        }
        let Some(step) = solved(normal, right) else { break };
        let known = |which: usize| {
            let mut unit = [0.0; 4];
            unit[which] = 1.0;
            solved(normal, unit).map_or(f64::INFINITY, |c| c[which].max(0.0).sqrt())
        };
        sd = (known(0), known(1));
        // The step is taken in the first picture's pixels, about its middle.
        let (a, b) = (1.0 + step[2] / mx, step[3] / mx);
        let by = Turn {
            a,
            b,
            dx: step[0] + mx - (a * mx - b * my),
            dy: step[1] + my - (b * mx + a * my),
        };
        turn = by.then(&turn);
        let far = step[0].abs().max(step[1].abs()).max(step[2].abs()).max(step[3].abs());
        if far < 0.002 && round >= LOOSE.len() {
            break;
        }
    }
    Moved { turn, agreed, sd }
}

/// Solves a symmetric system given by its upper half (Cholesky).
fn solved(mut a: [[f64; 4]; 4], b: [f64; 4]) -> Option<[f64; 4]> {
    for i in 0..4 {
        for j in 0..=i {
            let sum: f64 = (0..j).map(|k| a[i][k] * a[j][k]).sum();
            let rest = a[j][i] - sum;
            if i == j {
                if rest <= 0.0 {
                    return None;
                }
                a[i][i] = rest.sqrt();
            } else {
                a[i][j] = rest / a[j][j];
            }
        }
    }
    let mut y = [0.0; 4];
    for i in 0..4 {
        let sum: f64 = (0..i).map(|k| a[i][k] * y[k]).sum();
        y[i] = (b[i] - sum) / a[i][i];
    }
    let mut x = [0.0; 4];
    for i in (0..4).rev() {
        let sum: f64 = (i + 1..4).map(|k| a[k][i] * x[k]).sum();
        x[i] = (y[i] - sum) / a[i][i];
    }
    Some(x)
}
