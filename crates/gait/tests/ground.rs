//! Figures of the arena, letter passes, lateral movements by their prints, plausibility and the
//! frame check against geometry worked out by hand.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use std::collections::BTreeMap;
use std::f64::consts::PI;

use umlauf_gait::Side::{Left, Right};
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::ground::arena::{Arena, Place};
use umlauf_gait::ground::ground_plane::GroundPlane;
use umlauf_gait::ground::lateral_seen::Untold;
use umlauf_gait::ground::letters_and_rounds::{Distances, Rounds};
use umlauf_gait::ground::plane_checks::{Clicks, Known};
use umlauf_gait::ground::scale::Scale;
use umlauf_gait::ground::school_figure::{self, SchoolFigure};
use umlauf_gait::ground::side_scale::{BarPoint, NoScale, SideScale as BarScale};
use umlauf_gait::ground::source::Source;
use umlauf_gait::ground::{expected_strides, plausibility};
use umlauf_gait::marks::footfall::GroundPoint;
use umlauf_gait::marks::movement::LateralMovement::{
    HalfPass, LegYield, Renvers, ShoulderIn, Travers,
};
use umlauf_gait::marks::ride_mark::{MarkKind, RideMark};
use umlauf_gait::still::frame_check;
use umlauf_gait::still::nose::{self, Nose};
use umlauf_gait::still::points::{Point, Points};
use umlauf_gait::still::working_frame::{self, Outline};
use umlauf_gait::{Analysis, Footfall, Limb, Options, analyse, words};

fn large(name: &str) -> Place {
    Arena::LARGE.letter(name).unwrap()
}

#[test]
fn figures_have_their_lengths_and_their_room() {
    let draw = |f: &SchoolFigure| school_figure::draw(&Arena::LARGE, f).unwrap();
    let (f, h) = (large("F"), large("H"));
    let volte = |at_m, side| SchoolFigure::Circle { from: f, to: h, at_m, side, diameter: 10.0 };
    let right = draw(&volte(30.0, Right));
    assert!(right.fits && (right.length_m - 31.415_926_5).abs() < 1e-6);
    assert!(!draw(&volte(20.0, Right)).fits && draw(&volte(20.0, Left)).fits);
    // Every point of the path is five metres from one middle, and the first lies on the line.
    let middle = right.path[..96].iter().fold((0.0, 0.0), |s, p| (s.0 + p.0, s.1 + p.1));
    let middle = (middle.0 / 96.0, middle.1 / 96.0);
    assert!(right.path.iter().all(|p| ((p.0 - middle.0).hypot(p.1 - middle.1) - 5.0).abs() < 1e-9));
    let says = words::arena::figure(&Arena::LARGE, &volte(30.0, Right), &right);
    assert!(says.contains("from 1.0 m before X to 25.0 m past X"), "{says}");
    // Three loops in 20×60 are three half circles of 20 m; in 20×40 they are narrower.
    let three = SchoolFigure::Serpentine { loops: 3, first: Left };
    assert!((draw(&three).length_m - 30.0 * PI).abs() < 1e-9 && draw(&three).fits);
    assert!(!draw(&SchoolFigure::Serpentine { loops: 2, first: Left }).fits);
    let small = school_figure::draw(&Arena::SMALL, &three).unwrap();
    let walked: f64 = small.path.windows(2).map(|w| (w[1].0 - w[0].0).hypot(w[1].1 - w[0].1)).sum();
    assert!((walked / small.length_m - 1.0).abs() < 1e-3, "{walked} {}", small.length_m);
    // A spiral is as long as its polygon, inwards and outwards alike.
    let spiral =
        |from, to| SchoolFigure::Spiral { middle: (10.0, 10.0), from, to, rounds: 3.0, side: Left };
    let inward = draw(&spiral(20.0, 10.0));
    let walked: f64 =
        inward.path.windows(2).map(|w| (w[1].0 - w[0].0).hypot(w[1].1 - w[0].1)).sum();
    assert!((walked / inward.length_m - 1.0).abs() < 1e-3 && inward.fits);
    assert!((draw(&spiral(10.0, 20.0)).length_m - inward.length_m).abs() < 1e-9);
    // A half-pass from D to the track at E: 10 m across over 24 m along.
    let line = draw(&SchoolFigure::Line { from: large("D"), to: large("E") });
    assert!((line.length_m - 26.0).abs() < 1e-9 && (line.angle_deg.unwrap() - 22.62).abs() < 0.01);
}

