//! Points of a picture with strong edges, spread over it, by which it is laid over another.

use crate::picture::grey::Grey;
use crate::picture::votes::counts;

/// Cells a side of a layer in which its strongest points are taken, and points a cell.
const CELLS: (usize, usize) = (24, 14);
const A_CELL: usize = 16;
/// Weakest slopes of a point across and down together, grey values over two pixels.
const WEAKEST: u16 = 10;

/// A point in little memory, for a clip has millions.
#[derive(Clone, Copy, Debug)]
pub struct Kept {
    place: (u16, u16),
    /// Twice its slopes.
    slope: (i16, i16),
    value: u8,
    /// How much it counts, 255 for once.
    counts: u8,
}

impl Kept {
    #[expect(
        clippy::cast_possible_truncation,
        clippy::cast_sign_loss,
        reason = "places in a picture, bytes and their differences"
    )]
    fn of(p: &Point) -> Self {
        Self {
            place: (p.x as u16, p.y as u16),
            slope: ((2.0 * p.slope.0) as i16, (2.0 * p.slope.1) as i16),
            value: p.value as u8,
            counts: (255.0 * p.counts).round() as u8,
        }
    }

    /// The point.
    pub fn point(&self) -> Point {
        Point {
            x: f32::from(self.place.0),
            y: f32::from(self.place.1),
            value: f32::from(self.value),
            slope: (0.5 * f32::from(self.slope.0), 0.5 * f32::from(self.slope.1)),
            counts: f32::from(self.counts) / 255.0,
        }
    }
}

/// A pixel with an edge: place, value, slopes, and how much it counts.
#[derive(Clone, Copy, Debug)]
pub struct Point {
    /// Column.
    pub x: f32,
    /// Row.
    pub y: f32,
    /// Grey value.
    pub value: f32,
    /// Grey values a pixel, to the right and down.
    pub slope: (f32, f32),
    /// How much it counts, 0 to 1.
    pub counts: f32,
}

impl Point {
    /// Error of its grey value, which is itself known to `grey`, where its place is off by `pixels`.
    pub fn error(&self, grey: f32, pixels: f32) -> f32 {
        let steep = self.slope.0 * self.slope.0 + self.slope.1 * self.slope.1;
        (grey * grey + pixels * pixels * steep).sqrt()
    }
}

/// The strongest points of every cell.
pub fn points(picture: &Grey) -> Vec<Kept> {
    let (w, h) = (picture.width, picture.height);
    let mut out = Vec::new();
    let bounds =
        |k: usize, of: usize, size: usize| (1 + k * (size - 2) / of, 1 + (k + 1) * (size - 2) / of);
    for cy in 0..CELLS.1 {
        let (top, bottom) = bounds(cy, CELLS.1, h.max(2));
        for cx in 0..CELLS.0 {
            let (left, right) = bounds(cx, CELLS.0, w.max(2));
            let across = (right - left).max(1);
            // Upright edges tell of shifts along the track, level ones of those up and down: some of both, and of
            // these as many more as may be among those.
            let (mut upright, mut level) =
                (Highest::<{ A_CELL / 2 }>::NONE, Highest::<A_CELL>::NONE);
            for y in top..bottom {
                let [above, row, below] =
                    [y - 1, y, y + 1].map(|y| &picture.row(y)[left - 1..right + 1]);
                for x in 0..right - left {
                    let slope = (row[x].abs_diff(row[x + 2]), above[x + 1].abs_diff(below[x + 1]));
                    let place = (y - top) * across + x;
                    if u16::from(slope.0) + u16::from(slope.1) >= WEAKEST && place < MOST_PLACES {
                        upright.take(key(slope, place));
                        level.take(key((slope.1, slope.0), place));
                    }
                }
            }
            let upright = upright.all();
            let level = level.all().filter(|key| {
                let place = key & 0xffff;
                upright.clone().all(|u| u & 0xffff != place)
            });
            let taken = upright.clone().chain(level.take(A_CELL / 2)).map(place_of);
            out.extend(taken.map(|place| {
                Kept::of(&point(picture, left + place % across, top + place / across))
            }));
        }
    }
    out
}

/// The highest of some keys above nothing, from the highest down.
#[derive(Clone)]
struct Highest<const N: usize>([u32; N]);

impl<const N: usize> Highest<N> {
    const NONE: Self = Self([0; N]);

    fn take(&mut self, key: u32) {
        if key <= self.0[N - 1] {
            return;
        }
        let mut at = N - 1;
        while at > 0 && self.0[at - 1] < key {
            self.0[at] = self.0[at - 1];
            at -= 1;
        }
        self.0[at] = key;
    }

    fn all(&self) -> impl Iterator<Item = u32> + Clone {
        self.0.iter().copied().take_while(|key| *key > 0)
    }
}

/// Sorts places of a cell by how steep they are across, then down: in the two highest bytes. Of equals those from all
/// over the cell, and not its last, come first.
fn key(slope: (u8, u8), place: usize) -> u32 {
    let place = u32::try_from(place).unwrap_or(u32::MAX).wrapping_mul(SCATTERS) & 0xffff;
    u32::from(slope.0) << 24 | u32::from(slope.1) << 16 | place
}

/// The place in a key.
fn place_of(key: u32) -> usize {
    (key.wrapping_mul(GATHERS) & 0xffff) as usize
}

/// An odd number, and its inverse to 2¹⁶.
const SCATTERS: u32 = 40_503;
const GATHERS: u32 = 30_599;

/// Places of a cell that are looked at, at most.
const MOST_PLACES: usize = 1 << 16;

#[expect(clippy::cast_precision_loss, reason = "pixels")]
fn point(picture: &Grey, x: usize, y: usize) -> Point {
    let (w, h) = (picture.width as f32, picture.height as f32);
    let at = |x: usize, y: usize| f32::from(picture.row(y)[x]);
    let slope = (0.5 * (at(x + 1, y) - at(x - 1, y)), 0.5 * (at(x, y + 1) - at(x, y - 1)));
    let (aside, low) = ((x as f32 / w - 0.5).abs(), y as f32 / h);
    let counts = counts(aside, low);
    Point { x: x as f32, y: y as f32, value: at(x, y), slope, counts }
}
