//! What lies behind the horse: the median of the pictures some seconds about a moment, laid over one
//! another.

use std::ops::Range;

use crate::number::{nearest, place_of, small, whole};
use crate::picture::between::{BLOCK, Between, Row};
use crate::picture::grey::Grey;
use crate::picture::turn::Turn;

/// Pictures this long before and after a moment are looked at, s, …
const ABOUT: f64 = 2.5;

/// … this far apart.
const APART: f64 = 0.15;

/// Fewer looks at a place than this say nothing of what lies behind.
const FEW: usize = 5;

/// What lies behind, as seen from one frame, with room at the sides.
#[derive(Clone, Debug)]
pub struct Background {
    /// Frame whose pixels these are.
    pub frame: usize,
    /// Pixels of room to the left and above.
    pub room: (usize, usize),
    /// Pixels across, room included.
    pub width: usize,
    /// Pixels down, room included.
    pub height: usize,
    /// Median value; NaN where too few looks fell.
    pub values: Vec<f32>,
}

impl Background {
    /// What lies behind about `frame`, with `room` pixels to the sides and above and below. `picture`
    /// gives the frames, `to_first` the way of the camera in their pixels. Only `rows` of the frame are asked
    /// for; nothing is known of others.
    pub fn about<'a>(
        frame: usize,
        room: (usize, usize),
        rows: Range<usize>,
        rate: f64,
        to_first: &[Turn],
        picture: impl Fn(usize) -> &'a Grey,
    ) -> Self {
        let reach = (ABOUT / APART).round() as i64;
        let apart = APART * rate;
        let looks: Vec<(&Grey, Turn)> = (-reach..=reach)
            .filter_map(|k| {
                let at = frame as f64 + (k as f64 * apart).round();
                let at = (at >= 0.0 && at < to_first.len() as f64).then_some(at as usize)?;
                Some((picture(at), to_first[frame].then(&to_first[at].back())))
            })
            .collect();
        let own = picture(frame);
        let (width, height) = (own.width + 2 * room.0, own.height + 2 * room.1);
        let mut values = vec![f32::NAN; width * height];
        let asked = rows.start..(rows.end + 2 * room.1).min(height);
        for (y, row) in values.chunks_mut(width).enumerate().take(asked.end).skip(asked.start) {
            for (k, out) in row.chunks_mut(BLOCK).enumerate() {
                let from = ((k * BLOCK) as f64 - room.0 as f64, y as f64 - room.1 as f64);
                middle(&looks, from, out);
            }
        }
        Self { frame, room, width, height, values }
    }

    /// Values at some places in the pixels of its own frame; not a number where nothing is known.
    pub fn values(&self, mut x: Row, mut y: Row) -> Row {
        let room = (self.room.0 as f32, self.room.1 as f32);
        x.iter_mut().for_each(|x| *x += room.0);
        y.iter_mut().for_each(|y| *y += room.1);
        let there = Between::of(&x, &y, (self.width, self.height));
        let mut out = there.numbers(&self.values, self.width);
        for (value, inside) in out.iter_mut().zip(&there.inside) {
            *value = if *inside > 0.0 { *value } else { f32::NAN };
        }
        out
    }

    /// Value at a place in the pixels of its own frame; NaN where nothing is known.
    pub fn at(&self, x: f64, y: f64) -> f32 {
        let (x, y) = (x + self.room.0 as f64, y + self.room.1 as f64);
        if !(x >= 0.0 && y >= 0.0) {
            return f32::NAN;
        }
        let (ix, iy) = (whole(x), whole(y));
        if ix + 1 >= self.width || iy + 1 >= self.height {
            return f32::NAN;
        }
        let (fx, fy) = ((x - ix as f64) as f32, (y - iy as f64) as f32);
        let w = self.width;
        let near = &self.values[iy * w + ix..][..w + 2];
        let above = near[0] + fx * (near[1] - near[0]);
        let below = near[w] + fx * (near[w + 1] - near[w]);
        above + fy * (below - above)
    }
}

