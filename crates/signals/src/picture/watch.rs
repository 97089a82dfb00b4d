//! A clip watched from its first frame to its last: hooves that took the ground, or why none can be
//! told.

use umlauf_gait::base::limb::{Limb, Side};

use crate::number::{count, place};
use crate::picture::area::Area;
use crate::picture::background::Background;
use crate::picture::contact::Contact;
use crate::picture::going::Going;
use crate::picture::grey::Grey;
use crate::picture::hoof::Looks;
use crate::picture::horse::horses;
use crate::picture::motion::Layers;
use crate::picture::path::{Keys, Path, path};
use crate::picture::refused::{Camera, Refused, camera};
use crate::picture::settle::Usual;
use crate::picture::sides::{Stance, hovering, limbs};
use crate::picture::still::still;
use crate::picture::strokes::{Stroke, strokes};
use crate::picture::unrolled::{Unrolled, focal};

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
    /// Where it stood in the frame in which it took the ground.
    pub at_on: (f64, f64),
    /// Chance that it is right: a footfall, and of this limb.
    pub confidence: f64,
    /// Why it is less than sure.
    pub why: Vec<Doubt>,
    /// What its limb was told from, in the pictures watched together.
    pub stance: Stance,
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
    /// It is timed by how long an edge stayed, for the hoof itself is not seen well.
    NotSeenWell,
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
const BAND: (f64, f64) = (0.15, 0.04);

/// Fewer footfalls than this are none.
const FEWEST: usize = 6;

/// Watches a clip of `frames`, `rate` a second. `near` is the side that is seen, where the coach said so.
///
/// # Errors
/// When nothing can be told from it: why, and what to film instead.
pub fn watch(frames: Vec<Layers>, rate: f64, near: Option<Side>) -> Result<Watched, Refused> {
    if count(frames.len()) <= rate {
        return Err(Refused::Short);
    }
    let keys = Keys::of(&frames, rate);
    let rough = path(&frames, rate, &keys, None);
    let Some(long) = focal(&frames, rate, &rough.to_first) else {
        return watched(&frames, rate, near, &keys, &rough);
    };
    let picture = frames[0].picture();
    let unrolled = Unrolled::new((picture.width, picture.height), long);
    // One after the other: memory holds a clip once.
    let round: Vec<Layers> =
        frames.into_iter().map(|f| Layers::of(unrolled.of(f.picture()))).collect();
    // What blocks vote for is coarse: unrolled it is the same.
    let rough = path(&round, rate, &keys, None);
    let mut found = watched(&round, rate, near, &keys, &rough)?;
    for seen in &mut found.footfalls {
        seen.at = unrolled.back(seen.at);
        seen.at_on = unrolled.back(seen.at_on);
    }
    Ok(found)
}

