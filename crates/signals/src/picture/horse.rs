//! The horse as the largest thing that is not background: where it is in every frame.

use std::ops::Range;

use crate::number::{count, place, small};
use crate::parallel::mapped;
use crate::picture::area::Area;
use crate::picture::background::{Background, Span};
use crate::picture::grey::Grey;
use crate::picture::motion::Layers;
use crate::picture::turn::Turn;

/// A horse in a frame.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Horse {
    /// What it takes up.
    pub area: Area,
    /// Middle of its trunk, head and rider: legs swing, and shadows lie on the ground.
    pub middle: (f32, f32),
    /// From nose to tail, pixels.
    pub length: f32,
}

/// Share of a horse's box, from the top, in which there is no leg and no shadow.
const TRUNK: f64 = 0.6;

/// A pixel this far from the background, grey values, is something else.
const APART: f32 = 14.0;

/// Gaps of this share of a picture's width do not part a horse.
const GAP: f64 = 0.045;

/// Least part of a picture that a horse takes up, share of the pixels.
const LEAST: f64 = 0.004;

/// A background is made anew this often, and the horse looked for this often, s.
const OFTEN: (f64, f64) = (0.5, 0.05);

/// The horse in every frame, looked for in pictures of half the size.
pub fn horses(frames: &[Layers], rate: f64, to_first: &[Turn]) -> Vec<Option<Horse>> {
    let half: Vec<Turn> = to_first.iter().map(|t| t.scaled(0.5)).collect();
    let (group, step) = (OFTEN.0 * rate, place((OFTEN.1 * rate).round()).max(1));
    let own = |f: usize| place(count(f) / group);
    let looked: Vec<usize> = (0..frames.len()).step_by(step).collect();
    let groups: Vec<&[usize]> = looked.chunk_by(|a, b| own(*a) == own(*b)).collect();
    let found = mapped(groups, |looked| {
        let at = place((count(own(looked[0])) + 0.5) * group).min(frames.len() - 1);
        let room = (frames[0].layer(1).width / 5, 4);
        let rows = 0..frames[0].layer(1).height;
        let about = Background::about(at, room, rows, rate, &half, |k| frames[k].layer(1));
        let range = Span::of(&about);
        let one = |f: &usize| {
            let turn = half[*f].then(&half[at].back());
            largest(frames[*f].layer(1), &range, &turn).map(Horse::twice)
        };
        looked.iter().map(one).collect::<Vec<_>>()
    });
    let each = found.into_iter().flatten().flat_map(|horse| std::iter::repeat_n(horse, step));
    each.take(frames.len()).collect()
}

impl Horse {
    /// The same in a picture twice as large.
    fn twice(self) -> Self {
        Self {
            area: self.area.scaled(2.0),
            middle: (2.0 * self.middle.0, 2.0 * self.middle.1),
            length: 2.0 * self.length,
        }
    }
}

/// The largest thing in a picture that is not background, in the picture's pixels. `to_background` leads
/// from the picture's pixels to the background's frame. A horse falls to pieces where it has the tone of what
/// lies behind it: what is not far apart belongs together.
pub fn largest(picture: &Grey, background: &Span, to_background: &Turn) -> Option<Horse> {
    let (w, h) = (picture.width, picture.height);
    let mut other = vec![false; w * h];
    for (y, row) in other.chunks_mut(w).enumerate() {
        for (x, (other, own)) in row.iter_mut().zip(picture.row(y)).enumerate() {
            let (bx, by) = to_background.of(count(x), count(y));
            *other = background.outside(bx, by, f32::from(*own)).is_some_and(|out| out > APART);
        }
    }
    let mask = Mask { w, h, other: without_specks(&other, w, h) };
    let gap = place(GAP * count(w));
    let columns = heaviest(&mask.columns(0..h), gap)?;
    let rows = heaviest(&mask.rows(columns.clone()), gap)?;
    let columns = heaviest(&mask.columns(rows.clone()), gap)?;
    let trunk = rows.start..rows.start + place(TRUNK * count(rows.len())).max(1);
    let in_trunk = mask.columns(trunk.clone());
    let long = heaviest(&in_trunk, gap)?;
    let pixels: usize = in_trunk[long.clone()].iter().sum();
    let all: usize = mask.columns(rows.clone())[columns.clone()].iter().sum();
    let mean = |sums: &[usize], from: usize| {
        let weighed = sums.iter().enumerate().map(|(k, n)| count((k + from) * n)).sum::<f64>();
        weighed / count(pixels.max(1))
    };
    let x = mean(&in_trunk[long.clone()], long.start);
    let y = mean(&mask.rows(long.clone())[trunk.clone()], trunk.start);
    (count(all) >= (LEAST * count(w * h)).max(1.0)).then(|| Horse {
        area: Area {
            left: small(count(columns.start)),
            right: small(count(columns.end)),
            top: small(count(rows.start)),
            bottom: small(count(rows.end)),
        },
        middle: (small(x), small(y)),
        length: small(count(long.len())),
    })
}

/// What is not background.
struct Mask {
    w: usize,
    h: usize,
    other: Vec<bool>,
}

impl Mask {
    /// How many pixels of each column, within rows.
    fn columns(&self, rows: Range<usize>) -> Vec<usize> {
        let mut out = vec![0; self.w];
        for row in self.other.chunks(self.w).take(rows.end).skip(rows.start) {
            out.iter_mut().zip(row).for_each(|(n, other)| *n += usize::from(*other));
        }
        out
    }

    /// How many pixels of each row, within columns.
    fn rows(&self, columns: Range<usize>) -> Vec<usize> {
        let own = |row: &[bool]| row[columns.clone()].iter().filter(|o| **o).count();
        self.other.chunks(self.w).take(self.h).map(own).collect()
    }
}

/// Pixels with at least three others about them.
fn without_specks(other: &[bool], w: usize, h: usize) -> Vec<bool> {
    let mut out = vec![false; w * h];
    for y in 1..h.saturating_sub(1) {
        for x in 1..w.saturating_sub(1) {
            let k = y * w + x;
            let about = [k - w - 1, k - w, k - w + 1, k - 1, k + 1, k + w - 1, k + w, k + w + 1];
            out[k] = other[k] && about.iter().filter(|n| other[**n]).count() >= 3;
        }
    }
    out
}

/// The stretch with the most pixels, gaps of up to `gap` bridged.
fn heaviest(sums: &[usize], gap: usize) -> Option<Range<usize>> {
    let mut best: Option<(usize, Range<usize>)> = None;
    let mut own: Option<(usize, Range<usize>)> = None;
    for (k, n) in sums.iter().enumerate().filter(|(_, n)| **n >= FEWEST) {
        own = match own {
            Some((sum, range)) if k <= range.end + gap => Some((sum + n, range.start..k + 1)),
            _ => Some((*n, k..k + 1)),
        };
        if own.as_ref().map(|o| o.0) > best.as_ref().map(|b| b.0) {
            best = own.clone();
        }
    }
    best.map(|b| b.1)
}

/// Fewer pixels in a row or a column are none.
const FEWEST: usize = 2;