/// The medians of what looks show at the pixels of a frame from `from` to the right, nearest pixels being good enough
/// for one; nothing where few do.
fn middle(looks: &[(&Grey, Turn)], from: (f64, f64), out: &mut [f32]) {
    // What a look does not show stands above all that others show.
    let mut seen = vec![[u8::MAX; BLOCK]; looks.len()];
    let mut n = [0u8; BLOCK];
    for (seen, (picture, turn)) in seen.iter_mut().zip(looks) {
        let (wide, high) = (picture.width as f32, picture.height as f32);
        let first = turn.of(from.0, from.1);
        let (first, step) = ((small(first.0), small(first.1)), (small(turn.a), small(turn.b)));
        let mut at = [0u32; BLOCK];
        for (k, at) in at.iter_mut().enumerate() {
            let x = nearest(first.0 + k as f32 * step.0);
            let y = nearest(first.1 + k as f32 * step.1);
            let is_in = (x >= 0.0) & (y >= 0.0) & (x < wide) & (y < high);
            *at = if is_in { place_of(y * wide + x) } else { u32::MAX };
        }
        for ((seen, n), at) in seen.iter_mut().zip(&mut n).zip(at) {
            if let Some(value) = picture.pixels.get(at as usize) {
                (*seen, *n) = (*value, *n + 1);
            }
        }
    }
    // Bit by bit the highest value that no more than half of them lie below.
    let mut median = [0u8; BLOCK];
    for bit in (0..8).rev() {
        let tried = median.map(|m| m | 1 << bit);
        let mut below = [0u8; BLOCK];
        for seen in &seen {
            for ((below, seen), tried) in below.iter_mut().zip(seen).zip(&tried) {
                *below += u8::from(seen < tried);
            }
        }
        for (((median, tried), below), n) in median.iter_mut().zip(tried).zip(below).zip(&n) {
            *median = if below <= n / 2 { tried } else { *median };
        }
    }
    for ((out, median), n) in out.iter_mut().zip(median).zip(n) {
        *out = if usize::from(n) >= FEW { f32::from(median) } else { f32::NAN };
    }
}

/// Between which values a background lies about each of its pixels: laid over a picture a pixel askew, a
/// white board is not something else than the white board beside it.
#[derive(Clone, Debug)]
pub struct Span {
    width: usize,
    room: (usize, usize),
    low: Vec<f32>,
    high: Vec<f32>,
}

impl Span {
    /// Of a background, a pixel about each of its pixels. Where nothing is known about it, nothing is.
    pub fn of(background: &Background) -> Self {
        let (w, h) = (background.width, background.height);
        let about = |pick: fn(f32, f32) -> f32| {
            let mut across = background.values.clone();
            for (row, own) in background.values.chunks(w).zip(across.chunks_mut(w)) {
                for x in 1..w.saturating_sub(1) {
                    own[x] = pick(pick(row[x - 1], row[x + 1]), row[x]);
                }
            }
            let mut out = across.clone();
            for y in 1..h.saturating_sub(1) {
                for x in 0..w {
                    let at = |y: usize| across[y * w + x];
                    out[y * w + x] = pick(pick(at(y - 1), at(y + 1)), at(y));
                }
            }
            out
        };
        Self { width: w, room: background.room, low: about(f32::min), high: about(f32::max) }
    }

    /// How far a value lies outside what the background is at a place of its own frame; nothing where that
    /// is not known.
    pub fn outside(&self, x: f64, y: f64, value: f32) -> Option<f32> {
        let (x, y) = (x + self.room.0 as f64 + 0.5, y + self.room.1 as f64 + 0.5);
        if !(x >= 0.0 && y >= 0.0) || whole(x) >= self.width {
            return None;
        }
        let k = whole(y) * self.width + whole(x);
        let (low, high) = (*self.low.get(k)?, *self.high.get(k)?);
        let out = (low - value).max(value - high).max(0.0);
        (!low.is_nan()).then_some(out)
    }
}