#[test]
fn rows_of_changes_fit_or_say_by_how_much_they_do_not() {
    // Five 4-tempi: sixteen strides from the first change to the last.
    let row = school_figure::room_for_row(52.0, 4, 5, 2.8, 3.0);
    assert!((row.needs_m - 44.8).abs() < 1e-9 && row.fits);
    let (a, b) = row.begin.unwrap();
    assert!((a - 3.0).abs() < 1e-9 && (b - 4.2).abs() < 1e-9);
    let long = school_figure::room_for_row(52.0, 4, 5, 3.2, 3.0);
    assert!(!long.fits && (long.longest_stride_m - 46.0 / 16.0).abs() < 1e-9);
    // 52 m at a stride of 2.60 m ± 0.05 are 20 strides, 19.6 to 20.4.
    let stride = umlauf_gait::stats::estimate::Estimate {
        value: 2.6,
        sd: None,
        ci95: Some((2.55, 2.65)),
        n: 9,
    };
    let n = expected_strides::expected_strides(52.0, stride);
    assert!((n.value - 20.0).abs() < 1e-9 && (n.ci95.unwrap().0 - 52.0 / 2.65).abs() < 1e-9);
    assert!((expected_strides::length_of_count(52.0, 20).unwrap().value - 2.6).abs() < 1e-9);
}

/// A trot of strides `length` m and `t` s along a way, hooves placed by a function of limb and
/// metres gone.
fn trot(n: u32, t: f64, length: f64, place: impl Fn(Limb, f64) -> (f64, f64)) -> Vec<Footfall> {
    let limbs = [(Limb::LH, 0.0), (Limb::RF, 0.01), (Limb::RH, 0.5), (Limb::LF, 0.51)];
    let one = |k: u32, (limb, phase): (Limb, f64)| {
        let gone = f64::from(k) + phase;
        let (x, y) = place(limb, gone * length);
        Footfall {
            off: Some(Seconds(gone * t + 0.42 * t)),
            at: Some(GroundPoint { x: Metres(x), y: Metres(y) }),
            ..Footfall::new(limb, Seconds(gone * t))
        }
    };
    (0..n).flat_map(|k| limbs.map(|l| one(k, l))).collect()
}

/// A horse on more tracks, on `way` (degrees to the left of the C end) from a place: axes of
/// forehand and quarters in degrees to the left of the way; hooves 0.25 m apart, trunk 1.2 m.
fn lateral(from: Place, way: f64, fore_axis: f64, hind_axis: f64) -> Vec<Footfall> {
    let body = f64::midpoint(fore_axis, hind_axis).to_radians();
    trot(12, 0.76, 2.0, move |limb, gone| {
        let left = if limb.side() == Left { 0.125 } else { -0.125 };
        let (mut along, mut beside, axis) =
            (gone, 0.0, if limb.is_hind() { hind_axis } else { fore_axis });
        if !limb.is_hind() {
            along += 1.2 * body.cos();
            beside += 1.2 * body.sin();
        }
        along -= left * axis.to_radians().sin();
        beside += left * axis.to_radians().cos();
        // Along the way and to its left, in the arena's metres.
        let (s, c) = way.to_radians().sin_cos();
        (from.0 - along * s - beside * c, from.1 + along * c - beside * s)
    })
}

/// A scale that reads places exactly: cones far apart, clicked to a thousandth of a pixel.
fn arena_scale() -> Scale {
    let see = |(x, y): Place| {
        let (depth, right) = (x + 15.0, 30.0 - y);
        (640.0 + 900.0 * right / depth, 360.0 + 900.0 * 4.0 / depth)
    };
    let cones = [(1.0, 1.0), (19.0, 2.0), (18.0, 58.0), (2.0, 57.0)];
    let known = |p: &Place| Known { name: format!("{p:?}"), place: *p, seen: see(*p) };
    let clicks = Clicks { sd_px: 0.001, place_sd_m: 0.0, size: (1280.0, 720.0) };
    let points: Vec<Known> = cones.iter().map(known).collect();
    Scale::Ground(Box::new(GroundPlane::new(&points, clicks).unwrap()))
}

fn read(marks: &[Footfall], walls: bool) -> Analysis {
    let scale = walls.then(arena_scale);
    let arena = walls.then_some(Arena::LARGE);
    let frame_rate = FrameRate::new(120.0).ok();
    analyse(marks, &Options { frame_rate, scale, arena, ..Options::default() })
}

