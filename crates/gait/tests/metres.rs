//! Metres from clicks, against a camera that is drawn: places, lengths, speeds and angles come back
//! as they were, and their errors are those that clicks really make.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_precision_loss, reason = "counts are small")]

use proptest::prelude::*;
use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::Side::{self, Left, Right};
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::ground::arena::{Arena, Place, distance};
use umlauf_gait::ground::expected_strides::{expected_strides, length_of_count};
use umlauf_gait::ground::ground_plane::GroundPlane;
use umlauf_gait::ground::place_error::PlaceError;
use umlauf_gait::ground::plane_checks::{Clicks, Known};
use umlauf_gait::ground::scale::Scale;
use umlauf_gait::ground::side_scale::{BarPoint, SideScale};
use umlauf_gait::ground::travel::Travel;
use umlauf_gait::ground::{plausibility, source::Source, travel};
use umlauf_gait::marks::footfall::GroundPoint;
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Footfall, Limb, Options, analyse};

/// A camera 2.2 m high and 12 m off the track x = 18, looking square at it a little downwards.
fn see((x, y): Place) -> (f64, f64) {
    let (focal, at): (f64, (f64, f64, f64)) = (1000.0, (6.0, 30.0, 2.2));
    let (sin, cos) = 8f64.to_radians().sin_cos();
    let (ahead, right, up) = (x - at.0, at.1 - y, -at.2);
    let (depth, rise) = (ahead * cos - up * sin, ahead * sin + up * cos);
    (640.0 + focal * right / depth, 360.0 - focal * rise / depth)
}

const CONES: [Place; 5] = [(20.0, 23.0), (20.0, 37.0), (15.0, 26.0), (15.0, 34.5), (17.0, 30.0)];

/// What clicks add, px.
struct Hand {
    rng: ChaCha8Rng,
    sd: f64,
}

impl Hand {
    fn new(seed: u64, sd: f64) -> Self {
        Self { rng: ChaCha8Rng::seed_from_u64(seed), sd }
    }

    fn click(&mut self, place: Place) -> (f64, f64) {
        let (x, y) = see(place);
        (x + self.off(), y + self.off())
    }

    /// Twelve uniform values make a normal one near enough.
    fn off(&mut self) -> f64 {
        self.sd * ((0..12).map(|_| self.rng.random_range(0.0..1.0)).sum::<f64>() - 6.0)
    }
}

fn plane(hand: &mut Hand) -> GroundPlane {
    let known = |place: &Place| Known {
        name: format!("{place:?}"),
        place: *place,
        seen: hand.click(*place),
    };
    let points: Vec<Known> = CONES.iter().map(known).collect();
    let clicks = Clicks { sd_px: hand.sd.max(1e-3), place_sd_m: 0.0, size: (1280.0, 720.0) };
    GroundPlane::new(&points, clicks).unwrap()
}

/// A trot along the track x = 18 from y = 25 on, hooves 0.22 m apart, trunk 1.15 m: prints in m.
fn track(strides: u32, t: f64, length: f64) -> Vec<(Limb, f64, Place)> {
    let limbs = [(Limb::LH, 0.0), (Limb::RF, 0.01), (Limb::RH, 0.5), (Limb::LF, 0.51)];
    (0..strides)
        .flat_map(|k| limbs.map(|(limb, phase)| (k, limb, phase)))
        .map(|(k, limb, phase)| {
            let gone = f64::from(k) + phase;
            // Left of a horse that goes towards C is towards K's side.
            let x = if limb.side() == Left { 17.89 } else { 18.11 };
            let trunk = if limb.is_hind() { 0.0 } else { 1.15 };
            (limb, gone * t, (x, 25.0 + gone * length + trunk))
        })
        .collect()
}

fn read(prints: &[(Limb, f64, Place)], scale: &Scale, hand: &mut Hand) -> BoutFigures {
    let marks: Vec<Footfall> = prints
        .iter()
        .map(|(limb, on, place)| Footfall {
            off: Some(Seconds(on + 0.3)),
            at: scale.place(hand.click(*place)),
            ..Footfall::new(*limb, Seconds(*on))
        })
        .collect();
    let options = Options {
        scale: Some(scale.clone()),
        frame_rate: FrameRate::new(240.0).ok(),
        withers: Some(Metres(1.62)),
        ..Options::default()
    };
    analyse(&marks, &options).measured.bouts.into_iter().next().unwrap()
}

