//! The horse over a clip: its size, its way, the ground under it; and which horses cannot be timed.

use std::ops::Range;

use crate::number::{count, place};
use crate::picture::grey::Grey;
use crate::picture::horse::Horse;
use crate::picture::path::Path;
use crate::picture::refused::Refused;
use crate::picture::still::Band;
use crate::picture::turn::Turn;

/// The horse over the clip.
pub struct Going {
    /// Height at the withers, pixels.
    pub height: f64,
    /// Whether it goes to the right of the ground picture.
    pub rightward: bool,
    /// Column of the ground picture of its middle, a frame.
    pub body: Vec<f64>,
    /// Rows of the ground picture on which it stood, by column, from the left.
    ground: Vec<(f64, f64)>,
}

/// Height at the withers by a horse's length from nose to tail (common practice).
const HEIGHT: f64 = 0.69;

/// A horse is seen for so long at least, s.
const SEEN_S: f64 = 0.8;

/// From nose to tail a horse is at most so many times as long as it is high, ears to hooves; a car is
/// longer.
const LONGEST: f64 = 2.2;

/// Which of the lengths seen, from the shortest, is a horse's: it nods, and may be in part unseen.
const LONG: f64 = 0.6;

/// The ground under a horse changes slowly: looked at over so long before and after, s.
const SLOWLY: f64 = 0.25;

impl Going {
    /// The horse that was found in a clip's frames.
    ///
    /// # Errors
    /// When there is none, or none that can be timed.
    pub fn of(found: &[Option<Horse>], way: &Path, size: (f64, f64)) -> Result<Self, Refused> {
        let seen: Vec<(usize, Horse)> =
            found.iter().enumerate().filter_map(|(f, h)| Some((f, (*h)?))).collect();
        if count(seen.len()) < SEEN_S * way.rate {
            return Err(Refused::NoHorse);
        }
        let middle = |mut v: Vec<f64>| {
            v.sort_by(f64::total_cmp);
            v[v.len() / 2]
        };
        // Where a horse has the tone of what lies behind it, a part of it is missing; seldom is it too long.
        let mut lengths: Vec<f64> = seen.iter().map(|(_, h)| f64::from(h.length)).collect();
        lengths.sort_by(f64::total_cmp);
        let wide = lengths[place(LONG * count(lengths.len() - 1))];
        let high =
            middle(seen.iter().map(|(_, h)| f64::from(h.area.bottom - h.area.top)).collect());
        let height = HEIGHT * wide;
        if wide > 0.9 * size.0 || high > 0.97 * size.1 {
            return Err(Refused::TooClose);
        }
        if height < SMALLEST {
            return Err(Refused::TooSmall);
        }
        if wide < 0.6 * high {
            return Err(Refused::AlongTheTrack);
        }
        if wide > LONGEST * high {
            return Err(Refused::NoHorse);
        }
        let half = place(SLOWLY * way.rate);
        let whole: Vec<(usize, Horse)> = seen
            .iter()
            .filter(|(_, h)| {
                f64::from(h.area.left) > EDGE * size.0
                    && f64::from(h.area.right) < (1.0 - EDGE) * size.0
            })
            .copied()
            .collect();
        // A camera that turns after the horse keeps it in the picture.
        let stands = way.to_first.iter().all(|t| *t == Turn::NONE);
        let in_view = |of: &[(usize, Horse)]| Some((of.first()?.0, of.last()?.0));
        // The middle of what is seen of a horse half out of the picture is not its own.
        let whole_view =
            in_view(&whole).filter(|_| stands).filter(|(a, b)| count(b - a) >= OVER_S * way.rate);
        let values = |of: &[(usize, Horse)], value: &dyn Fn(usize, &Horse) -> f64| {
            of.iter().map(|(f, h)| (*f, value(*f, h))).collect::<Vec<(usize, f64)>>()
        };
        let on_ground = |f: usize, x: f32, y: f32| way.to_first[f].of(f64::from(x), f64::from(y));
        let of = if whole_view.is_some() { &whole } else { &seen };
        let middles = values(of, &|f, h| on_ground(f, h.middle.0, h.middle.1).0);
        let (first, last) = (middles[0].0, middles[middles.len() - 1].0);
        // As far on both sides: what moves on is not drawn back at an end.
        let body = in_every_frame(found.len(), &middles, 0.5, |f| {
            half.min(f.saturating_sub(first)).min(last.saturating_sub(f))
        });
        let body = match whole_view {
            Some(view) => led_on(body, view, way.rate),
            None => body,
        };
        let lowest = values(&seen, &|f, h| {
            on_ground(f, 0.5 * (h.area.left + h.area.right), h.area.bottom).1
        });
        let ground = in_every_frame(found.len(), &lowest, 0.9, |_| half);
        let far = body[body.len() - 1] - body[0];
        if far.abs() < height {
            return Err(Refused::StandsStill);
        }
        let body = smoothed(&body, half);
        let mut ground: Vec<(f64, f64)> = body.iter().copied().zip(ground).collect();
        ground.sort_by(|a, b| a.0.total_cmp(&b.0));
        Ok(Self { height, rightward: far > 0.0, body, ground })
    }