#[test]
fn lateral_movements_are_told_apart_by_bend_direction_and_wall() {
    // On the left rein along F's side (the wall on the right), towards C.
    let track = (19.0, 10.0);
    let cases = [
        // Forehand in by 30°, quarters straight: shoulder-in. Angles to the left are inwards.
        (track, 0.0, 30.0, 0.0, Ok(ShoulderIn)),
        // Forehand straight, quarters 30° in, bent left: travers.
        (track, 0.0, -2.0, -30.0, Ok(Travers)),
        // Forehand in, quarters on the track, bent right, towards where it goes: renvers.
        (track, 0.0, 2.0, 30.0, Ok(Renvers)),
        // Off the centre line to the left at 25°, body almost along the arena: bent left it is a
        // half-pass, straight a leg-yield.
        ((10.0, 6.0), 25.0, -14.0, -30.0, Ok(HalfPass)),
        ((10.0, 6.0), 25.0, -24.0, -24.0, Ok(LegYield)),
        // Bent against the wall has no name.
        (track, 0.0, -30.0, 0.0, Err(Untold::NoName)),
    ];
    for (from, way, fore, hind, want) in cases {
        let marks = lateral(from, way, fore, hind);
        let seen = read(&marks, true).bouts[0].lateral_seen;
        assert_eq!(seen.map(|s| s.map(|s| s.movement)), Some(want), "{fore} {hind}");
        // The mirror image on the other side of the arena is the same movement.
        let mirrored: Vec<Footfall> = marks
            .iter()
            .map(|m| {
                let at = m.at.unwrap();
                let at = GroundPoint { x: Metres(20.0 - at.x.0), y: at.y };
                Footfall { limb: m.limb.opposite(), at: Some(at), ..m.clone() }
            })
            .collect();
        let seen = read(&mirrored, true).bouts[0].lateral_seen;
        assert_eq!(seen.map(|s| s.map(|s| s.movement)), Some(want), "mirrored {fore} {hind}");
    }
    // Without walls travers and renvers look alike, shoulder-in does not.
    let seen = |fore, hind| read(&lateral(track, 0.0, fore, hind), false).bouts[0].lateral_seen;
    assert_eq!(seen(-2.0, -30.0), Some(Err(Untold::NoWall)));
    assert_eq!(seen(30.0, 0.0).map(|s| s.map(|s| s.movement)), Some(Ok(ShoulderIn)));
    // A straight horse is no lateral movement, quarters beside the forehand are told.
    assert_eq!(seen(0.0, 0.0), None);
    let crooked = read(&lateral(track, 0.0, 5.5, 5.5), false);
    let codes: Vec<&str> =
        crooked.findings.iter().map(|f| words::finding::say(f, &crooked.schools).code).collect();
    assert!(codes.contains(&"crooked"), "{codes:?}");
}

#[test]
fn letters_and_figures_give_speed_with_their_own_errors() {
    let marks = trot(24, 0.756, 2.73, |_, _| (0.0, 0.0));
    let bare: Vec<Footfall> = marks.into_iter().map(|m| Footfall { at: None, ..m }).collect();
    // 12 m between letters seen from 10 m off the track and 12 m off the letters: 10 m ridden.
    let v = 2.73 / 0.756;
    let pass = |name: &str, time| RideMark { time, kind: MarkKind::Letter(name.into()) };
    let options = |distances| Options {
        frame_rate: FrameRate::new(120.0).ok(),
        marks: vec![pass("P", 3.0), pass("B", 3.0 + 10.0 / v), pass("R", 3.0 + 20.0 / v)],
        distances,
        ..Options::default()
    };
    let both = Distances { to_track_m: 10.0, to_letters_m: 12.0, sd_m: 0.1 };
    let told = analyse(&bare, &options(Some(both))).bouts[0].travel.unwrap();
    assert_eq!(told.source, Source::Letters);
    assert!((told.stride_length.value - 2.73).abs() < 1e-9, "{told:?}");
    // Without the distances it is a fifth too long, and the interval reaches down by 11 %.
    let blind = analyse(&bare, &options(None)).bouts[0].travel.unwrap();
    assert!((blind.stride_length.value / 2.73 - 1.2).abs() < 1e-9);
    let (lo, hi) = blind.stride_length.ci95.unwrap();
    assert!(blind.stride_length.value - lo > 0.1 * blind.stride_length.value);
    assert!(hi - blind.stride_length.value < 0.03 * blind.stride_length.value);
    // One and a half rounds of an 18.5 m circle.
    let way = 1.5 * PI * 18.5;
    let rounds = vec![Rounds { from_s: 1.0, to_s: 1.0 + way / v, diameter_m: 18.5, rounds: 1.5 }];
    let bare: Vec<Footfall> = trot(40, 0.756, 2.73, |_, _| (0.0, 0.0))
        .into_iter()
        .map(|m| Footfall { at: None, ..m })
        .collect();
    let told = analyse(&bare, &Options { rounds, ..options(None) });
    let figure = told.bouts[0].other_ways[0];
    assert_eq!(figure.source, Source::Figure);
    assert!((figure.stride_length.value - 2.73).abs() < 1e-9);
    let half = figure.stride_length.half_width().unwrap() / figure.stride_length.value;
    assert!((half - 0.05).abs() < 0.005, "{half}");
    // The letters were a fifth off: two ways that disagree are named.
    let codes: Vec<&str> =
        told.findings.iter().map(|f| words::finding::say(f, &told.schools).code).collect();
    assert!(codes.contains(&"ways-disagree"), "{codes:?}");
}

