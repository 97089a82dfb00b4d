//! What a clip told of by itself, as it is kept beside its marks and said on the desk.

use serde::{Deserialize, Serialize};
use umlauf_gait::base::limb::Side;
use umlauf_signals::picture::may::May;
use umlauf_signals::picture::stance::Stance;
use umlauf_store::marks::Mark;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::clip::mark::{LimbCode, seen};
use crate::suggest::suggestion::{Suggested, side_of};
use crate::suggest::wanting::{Missed, Wanting};

/// Kept beside a clip's marks.
#[derive(Clone, Debug, Default, Deserialize, Serialize)]
pub struct Kept {
    /// Why nothing is suggested.
    pub refused: Option<String>,
    /// How the camera moved.
    pub camera: Option<String>,
    /// The side of the horse that is seen, as the file shows it.
    pub near: Option<String>,
    /// The sound comes so much later than the picture, true seconds.
    pub sound_late_s: Option<f64>,
    /// Parts in which nothing is seen.
    pub unseen: Vec<Unseen>,
    /// Beats that are heard, and not whose they are, µs of the file.
    pub beats_us: Vec<i64>,
    /// What the limbs of suggestions were told from.
    pub told_from: Vec<ToldFrom>,
    /// Clicks that show the horse's wraps.
    #[serde(default)]
    pub wraps: Vec<LimbClick>,
    /// Clicks that show hooves as they stand.
    #[serde(default)]
    pub hooves: Vec<LimbClick>,
}

/// A click on a limb's wrap, or on its hoof. Kept by the limb that the file shows, shown by the horse's own: they
/// differ in a mirror image.
#[derive(Clone, Copy, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LimbClick {
    /// The limb.
    pub limb: LimbCode,
    /// Time of the frame, µs of the file.
    pub at_us: i64,
    /// From the left of the file's picture, pixels.
    pub x_px: f64,
    /// From its top.
    pub y_px: f64,
}

impl LimbClick {
    /// From the file's limb to the horse's, or back.
    #[must_use]
    pub fn turned(self, mirrored: bool) -> Self {
        Self { limb: seen(self.limb.into(), mirrored).into(), ..self }
    }
}

/// A part of a clip in which nothing is seen.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
pub struct Unseen {
    /// From, µs of the file.
    pub from_us: i64,
    /// To.
    pub to_us: i64,
    /// Why.
    pub why: String,
}

/// What the limb of a suggestion was told from.
#[derive(Clone, Debug, Deserialize, Serialize)]
pub struct ToldFrom {
    /// The suggestion's mark.
    pub id: String,
    /// Part of the film in which it was watched.
    pub part: usize,
    /// When the stance began, frames of that part.
    pub on: f64,
    /// How far ahead of the body's middle it stood, heights at the withers.
    pub ahead: f64,
    /// Column of the ground picture.
    pub x: f64,
    /// Its row.
    pub row: f64,
    /// How little its row says, pixels.
    #[serde(default)]
    pub row_sd: f64,
    /// Log odds that it is near, by what passed before it.
    #[serde(default)]
    pub nearer: f64,
    /// The same by its light.
    #[serde(default)]
    pub lit: f64,
    /// Whose it may be by what its limb wears, a bit a limb; 0 for any.
    #[serde(default)]
    pub may: u8,
    /// Chance that it is a footfall at all.
    #[serde(default = "certain")]
    pub is_one: f64,
}

const fn certain() -> f64 {
    1.0
}

impl ToldFrom {
    /// As the core of signals reads it.
    pub const fn stance(&self) -> Stance {
        Stance {
            on: self.on,
            ahead: self.ahead,
            x: self.x,
            row: self.row,
            row_sd: self.row_sd,
            nearer: self.nearer,
            lit: self.lit,
            may: May::of_bits(self.may),
            is_one: self.is_one,
        }
    }
}

