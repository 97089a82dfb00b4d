//! The horse as the largest thing that is not background: where it is in every frame.

use crate::number::{count, place, small};
use crate::picture::area::Area;
use crate::picture::background::Background;
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

/// Gaps of this many pixels, between rider, rein and neck, do not part a horse.
const GAP: i64 = 2;

/// Least part of a picture that a horse takes up, share of the pixels.
const LEAST: f64 = 0.004;

/// A background is made anew this often, and the horse looked for this often, s.
const OFTEN: (f64, f64) = (0.5, 0.05);

/// The horse in every frame, looked for in pictures of half the size.
pub fn horses(frames: &[Layers], rate: f64, to_first: &[Turn]) -> Vec<Option<Horse>> {
    let half: Vec<Turn> = to_first.iter().map(|t| t.scaled(0.5)).collect();
    let (group, step) = (OFTEN.0 * rate, place((OFTEN.1 * rate).round()).max(1));
    let mut out = vec![None; frames.len()];
    let mut behind: Option<(usize, Background)> = None;
    for f in (0..frames.len()).step_by(step) {
        let own = place(count(f) / group);
        let background = match behind.take() {
            Some((g, b)) if g == own => b,
            _ => {
                let frame = place((count(own) + 0.5) * group).min(frames.len() - 1);
                let room = (frames[0].layer(1).width / 5, 4);
                Background::about(frame, room, rate, &half, |k| frames[k].layer(1))
            }
        };
        let turn = half[f].then(&half[background.frame].back());
        let horse = largest(frames[f].layer(1), &background, &turn).map(Horse::twice);
        for place in out.iter_mut().skip(f).take(step) {
            *place = horse;
        }
        behind = Some((own, background));
    }
    out
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

/// The largest connected thing in a picture that is not background, in the picture's pixels.
/// `to_background` leads from the picture's pixels to the background's frame.
pub fn largest(picture: &Grey, background: &Background, to_background: &Turn) -> Option<Horse> {
    let (w, h) = (picture.width, picture.height);
    let mut other = vec![false; w * h];
    for (y, row) in other.chunks_mut(w).enumerate() {
        for (x, (other, own)) in row.iter_mut().zip(picture.row(y)).enumerate() {
            let (bx, by) = to_background.of(count(x), count(y));
            *other = (f32::from(*own) - background.at(bx, by)).abs() > APART;
        }
    }
    let mut best: Vec<usize> = vec![];
    let mut own = vec![];
    for start in 0..w * h {
        if !std::mem::take(&mut other[start]) {
            continue;
        }
        own.clear();
        own.push(start);
        let mut next = 0;
        while let Some(k) = own.get(next).copied() {
            next += 1;
            for dy in -GAP..=GAP {
                for dx in -GAP..=GAP {
                    let (Some(x), Some(y)) = (aside(k % w, dx, w), aside(k / w, dy, h)) else {
                        continue;
                    };
                    if std::mem::take(&mut other[y * w + x]) {
                        own.push(y * w + x);
                    }
                }
            }
        }
        if own.len() > best.len() {
            std::mem::swap(&mut own, &mut best);
        }
    }
    (count(best.len()) >= (LEAST * count(w * h)).max(1.0)).then(|| horse(&best, w))
}

/// The horse that takes up these pixels of a picture `w` pixels wide.
fn horse(pixels: &[usize], w: usize) -> Horse {
    let span = |get: &dyn Fn(usize) -> usize, of: &mut dyn Iterator<Item = usize>| {
        of.map(get).fold((usize::MAX, 0), |(lo, hi), v| (lo.min(v), hi.max(v)))
    };
    let (x, y) = (|k: usize| k % w, |k: usize| k / w);
    let (left, right) = span(&x, &mut pixels.iter().copied());
    let (top, bottom) = span(&y, &mut pixels.iter().copied());
    let low = count(top) + TRUNK * count(bottom - top);
    let trunk: Vec<usize> = pixels.iter().copied().filter(|k| count(y(*k)) <= low).collect();
    let (nose, tail) = span(&x, &mut trunk.iter().copied());
    let mean = |get: &dyn Fn(usize) -> usize| {
        trunk.iter().map(|k| count(get(*k))).sum::<f64>() / count(trunk.len())
    };
    Horse {
        area: Area {
            left: small(count(left)),
            right: small(count(right + 1)),
            top: small(count(top)),
            bottom: small(count(bottom + 1)),
        },
        middle: (small(mean(&x)), small(mean(&y))),
        length: small(count(tail + 1 - nose)),
    }
}

fn aside(at: usize, by: i64, end: usize) -> Option<usize> {
    let to = i64::try_from(at).ok()? + by;
    usize::try_from(to).ok().filter(|t| *t < end)
}
