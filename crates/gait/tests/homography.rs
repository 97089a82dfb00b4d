//! The map from ground to picture against OpenCV (`fixtures/homography.py`), and what is caught of
//! points in line, mirrored or mislabelled.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use serde_json::Value;
use umlauf_gait::ground::ground_plane::GroundPlane;
use umlauf_gait::ground::homography::{Homography, Pair};
use umlauf_gait::ground::plane_checks::{Clicks, Known, Refused, Warning};

fn fixture() -> Value {
    serde_json::from_str(include_str!("fixtures/homography.json")).unwrap()
}

fn points(v: &Value) -> Vec<(f64, f64)> {
    let one = |p: &Value| (p[0].as_f64().unwrap(), p[1].as_f64().unwrap());
    v.as_array().unwrap().iter().map(one).collect()
}

fn pairs(case: &Value) -> Vec<Pair> {
    let both = points(&case["ground"]).into_iter().zip(points(&case["seen"]));
    both.map(|(ground, seen)| Pair::clicked(ground, seen, 1.0)).collect()
}

#[test]
fn four_points_give_opencvs_map() {
    for case in fixture()["four"].as_array().unwrap() {
        let map = Homography::fit(&pairs(case)).unwrap();
        // Places a coach would ask for come out where OpenCV sees them, and back on the ground.
        for (ground, seen) in points(&case["asked"]).into_iter().zip(points(&case["shown"])) {
            let (u, v) = map.to_picture(ground).unwrap();
            assert!((u - seen.0).abs() < 1e-6 * 1280.0 && (v - seen.1).abs() < 1e-6 * 1280.0);
            let (x, y) = map.to_ground((u, v)).unwrap();
            assert!((x - ground.0).abs() < 1e-9 && (y - ground.1).abs() < 1e-9);
        }
        let own = map.matrix().unwrap();
        let theirs = &case["matrix"];
        let size = own.iter().flatten().fold(0.0f64, |m, v| m.max(v.abs()));
        for (r, row) in own.iter().enumerate() {
            for (c, value) in row.iter().enumerate() {
                let other = theirs[r][c].as_f64().unwrap();
                assert!((value - other).abs() <= 1e-6 * size, "{value} {other}");
            }
        }
    }
}

#[test]
fn more_points_fit_no_worse_than_opencvs() {
    for case in fixture()["more"].as_array().unwrap() {
        let pairs = pairs(case);
        let map = Homography::fit(&pairs).unwrap();
        let away = |p: &Pair| {
            let (u, v) = map.to_picture(p.ground).unwrap();
            (u - p.seen.0).powi(2) + (v - p.seen.1).powi(2)
        };
        let n = f64::from(u32::try_from(pairs.len()).unwrap());
        let rms = (pairs.iter().map(away).sum::<f64>() / n).sqrt();
        let theirs = case["rms_px"].as_f64().unwrap();
        assert!(rms <= theirs + 1e-7, "{rms} {theirs}");
        assert!(rms > 0.9 * theirs, "{rms} {theirs}");
    }
}

const CLICKS: Clicks = Clicks { sd_px: 1.0, place_sd_m: 0.0, size: (1280.0, 720.0) };

/// A camera 1.8 m high, 10 m off the track, looking across: ground to pixels.
fn see((x, y): (f64, f64)) -> (f64, f64) {
    let (focal, at): (f64, (f64, f64, f64)) = (950.0, (8.6, 30.0, 1.8));
    // Tilted down by 6°.
    let (sin, cos) = 6f64.to_radians().sin_cos();
    let (ahead, right, up) = (x - at.0, at.1 - y, -at.2);
    let (depth, rise) = (ahead * cos - up * sin, ahead * sin + up * cos);
    (640.0 + focal * right / depth, 360.0 - focal * rise / depth)
}

fn known(places: &[(&str, (f64, f64))]) -> Vec<Known> {
    let one = |(name, place): &(&str, (f64, f64))| Known {
        name: (*name).to_owned(),
        place: *place,
        seen: see(*place),
    };
    places.iter().map(one).collect()
}

