//! Least squares on the grey values of a picture's points: how it lies over another.
//!
//! Points are taken block by block, some at once; sums go over to double precision after every block.

use crate::picture::area::Area;
use crate::picture::between::{BLOCK, Between, Row};
use crate::picture::grey::Grey;
use crate::picture::points::Point;
use crate::picture::turn::Turn;

/// What least squares found.
#[derive(Clone, Copy, Debug)]
pub struct Overlay {
    /// From the picture's pixels to the other's.
    pub turn: Turn,
    /// Share of the weight of all points that moved with the picture, 0 to 1.
    pub agreed: f64,
    /// Standard deviations of its shifts to the right and down, pixels.
    pub sd: (f64, f64),
}

/// Nothing known of a shift.
pub const UNKNOWN: (f64, f64) = (f64::INFINITY, f64::INFINITY);

/// Error of a grey value, and of a place in pixels as far as the camera's motion is simpler than this
/// model: what a point's difference is weighed by.
pub const ERRORS: (f32, f32) = (1.5, 0.25);

/// How much farther off the first rounds of least squares expect a place to be.
pub const LOOSE: [f32; 5] = [5.0, 4.0, 3.0, 2.0, 1.0];

/// Rounds of least squares.
const ROUNDS: usize = 14;

/// Fewer points than this tell nothing.
const FEWEST: usize = 24;

/// Points of a block that are summed up side by side.
const LANES: usize = 4;

/// A block of points. What is not there counts nothing and has place −1.
#[derive(Clone)]
struct Block {
    x: Row,
    y: Row,
    value: Row,
    /// How the value changes with a shift to the right and down, with enlargement, and with a turn about the middle.
    slopes: [Row; 4],
    /// The square of how steep it is.
    steep: Row,
    counts: Row,
}

/// A block in a round.
#[derive(Clone)]
struct Shown {
    /// How much the points differ in the other picture.
    rest: Row,
    /// One over what they may; nothing for what the other picture does not show.
    sure: Row,
}

/// The points of a picture, for least squares.
pub struct Points {
    blocks: Vec<Block>,
    /// Half of the picture's width and height, pixels.
    middle: (f64, f64),
}

impl Points {
    /// Of a picture so wide and high. Where `but` is, nothing counts; elsewhere everything the same, and without it as
    /// much as the points say.
    #[expect(clippy::cast_precision_loss, clippy::cast_possible_truncation, reason = "pixels")]
    pub fn of(
        points: impl Iterator<Item = Point>,
        (width, height): (usize, usize),
        but: Option<&Area>,
    ) -> Self {
        let middle = (0.5 * width as f64, 0.5 * height as f64);
        let (mx, my) = (middle.0 as f32, middle.1 as f32);
        let none = || Block {
            x: [-1.0; BLOCK],
            y: [-1.0; BLOCK],
            value: [0.0; BLOCK],
            slopes: [[0.0; BLOCK]; 4],
            steep: [0.0; BLOCK],
            counts: [0.0; BLOCK],
        };
        let mut blocks: Vec<Block> = Vec::with_capacity(points.size_hint().0.div_ceil(BLOCK));
        for (k, p) in points.enumerate() {
            if k.is_multiple_of(BLOCK) {
                blocks.push(none());
            }
            let (Some(block), at) = (blocks.last_mut(), k % BLOCK) else { continue };
            let ((gx, gy), x, y) = (p.slope, p.x - mx, p.y - my);
            let slopes = [gx, gy, (gx * x + gy * y) / mx, (gy * x - gx * y) / mx];
            for (row, own) in block.slopes.iter_mut().zip(slopes) {
                row[at] = own;
            }
            (block.x[at], block.y[at], block.value[at]) = (p.x, p.y, p.value);
            block.steep[at] = gx * gx + gy * gy;
            block.counts[at] = match but {
                Some(area) if area.holds(p.x, p.y) => 0.0,
                Some(_) => 1.0,
                None => p.counts,
            };
        }
        Self { blocks, middle }
    }

