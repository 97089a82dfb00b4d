//! The horse over a clip: its size, its way, the ground under it; and which horses cannot be timed.

use crate::number::{count, place, small};
use crate::picture::horse::Horse;
use crate::picture::path::Path;
use crate::picture::refused::Refused;
use crate::picture::still::Band;

/// The horse over the clip.
pub struct Going {
    /// Height at the withers, pixels.
    pub height: f64,
    /// Whether it goes to the right of the ground picture.
    pub rightward: bool,
    /// Column of the ground picture of its middle, a frame.
    pub body: Vec<f64>,
    /// Row of the ground picture below it, a frame.
    pub ground: Vec<f64>,
}

/// Height at the withers by a horse's length from nose to tail (common practice).
const HEIGHT: f64 = 0.69;

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
        if 2 * seen.len() < found.len() || seen.is_empty() {
            return Err(Refused::NoHorse);
        }
        let middle = |mut v: Vec<f64>| {
            v.sort_by(f64::total_cmp);
            v[v.len() / 2]
        };
        let wide = middle(seen.iter().map(|(_, h)| f64::from(h.length)).collect());
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
        let half = place(SLOWLY * way.rate);
        let per_frame = |value: &dyn Fn(usize, &Horse) -> f64, at: f64| -> Vec<f64> {
            let values: Vec<(usize, f64)> = seen.iter().map(|(f, h)| (*f, value(*f, h))).collect();
            (0..found.len())
                .map(|f| {
                    let from = values.partition_point(|v| v.0 + half < f);
                    let to = values.partition_point(|v| v.0 <= f + half);
                    let mut near: Vec<f64> = values[from..to].iter().map(|v| v.1).collect();
                    if near.is_empty() {
                        near.push(values[from.min(values.len() - 1)].1);
                    }
                    near.sort_by(f64::total_cmp);
                    near[place(at * count(near.len() - 1))]
                })
                .collect()
        };
        let on_ground = |f: usize, x: f32, y: f32| way.to_first[f].of(f64::from(x), f64::from(y));
        let body = per_frame(&|f, h| on_ground(f, h.middle.0, h.middle.1).0, 0.5);
        let ground = per_frame(
            &|f, h| on_ground(f, 0.5 * (h.area.left + h.area.right), h.area.bottom).1,
            0.9,
        );
        let far = body[body.len() - 1] - body[0];
        if far.abs() < height {
            return Err(Refused::StandsStill);
        }
        Ok(Self { height, rightward: far > 0.0, body: smoothed(&body, half), ground })
    }

    /// Where edges that stay are looked for: the columns of the horse and the row of the ground, a frame.
    pub fn bands(&self, found: &[Option<Horse>], way: &Path) -> Vec<Option<Band>> {
        let room = small(0.05 * self.height);
        found
            .iter()
            .enumerate()
            .map(|(f, h)| {
                let a = h.as_ref()?.area;
                let x = |x: f32| way.to_first[f].of(f64::from(x), f64::from(a.bottom)).0;
                #[expect(clippy::cast_possible_truncation, reason = "columns")]
                Some(Band {
                    left: x(a.left - room).floor() as i64,
                    right: x(a.right + room).ceil() as i64,
                    ground: self.ground[f],
                })
            })
            .collect()
    }
}

/// Smallest horse that can be timed, pixels of the picture that is worked on.
const SMALLEST: f64 = 70.0;

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
