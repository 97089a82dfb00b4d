//! A clip watched from its first frame to its last: hooves that took the ground, or why none can be
//! told.

use umlauf_gait::base::limb::{Limb, Side};

use crate::number::{count, place, small};
use crate::picture::area::Area;
use crate::picture::background::Background;
use crate::picture::grey::Grey;
use crate::picture::hoof::Looks;
use crate::picture::horse::{Horse, horses};
use crate::picture::motion::Layers;
use crate::picture::path::{Path, path};
use crate::picture::refused::{Camera, Refused, camera};
use crate::picture::sides::{Stance, limbs};
use crate::picture::still::{Band, still};
use crate::picture::strokes::{Stroke, strokes};

/// A footfall that was seen.
#[derive(Clone, Debug, PartialEq)]
pub struct Seen {
    /// The limb.
    pub limb: Limb,
    /// When it took the ground, frames from the first.
    pub on: f64,
    /// Its standard deviation.
    pub on_sd: f64,
    /// When the heel left, when that is told apart.
    pub heel_off: Option<f64>,
    /// When the toe left, when that is seen.
    pub off: Option<f64>,
    /// Its standard deviation.
    pub off_sd: f64,
    /// Where it stood, pixels of the frame in the middle of its stance.
    pub at: (f64, f64),
    /// That frame.
    pub frame: usize,
    /// Chance that it is right: a footfall, and of this limb.
    pub confidence: f64,
    /// Why it is less than sure.
    pub why: Vec<Doubt>,
}

/// What makes a footfall less than sure.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Doubt {
    /// The hoof is hardly darker or lighter than the ground.
    LooksLikeGround,
    /// Near and far limb cannot be told apart for sure.
    NearOrFar,
    /// It stood much longer or shorter than the others.
    UnlikeOthers,
    /// When it left is not seen.
    OffUnseen,
}

/// What was found in a clip.
#[derive(Clone, Debug, PartialEq)]
pub struct Watched {
    /// How the camera moved.
    pub camera: Camera,
    /// The side of the horse that is seen.
    pub near: Side,
    /// Height at the withers, pixels, as far as the length of the horse tells it.
    pub height: f64,
    /// Footfalls in order of time.
    pub footfalls: Vec<Seen>,
}

/// A background is made anew this often, s.
const GROUP: f64 = 0.5;

/// Rows of the band above and below the ground in which edges that stay are looked for, by the height at
/// the withers.
const BAND: (f64, f64) = (0.12, 0.03);

/// Fewer footfalls than this are none.
const FEWEST: usize = 6;

/// Watches a clip of `frames`, `rate` a second. `near` is the side that is seen, where the coach said so.
///
/// # Errors
/// When nothing can be told from it: why, and what to film instead.
pub fn watch(frames: &[Layers], rate: f64, near: Option<Side>) -> Result<Watched, Refused> {
    let Some(first) = frames.first().filter(|_| count(frames.len()) > rate) else {
        return Err(Refused::Short);
    };
    let size = (count(first.picture().width), count(first.picture().height));
    let rough = path(frames, rate, None);
    let found = horses(frames, rate, &rough.to_first);
    let areas: Vec<Option<Area>> = found.iter().map(|h| h.map(|h| h.area)).collect();
    let way = path(frames, rate, Some(&areas));
    let kind = camera(&way, size)?;
    let found = horses(frames, rate, &way.to_first);
    let horse = Going::of(&found, &way, size)?;
    let group = GROUP * rate;
    let room = (place(0.2 * size.0), 4);
    let behind: Vec<Background> = (0..place(count(frames.len()) / group) + 1)
        .map(|g| {
            let frame = place((count(g) + 0.5) * group).min(frames.len() - 1);
            Background::about(frame, room, rate, &way.to_first, |k| frames[k].picture())
        })
        .collect();
    let behind = |f: usize| &behind[place(count(f) / group).min(behind.len() - 1)];
    let picture = |f: usize| frames[f].picture();
    let rows = (place(BAND.0 * horse.height), place(BAND.1 * horse.height).max(2));
    let bands = horse.bands(&found, &way);
    let ground = still(rate, &way.to_first, &bands, rows, picture, behind);
    let looks = Looks {
        rate,
        to_first: &way.to_first,
        picture: &picture,
        behind: &behind,
        height: horse.height,
    };
    let near = near.unwrap_or(if horse.rightward { Side::Right } else { Side::Left });
    let mut seen: Vec<(Seen, Stance)> = strokes(&ground, rate, horse.height)
        .iter()
        // What stood already when the film, or the picture, began has no on.
        .filter(|s| s.from > ground.window)
        .filter_map(|s| {
            let band = bands[usize::midpoint(s.from, s.to)]?;
            let row = band.ground - count(rows.0) + s.row;
            footfall(&looks, s, row, &horse)
        })
        .collect();
    seen.sort_by(|a, b| a.0.on.total_cmp(&b.0.on));
    if seen.len() < FEWEST {
        return Err(Refused::NothingStands);
    }
    doubt_unlike_others(&mut seen);
    let stances: Vec<Stance> = seen.iter().map(|s| s.1).collect();
    let footfalls = seen
        .into_iter()
        .zip(limbs(&stances, near))
        .map(|((mut seen, _), named)| {
            seen.limb = named.limb;
            if named.sure < SURE {
                seen.why.push(Doubt::NearOrFar);
            }
            seen.confidence *= named.sure;
            seen
        })
        .collect();
    Ok(Watched { camera: kind, near, height: horse.height, footfalls })
}

