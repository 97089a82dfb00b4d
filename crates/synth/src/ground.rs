//! How well lengths come out of footage whose camera is known: rides filmed, points and hooves
//! clicked with scatter, letters passed, and the stride length set against the horse's own.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::Side;
use umlauf_gait::base::units::FrameRate;
use umlauf_gait::ground::arena::Arena;
use umlauf_gait::ground::ground_plane::GroundPlane;
use umlauf_gait::ground::letters_and_rounds::Distances;
use umlauf_gait::ground::plane_checks::{Clicks, Known};
use umlauf_gait::ground::scale::Scale;
use umlauf_gait::ground::side_scale::{self, BarPoint};
use umlauf_gait::ground::travel;
use umlauf_gait::marks::ride_mark::{MarkKind, RideMark};
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Analysis, Footfall, Options, analyse};

use crate::camera::Camera;
use crate::schooling::rng;
use crate::template::{TEMPLATES, Template};
use crate::truth::{Ride, Truth, normal};
use crate::vec3::v3;

/// What a ride is measured by.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Way {
    /// Camera 10 m off the long side, four cones no three in line.
    Across,
    /// The same cones from behind the end of the track.
    Along,
    /// Two poles on the ground, the camera square to the track.
    Bar,
    /// A camera that pans, letters passed, both distances measured.
    Letters,
}

/// Results of a row of rides.
#[derive(Clone, Debug, Default)]
pub struct Lengths {
    /// Rides that gave a length.
    pub runs: u32,
    /// Relative errors against the strides in view.
    pub errors: Vec<f64>,
    /// Intervals that held the horse's own mean.
    pub held: u32,
    /// Mean half width, share.
    pub half_width: f64,
}

impl Lengths {
    /// Share of rides with an error of at most `share`.
    pub fn within(&self, share: f64) -> f64 {
        let n = self.errors.iter().filter(|e| e.abs() <= share).count();
        f64::from(u32::try_from(n).unwrap_or(0)) / f64::from(self.runs.max(1))
    }

    /// Share of intervals that held the truth.
    pub fn coverage(&self) -> f64 {
        f64::from(self.held) / f64::from(self.runs.max(1))
    }
}

const SIZE: (u32, u32) = (1280, 720);
/// A phone's main camera: 68° across.
const FOCAL: f64 = 950.0;
const LINE_X: f64 = 18.6;

fn looking(at: (f64, f64, f64), to: (f64, f64)) -> Camera {
    let (dx, dy) = (to.0 - at.0, to.1 - at.1);
    Camera {
        at: v3(at.0, at.1, at.2),
        yaw: dy.atan2(dx),
        pitch: ((0.4 - at.2) / dx.hypot(dy)).atan(),
        focal_px: FOCAL,
        size: SIZE,
    }
}

fn click(camera: &Camera, place: (f64, f64), rng: &mut ChaCha8Rng) -> Option<(f64, f64)> {
    let seen = camera.see(v3(place.0, place.1, 0.0))?;
    let inside =
        (0.0..f64::from(SIZE.0)).contains(&seen.x) && (0.0..f64::from(SIZE.1)).contains(&seen.y);
    inside.then(|| (seen.x + normal(rng), seen.y + normal(rng)))
}

/// A ride past the middle of the long side.
fn ride(rng: &mut ChaCha8Rng, strides: usize) -> Ride {
    const GAITS: [&str; 4] = ["trot", "walk", "canter-collected", "trot-collected"];
    let name = GAITS[rng.random_range(0..GAITS.len())];
    let template = Template::named(name).copied().unwrap_or(TEMPLATES[0]);
    let length = template.stride_length() * f64::from(u32::try_from(strides).unwrap_or(0));
    let rein = if rng.random_bool(0.5) { Side::Left } else { Side::Right };
    let from_y = if rein == Side::Left { 30.0 - length / 2.0 } else { 30.0 + length / 2.0 };
    Ride {
        template,
        strides,
        seed: rng.random(),
        stride_cv: rng.random_range(0.01..0.03),
        serial: 0.0,
        phase_sd: 0.004,
        duty_sd: 0.005,
        withers: rng.random_range(1.45..1.75),
        rein,
        from_y,
        line_x: LINE_X,
        changes: &[],
        then: None,
    }
}

/// One ride measured.
#[derive(Clone, Copy, Debug)]
pub struct Measured {
    /// What the clicks gave.
    pub found: Estimate,
    /// Mean length of the strides in view, as a tape along the prints would give it, m.
    pub ridden: f64,
    /// The horse's own mean, of which those strides are a sample, m.
    pub usual: f64,
}