#[test]
fn bars_read_along_themselves_and_refuse_what_is_none() {
    let at = |at_m, x| BarPoint { at_m, seen: (x, 500.0) };
    let bar = Scale::Side(BarScale::bar(&[at(0.0, 100.0), at(4.0, 500.0)], 1.0).unwrap());
    let place = bar.place((300.0, 480.0)).unwrap();
    assert!((place.x.0 - 2.0).abs() < 1e-9 && place.y.0.abs() < 1e-12);
    // Three poles of a bar seen askew: metres shrink with distance, and the line follows.
    let askew = |m: f64| 100.0 + 900.0 * m / (8.0 + m);
    let poles: Vec<BarPoint> = [0.0, 2.0, 6.0].iter().map(|m| at(*m, askew(*m))).collect();
    let bar = Scale::Side(BarScale::bar(&poles, 1.0).unwrap());
    assert!((bar.place((askew(4.0), 500.0)).unwrap().x.0 - 4.0).abs() < 1e-6);
    let none = |points: &[BarPoint]| BarScale::bar(points, 1.0).unwrap_err();
    assert_eq!(none(&[at(0.0, 1.0)]), NoScale::TooFew);
    assert_eq!(none(&[at(0.0, 100.0), at(3.0, 104.0)]), NoScale::TooNear);
    assert_eq!(none(&[at(0.0, 100.0), at(2.0, 700.0), at(6.0, 400.0)]), NoScale::OutOfOrder);
    // 1.60 m over 320 px is half a centimetre a pixel, good to 8 %.
    let withers =
        BarScale::withers(Some(Metres(1.6)), (400.0, 600.0), (400.0, 280.0), 1.0).unwrap();
    let scale = Scale::Side(withers);
    assert!((scale.place((800.0, 600.0)).unwrap().x.0 - 2.0).abs() < 1e-9);
    let error = scale.error(scale.place((800.0, 600.0)).unwrap()).unwrap();
    let common = error.common.iter().map(|c| c[0] * c[0]).sum::<f64>().sqrt();
    assert!((1.96 * common / 2.0 - 0.08).abs() < 0.002);
}

#[test]
fn a_length_that_no_horse_has_asks_which_calibration_is_wrong() {
    let marks = trot(12, 0.756, 5.6, |limb, gone| {
        (
            if limb.side() == Left { 0.1 } else { -0.1 },
            gone + if limb.is_hind() { 0.0 } else { 1.2 },
        )
    });
    let read = |withers| {
        let options = Options {
            frame_rate: FrameRate::new(120.0).ok(),
            withers: Some(Metres(withers)),
            ..Options::default()
        };
        analyse(&marks, &options)
    };
    let a = read(1.65);
    assert!(a.bouts[0].impossible.is_some_and(|i| i.too_long && i.source == Source::Ground));
    let said: Vec<_> = a.findings.iter().map(|f| words::finding::say(f, &a.schools)).collect();
    let told = said.iter().find(|s| s.code == "length-impossible").unwrap();
    assert!(told.says.contains("ground plane") && !told.advice.is_empty());
    assert!(read(1.9).bouts[0].impossible.is_none());
    // 3.61 m/s on hips of 1.29 m: Froude 1.03 strides 2.32 hip heights on Alexander's line.
    let froude = 3.61f64.powi(2) / (9.81 * 1.29);
    assert!((plausibility::alexander(froude) - 2.3 * froude.powf(0.3)).abs() < 1e-12);
    assert!((plausibility::alexander(1.0) - 2.3).abs() < 1e-12);
}

