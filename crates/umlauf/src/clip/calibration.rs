//! How metres are found in a clip: five ways, kept with the clip's settings, read by the core.

use serde::{Deserialize, Serialize};
use umlauf_gait::base::units::{FileMicros, SlowFactor};
use umlauf_gait::ground::arena::Arena;
use umlauf_gait::ground::ground_plane::GroundPlane;
use umlauf_gait::ground::letters_and_rounds::{Distances, Rounds};
use umlauf_gait::ground::plane_checks::{Clicks, Known, Refused};
use umlauf_gait::ground::scale::Scale;
use umlauf_gait::ground::side_scale::{BarPoint, NoScale, SideScale};
use umlauf_gait::{Footfall, Options};
use umlauf_store::clip::Clip;
use umlauf_store::marks::Mark;
use utoipa::ToSchema;

use crate::clip::impossible::Impossible;
use crate::clip::picture::{self, Pixel};

/// What the coach says of a clip's scale. Metres; pixels of the picture as shown.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(default, deny_unknown_fields)]
pub struct Calibration {
    /// Size of the arena.
    pub arena: Size,
    /// How far the letters' posts stand outside the rail.
    pub letters_out_m: f64,
    /// How well the known places are known: standard deviation along each axis.
    pub place_sd_m: f64,
    /// Points of the ground plane.
    pub points: Vec<GroundPointClick>,
    /// Points of a track bar.
    pub bar: Vec<BarClick>,
    /// The ground under the withers, and the withers.
    pub withers: Vec<Pixel>,
    /// Distances of the camera, for letter passes.
    pub distances: Option<CameraDistances>,
    /// Figures ridden in whole rounds.
    pub rounds: Vec<RoundsRidden>,
    /// The clip it was taken over from.
    pub from_clip: Option<i64>,
}

/// Size of an arena.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Size {
    /// Along the short sides, m.
    pub width_m: f64,
    /// Along the long sides, m.
    pub length_m: f64,
}

/// A point of known place, clicked.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct GroundPointClick {
    /// A letter, or the coach's word for it.
    pub name: String,
    /// Across the arena.
    pub x_m: f64,
    /// Along the arena.
    pub y_m: f64,
    /// Where it is seen.
    pub seen: Pixel,
}

/// A point of a track bar, clicked.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct BarClick {
    /// Distance from its first point.
    pub at_m: f64,
    /// Where it is seen.
    pub seen: Pixel,
}

/// Distances of the camera.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CameraDistances {
    /// To the horse's track.
    pub to_track_m: f64,
    /// To the letters.
    pub to_letters_m: f64,
}

/// A figure ridden in whole rounds.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RoundsRidden {
    /// From, µs of the file.
    pub from_us: i64,
    /// To, µs of the file.
    pub to_us: i64,
    /// Diameter really ridden.
    pub diameter_m: f64,
    /// Rounds.
    pub rounds: f64,
}

impl Default for Calibration {
    fn default() -> Self {
        Self {
            arena: Size { width_m: 20.0, length_m: 60.0 },
            letters_out_m: 0.5,
            place_sd_m: 0.03,
            points: Vec::new(),
            bar: Vec::new(),
            withers: Vec::new(),
            distances: None,
            rounds: Vec::new(),
            from_clip: None,
        }
    }
}

/// Standard deviation of a distance measured by tape or paces, m (project default).
const DISTANCE_SD_M: f64 = 0.15;

/// A way's scale, or why it has none.
pub enum Tried {
    /// Nothing was said of it.
    Empty,
    /// It gives a scale.
    Scale(Scale),
    /// The points make no ground plane.
    Refused(Refused),
    /// The bar or the height gives no scale.
    NoScale(NoScale),
}

impl Calibration {
    /// What is kept with a clip; the default for one without.
    pub fn of(clip: &Clip) -> Self {
        let kept = clip.settings.calibration.as_ref();
        kept.and_then(|v| serde_json::from_value(v.clone()).ok()).unwrap_or_default()
    }

    /// Whether every number in it can be.
    ///
    /// # Errors
    /// [`Impossible`], with the limits.
    pub fn check(&self) -> Result<(), Impossible> {
        let size = |v: f64| (1.0..=500.0).contains(&v);
        if !size(self.arena.width_m) || !size(self.arena.length_m) {
            return Err("an arena is 1 to 500 m long and wide".into());
        }
        let metres = |v: f64| (-1000.0..=1000.0).contains(&v);
        let px = |p: &Pixel| {
            (-20_000.0..=40_000.0).contains(&p.x_px) && (-20_000.0..=40_000.0).contains(&p.y_px)
        };
        let named = |name: &str| (1..=24).contains(&name.trim().chars().count());
        let points = self
            .points
            .iter()
            .all(|p| named(&p.name) && metres(p.x_m) && metres(p.y_m) && px(&p.seen));
        if self.points.len() > 40 || !points {
            return Err("at most 40 points, each with a name, a place within a kilometre and a click in the picture".into());
        }
        if self.bar.len() > 40 || !self.bar.iter().all(|p| metres(p.at_m) && px(&p.seen)) {
            return Err("a bar has at most 40 points, each within a kilometre".into());
        }
        if self.withers.len() > 2 || !self.withers.iter().all(px) {
            return Err("the withers take two clicks: the ground, then the withers".into());
        }
        if self.distances.is_some_and(|d| {
            !(0.5..=500.0).contains(&d.to_track_m) || !(0.5..=500.0).contains(&d.to_letters_m)
        }) {
            return Err("the camera stands 0.5 to 500 m from track and letters".into());
        }
        let round = |r: &RoundsRidden| {
            r.from_us < r.to_us
                && (1.0..=200.0).contains(&r.diameter_m)
                && (0.1..=100.0).contains(&r.rounds)
        };
        if self.rounds.len() > 40 || !self.rounds.iter().all(round) {
            return Err("a figure is 1 to 200 m across, ridden 0.1 to 100 times round, and ends after it begins".into());
        }
        if !(0.0..=5.0).contains(&self.letters_out_m) || !(0.0..=2.0).contains(&self.place_sd_m) {
            return Err(
                "letters stand at most 5 m outside the rail, places are known to 2 m at least"
                    .into(),
            );
        }
        Ok(())
    }

