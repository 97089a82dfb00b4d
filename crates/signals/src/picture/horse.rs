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
    /// Its middle, by pixels.
    pub middle: (f32, f32),
}

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
        Self { area: self.area.scaled(2.0), middle: (2.0 * self.middle.0, 2.0 * self.middle.1) }
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
    let mut best: Option<(Horse, usize)> = None;
    let mut stack = vec![];
    for start in 0..w * h {
        if !other[start] {
            continue;
        }
        other[start] = false;
        stack.push(start);
        let (mut n, mut sums) = (0usize, (0usize, 0usize));
        let (mut left, mut right, mut top, mut bottom) = (w, 0, h, 0);
        while let Some(k) = stack.pop() {
            let (x, y) = (k % w, k / w);
            n += 1;
            sums = (sums.0 + x, sums.1 + y);
            (left, right, top, bottom) = (left.min(x), right.max(x), top.min(y), bottom.max(y));
            for dy in -GAP..=GAP {
                for dx in -GAP..=GAP {
                    let (Some(nx), Some(ny)) = (aside(x, dx, w), aside(y, dy, h)) else { continue };
                    if std::mem::take(&mut other[ny * w + nx]) {
                        stack.push(ny * w + nx);
                    }
                }
            }
        }
        if best.is_none_or(|(_, most)| n > most) {
            let area = Area {
                left: small(count(left)),
                right: small(count(right + 1)),
                top: small(count(top)),
                bottom: small(count(bottom + 1)),
            };
            let middle = (small(count(sums.0) / count(n)), small(count(sums.1) / count(n)));
            best = Some((Horse { area, middle }, n));
        }
    }
    best.filter(|(_, n)| count(*n) >= LEAST * count(w * h)).map(|b| b.0)
}

fn aside(at: usize, by: i64, end: usize) -> Option<usize> {
    let to = i64::try_from(at).ok()? + by;
    usize::try_from(to).ok().filter(|t| *t < end)
}