/// One ride measured; `None` when too little of it was in view.
pub fn measure(way: Way, rng: &mut ChaCha8Rng) -> Option<Measured> {
    if way == Way::Letters {
        return letters(rng);
    }
    let (ride, clicked, taped, options) = filmed(way, rng)?;
    let length = |marks: &[Footfall], options: &Options| {
        let bouts = analyse(marks, options).measured.bouts;
        bouts.into_iter().find_map(|b| b.travel).map(|t| t.stride_length)
    };
    let ridden = length(&taped, &Options { scale: None, arena: None, ..options.clone() })?;
    Some(Measured {
        found: length(&clicked, &options)?,
        ridden: ridden.value,
        usual: ride.template.stride_length(),
    })
}

/// The analysis of one ride measured by clicks.
pub fn analysed(way: Way, seed: u64) -> Analysis {
    let filmed = filmed(way, &mut rng(992, seed));
    filmed.map_or_else(
        || analyse(&[], &Options::default()),
        |(_, clicked, _, options)| analyse(&clicked, &options),
    )
}

/// A ride filmed from a camera that stands still: the ride, its hooves in view as clicked and as
/// they stood, and what is known beside them.
type Filmed = (Ride, Vec<Footfall>, Vec<Footfall>, Options);

fn filmed(way: Way, rng: &mut ChaCha8Rng) -> Option<Filmed> {
    let ride = ride(rng, 12);
    let truth = Truth::new(ride);
    let camera = match way {
        Way::Along => looking((LINE_X + rng.random_range(-1.0..1.0), 12.0, 1.7), (LINE_X, 30.0)),
        Way::Bar => looking((LINE_X - 10.0, 30.0, 1.5), (LINE_X, 30.0)),
        _ => looking(
            (LINE_X - 10.0, 30.0 + rng.random_range(-1.5..1.5), rng.random_range(1.4..2.2)),
            (LINE_X, 30.0),
        ),
    };
    let scale = match way {
        Way::Bar => bar(&camera, rng)?,
        _ => plane(&camera, rng)?,
    };
    let (mut clicked, mut taped): (Vec<Footfall>, Vec<Footfall>) = (Vec::new(), Vec::new());
    for f in truth.read_off(120.0, 0.0) {
        let at = f.at?;
        // Hooves out of view are not marked.
        if let Some(place) = click(&camera, (at.x.0, at.y.0), rng).and_then(|p| scale.place(p)) {
            taped.push(f.clone());
            clicked.push(Footfall { at: Some(place), ..f });
        }
    }
    let options = Options {
        frame_rate: FrameRate::new(120.0).ok(),
        scale: Some(scale),
        arena: Some(Arena::LARGE),
        ..Options::default()
    };
    Some((ride, clicked, taped, options))
}

/// Four cones, no three in line.
fn plane(camera: &Camera, rng: &mut ChaCha8Rng) -> Option<Scale> {
    const CONES: [(f64, f64); 4] = [(19.6, 25.5), (19.6, 34.5), (15.5, 27.0), (15.5, 33.0)];
    let points: Option<Vec<Known>> = CONES
        .iter()
        .enumerate()
        .map(|(k, place)| {
            let seen = click(camera, *place, rng)?;
            Some(Known { name: k.to_string(), place: *place, seen })
        })
        .collect();
    let size = (f64::from(SIZE.0), f64::from(SIZE.1));
    let clicks = Clicks { sd_px: 1.0, place_sd_m: 0.0, size };
    GroundPlane::new(&points?, clicks).ok().map(|p| Scale::Ground(Box::new(p)))
}

/// Two poles 6 m apart on the track, laid to within a hand's breadth of where the hooves go.
fn bar(camera: &Camera, rng: &mut ChaCha8Rng) -> Option<Scale> {
    let x = LINE_X + rng.random_range(-0.1..0.1);
    let mut ends = [27.0, 33.0].map(|y| (y, click(camera, (x, y), rng)));
    ends.sort_by(|a, b| a.0.total_cmp(&b.0));
    let point =
        |(y, seen): (f64, Option<(f64, f64)>)| Some(BarPoint { at_m: y - 27.0, seen: seen? });
    let points = [point(ends[0])?, point(ends[1])?];
    side_scale::SideScale::bar(&points, 1.0).ok().map(Scale::Side)
}