#[test]
fn without_errors_everything_comes_back_as_it_was_drawn() {
    let mut sure = Hand::new(1, 0.0);
    let scale = Scale::Ground(Box::new(plane(&mut sure)));
    for (t, length) in [(0.76, 2.6), (0.70, 1.8)] {
        let b = read(&track(5, t, length), &scale, &mut sure);
        assert_eq!(b.label.gait, Gait::Trot);
        let travel = b.travel.unwrap();
        assert!((travel.stride_length.value - length).abs() < 1e-6, "{travel:?}");
        assert!((travel.speed.value - length / t).abs() < 1e-6, "{travel:?}");
        assert_eq!(travel.source, Source::Ground);
        // A hind lands half a stride after the fore of its side, and 1.15 m further back.
        let over = b.prints.overtrack_m.unwrap().value;
        assert!((over - (0.49 * length - 1.15)).abs() < 1e-6, "{over}");
        assert!(b.prints.body_angle_deg.unwrap().value.abs() < 1e-6);
        assert_eq!((b.prints.tracks, b.prints.backwards), (Some(2), Some(false)));
        let (fores, hinds) = b.prints.width_m.unwrap();
        assert!((fores - 0.22).abs() < 1e-6 && (hinds - 0.22).abs() < 1e-6);
        for step in b.step_lengths {
            assert!((step.unwrap().value - length / 2.0).abs() < 1e-6, "{step:?}");
        }
        // Froude number of a hip at 0.78 of the withers.
        let hip = 0.78 * 1.62;
        assert!((b.froude.unwrap() - (length / t).powi(2) / (9.81 * hip)).abs() < 1e-6);
        assert!((b.relative_stride_length.unwrap() - length / hip).abs() < 1e-6);
    }
}

/// Covariance that the parts of an error make, m².
fn covariance(e: &PlaceError) -> [f64; 3] {
    let columns = (0..2).map(|k| [e.own[0][k], e.own[1][k]]).chain(e.common.iter().copied());
    columns.fold([0.0; 3], |s, [x, y]| [s[0] + x * x, s[1] + y * y, s[2] + x * y])
}

#[test]
fn the_error_of_a_place_is_that_of_a_thousand_clicks() {
    let sd = 1.0;
    let exact = plane(&mut Hand::new(1, 0.0));
    for place in [(18.0, 30.0), (18.0, 24.5), (16.0, 33.0), (19.5, 36.0)] {
        let told = {
            let clicks = Clicks { sd_px: sd, place_sd_m: 0.0, size: (1280.0, 720.0) };
            let known = |p: &Place| Known { name: format!("{p:?}"), place: *p, seen: see(*p) };
            let plane = GroundPlane::new(&CONES.iter().map(known).collect::<Vec<_>>(), clicks);
            covariance(&plane.unwrap().error(place).unwrap())
        };
        let mut found = [0.0; 3];
        let tries = 1500;
        for seed in 0..tries {
            let mut hand = Hand::new(seed, sd);
            let (x, y) = plane(&mut hand).place(hand.click(place)).unwrap();
            let (dx, dy) = (x - place.0, y - place.1);
            found = [found[0] + dx * dx, found[1] + dy * dy, found[2] + dx * dy];
        }
        for k in 0..2 {
            let scatter = (found[k] / tries as f64).sqrt();
            let ratio = scatter / told[k].sqrt();
            assert!((0.85..1.2).contains(&ratio), "{place:?} axis {k}: {scatter} {ratio}");
        }
        // Blur runs along the line of sight: depth is known worse than breadth.
        assert!(told[0] > told[1], "{place:?}: {told:?}");
        assert!(exact.error(place).is_some_and(|e| covariance(&e)[0] < 1e-6));
    }
}

#[test]
fn intervals_of_lengths_hold_the_truth_of_clicked_prints() {
    let (t, length) = (0.76, 2.4);
    let (mut stride, mut speed, rides) = (0, 0, 250);
    for seed in 0..rides {
        let mut hand = Hand::new(1000 + seed, 1.0);
        let scale = Scale::Ground(Box::new(plane(&mut hand)));
        let travel = read(&track(5, t, length), &scale, &mut hand).travel.unwrap();
        let holds = |e: Estimate, truth: f64| e.ci95.is_some_and(|(a, b)| a <= truth && truth <= b);
        stride += u32::from(holds(travel.stride_length, length));
        speed += u32::from(holds(travel.speed, length / t));
    }
    for (what, held) in [("stride length", stride), ("speed", speed)] {
        let share = f64::from(held) / rides as f64;
        assert!(share >= 0.93, "{what}: {share}");
    }
}