    /// How the picture lies over another, from `turn` on; the first `known` rounds, in which a place may be far off, are
    /// left out, and where the last step was shorter than `near` pixels it is done.
    pub fn onto(&self, to: &Grey, mut turn: Turn, known: usize, near: f64) -> Overlay {
        let (mx, my) = self.middle;
        let (mut agreed, mut sd) = (0.0, UNKNOWN);
        let nothing = Shown { rest: [0.0; BLOCK], sure: [0.0; BLOCK] };
        let mut shown = vec![nothing; self.blocks.len()];
        // Numbers above none lie in order as their bits do.
        let mut far_off: Vec<u32> = Vec::with_capacity(BLOCK * self.blocks.len());
        for round in known..ROUNDS {
            // A place that may still be far off makes strong edges differ: they must not be weighed down
            // for it, or level ones alone would decide.
            let off = ERRORS.1 * LOOSE[round.min(LOOSE.len() - 1)];
            far_off.clear();
            for (block, shown) in self.blocks.iter().zip(&mut shown) {
                block.lay(to, turn, (ERRORS.0, off), shown);
                let each = shown.rest.iter().zip(&shown.sure).filter(|(_, sure)| **sure > 0.0);
                far_off.extend(each.map(|(rest, sure)| (rest.abs() * sure).to_bits()));
            }
            if far_off.len() < FEWEST {
                return Overlay { turn, agreed: 0.0, sd: UNKNOWN };
            }
            let middle = far_off.len() / 2;
            let usual = f32::from_bits(*far_off.select_nth_unstable(middle).1);
            let mut sums = Sums::default();
            for (block, shown) in self.blocks.iter().zip(&shown) {
                sums.add(block, shown, 0.5 / usual.max(0.5));
            }
            agreed = sums.kept / sums.all.max(1e-9);
            let mut normal = sums.normal;
            let ridge = 1e-4 * (normal[0][0] + normal[1][1]) + 1e-9;
            for (k, row) in normal.iter_mut().enumerate() {
                row[k] += ridge;
            }
            let Some(step) = solved(normal, sums.right) else { break };
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
            if far < near && round >= LOOSE.len() {
                break;
            }
        }
        Overlay { turn, agreed, sd }
    }
}

impl Block {
    /// How much its points differ in a picture, and how little they may: a grey value's error, and that of a place.
    #[expect(clippy::cast_possible_truncation, reason = "seven digits are enough")]
    fn lay(&self, to: &Grey, turn: Turn, errors: (f32, f32), shown: &mut Shown) {
        let (a, b, dx, dy) = (turn.a as f32, turn.b as f32, turn.dx as f32, turn.dy as f32);
        let (mut x, mut y) = ([0.0; BLOCK], [0.0; BLOCK]);
        for k in 0..BLOCK {
            x[k] = a * self.x[k] - b * self.y[k] + dx;
            y[k] = b * self.x[k] + a * self.y[k] + dy;
        }
        let there = Between::of(&x, &y, (to.width, to.height));
        let values = there.bytes(&to.pixels, to.width);
        for (k, value) in values.iter().enumerate() {
            shown.rest[k] = value - self.value[k];
            let error = (errors.0 * errors.0 + errors.1 * errors.1 * self.steep[k]).sqrt();
            let is_one = if self.x[k] >= 0.0 { 1.0 } else { 0.0 };
            shown.sure[k] = is_one * there.inside[k] / error;
        }
    }
}

/// What a round of least squares adds up.
#[derive(Default)]
struct Sums {
    normal: [[f64; 4]; 4],
    right: [f64; 4],
    /// Weight of the points that agree, and of all.
    kept: f64,
    all: f64,
}

impl Sums {
    /// Adds a block's points. Those that differ more than `1 / per` times what they may count little: 1/(1 + r²)².
    fn add(&mut self, block: &Block, shown: &Shown, per: f32) {
        let mut sums = [[0.0f32; LANES]; 16];
        for from in (0..BLOCK).step_by(LANES) {
            let of = |row: &Row| -> [f32; LANES] { std::array::from_fn(|l| row[from + l]) };
            let (rest, sure, counts) = (of(&shown.rest), of(&shown.sure), of(&block.counts));
            let slopes = block.slopes.each_ref().map(of);
            let mut add = |k: usize, each: [f32; LANES]| {
                for (sum, own) in sums[k].iter_mut().zip(each) {
                    *sum += own;
                }
            };
            let times = |a: &[f32; LANES], b: &[f32; LANES]| -> [f32; LANES] {
                std::array::from_fn(|l| a[l] * b[l])
            };
            let counts: [f32; LANES] =
                std::array::from_fn(|l| if sure[l] > 0.0 { counts[l] } else { 0.0 });
            let far: [f32; LANES] = std::array::from_fn(|l| rest[l] * sure[l] * per);
            let weight: [f32; LANES] = std::array::from_fn(|l| {
                let soft = 1.0 + far[l] * far[l];
                counts[l] * sure[l] * sure[l] / (soft * soft)
            });
            add(14, counts);
            add(15, std::array::from_fn(|l| if far[l].abs() < 1.0 { counts[l] } else { 0.0 }));
            let mut k = 0;
            for i in 0..4 {
                let weighed = times(&weight, &slopes[i]);
                for slope in &slopes[i..] {
                    add(k, times(&weighed, slope));
                    k += 1;
                }
                add(10 + i, times(&weighed, &rest));
            }
        }
        let sum = |k: usize| f64::from(sums[k].iter().sum::<f32>());
        let mut k = 0;
        for i in 0..4 {
            for j in i..4 {
                self.normal[i][j] += sum(k);
                k += 1;
            }
            self.right[i] -= sum(10 + i);
        }
        self.all += sum(14);
        self.kept += sum(15);
    }
}

/// Solves a symmetric system given by its upper half (Cholesky).
pub fn solved(mut a: [[f64; 4]; 4], b: [f64; 4]) -> Option<[f64; 4]> {
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