/// The camera pans with the horse; the coach notes the frame in which the horse's nose stands
/// before each letter, 60 frames/s.
fn letters(rng: &mut ChaCha8Rng) -> Option<Measured> {
    let ride = Ride { from_y: 15.0, rein: Side::Left, ..ride(rng, 22) };
    let truth = Truth::new(ride);
    let (camera, letters_x) = ((rng.random_range(-3.0..6.0), rng.random_range(20.0..40.0)), 20.5);
    let (to_track, to_letters) = (LINE_X - camera.0, letters_x - camera.0);
    let measured = |d: f64, rng: &mut ChaCha8Rng| d + 0.15 * normal(rng);
    let distances = Distances {
        to_track_m: measured(to_track, rng),
        to_letters_m: measured(to_letters, rng),
        sd_m: 0.15,
    };
    let mut marks = Vec::new();
    for (name, y) in [("P", 18.0), ("B", 30.0), ("R", 42.0)] {
        // The line of sight to the letter crosses the track here.
        let at = camera.1 + (y - camera.1) * to_track / to_letters;
        let nose = at - 0.9 * ride.withers - ride.from_y;
        let time = nose / ride.template.speed + 0.015 * normal(rng);
        let frame = (time * 60.0).ceil() / 60.0;
        if (0.0..truth.duration()).contains(&frame) {
            marks.push(RideMark { time: frame, kind: MarkKind::Letter(name.to_owned()) });
        }
    }
    let footfalls: Vec<Footfall> =
        truth.read_off(60.0, 0.0).into_iter().map(|f| Footfall { at: None, ..f }).collect();
    let options = Options {
        frame_rate: FrameRate::new(60.0).ok(),
        arena: Some(Arena::LARGE),
        distances: Some(distances),
        marks,
        ..Options::default()
    };
    let found = analyse(&footfalls, &options).measured.bouts.into_iter().find_map(|b| b.travel)?;
    let ridden = ride.template.stride_length();
    Some(Measured { found: found.stride_length, ridden, usual: ridden })
}

/// A row of rides.
pub fn lengths(way: Way, runs: u32) -> Lengths {
    let mut out = Lengths::default();
    let mut widths = 0.0;
    for k in 0..runs {
        let mut rng = rng(900 + way as u64, u64::from(k));
        let Some(m) = measure(way, &mut rng) else { continue };
        let Some((lo, hi)) = m.found.ci95 else { continue };
        out.runs += 1;
        out.errors.push(m.found.value / m.ridden - 1.0);
        out.held += u32::from((lo..=hi).contains(&m.usual));
        widths += (hi - lo) / 2.0 / m.usual;
    }
    out.half_width = widths / f64::from(out.runs.max(1));
    out
}

/// What one stride's length is worth from a camera at an angle to the track, 95 %, by cones about
/// the middle of the long side: the view along it against the view across it.
pub fn error_by_view(way: Way) -> Option<f64> {
    let mut rng = rng(990, way as u64);
    let camera = match way {
        Way::Along => looking((LINE_X, 12.0, 1.7), (LINE_X, 30.0)),
        _ => looking((LINE_X - 10.0, 30.0, 1.7), (LINE_X, 30.0)),
    };
    let scale = plane(&camera, &mut rng)?;
    travel::scale_error(&scale, (LINE_X, 30.0), (0.0, 1.0), 2.7).map(|s| 1.96 * s)
}

/// The section of the accuracy page about lengths.
pub fn section(runs: u32) -> String {
    use std::fmt::Write as _;
    let mut out = String::from(SECTION);
    for (way, what, aim, limit) in [
        (Way::Across, "four cones, camera square to the track", 0.025, "95 %"),
        (Way::Bar, "track bar of 6 m", 0.03, "—"),
        (Way::Letters, "letters, panning, both distances", 0.04, "—"),
        (Way::Along, "four cones, camera along the track", 0.025, "—"),
    ] {
        let l = lengths(way, runs);
        // Writing to a string cannot fail.
        let _ = writeln!(
            out,
            "| {what} | {} | {:.1} % within {:.1} % | {limit} | {:.1} % | {:.1} % |",
            l.runs,
            100.0 * l.within(aim),
            100.0 * aim,
            100.0 * l.coverage(),
            100.0 * l.half_width
        );
    }
    out
}

const SECTION: &str = "
## Lengths

Rides past a camera of known place, hooves and cones clicked with a scatter of 1 px: walk, trot and canter at
1 to 3 % spread between strides, as many strides as are in view (4 to 10). The error is against the strides in
view, the interval against the horse's own mean; aim of the intervals 93 to 97 % for the first row.

| way | rides | stride length | aim | interval holds | half width |
|---|---:|---:|---:|---:|---:|
";