const CONES: [(&str, (f64, f64)); 4] =
    [("one", (20.0, 26.0)), ("two", (20.0, 34.0)), ("three", (16.0, 27.5)), ("four", (16.0, 32.5))];

#[test]
fn a_true_view_is_taken_with_its_camera() {
    let plane = GroundPlane::new(&known(&CONES), CLICKS).unwrap();
    assert!(plane.warnings.is_empty());
    let camera = plane.camera.unwrap();
    assert!((camera.height_m - 1.8).abs() < 1e-6 && (camera.focal_px - 950.0).abs() < 1e-3);
    assert!((camera.at.0 - 8.6).abs() < 1e-6 && (camera.at.1 - 30.0).abs() < 1e-6);
    let (x, y) = plane.place(see((18.6, 31.0))).unwrap();
    assert!((x - 18.6).abs() < 1e-9 && (y - 31.0).abs() < 1e-9);
    // The sky shows no ground.
    assert_eq!(plane.place((640.0, 10.0)), None);
    assert!((plane.view_angle_deg((18.6, 30.0), (0.0, 1.0)).unwrap() - 90.0).abs() < 1e-6);
}

#[test]
fn points_in_line_are_refused_and_nearly_so_warned_of() {
    let mut cones = CONES;
    cones[2].1 = (20.0, 29.0);
    let refused = GroundPlane::new(&known(&cones), CLICKS);
    assert!(matches!(refused, Err(Refused::InLine(_))), "{refused:?}");
    cones[2].1 = (19.6, 29.0);
    let plane = GroundPlane::new(&known(&cones), CLICKS).unwrap();
    assert!(plane.warnings.contains(&Warning::NearlyInLine));
    assert_eq!(GroundPlane::new(&known(&CONES[..3]), CLICKS), Err(Refused::TooFew(3)));
    cones[2].1 = CONES[0].1;
    let twice = Refused::Twice("one".into(), "three".into());
    assert_eq!(GroundPlane::new(&known(&cones), CLICKS), Err(twice));
}

#[test]
fn mirrored_and_mislabelled_points_are_caught() {
    let mut mirrored = known(&CONES);
    for p in &mut mirrored {
        p.seen.0 = 1280.0 - p.seen.0;
    }
    assert_eq!(GroundPlane::new(&mirrored, CLICKS), Err(Refused::Mirrored));
    // Any two names exchanged: neighbours cross the view, opposites turn it round.
    for (a, b) in [(0, 1), (2, 3), (0, 2), (1, 3), (0, 3), (1, 2)] {
        let mut wrong = known(&CONES);
        let place = wrong[a].place;
        wrong[a].place = wrong[b].place;
        wrong[b].place = place;
        let refused = GroundPlane::new(&wrong, CLICKS).unwrap_err();
        assert!(
            matches!(refused, Refused::Exchanged(_, _) | Refused::Impossible | Refused::Mirrored),
            "{refused:?}"
        );
    }
    // With six points the exchanged pair is named, and a wrong click too.
    let mut six = CONES.to_vec();
    six.extend([("five", (18.0, 29.0)), ("six", (17.5, 34.5))]);
    let mut wrong = known(&six);
    let place = wrong[1].place;
    wrong[1].place = wrong[5].place;
    wrong[5].place = place;
    let said = GroundPlane::new(&wrong, CLICKS);
    let named = match &said {
        Err(Refused::Exchanged(a, b)) => (a.as_str(), b.as_str()),
        Ok(plane) => match &plane.warnings[..] {
            [Warning::Exchanged(a, b)] => (a.as_str(), b.as_str()),
            other => panic!("{other:?}"),
        },
        other => panic!("{other:?}"),
    };
    assert_eq!(named, ("two", "six"));
    let mut off = known(&six);
    off[4].seen.0 += 25.0;
    let plane = GroundPlane::new(&off, CLICKS).unwrap();
    let [Warning::Misfit(name, px)] = &plane.warnings[..] else { panic!("{:?}", plane.warnings) };
    assert!(name == "five" && (px - 25.0).abs() < 1.0, "{name} {px}");
}
