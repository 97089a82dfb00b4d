//! A turning camera's pictures unrolled: laid onto a cylinder about the lens, a turn of the camera is a plain
//! shift of the whole picture, sides and middle alike. Flat pictures are not: what is seen at the sides goes by
//! faster, by x²/f² (geometry), 10 to 40 % for a phone near the track, and what was learned of the camera at the
//! sides would be wrong under the horse.
//!
//! How long the lens is nobody says; it is found as the length under which two pictures of a pan agree best.

use crate::number::{byte, count, place, small};
use crate::parallel::mapped;
use crate::picture::between::{BLOCK, Between, Row};
use crate::picture::grey::Grey;
use crate::picture::motion::Layers;
use crate::picture::turn::Turn;

/// Between a flat picture and the cylinder.
#[derive(Clone, Debug, PartialEq)]
pub struct Unrolled {
    focal: f64,
    flat: (usize, usize),
    width: usize,
    /// Its columns, some at a time.
    columns: Vec<Columns>,
}

/// Where columns of the cylinder lie in the flat picture, and how much higher it is there.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Columns {
    at: Row,
    grown: Row,
}

impl Unrolled {
    /// For flat pictures of a size, whose lens is `focal` pixels long. What is seen at the very edge stays at
    /// the edge: the picture becomes narrower.
    pub fn new((width, height): (usize, usize), focal: f64) -> Self {
        let half = 0.5 * count(width - 1);
        let kept = place((2.0 * focal * (half / focal).atan()).floor()) + 1;
        // Halves of halves stay whole.
        let width_now = (kept / 4 * 4).clamp(4.min(width), width);
        let mut out = Self { focal, flat: (width, height), width: width_now, columns: vec![] };
        let columns = (0..width_now).map(|x| {
            let at = out.back((count(x), 0.0)).0.clamp(0.0, count(width - 1));
            let angle = (count(x) - 0.5 * count(width_now - 1)) / focal;
            (small(at), small(angle.cos().recip()))
        });
        let columns: Vec<(f32, f32)> = columns.collect();
        let block = |own: &[(f32, f32)]| {
            let mut block = Columns { at: [0.0; BLOCK], grown: [1.0; BLOCK] };
            for (k, column) in own.iter().enumerate() {
                (block.at[k], block.grown[k]) = *column;
            }
            block
        };
        out.columns = columns.chunks(BLOCK).map(block).collect();
        out
    }

    /// A place of the cylinder in the flat picture.
    pub fn back(&self, (x, y): (f64, f64)) -> (f64, f64) {
        let angle = (x - 0.5 * count(self.width - 1)) / self.focal;
        let middle = 0.5 * count(self.flat.1 - 1);
        (
            self.focal * angle.tan() + 0.5 * count(self.flat.0 - 1),
            (y - middle) / angle.cos() + middle,
        )
    }

    /// A place of the flat picture on the cylinder.
    pub fn onto(&self, (x, y): (f64, f64)) -> (f64, f64) {
        let angle = ((x - 0.5 * count(self.flat.0 - 1)) / self.focal).atan();
        let middle = 0.5 * count(self.flat.1 - 1);
        (self.focal * angle + 0.5 * count(self.width - 1), (y - middle) * angle.cos() + middle)
    }

    /// A flat picture, unrolled. What the flat picture does not show is as its edge.
    #[must_use]
    pub fn of(&self, picture: &Grey) -> Grey {
        let ((w, h), width) = (self.flat, self.width);
        if w < 2 || h < 2 {
            return picture.clone();
        }
        let last = small(count(h - 1));
        let mut pixels = vec![0; width * h];
        for (y, out) in pixels.chunks_mut(width).enumerate() {
            let below = small(count(y)) - 0.5 * last;
            for (out, columns) in out.chunks_mut(BLOCK).zip(&self.columns) {
                let mut low = [0.0; BLOCK];
                for (low, grown) in low.iter_mut().zip(&columns.grown) {
                    *low = (below * grown + 0.5 * last).clamp(0.0, last);
                }
                let there = Between::of(&columns.at, &low, (w, h));
                let values = there.bytes(&picture.pixels, w);
                out.iter_mut().zip(values).for_each(|(own, value)| *own = byte(value));
            }
        }
        Grey { width, height: h, pixels }
    }
}

/// Pairs of frames that are looked at, their distance in s, and the least and most way between them, shares of
/// the picture's width.
const PAIRS: usize = 10;
const APART_S: f64 = 0.15;
const WAY: (f64, f64) = (0.02, 0.25);

/// Rounds in which a lens is found, unrolled by, and found better.
const ROUNDS: usize = 6;

/// A step is taken so much farther than it says: what does not fit yet is weighed down.
const FARTHER: f64 = 1.6;

/// A lens is believed when what it bends is this many times its error, …
const SURE: f64 = 3.0;

/// … and is no shorter than this share of the picture's width.
const SHORTEST: f64 = 0.35;

/// How long the lens of a camera is that went `rough` over `frames`, pixels; `None` when it did not turn enough
/// for that to be told, or nothing bends.
pub fn focal(frames: &[Layers], rate: f64, rough: &[Turn]) -> Option<f64> {
    let apart = place((APART_S * rate).round()).max(1);
    let size = (frames.first()?.picture().width, frames[0].picture().height);
    let wide = count(size.0);
    let middle = (0.5 * wide, 0.5 * count(size.1));
    let way = |t: &Turn| (t.of(middle.0, middle.1).0 - middle.0).abs() / wide;
    let mut pairs: Vec<(usize, Turn)> = (0..frames.len().saturating_sub(apart))
        .step_by(apart)
        .map(|f| (f, rough[f].then(&rough[f + apart].back())))
        .filter(|(_, t)| (WAY.0..WAY.1).contains(&way(t)))
        .collect();
    if pairs.len() < PAIRS / 2 {
        return None;
    }
    // Spread over the clip, for light and ground differ.
    let every = pairs.len().div_ceil(PAIRS);
    pairs = pairs.into_iter().step_by(every).collect();
    let most_bent = (SHORTEST * wide).powi(-2);
    let (mut bent, mut sd) = (0.0f64, f64::INFINITY);
    for _ in 0..ROUNDS {
        let unrolled = (bent > 0.0).then(|| Unrolled::new(size, bent.sqrt().recip()));
        let of = |f: usize| match &unrolled {
            Some(u) => Layers::of(u.of(frames[f].picture())),
            None => frames[f].clone(),
        };
        let told = mapped(pairs.clone(), |(f, turn)| {
            let (one, other) = (of(f), of(f + apart));
            let moved = one.to(&other, turn, None);
            one.bend(&other, moved.turn)
        });
        let information: f64 = told.iter().map(|t| t.0).sum();
        let weighed: f64 = told.iter().map(|t| t.1).sum();
        if information <= 0.0 {
            return None;
        }
        bent = (bent + FARTHER * weighed / information).clamp(0.0, most_bent);
        sd = information.sqrt().recip();
    }
    (bent > SURE * sd).then(|| bent.sqrt().recip())
}
