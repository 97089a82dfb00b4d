//! What a clip shows, laid over one another: the camera's way, the horse, and every stroke that may be a hoof.

use crate::number::{count, place};
use crate::parallel::mapped;
use crate::picture::area::Area;
use crate::picture::background::Background;
use crate::picture::candidate::{Candidate, one_a_place, weigh_hidden, whole};
use crate::picture::follow::{Click, Followed};
use crate::picture::going::Going;
use crate::picture::hoof::Looks;
use crate::picture::horse::horses;
use crate::picture::lit::lift_shadows;
use crate::picture::motion::Layers;
use crate::picture::one_horse::one_horse;
use crate::picture::path::{Keys, Path, path};
use crate::picture::refused::{Camera, Refused, camera};
use crate::picture::shade::nearer_by_light;
use crate::picture::stand::stand;
use crate::picture::still::still;
use crate::picture::strokes::{Stroke, strokes};
use crate::picture::unrolled::{Unrolled, focal};

/// A clip laid over one another.
pub struct Laid {
    /// How the camera moved.
    pub camera: Camera,
    /// Its way.
    pub way: Path,
    /// The horse.
    pub horse: Going,
    /// What may be hooves, in order of time.
    pub candidates: Vec<Candidate>,
    /// The cylinder the pictures were unrolled from, where the camera turned.
    pub unrolled: Option<Unrolled>,
}

/// A background is made anew this often, s.
const GROUP: f64 = 0.5;

/// Rows of the band above and below the ground in which edges that stay are looked for, by the height at
/// the withers.
const BAND: (f64, f64) = (0.13, 0.03);

/// Hears what share of a look is done, 0 to 1.
pub type Done<'a> = &'a (dyn Fn(f64) + Sync);

/// Shares of a look that are done when the camera's way is known roughly, the pictures are unrolled, its way is known
/// with the horse left out, the shadow is lifted, and strokes are found: as they took on two cores.
const STAGES: [f64; 5] = [0.25, 0.45, 0.7, 0.85, 0.92];

/// Lays a clip of `frames`, `rate` a second, in which some hooves were shown; `done` hears how far it is.
///
/// # Errors
/// When nothing can be told from it: why, and what to film instead.
pub fn laid(frames: Vec<Layers>, rate: f64, clicks: &[Click], done: Done) -> Result<Laid, Refused> {
    if count(frames.len()) <= rate {
        return Err(Refused::Short);
    }
    let keys = Keys::of(&frames, rate);
    let rough = path(&frames, rate, &keys, None);
    done(STAGES[0]);
    let Some(long) = focal(&frames, rate, &rough.to_first) else {
        return flat(frames, rate, (&keys, &rough), clicks, done);
    };
    let picture = frames[0].picture();
    let unrolled = Unrolled::new((picture.width, picture.height), long);
    // One after the other: memory holds a clip once.
    let round = mapped(frames, |f| {
        let picture = unrolled.of(f.picture());
        f.again(picture)
    });
    let clicks: Vec<Click> =
        clicks.iter().map(|c| Click { at: unrolled.onto(c.at), ..*c }).collect();
    // What blocks vote for is coarse: unrolled it is the same.
    let rough = path(&round, rate, &keys, None);
    done(STAGES[1]);
    Ok(Laid { unrolled: Some(unrolled), ..flat(round, rate, (&keys, &rough), &clicks, done)? })
}

/// Lays frames in which a turn of the camera is a shift; `rough` is its way as far as it is known.
fn flat(
    mut frames: Vec<Layers>,
    rate: f64,
    (keys, rough): (&Keys, &Path),
    clicks: &[Click],
    done: Done,
) -> Result<Laid, Refused> {
    let Some(first) = frames.first() else { return Err(Refused::Short) };
    let size = (count(first.picture().width), count(first.picture().height));
    let found = horses(&frames, rate, &rough.to_first);
    let areas: Vec<Option<Area>> = found.iter().map(|h| h.map(|h| h.area)).collect();
    let way = path(&frames, rate, keys, Some(&areas));
    done(STAGES[2]);
    let camera = camera(&way, size)?;
    let mut found = horses(&frames, rate, &way.to_first);
    one_horse(&mut found, rate, &way.to_first);
    let mut horse = Going::of(&found, &way, size)?;
    let group = GROUP * rate;
    let room = (place(0.2 * size.0), 4);
    let groups = (0..place(count(frames.len()) / group) + 1).collect();
    let backgrounds = mapped(groups, |g| {
        let frame = place((count(g) + 0.5) * group).min(frames.len() - 1);
        let rows = horse.rows(&way, frame, frames[frame].picture());
        Background::about(frame, room, rows, rate, &way.to_first, |k| frames[k].picture())
    });
    let behind = |f: usize| &backgrounds[place(count(f) / group).min(backgrounds.len() - 1)];
    let before = lift_shadows(&mut frames, &way, &mut horse, rate, behind);
    done(STAGES[3]);
    let rows = (place(BAND.0 * horse.height), place(BAND.1 * horse.height).max(2));
    let bands = horse.bands(&found);
    let (to_first, height, rightward) = (&way.to_first, horse.height, horse.rightward);
    let mut candidates = {
        let picture = |f: usize| frames[f].picture();
        let ground = still(rate, &way.to_first, &bands, |x| horse.row(x), rows, picture, behind);
        done(STAGES[4]);
        let looks = Looks { rate, to_first, picture: &picture, behind: &behind, height, rightward };
        let ahead = |stroke: &Stroke, middle: usize| {
            let way = if horse.rightward { 1.0 } else { -1.0 };
            way * (stroke.x - horse.body[middle]) / height
        };
        let of = |stroke: Stroke| {
            let row = horse.row(stroke.x) - count(rows.0) + stroke.row;
            let middle = usize::midpoint(stroke.from, stroke.to);
            Candidate::of(&looks, stroke, row, ahead(&stroke, middle))
        };
        let candidates = strokes(&ground, rate, height, &horse.body)
            .into_iter()
            // What stood already when the film, or the picture, began has no on.
            .filter(|s| s.from > ground.window)
            .map(of)
            .collect();
        let mut found = one_a_place(whole(candidates, height, of), height);
        let ground = |x: f64| horse.row(x);
        Followed { looks: &looks, body: &horse.body, ground: &ground }.add(&mut found, clicks);
        found
    };
    let shadow = before.map(|(shadow, before)| {
        before.restore(&mut frames);
        shadow
    });
    let picture = |f: usize| frames[f].picture();
    let looks = Looks { rate, to_first, picture: &picture, behind: &behind, height, rightward };
    stand(&mut candidates, &looks, shadow);
    weigh_hidden(&mut candidates);
    let lit = nearer_by_light(&candidates, &looks, &horse.body);
    candidates.iter_mut().zip(lit).for_each(|(c, lit)| c.lit = lit);
    Ok(Laid { camera, way, horse, candidates, unrolled: None })
}