/// Watches frames in which a turn of the camera is a shift; `rough` is its way as far as it is known.
fn watched(
    frames: &[Layers],
    rate: f64,
    near: Option<Side>,
    keys: &Keys,
    rough: &Path,
) -> Result<Watched, Refused> {
    let Some(first) = frames.first() else { return Err(Refused::Short) };
    let size = (count(first.picture().width), count(first.picture().height));
    let found = horses(frames, rate, &rough.to_first);
    let areas: Vec<Option<Area>> = found.iter().map(|h| h.map(|h| h.area)).collect();
    let way = path(frames, rate, keys, Some(&areas));
    let kind = camera(&way, size)?;
    let found = horses(frames, rate, &way.to_first);
    let horse = Going::of(&found, &way, size)?;
    let group = GROUP * rate;
    let room = (place(0.2 * size.0), 4);
    let behind: Vec<Background> = (0..place(count(frames.len()) / group) + 1)
        .map(|g| {
            let frame = place((count(g) + 0.5) * group).min(frames.len() - 1);
            let rows = horse.rows(&way, frame, first.picture());
            Background::about(frame, room, rows, rate, &way.to_first, |k| frames[k].picture())
        })
        .collect();
    let behind = |f: usize| &behind[place(count(f) / group).min(behind.len() - 1)];
    let picture = |f: usize| frames[f].picture();
    let rows = (place(BAND.0 * horse.height), place(BAND.1 * horse.height).max(2));
    let bands = horse.bands(&found);
    let ground = still(rate, &way.to_first, &bands, |x| horse.row(x), rows, picture, behind);
    let looks = Looks {
        rate,
        to_first: &way.to_first,
        picture: &picture,
        behind: &behind,
        height: horse.height,
    };
    let near = near.unwrap_or(if horse.rightward { Side::Right } else { Side::Left });
    let found: Vec<Found> = strokes(&ground, rate, horse.height)
        .into_iter()
        // What stood already when the film, or the picture, began has no on.
        .filter(|s| s.from > ground.window)
        .map(|stroke| {
            let middle = usize::midpoint(stroke.from, stroke.to);
            let row = horse.row(stroke.x) - count(rows.0) + stroke.row;
            let hoof = looks.hoof(&stroke, row);
            let contact = hoof.as_ref().and_then(|h| looks.contact(h, &stroke));
            let way = if horse.rightward { 1.0 } else { -1.0 };
            let ahead = way * (stroke.x - horse.body[middle]) / horse.height;
            let (row, contrast) = hoof.map_or((row, 0.0), |h| (h.row, h.contrast));
            Found { stroke, middle, row, contrast, ahead, contact }
        })
        .collect();
    let found = one_a_place(found, horse.height);
    let mut seen = footfalls(&found, &way, rate);
    seen.sort_by(|a, b| a.on.total_cmp(&b.on));
    let all: Vec<Stance> = seen.iter().map(|s| s.stance).collect();
    let mut high = hovering(&all, HOVERS * horse.height).into_iter();
    seen.retain(|_| !high.next().unwrap_or(false));
    if seen.len() < FEWEST {
        return Err(Refused::NothingStands);
    }
    doubt_unlike_others(&mut seen);
    let stances: Vec<Stance> = seen.iter().map(|s| s.stance).collect();
    let footfalls = seen
        .into_iter()
        .zip(limbs(&stances, near))
        .map(|(mut seen, named)| {
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

/// An off that is known worse than this, s, is not given (project default).
const OFF_KNOWN: f64 = 0.025;

/// A hoof this much above the ground about it hovers, heights at the withers.
const HOVERS: f64 = 0.014;

/// No hoof stands farther from the body's middle than this, heights at the withers.
const FARTHEST: f64 = 0.8;

/// A stance is unlike the others beyond this many times the usual length, either way.
const UNLIKE: f64 = 1.5;

fn doubt_unlike_others(seen: &mut [Seen]) {
    let length = |s: &Seen| s.off.map(|off| off - s.on);
    let mut lengths: Vec<f64> = seen.iter().filter_map(length).collect();
    lengths.sort_by(f64::total_cmp);
    let Some(usual) = lengths.get(lengths.len() / 2).copied() else { return };
    for s in seen {
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

/// A stroke and what was seen of its hoof.
struct Found {
    stroke: Stroke,
    middle: usize,
    row: f64,
    contrast: f32,
    ahead: f64,
    contact: Option<Contact>,
}

/// Two hooves do not stand this near to each other, heights at the withers, …
const NEAR: f64 = 0.16;

/// … for this share of the shorter one's time; and not twice as near for nearly all of it.
const MUCH: f64 = 0.4;
const NEARLY_ALL: f64 = 0.65;

/// Of strokes side by side at one time that which lasts as long as the others of the clip do, or else the lower:
/// the other is a shadow, a pastern, or a hoof that hovers.
fn one_a_place(found: Vec<Found>, height: f64) -> Vec<Found> {
    let long = |f: &Found| count(f.stroke.to - f.stroke.from);
    let mut lengths: Vec<f64> = found.iter().map(long).collect();
    lengths.sort_by(f64::total_cmp);
    let usual = lengths.get(lengths.len() / 2).copied().unwrap_or(0.0).max(1.0);
    // How little it is like the others: as they are, somewhat, not at all.
    let unlike = |f: &Found| {
        let times = (long(f) / usual).ln().abs();
        if times < 0.3 {
            0
        } else if times < 0.6 {
            1
        } else {
            2
        }
    };
    let beside = |a: &Found, b: &Found| {
        let shared = count(a.stroke.to.min(b.stroke.to)) - count(a.stroke.from.max(b.stroke.from));
        let share = shared / long(a).min(long(b)).max(1.0);
        let far = (a.stroke.x - b.stroke.x).abs() / height;
        (far < NEAR && share > MUCH) || (far < 2.0 * NEAR && share > NEARLY_ALL)
    };
    let better = |j: usize, k: usize| {
        let (a, b) = (&found[j], &found[k]);
        (unlike(b), a.row, j) > (unlike(a), b.row, k)
    };
    let keep: Vec<bool> = (0..found.len())
        .map(|k| (0..found.len()).all(|j| j == k || !beside(&found[k], &found[j]) || !better(j, k)))
        .collect();
    found.into_iter().zip(keep).filter(|(_, keep)| *keep).map(|(f, _)| f).collect()
}

/// Footfalls without their limbs, settled by what is usual of fore and hind in this clip.
fn footfalls(found: &[Found], way: &Path, rate: f64) -> Vec<Seen> {
    let usual = [false, true].map(|fore| {
        let own = found.iter().filter(|f| (f.ahead > 0.0) == fore);
        let well: Vec<(&Stroke, Contact)> =
            own.filter_map(|f| Some((&f.stroke, f.contact?))).collect();
        Usual::of(&well, rate)
    });
    let length = |f: &Found| count(f.stroke.to - f.stroke.from);
    let mut lengths: Vec<f64> = found.iter().filter(|f| f.contact.is_some()).map(length).collect();
    lengths.sort_by(f64::total_cmp);
    let usual_length = lengths.get(lengths.len() / 2).copied().unwrap_or(0.0);
    // An edge that no hoof belongs to, and that stays for a moment or far from the body, is a shadow.
    let like_the_others = |f: &&Found| {
        let alike = (usual_length / UNLIKE..=usual_length * UNLIKE).contains(&length(f));
        f.ahead.abs() < FARTHEST && (f.contact.is_some() || alike)
    };
    found
        .iter()
        .filter(like_the_others)
        .filter_map(|f| {
            let (contact, by_stroke) = match usual[usize::from(f.ahead > 0.0)] {
                Some(usual) => usual.settled(&f.stroke, f.contact),
                None => (f.contact?, false),
            };
            let mut why = vec![];
            let mut confidence = A_FOOTFALL;
            if by_stroke {
                why.push(Doubt::NotSeenWell);
                confidence *= 0.8;
            }
            if f.contrast < SEEN_WELL {
                why.push(Doubt::LooksLikeGround);
                confidence *= 0.9;
            }
            // The film, or the horse, may be gone before; and an off that is hardly known is none.
            let last = count(way.to_first.len()) - 1.0;
            let off = contact.off.filter(|off| {
                *off < last && *off > contact.on && contact.off_sd < OFF_KNOWN * rate
            });
            let heel_off =
                contact.heel_off.filter(|h| *h > contact.on && off.is_some_and(|o| *h < o));
            if off.is_none() {
                why.push(Doubt::OffUnseen);
            }
            let seen = Seen {
                limb: Limb::LF,
                on: contact.on,
                on_sd: contact.on_sd,
                heel_off,
                off,
                off_sd: contact.off_sd,
                at: way.to_first[f.middle].back().of(f.stroke.x, f.row),
                frame: f.middle,
                at_on: way.to_first[place(contact.on).min(way.to_first.len() - 1)]
                    .back()
                    .of(f.stroke.x, f.row),
                confidence,
                why,
                stance: Stance { on: contact.on, ahead: f.ahead, x: f.stroke.x, row: f.row },
            };
            Some(seen)
        })
        .collect()
}

/// The layers of pictures in order, for [`watch`].
pub fn layers(pictures: impl IntoIterator<Item = Grey>) -> Vec<Layers> {
    pictures.into_iter().map(Layers::of).collect()
}