#[test]
fn what_a_camera_is_good_for_is_told_before_a_hoof_is_clicked() {
    let clicks = |sd_px| Clicks { sd_px, place_sd_m: 0.0, size: (1280.0, 720.0) };
    let known = |p: &Place| Known { name: format!("{p:?}"), place: *p, seen: see(*p) };
    let points: Vec<Known> = CONES.iter().map(known).collect();
    let of = |sd_px, at, way, length| {
        let scale = Scale::Ground(Box::new(GroundPlane::new(&points, clicks(sd_px)).unwrap()));
        travel::scale_error(&scale, at, way, length).unwrap()
    };
    let square = of(1.0, (18.0, 30.0), (0.0, 1.0), 2.4);
    // Twice the error of a click is twice the error of a stride, give or take the known line.
    let twice = of(2.0, (18.0, 30.0), (0.0, 1.0), 2.4) / square;
    assert!((1.7..2.05).contains(&twice), "{twice}");
    // Towards the camera it is worse, a longer stride is known better in proportion.
    assert!(of(1.0, (18.0, 30.0), (1.0, 0.0), 2.4) > 2.0 * square);
    assert!(of(1.0, (18.0, 30.0), (0.0, 1.0), 3.6) < square);
}

#[test]
fn a_bar_reads_lengths_along_itself_by_two_points_or_by_perspective() {
    // Square to the camera two points are enough: one scale for the whole line.
    let bar = |points: &[f64], place: &dyn Fn(f64) -> Place| {
        let clicked: Vec<BarPoint> =
            points.iter().map(|at_m| BarPoint { at_m: *at_m, seen: see(place(*at_m)) }).collect();
        Scale::Side(SideScale::bar(&clicked, 1.0).unwrap())
    };
    let square = |m: f64| (18.0, 34.0 - m);
    let two = bar(&[0.0, 8.0], &square);
    for (a, b) in [(0.5, 3.0), (2.0, 7.5)] {
        let at = |m: f64| two.place(see(square(m))).unwrap().x.0;
        assert!((at(b) - at(a) - (b - a)).abs() < 1e-6, "{a} {b}: {}", at(b) - at(a));
    }
    // Aslant the near end is larger: two points are wrong in the middle, four are not.
    let aslant = |m: f64| (16.0 + 0.45 * m, 33.0 - 0.893 * m);
    let (two, four) = (bar(&[0.0, 8.0], &aslant), bar(&[0.0, 2.5, 5.0, 8.0], &aslant));
    let length =
        |s: &Scale| s.place(see(aslant(4.0))).unwrap().x.0 - s.place(see(aslant(0.0))).unwrap().x.0;
    assert!((length(&two) - 4.0).abs() > 0.15, "{}", length(&two));
    assert!((length(&four) - 4.0).abs() < 0.01, "{}", length(&four));
    // A scale along one line knows length and no breadth.
    let b = read(
        &track(5, 0.76, 2.4),
        &bar(&[0.0, 8.0], &|m| (18.0, 26.0 + m)),
        &mut Hand::new(3, 0.0),
    );
    assert_eq!(b.travel.unwrap().source, Source::Bar);
    assert!((b.travel.unwrap().stride_length.value - 2.4).abs() < 0.03, "{:?}", b.travel);
    assert!(b.prints.body_angle_deg.is_none() && b.prints.tracks.is_none());
    assert!(b.prints.overtrack_m.is_some());
}

#[test]
fn the_height_at_the_withers_gives_a_length_to_eight_per_cent() {
    // 1.62 m shown as 180 px; a stride of 300 px is 2.7 m.
    let scale =
        SideScale::withers(Some(Metres(1.62)), (600.0, 500.0), (600.0, 320.0), 1.0).unwrap();
    let scale = Scale::Side(scale);
    let prints: Vec<Footfall> = track(9, 0.76, 1.0)
        .into_iter()
        .map(|(limb, on, (_, y))| Footfall {
            at: scale.place((100.0 + 300.0 * (y - 25.0), 500.0)),
            ..Footfall::new(limb, Seconds(on))
        })
        .collect();
    let options = Options { scale: Some(scale), ..Options::default() };
    let b = analyse(&prints, &options).measured.bouts.into_iter().next().unwrap();
    let length = b.travel.unwrap().stride_length;
    assert!((length.value - 2.7).abs() < 1e-6);
    let share = length.half_width().unwrap() / 2.7;
    assert!((0.075..0.11).contains(&share), "{share}");
}

fn estimate(value: f64, half: f64) -> Estimate {
    Estimate { value, sd: None, ci95: Some((value - half, value + half)), n: 10 }
}

