//! Shadows lifted off the ground.
//!
//! A shadow that goes with the horse is as still as its hooves are, and lies where they stand. It leaves the
//! ground the same share of its light everywhere, and a hoof does not: where one share is much more frequent
//! under the horse than any other, what has it is ground.

use std::ops::Range;

use crate::number::{byte, count, place, small};
use crate::picture::background::Background;
use crate::picture::between::BLOCK;
use crate::picture::grey::Grey;
use crate::picture::turn::Turn;

/// Shares are told apart by this.
const STEP: f32 = 0.02;

/// Least and greatest share of its light that a shadow leaves the ground: fainter ones do not matter, and what is
/// darker is not told from a limb.
const LEAVES: (f32, f32) = (0.40, 0.92);

/// A shadow's shares end where they are this part as frequent as the most frequent, …
const FLANK: f64 = 0.05;

/// … and a little below; what is darker by so much more is none of it.
const MARGIN: f32 = 0.015;
const OVER: f32 = 0.06;

/// Of all that is darker than the ground, a shadow is this part at least …
const MOSTLY: f64 = 0.45;

/// … and of all that is looked at this part.
const ENOUGH: f64 = 0.005;

/// Pixels side by side are of one shadow when their shares are as alike as this; so many between may be something else.
const ALIKE: f32 = 0.09;
const GAP: usize = 2;

/// Ground darker than this has no shadow.
const DARK: f32 = 24.0;

/// Shares of the background's light, counted under a horse.
#[derive(Clone, Debug)]
pub struct Shares {
    counts: Vec<usize>,
    all: usize,
}

impl Default for Shares {
    fn default() -> Self {
        Self { counts: vec![0; place(f64::from(LEAVES.1 / STEP)) + 1], all: 0 }
    }
}

impl Shares {
    /// Counts a row of pixels on the ground: the share of the background's light of each, unknown where it is not a
    /// number. Only what is darker for at least `long` pixels is counted: a limb is upright, and narrow.
    pub fn take(&mut self, row: &[f32], long: usize) {
        self.all += row.iter().filter(|s| !s.is_nan()).count();
        let mut run: Vec<f32> = vec![];
        let mut gap = 0;
        for share in row {
            let dark = (LEAVES.0..LEAVES.1).contains(share);
            let mean = run.iter().sum::<f32>() / small(count(run.len().max(1)));
            if dark && (run.is_empty() || (share - mean).abs() < ALIKE) {
                run.push(*share);
                gap = 0;
                continue;
            }
            gap += 1;
            if gap > GAP || run.is_empty() {
                self.count(&run, long);
                run.clear();
                gap = 0;
            }
        }
        self.count(&run, long);
    }

    fn count(&mut self, run: &[f32], long: usize) {
        if run.len() < long {
            return;
        }
        for share in run {
            if let Some(own) = self.counts.get_mut(place(f64::from(share / STEP))) {
                *own += 1;
            }
        }
    }

    /// The shadow, where there is one.
    pub fn shadow(&self) -> Option<Shadow> {
        let first = place(f64::from(LEAVES.0 / STEP));
        let last = self.counts.len() - 1;
        let best = (first..=last).max_by_key(|k| self.counts[*k])?;
        // What grows towards the ground's own light is the ground.
        if best + 2 > last {
            return None;
        }
        let few = FLANK * count(self.counts[best]);
        let below = (0..best).rev().find(|k| count(self.counts[*k]) < few)?;
        // Between two shares: a few pixels more or fewer do not move a shadow's edge by a whole step.
        let (under, over) = (count(self.counts[below]), count(self.counts[below + 1]));
        let darkest = small(count(below) + 0.5 + (few - under) / (over - under)) * STEP;
        // The top of the parabola through the most frequent share and those beside it.
        let [l, m, r] = [best - 1, best, best + 1].map(|k| count(self.counts[k]));
        let top = 0.5 * (l - r) / (l - 2.0 * m + r).min(-1.0);
        let own: usize = self.counts[below + 1..].iter().sum();
        let darker = count(self.counts.iter().sum());
        let is_one = count(own) > MOSTLY * darker && count(own) > ENOUGH * count(self.all);
        is_one.then(|| Shadow {
            darkest: darkest - MARGIN,
            usual: small(count(best) + 0.5 + top) * STEP,
        })
    }
}

/// A shadow.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Shadow {
    /// The least share of its light that it leaves the ground.
    pub darkest: f32,
    /// The share that it mostly leaves it.
    pub usual: f32,
}

/// The share of a background's light that a value has; not a number where that cannot be told.
pub fn share(value: f32, behind: f32) -> f32 {
    if behind < DARK { f32::NAN } else { value / behind }
}

impl Shadow {
    /// A value as it would be without the shadow, before a background: what is as dark as the shadow or lighter is
    /// ground. Between the two it goes over from one to the other.
    pub fn lifted(&self, value: f32, behind: f32) -> f32 {
        let share = share(value, behind);
        let ground = ((share - self.darkest + OVER) / OVER).clamp(0.0, 1.0);
        let lifted = value + ground * (behind - value);
        // Not where its share is unknown.
        if share < 1.0 { lifted } else { value }
    }

    /// Lifts it off some rows of a picture; `to_behind` leads from the picture's pixels to the background's.
    pub fn lift(
        &self,
        picture: &mut Grey,
        rows: Range<usize>,
        behind: &Background,
        to_behind: &Turn,
    ) {
        let width = picture.width;
        let rows = rows.start.min(picture.height)..rows.end.min(picture.height);
        for y in rows {
            let row = &mut picture.pixels[y * width..][..width];
            for (k, own) in row.chunks_mut(BLOCK).enumerate() {
                let (mut x, mut down) = ([0.0; BLOCK], [0.0; BLOCK]);
                let first = to_behind.of(count(k * BLOCK), count(y));
                let (first, step) =
                    ((small(first.0), small(first.1)), (small(to_behind.a), small(to_behind.b)));
                for (at, (x, down)) in x.iter_mut().zip(&mut down).enumerate() {
                    let at = small(count(at));
                    (*x, *down) = (first.0 + at * step.0, first.1 + at * step.1);
                }
                let behind = behind.values(x, down);
                for (own, behind) in own.iter_mut().zip(behind) {
                    *own = byte(self.lifted(f32::from(*own), behind));
                }
            }
        }
    }
}
