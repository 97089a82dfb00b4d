//! A clip watched from its first frame to its last: hooves that took the ground, or why none can be
//! told.

use umlauf_gait::base::limb::Side;

use crate::picture::alike::forget_odd_offs;
use crate::picture::by_others::by_others;
use crate::picture::follow::Click;
use crate::picture::footfalls::{A_FOOTFALL, doubt_unlike_others, footfalls};
use crate::picture::grey::Grey;
use crate::picture::hidden::hidden;
use crate::picture::laid::{Done, Laid, laid};
use crate::picture::level::hovering;
use crate::picture::may::May;
use crate::picture::motion::Layers;
use crate::picture::refused::{Camera, Refused};
use crate::picture::seen::{Doubt, Seen};
use crate::picture::sides::limbs;
use crate::picture::stance::Stance;
use crate::picture::steps::{Steps, even, steps};
use crate::picture::wraps::{Says, View, Worn};

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

/// Fewer footfalls than this are none.
const FEWEST: usize = 6;

/// Watches a clip of `frames`, `rate` a second. `near` is the side that is seen, where the coach said so.
///
/// # Errors
/// When nothing can be told from it: why, and what to film instead.
pub fn watch(frames: Vec<Layers>, rate: f64, near: Option<Side>) -> Result<Watched, Refused> {
    watch_shown(frames, rate, &Shown { near, ..Shown::default() }, &|_| ())
}

/// What a person has said of a clip.
#[derive(Clone, Debug, Default)]
pub struct Shown {
    /// The side of the horse that is seen.
    pub near: Option<Side>,
    /// The wraps that its limbs wear.
    pub worn: Worn,
    /// Hooves that stand, whose they are and where.
    pub clicks: Vec<Click>,
}

/// As [`watch`], with what a person has said; `done` hears how far it is.
///
/// # Errors
/// As [`watch`].
pub fn watch_shown(
    frames: Vec<Layers>,
    rate: f64,
    shown: &Shown,
    done: Done,
) -> Result<Watched, Refused> {
    told(laid(frames, rate, &shown.clicks, done)?, rate, shown.near, &shown.worn)
}

/// The footfalls of what was laid.
///
/// # Errors
/// When too little of it stands still.
pub fn told(laid: Laid, rate: f64, near: Option<Side>, worn: &Worn) -> Result<Watched, Refused> {
    let Laid { camera, way, horse, candidates, unrolled } = laid;
    let near = near.unwrap_or(if horse.rightward { Side::Right } else { Side::Left });
    let mut seen = footfalls(&candidates, &way, rate);
    seen.sort_by(|a, b| a.on.total_cmp(&b.on));
    let all: Vec<Stance> = seen.iter().map(|s| s.stance).collect();
    let mut high = hovering(&all, HOVERS * horse.height).into_iter();
    seen.retain(|_| !high.next().unwrap_or(false));
    if !worn.is_bare() {
        let said =
            worn.says(&seen, &View { way: &way, unrolled: unrolled.as_ref(), horse: &horse });
        let mut said = said.into_iter();
        seen.retain_mut(|s| match said.next() {
            Some(Says::NoHoof) => false,
            // A click was on this hoof itself.
            Some(Says::Limb(may)) if s.stance.may == May::ANY => {
                s.stance.may = may;
                true
            }
            _ => true,
        });
    }
    if seen.len() < FEWEST {
        return Err(Refused::NothingStands);
    }
    let stances: Vec<Stance> = seen.iter().map(|s| s.stance).collect();
    match steps(&stances, horse.height, rate) {
        Steps::Horse => {}
        Steps::Half => return Err(Refused::HalfUnseen),
        Steps::Other => return Err(Refused::NotAHorse),
    }
    doubt_unlike_others(&mut seen);
    let doubted = seen.iter().filter(|s| s.why.iter().any(|why| HARDLY_SEEN.contains(why))).count();
    // What steps evenly is a horse's, however faint its hooves.
    if 2 * doubted > seen.len() && !even(&stances) {
        return Err(Refused::HalfUnseen);
    }
    hidden(&mut seen, horse.height, rate);
    seen.sort_by(|a, b| a.on.total_cmp(&b.on));
    for s in &mut seen {
        // What is seen well is one.
        s.stance.is_one = (s.confidence / A_FOOTFALL).min(1.0);
    }
    let stances: Vec<Stance> = seen.iter().map(|s| s.stance).collect();
    let mut footfalls: Vec<Seen> = seen
        .into_iter()
        .zip(limbs(&stances, near))
        .map(|(mut seen, named)| {
            seen.limb = named.limb;
            if named.sure < SURE {
                seen.why.push(Doubt::NearOrFar);
            }
            seen.confidence *= named.sure;
            if let Some(unrolled) = &unrolled {
                seen.at = unrolled.back(seen.at);
                seen.at_on = unrolled.back(seen.at_on);
            }
            seen
        })
        .collect();
    by_others(&mut footfalls);
    forget_odd_offs(&mut footfalls);
    Ok(Watched { camera, near, height: horse.height, footfalls })
}

/// A hoof this much above the ground about it hovers, heights at the withers.
const HOVERS: f64 = 0.014;

/// Where half of what stands is so, shadow and ground are taken for hooves.
const HARDLY_SEEN: [Doubt; 3] = [Doubt::LooksLikeGround, Doubt::UnlikeOthers, Doubt::NotSeenWell];

/// Less sure than this of its limb, a footfall says so.
const SURE: f64 = 0.9;

/// The layers of pictures in order, for [`watch`].
pub fn layers(pictures: impl IntoIterator<Item = Grey>) -> Vec<Layers> {
    pictures.into_iter().map(Layers::of).collect()
}