    /// Row of the ground picture on which hooves stand in a column. The ground goes on before and behind the
    /// horse as it does under it.
    pub fn row(&self, x: f64) -> f64 {
        let all = &self.ground;
        let last = all.len() - 1;
        let line = |a: (f64, f64), b: (f64, f64)| {
            let wide = b.0 - a.0;
            if wide < 1.0 { a.1 } else { a.1 + (x - a.0) * (b.1 - a.1) / wide }
        };
        // The slope at an end is that of the last two heights of the horse.
        let inward = 2.0 * self.height;
        if x <= all[0].0 {
            let k = all.partition_point(|p| p.0 < all[0].0 + inward).min(last);
            return line(all[0], all[k]);
        }
        if x >= all[last].0 {
            let k = all.partition_point(|p| p.0 < all[last].0 - inward).min(last);
            return line(all[k], all[last]);
        }
        let k = all.partition_point(|p| p.0 < x).clamp(1, last);
        line(all[k - 1], all[k])
    }

    /// Lowers the ground by so many rows.
    pub fn lower(&mut self, rows: f64) {
        self.ground.iter_mut().for_each(|(_, row)| *row += rows);
    }

    /// Rows of a frame between which hooves stand anywhere in it, and in the seconds about it.
    pub fn rows(&self, way: &Path, frame: usize, picture: &Grey) -> Range<usize> {
        let into = way.to_first[frame].back();
        let half = place(2.0 * way.rate);
        let near = frame.saturating_sub(half)..(frame + half).min(self.body.len());
        let of = |f: usize| {
            [-REACH, REACH].map(|side| {
                let x = self.body[f] + side * self.height;
                into.of(x, self.row(x)).1
            })
        };
        let all: Vec<f64> = near.flat_map(of).collect();
        let low = all.iter().copied().fold(f64::INFINITY, f64::min) - ABOVE * self.height;
        let high = all.iter().copied().fold(f64::NEG_INFINITY, f64::max) + BELOW * self.height;
        let most = picture.height;
        place(low.max(0.0)).min(most)..(place(high.max(0.0)) + 1).min(most)
    }

    /// Where edges that stay are looked for: the columns about the horse and the row of the ground, a frame.
    /// A leg may be all that is seen of a hindquarter.
    pub fn bands(&self, found: &[Option<Horse>]) -> Vec<Option<Band>> {
        let reach = REACH * self.height;
        found
            .iter()
            .enumerate()
            .map(|(f, h)| {
                h.as_ref()?;
                #[expect(clippy::cast_possible_truncation, reason = "columns")]
                Some(Band {
                    left: (self.body[f] - reach).floor() as i64,
                    right: (self.body[f] + reach).ceil() as i64,
                })
            })
            .collect()
    }
}

/// Rows above and below the ground that are asked for, heights at the withers.
const ABOVE: f64 = 0.5;
const BELOW: f64 = 0.15;

/// No hoof is farther from the middle of the horse than this, heights at the withers.
const REACH: f64 = 0.9;

/// Smallest horse that can be timed, pixels of the picture that is worked on.
const SMALLEST: f64 = 70.0;

/// A horse that comes this near to a side of the picture, share of its width, may be in part outside.
const EDGE: f64 = 0.03;

/// It goes on as fast as over so long before, s: a stride, or nearly two.
const OVER_S: f64 = 1.0;

/// A way as it is from the first frame to the last of some, at least [`OVER_S`] apart, led on evenly before and after.
fn led_on(mut body: Vec<f64>, (first, last): (usize, usize), rate: f64) -> Vec<f64> {
    let over = place(OVER_S * rate).max(1).min(last - first);
    let speed = |from: usize| (body[from + over] - body[from]) / count(over);
    let (before, after) = (speed(first), speed(last - over));
    let (from, to) = (body[first], body[last]);
    for (f, x) in body.iter_mut().enumerate() {
        if f < first {
            *x = from - before * count(first - f);
        } else if f > last {
            *x = to + after * count(f - last);
        }
    }
    body
}

/// Of values in some of so many frames, at least one, in order: in every frame the one `at` this share of those within
/// as many frames as `reach` says, from the least.
fn in_every_frame(
    frames: usize,
    values: &[(usize, f64)],
    at: f64,
    reach: impl Fn(usize) -> usize,
) -> Vec<f64> {
    (0..frames)
        .map(|f| {
            let half = reach(f);
            let from = values.partition_point(|v| v.0 + half < f);
            let to = values.partition_point(|v| v.0 <= f + half);
            let mut near: Vec<f64> = values[from..to].iter().map(|v| v.1).collect();
            if near.is_empty() {
                // Hidden, it went on evenly.
                let after = values[from.min(values.len() - 1)];
                let before = values[from.max(1) - 1];
                let share = count(f.saturating_sub(before.0))
                    / count(after.0.saturating_sub(before.0)).max(1.0);
                near.push(before.1 + share.min(1.0) * (after.1 - before.1));
            }
            near.sort_by(f64::total_cmp);
            near[place(at * count(near.len() - 1))]
        })
        .collect()
}

/// Means over `half` values either side.
fn smoothed(values: &[f64], half: usize) -> Vec<f64> {
    (0..values.len())
        .map(|k| {
            // As many on both sides: a horse that goes on is not bent at the ends.
            let half = half.min(k).min(values.len() - 1 - k);
            let near = &values[k - half..=k + half];
            near.iter().sum::<f64>() / count(near.len())
        })
        .collect()
}
