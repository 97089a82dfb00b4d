//! Where a rider's head is, frame by frame, so that it can be made unsharp before others see it.
//!
//! The head is at the top of the largest thing that moves, somewhere over its length: a horse that comes into the picture
//! shows its neck first. What is given is larger than a head, for it has to hold it in every frame: also where its tone is
//! that of what lies behind, and the top that is found is the shoulders'.

use crate::number::{count, place};
use crate::picture::area::Area;
use crate::picture::horse::{Horse, horses};
use crate::picture::motion::Layers;
use crate::picture::one_horse::one_horse;
use crate::picture::path::{Keys, path};

/// The top of a rider is looked for over so long to either side, s: a head comes and goes with what lies behind it, and a
/// horse is not all in the picture.
const ABOUT_S: f64 = 1.0;

/// Of those frames the top is as high, and the horse as long, as in this share.
const HIGH: f64 = 0.9;

/// How far above the top, below it, and beyond the horse to either side a head may be, lengths of the horse from nose to
/// tail as it is seen.
const ROOM: (f32, f32, f32) = (0.16, 0.28, 0.1);

/// Where the rider's head is in each of `frames`, `rate` a second, in their pixels; reaching beyond the picture where the
/// head may. `None` where no horse is seen: nothing says then where a face might be.
pub fn heads(frames: &[Layers], rate: f64) -> Vec<Option<Area>> {
    let keys = Keys::of(frames, rate);
    let rough = path(frames, rate, &keys, None);
    let found = horses(frames, rate, &rough.to_first);
    let areas: Vec<Option<Area>> = found.iter().map(|h| h.map(|h| h.area)).collect();
    let way = path(frames, rate, &keys, Some(&areas));
    let mut found = horses(frames, rate, &way.to_first);
    one_horse(&mut found, rate, &way.to_first);
    let about = place((ABOUT_S * rate).ceil());
    let of = |(f, horse): (usize, &Option<Horse>)| {
        let area = (*horse)?.area;
        let near = found.get(f.saturating_sub(about)..(f + about + 1).min(found.len()))?;
        let usual = |of: fn(&Horse) -> f32| {
            let mut all: Vec<f32> = near.iter().flatten().map(of).collect();
            all.sort_by(f32::total_cmp);
            all.get(place(HIGH * count(all.len().saturating_sub(1)))).copied()
        };
        let (top, length) = (-usual(|h| -h.area.top)?, usual(|h| h.length)?);
        let (up, down, aside) = ROOM;
        Some(Area {
            left: area.left - aside * length,
            right: area.right + aside * length,
            top: top.min(area.top) - up * length,
            bottom: top.max(area.top) + down * length,
        })
    };
    found.iter().enumerate().map(of).collect()
}