/// A stance is unlike the others beyond this many times the usual length, either way.
const UNLIKE: f64 = 1.5;

fn doubt_unlike_others(seen: &mut [(Seen, Stance)]) {
    let length = |s: &Seen| s.off.map(|off| off - s.on);
    let mut lengths: Vec<f64> = seen.iter().filter_map(|s| length(&s.0)).collect();
    lengths.sort_by(f64::total_cmp);
    let Some(usual) = lengths.get(lengths.len() / 2).copied() else { return };
    for (s, _) in seen {
        if length(s).is_some_and(|l| l > UNLIKE * usual || l < usual / UNLIKE) {
            s.why.push(Doubt::UnlikeOthers);
            s.confidence *= 0.6;
        }
    }
}

/// Less sure than this of its limb, a footfall says so.
const SURE: f64 = 0.9;

/// Grey values by which a hoof differs from the ground at least to be seen well.
const SEEN_WELL: f32 = 25.0;

/// Chance that a stroke in the picture of place against time is a footfall (project default).
const A_FOOTFALL: f64 = 0.97;

fn footfall(looks: &Looks, stroke: &Stroke, row: f64, horse: &Going) -> Option<(Seen, Stance)> {
    let hoof = looks.hoof(stroke, row)?;
    let contact = looks.contact(&hoof, stroke)?;
    let mut why = vec![];
    let mut confidence = A_FOOTFALL;
    if hoof.contrast < SEEN_WELL {
        why.push(Doubt::LooksLikeGround);
        confidence *= 0.9;
    }
    if contact.off.is_none() {
        why.push(Doubt::OffUnseen);
    }
    let turn = looks.to_first[hoof.middle];
    let way = if horse.rightward { 1.0 } else { -1.0 };
    let ahead = way * (stroke.x - horse.body[hoof.middle]) / horse.height;
    let seen = Seen {
        limb: Limb::LF,
        on: contact.on,
        on_sd: contact.on_sd,
        heel_off: contact.heel_off,
        off: contact.off,
        off_sd: contact.off_sd,
        at: turn.back().of(stroke.x, hoof.row),
        frame: hoof.middle,
        confidence,
        why,
    };
    Some((seen, Stance { on: contact.on, ahead, x: stroke.x, row: hoof.row }))
}

/// The horse over the clip.
struct Going {
    /// Height at the withers, pixels.
    height: f64,
    /// Whether it goes to the right of the ground picture.
    rightward: bool,
    /// Column of the ground picture of its middle, a frame.
    body: Vec<f64>,
    /// Row of the ground picture below it, a frame.
    ground: Vec<f64>,
}

/// Height at the withers by a horse's length from nose to tail (common practice).
const HEIGHT: f64 = 0.69;

/// The ground under a horse changes slowly: looked at over so long before and after, s.
const SLOWLY: f64 = 0.25;

impl Going {
    fn of(found: &[Option<Horse>], way: &Path, size: (f64, f64)) -> Result<Self, Refused> {
        let seen: Vec<(usize, Horse)> =
            found.iter().enumerate().filter_map(|(f, h)| Some((f, (*h)?))).collect();
        if 2 * seen.len() < found.len() || seen.is_empty() {
            return Err(Refused::NoHorse);
        }
        let middle = |mut v: Vec<f64>| {
            v.sort_by(f64::total_cmp);
            v[v.len() / 2]
        };
        let wide =
            middle(seen.iter().map(|(_, h)| f64::from(h.area.right - h.area.left)).collect());
        let high =
            middle(seen.iter().map(|(_, h)| f64::from(h.area.bottom - h.area.top)).collect());
        let height = HEIGHT * wide;
        if wide > 0.9 * size.0 || high > 0.97 * size.1 {
            return Err(Refused::TooClose);
        }
        if height < SMALLEST {
            return Err(Refused::TooSmall);
        }
        if wide < 0.75 * high {
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

    fn bands(&self, found: &[Option<Horse>], way: &Path) -> Vec<Option<Band>> {
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

/// The layers of pictures in order, for [`watch`].
pub fn layers(pictures: impl IntoIterator<Item = Grey>) -> Vec<Layers> {
    pictures.into_iter().map(Layers::of).collect()
}
