//! What lies behind the horse: the median of the pictures some seconds about a moment, laid over one
//! another.

use std::ops::Range;

use crate::number::whole;
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
        let mut seen: Vec<u8> = Vec::with_capacity(looks.len());
        let asked = rows.start..(rows.end + 2 * room.1).min(height);
        for y in asked {
            for x in 0..width {
                let (px, py) = (x as f64 - room.0 as f64, y as f64 - room.1 as f64);
                seen.clear();
                for (picture, turn) in &looks {
                    let (sx, sy) = turn.of(px, py);
                    // Nearest pixels will do for a median.
                    let (sx, sy) = (sx + 0.5, sy + 0.5);
                    let (ix, iy) = (whole(sx), whole(sy));
                    if sx >= 0.0 && sy >= 0.0 && ix < picture.width && iy < picture.height {
                        seen.push(picture.pixels[iy * picture.width + ix]);
                    }
                }
                if seen.len() >= FEW {
                    let middle = seen.len() / 2;
                    values[y * width + x] = f32::from(*seen.select_nth_unstable(middle).1);
                }
            }
        }
        Self { frame, room, width, height, values }
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