/// What a clip told of by itself, for the desk.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Found {
    /// What waits for an answer, or why nothing does, in words.
    pub says: String,
    /// Why nothing is suggested.
    pub refused: Option<String>,
    /// Suggestions that wait for an answer.
    pub open: usize,
    /// Those of them that want a look, by the names of their marks, in order of time.
    pub doubtful: Vec<String>,
    /// Footfalls that are due among suggestions, and that none of them is, in order of time.
    pub missed: Vec<Missed>,
    /// The side of the horse that is seen, as the file shows it: `left` or `right`.
    pub near: Option<String>,
    /// Beats that are heard, and not whose they are, µs of the file.
    pub beats_us: Vec<i64>,
    /// Parts in which nothing is seen.
    pub unseen: Vec<Unseen>,
    /// Clicks that show the horse's wraps, by its own limbs.
    pub wraps: Vec<LimbClick>,
    /// Clicks that show hooves as they stand, by the horse's own limbs.
    pub hooves: Vec<LimbClick>,
}

impl Kept {
    /// What is kept of a search, but for what its marks are told from: `micros` leads from true seconds since
    /// the film's first frame to µs of the file.
    pub fn of(found: &Suggested, micros: impl Fn(f64) -> i64) -> Self {
        let unseen = found.unseen.iter().map(|u| Unseen {
            from_us: micros(u.from_s),
            to_us: micros(u.to_s),
            why: u.why.clone(),
        });
        let beats = found.footfalls.iter().filter(|f| f.limb.is_none());
        Self {
            refused: found.refused.clone(),
            camera: found.camera.map(str::to_owned),
            near: found.near.map(str::to_owned),
            sound_late_s: found.sound_late_s,
            unseen: unseen.collect(),
            beats_us: beats.map(|f| micros(f.on_s)).collect(),
            told_from: Vec::new(),
            wraps: Vec::new(),
            hooves: Vec::new(),
        }
    }

    /// What was found in a clip, when it was looked at.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn in_clip(store: &Store, clip: i64) -> Result<Option<Self>, StoreError> {
        // What cannot be read is found anew: no mark hangs on it.
        Ok(store.found(clip)?.and_then(|body| serde_json::from_str(&body).ok()))
    }

    /// The side that is seen.
    pub fn near_side(&self) -> Option<Side> {
        self.near.as_deref().and_then(side_of)
    }
}

/// What is said on the desk of what was found, beside marks as they stand.
pub fn found(kept: Kept, marks: &[Mark], wanting: Wanting, mirrored: bool) -> Found {
    let open = marks.iter().filter(|m| m.origin.is_open()).count();
    let Wanting { doubtful, missed } = wanting;
    Found {
        says: says(&kept, open, doubtful.len(), missed.len()),
        refused: kept.refused,
        open,
        doubtful,
        missed,
        near: kept.near,
        beats_us: kept.beats_us,
        unseen: kept.unseen,
        wraps: kept.wraps.into_iter().map(|w| w.turned(mirrored)).collect(),
        hooves: kept.hooves.into_iter().map(|h| h.turned(mirrored)).collect(),
    }
}

fn says(kept: &Kept, open: usize, doubtful: usize, missed: usize) -> String {
    if open > 0 {
        let found = match open {
            1 => "1 footfall found by itself".to_owned(),
            n => format!("{n} footfalls found by themselves"),
        };
        let look = match (doubtful, missed) {
            (0, 0) => "none of them doubtful".to_owned(),
            (0, _) => String::new(),
            (1, _) => "1 wants a look".to_owned(),
            (n, _) => format!("{n} want a look"),
        };
        let missed = match missed {
            0 => String::new(),
            1 => "1 seems to be missed".to_owned(),
            n => format!("{n} seem to be missed"),
        };
        let all = [found, look, missed];
        return all.into_iter().filter(|part| !part.is_empty()).collect::<Vec<_>>().join(", ");
    }
    let beats = match kept.beats_us.len() {
        0 => String::new(),
        n => format!(" {n} hoofbeats are heard, and not whose they are: the ticks on the strip."),
    };
    match &kept.refused {
        Some(why) => format!("No footfalls were found by themselves: {why}.{beats}"),
        None if kept.near.is_none() => match kept.unseen.first() {
            Some(part) => format!("No hooves are seen: {}.{beats}", part.why),
            None => format!("No hooves are seen.{beats}"),
        },
        None => String::new(),
    }
}