#[test]
fn strides_on_a_way_and_the_length_of_a_count_are_each_others_way_back() {
    let volte = std::f64::consts::PI * 10.0;
    let strides = expected_strides(volte, estimate(2.8, 0.1));
    assert!((strides.value - 11.22).abs() < 0.01);
    let (lo, hi) = strides.ci95.unwrap();
    assert!((lo - volte / 2.9).abs() < 1e-9 && (hi - volte / 2.7).abs() < 1e-9);
    for counted in [1_usize, 11, 40] {
        let length = length_of_count(volte, counted).unwrap();
        let back = expected_strides(volte, length);
        assert!((back.value - counted as f64).abs() < 1e-9);
        // Half a stride at either end.
        let (lo, hi) = back.ci95.unwrap();
        assert!(
            (lo - (counted as f64 - 0.5)).abs() < 1e-9
                && (hi - (counted as f64 + 0.5)).abs() < 1e-9
        );
    }
}

#[test]
fn a_length_that_cannot_be_needs_its_whole_interval_outside() {
    let travel = |value: f64, half: f64| Travel {
        speed: estimate(3.5, 0.1),
        stride_length: estimate(value, half),
        source: Source::Bar,
    };
    let of = |gait, value, half| plausibility::impossible(gait, &travel(value, half), 1.6);
    // Limits of the trot are 0.7 and 3.0 withers heights: 1.12 m and 4.8 m.
    assert!(of(Gait::Trot, 2.7, 0.1).is_none());
    assert!(of(Gait::Trot, 4.9, 0.2).is_none());
    let long = of(Gait::Trot, 5.3, 0.2).unwrap();
    assert!(long.too_long && (long.heights - 5.3 / 1.6).abs() < 1e-9 && long.source == Source::Bar);
    assert!(!of(Gait::Trot, 0.8, 0.1).unwrap().too_long);
    assert!(of(Gait::Unclear, 99.0, 0.1).is_none());
    assert!(plausibility::disagree(&travel(2.4, 0.1), &travel(2.7, 0.1)));
    assert!(!plausibility::disagree(&travel(2.4, 0.2), &travel(2.7, 0.15)));
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn a_circle_fits_exactly_where_it_is_said_to(
        from in (0.0..20.0f64, 0.0..60.0f64),
        to in (0.0..20.0f64, 0.0..60.0f64),
        diameter in 4.0..22.0f64,
        left in prop::bool::ANY,
    ) {
        let length = distance(from, to);
        prop_assume!(length > 1.0);
        let side: Side = if left { Left } else { Right };
        let room = Arena::LARGE.room_for_circle(from, to, side, diameter);
        let (ux, uy) = ((to.0 - from.0) / length, (to.1 - from.1) / length);
        let turn = if left { 1.0 } else { -1.0 };
        for step in 0..=200 {
            let at = length * f64::from(step) / 200.0;
            let middle = (
                from.0 + at * ux - turn * uy * diameter / 2.0,
                from.1 + at * uy + turn * ux * diameter / 2.0,
            );
            let out = |c: f64, size: f64| (diameter / 2.0 - c).max(c + diameter / 2.0 - size);
            let beyond = out(middle.0, 20.0).max(out(middle.1, 60.0));
            let said = room.is_some_and(|(lo, hi)| lo - 1e-6 <= at && at <= hi + 1e-6);
            // At the very edge either answer will do.
            if beyond.abs() > 1e-4 {
                prop_assert_eq!(said, beyond < 0.0, "at {} m: {:?}", at, room);
            }
        }
    }

    #[test]
    fn letters_lie_on_the_rail_or_the_centre_line_and_mirror_one_another(small in prop::bool::ANY) {
        let arena = if small { Arena::SMALL } else { Arena::LARGE };
        for (name, (x, y)) in arena.letters() {
            prop_assert!(x == 0.0 || x == 10.0 || x == 20.0, "{}", name);
            prop_assert!((0.0..=arena.length).contains(&y));
            let mirror = |(px, py): Place| (20.0 - px, py);
            let there = arena.letters().into_iter().any(|(_, p)| p == mirror((x, y)));
            prop_assert!(there, "nothing stands across from {}", name);
        }
        for (name, (x, y)) in arena.posts(0.5) {
            let inside = (0.0..=20.0).contains(&x) && (0.0..=arena.length).contains(&y);
            prop_assert!(!inside, "{}", name);
            let letter = arena.letter(name).unwrap();
            prop_assert!((distance(letter, (x, y)) - 0.5).abs() < 1e-12);
        }
    }

    #[test]
    fn a_place_is_read_back_wherever_the_camera_sees_ground(x in 9.0..20.0f64, y in 24.0..36.0f64) {
        let scale = Scale::Ground(Box::new(plane(&mut Hand::new(1, 0.0))));
        let GroundPoint { x: Metres(a), y: Metres(b) } = scale.place(see((x, y))).unwrap();
        prop_assert!((a - x).abs() < 1e-6 && (b - y).abs() < 1e-6);
    }
}
