//! Place along the ground against time: what stands still while the horse goes on.
//!
//! Laid over one another by the camera's way, all frames show the same ground. Upright edges of what is
//! not background are followed there in a band above the ground: an edge that stays, stays in the mean
//! over some frames; one that moves is smeared. A stance is a short stroke along time.

use crate::number::{count, place, small};
use crate::picture::background::Background;
use crate::picture::grey::Grey;
use crate::picture::turn::Turn;

/// An edge has to stay this long, s, …
const STAYS: f64 = 0.08;

/// … and this many frames.
const FRAMES: f64 = 3.0;

/// Slopes weaker than this, grey values over two pixels, are noise.
const NOISE: f32 = 6.0;

/// The band in which edges are looked for, in a frame.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Band {
    /// First column of the ground picture.
    pub left: i64,
    /// Column after the last.
    pub right: i64,
}

/// How still it is at every place, a row a frame.
#[derive(Clone, Debug)]
pub struct Still {
    /// Column of the ground picture that is the first of all rows.
    pub left: i64,
    /// Columns.
    pub width: usize,
    /// Stillness, rows of [`Still::width`]: the strength of edges that stay, grey values.
    pub values: Vec<f32>,
    /// Lowest row, below the band's first, at which an edge stays; NaN where none does.
    pub lowest: Vec<f32>,
    /// Frames that an edge has to stay for.
    pub window: usize,
}

/// The ground picture of a clip. Bands are a frame each; `ground` gives the row on which hooves stand in a
/// column of the ground picture, `above` and `below` are the rows of the band about it. `behind` gives a frame's background.
pub fn still<'p, 'b>(
    rate: f64,
    to_first: &[Turn],
    bands: &[Option<Band>],
    ground: impl Fn(f64) -> f64,
    (above, below): (usize, usize),
    picture: impl Fn(usize) -> &'p Grey,
    behind: impl Fn(usize) -> &'b Background,
) -> Still {
    let rows = above + below;
    let spans = || bands.iter().flatten();
    let left = spans().map(|b| b.left).min().unwrap_or(0);
    let right = spans().map(|b| b.right).max().unwrap_or(0);
    let width = usize::try_from(right - left).unwrap_or(0);
    let frames = bands.len();
    let window = place((STAYS * rate).max(FRAMES).round());
    let mut out = Still {
        left,
        width,
        values: vec![0.0; frames * width],
        lowest: vec![f32::NAN; frames * width],
        window,
    };
    let mut sums = vec![0.0f32; rows * width];
    let mut sizes = vec![0.0f32; rows * width];
    let mut kept: std::collections::VecDeque<Slopes> = std::collections::VecDeque::new();
    // The band follows the ground along the track, which a picture need not show level: rows are counted
    // from it, and a place has the same rows in every frame.
    #[expect(clippy::cast_precision_loss, reason = "columns")]
    let first_row = |x: i64| ground(x as f64) - count(above);
    let tops: Vec<f64> = (left - 1..=right).map(first_row).collect();
    for f in 0..frames {
        let slopes = bands[f].map_or_else(Slopes::default, |band| {
            let ways = [to_first[f].back(), to_first[behind(f).frame].back()];
            let tops = &tops[usize::try_from(band.left - left).unwrap_or(0)..];
            slopes(picture(f), behind(f), ways, &band, tops, rows)
        });
        slopes.add(&mut sums, &mut sizes, left, width, 1.0);
        kept.push_back(slopes);
        if kept.len() > window
            && let Some(old) = kept.pop_front()
        {
            old.add(&mut sums, &mut sizes, left, width, -1.0);
        }
        // The mean belongs to the middle of its window.
        let Some(at) = (f + 1).checked_sub(window).map(|first| first + window / 2) else {
            continue;
        };
        let Some(band) = bands[f] else { continue };
        let n = window as f32;
        let (from, to) = ((band.left - left) as usize, (band.right - left) as usize);
        for x in from.min(width)..to.min(width) {
            let (mut sum, mut lowest) = (0.0, f32::NAN);
            for r in 0..rows {
                let (s, a) = (sums[r * width + x].abs() / n, sizes[r * width + x] / n);
                if s > NOISE && s > 0.7 * a {
                    let share = s / a.max(1e-3);
                    sum += (s - NOISE) * share * share;
                    lowest = r as f32;
                }
            }
            out.values[at * width + x] = sum;
            out.lowest[at * width + x] = lowest;
        }
    }
    out
}

/// Slopes of what is not background in a frame's band.
#[derive(Default)]
struct Slopes {
    left: i64,
    across: usize,
    values: Vec<f32>,
}

impl Slopes {
    fn add(&self, sums: &mut [f32], sizes: &mut [f32], left: i64, width: usize, sign: f32) {
        if self.across == 0 {
            return;
        }
        for (r, row) in self.values.chunks(self.across).enumerate() {
            let from = r * width + (self.left - left) as usize;
            for ((sum, size), v) in sums[from..][..self.across]
                .iter_mut()
                .zip(&mut sizes[from..][..self.across])
                .zip(row)
            {
                *sum += sign * v;
                *size += sign * v.abs();
            }
        }
    }
}

/// Slopes along the rows of a frame's band, whose first rows from a column before its own on are `tops`.
/// `ways` lead from the ground picture to the frame's pixels and to its background's.
fn slopes(
    picture: &Grey,
    behind: &Background,
    ways: [Turn; 2],
    band: &Band,
    tops: &[f64],
    rows: usize,
) -> Slopes {
    let across = usize::try_from(band.right - band.left).unwrap_or(0);
    let mut values = vec![0.0; rows * across];
    let mut line = vec![f32::NAN; across + 2];
    for r in 0..rows {
        for (k, (v, top)) in line.iter_mut().zip(tops).enumerate() {
            let y = top + count(r);
            #[expect(clippy::cast_precision_loss, reason = "columns")]
            let x = band.left as f64 + count(k) - 1.0;
            let (px, py) = ways[0].of(x, y);
            let (bx, by) = ways[1].of(x, y);
            *v = picture.at(small(px), small(py)).unwrap_or(f32::NAN) - behind.at(bx, by);
        }
        for (v, w) in values[r * across..][..across].iter_mut().zip(line.windows(3)) {
            let slope = w[2] - w[0];
            *v = if slope.is_nan() { 0.0 } else { slope };
        }
    }
    Slopes { left: band.left, across, values }
}