/// A horse standing square, facing right, 200 px at the withers.
fn still() -> Points {
    BTreeMap::from([
        (Point::Poll, (470.0, 180.0)),
        (Point::Forehead, (500.0, 200.0)),
        (Point::Nose, (520.0, 260.0)),
        (Point::Withers, (400.0, 240.0)),
        (Point::Croup, (260.0, 250.0)),
        (Point::Lf, (410.0, 440.0)),
        (Point::Rf, (410.0, 440.0)),
        (Point::Lh, (260.0, 440.0)),
        (Point::Rh, (260.0, 440.0)),
        (Point::Ear, (370.0, 60.0)),
        (Point::Shoulder, (370.0, 110.0)),
        (Point::Hip, (370.0, 190.0)),
        (Point::Heel, (370.0, 330.0)),
        (Point::Elbow, (390.0, 160.0)),
        (Point::Hand, (430.0, 200.0)),
        (Point::Bit, (510.0, 240.0)),
    ])
}

#[test]
fn a_still_gives_angles_and_ratios_by_geometry() {
    let f = frame_check::frame(&still(), 1280.0);
    let value = |e: Option<umlauf_gait::stats::estimate::Estimate>| e.unwrap().value;
    // 20 px ahead over 60 px down; withers–poll √(70² + 60²), withers–croup √(140² + 10²).
    assert!((value(f.nose_deg) - (20f64 / 60.0).atan().to_degrees()).abs() < 1e-9);
    assert!((value(f.front) - 70f64.hypot(60.0) / 200.0).abs() < 1e-9);
    assert!((value(f.back) - 140f64.hypot(10.0) / 200.0).abs() < 1e-9);
    assert!((value(f.uphill_deg) - (10f64 / 140.0).atan().to_degrees()).abs() < 1e-9);
    assert!((value(f.base) - 0.75).abs() < 1e-9);
    assert!(value(f.lean_deg).abs() < 1e-9 && value(f.heel_deg).abs() < 1e-9);
    assert!(value(f.line_share).abs() < 1e-9);
    // 45° down to the hand, then atan(40/80): the hand is below the straight line.
    let bend = -45.0 + (40f64 / 80.0).atan().to_degrees();
    assert!((value(f.rein_deg) - bend).abs() < 1e-9, "{}", value(f.rein_deg));
    assert_eq!(nose::nose(f.nose_deg.unwrap()), Nose::InFront);
    // The mirror image has the same figures, and so has a picture that was held askew.
    let change = |by: &dyn Fn((f64, f64)) -> (f64, f64)| -> Points {
        still().into_iter().map(|(p, at)| (p, by(at))).collect()
    };
    let (s, c) = 0.06f64.sin_cos();
    for other in
        [change(&|(x, y)| (1280.0 - x, y)), change(&|(x, y)| (x * c - y * s, x * s + y * c))]
    {
        let g = frame_check::frame(&other, 1280.0);
        assert!((value(g.nose_deg) - value(f.nose_deg)).abs() < 1e-9);
        assert!((value(g.front) - value(f.front)).abs() < 1e-9);
        assert!((value(g.base) - 0.75).abs() < 1e-9);
    }
    // Behind the vertical.
    let mut behind = still();
    behind.insert(Point::Nose, (485.0, 260.0));
    let f = frame_check::frame(&behind, 1280.0);
    assert_eq!(nose::nose(f.nose_deg.unwrap()), Nose::Behind);
}

#[test]
fn a_neck_pulled_in_is_not_a_frame_that_closes() {
    let of = |front: f64, back: f64| {
        let mut p = still();
        let along = |a: f64, b: f64, k: f64| a + (b - a) * k;
        p.insert(Point::Poll, (along(400.0, 470.0, front), along(240.0, 180.0, front)));
        p.insert(Point::Croup, (along(400.0, 260.0, back), along(240.0, 250.0, back)));
        frame_check::frame(&p, 1280.0)
    };
    let working = working_frame::working(&[of(1.0, 1.0), of(1.01, 1.0), of(0.99, 1.0)]).unwrap();
    let outline =
        |front, back| working_frame::against_working(&of(front, back), &working).unwrap().outline;
    assert_eq!(outline(0.84, 1.0), Outline::NeckOnly);
    assert_eq!(outline(0.84, 0.88), Outline::Closed);
    assert_eq!(outline(1.2, 1.0), Outline::Longer);
    assert_eq!(outline(1.01, 0.99), Outline::AsWorking);
    // A shortening within the clicks' error is none.
    assert_ne!(outline(0.95, 1.0), Outline::NeckOnly);
}