    /// The arena.
    pub fn arena(&self) -> Arena {
        Arena { width: self.arena.width_m, length: self.arena.length_m }
    }

    /// The ground plane.
    pub fn plane(&self, clip: &Clip) -> Tried {
        if self.points.is_empty() {
            return Tried::Empty;
        }
        let points: Vec<Known> = self
            .points
            .iter()
            .map(|p| Known {
                name: p.name.trim().to_owned(),
                place: (p.x_m, p.y_m),
                seen: picture::upright(clip, (p.seen.x_px, p.seen.y_px)),
            })
            .collect();
        let clicks =
            Clicks { sd_px: click_sd(clip), place_sd_m: self.place_sd_m, size: size_of(clip) };
        match GroundPlane::new(&points, clicks) {
            Ok(plane) => Tried::Scale(Scale::Ground(Box::new(plane))),
            Err(why) => Tried::Refused(why),
        }
    }

    /// The track bar.
    pub fn bar(&self, clip: &Clip) -> Tried {
        if self.bar.is_empty() {
            return Tried::Empty;
        }
        let seen = |p: &Pixel| picture::upright(clip, (p.x_px, p.y_px));
        let points: Vec<BarPoint> =
            self.bar.iter().map(|p| BarPoint { at_m: p.at_m, seen: seen(&p.seen) }).collect();
        side(SideScale::bar(&points, click_sd(clip)))
    }

    /// The height at the withers.
    pub fn withers(&self, clip: &Clip, options: &Options) -> Tried {
        let seen = |p: &Pixel| picture::upright(clip, (p.x_px, p.y_px));
        match self.withers.as_slice() {
            [] => Tried::Empty,
            [ground, withers] => side(SideScale::withers(
                options.withers,
                seen(ground),
                seen(withers),
                click_sd(clip),
            )),
            _ => Tried::NoScale(NoScale::TooFew),
        }
    }
}

fn side(tried: Result<SideScale, NoScale>) -> Tried {
    tried.map_or_else(Tried::NoScale, |s| Tried::Scale(Scale::Side(s)))
}

/// Standard deviation of a click, px: one pixel of a picture at most 1280 wide, as it is shown.
fn click_sd(clip: &Clip) -> f64 {
    (f64::from(clip.footage.width) / 1280.0).max(1.0)
}

fn size_of(clip: &Clip) -> (f64, f64) {
    (f64::from(clip.footage.width), f64::from(clip.footage.height))
}

/// Brings a clip's calibration into the analysis: hooves get their places by the best scale there
/// is, the rest stands beside them. `footfalls` are those of the marks that count.
pub fn apply(clip: &Clip, marks: &[Mark], footfalls: &mut [Footfall], options: &mut Options) {
    if clip.settings.calibration.is_none() {
        return;
    }
    let own = Calibration::of(clip);
    options.arena = Some(own.arena());
    options.distances = own.distances.map(|d| Distances {
        to_track_m: d.to_track_m,
        to_letters_m: d.to_letters_m,
        sd_m: DISTANCE_SD_M,
    });
    let slow = SlowFactor::new(clip.settings.slow_factor).unwrap_or(SlowFactor::NORMAL);
    let time = |us| slow.true_seconds(FileMicros(us)).0;
    options.rounds = own
        .rounds
        .iter()
        .map(|r| Rounds {
            from_s: time(r.from_us),
            to_s: time(r.to_us),
            diameter_m: r.diameter_m,
            rounds: r.rounds,
        })
        .collect();
    let ways = [own.plane(clip), own.bar(clip), own.withers(clip, options)];
    let best = ways.into_iter().find_map(|tried| match tried {
        Tried::Scale(scale) => Some(scale),
        _ => None,
    });
    let Some(scale) = best else { return };
    for f in footfalls {
        // A footfall's line is its mark's place in the list, counted from 1.
        let hoof = f.line.checked_sub(1).and_then(|k| marks.get(k)).and_then(|m| m.hoof);
        f.at = hoof.and_then(|p| scale.place(picture::upright(clip, p)));
    }
    options.scale = Some(scale);
}
