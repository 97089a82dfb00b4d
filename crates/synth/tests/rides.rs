//! Drawn rides against what was asked for: spreads, changes, bones, hooves, sound and film.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{asked, film};
use umlauf_gait::{Limb, Side};
use umlauf_synth::coat::Coat;
use umlauf_synth::pose::Pose;
use umlauf_synth::sound::{RATE, hoofbeats};
use umlauf_synth::template::{TEMPLATES, Template};
use umlauf_synth::truth::{Change, Ride, Then, Truth};
use umlauf_synth::vec3::V3;

fn mean(v: &[f64]) -> f64 {
    v.iter().sum::<f64>() / v.len() as f64
}

fn sd(v: &[f64]) -> f64 {
    let m = mean(v);
    (v.iter().map(|x| (x - m).powi(2)).sum::<f64>() / (v.len() as f64 - 1.0)).sqrt()
}

fn durations(truth: &Truth) -> Vec<f64> {
    truth.starts.windows(2).map(|w| w[1] - w[0]).collect()
}

#[test]
fn unsteadiness_is_as_large_and_as_alike_as_it_was_asked() {
    let mut likeness = Vec::new();
    for (cv, serial) in [(0.01, 0.0), (0.03, 0.0), (0.03, 0.5)] {
        let ride = Ride { stride_cv: cv, serial, ..asked("trot", 4000, 7) };
        let t = durations(&Truth::new(ride));
        let m = mean(&t);
        assert!((m / ride.template.stride_s - 1.0).abs() < 4.0 * cv / 63.0, "{m}");
        assert!((sd(&t) / m / cv - 1.0).abs() < 0.06, "{cv}: {}", sd(&t) / m);
        let pairs: f64 = t.windows(2).map(|w| (w[0] - m) * (w[1] - m)).sum();
        likeness.push(pairs / t.iter().map(|x| (x - m).powi(2)).sum::<f64>());
    }
    // A correlation over 4,000 strides is known to ± 0.03.
    for (found, wanted) in likeness.iter().zip([0.0, 0.0, 0.5]) {
        assert!((found - wanted).abs() < 0.05, "{likeness:?}");
    }
    let ride = Ride { phase_sd: 0.01, duty_sd: 0.02, ..asked("trot", 2000, 3) };
    let truth = Truth::new(ride);
    let t = ride.template.stride_s;
    for limb in Limb::ALL {
        let own = &truth.stances[limb.index()];
        let duty: Vec<f64> = own.iter().map(|s| (s.off - s.on) / t).collect();
        assert!((mean(&duty) - 0.42).abs() < 0.002 && (sd(&duty) - 0.02).abs() < 0.002);
        let phase: Vec<f64> =
            own.iter().zip(&truth.starts).map(|(s, start)| (s.on - start) / t).collect();
        assert!((mean(&phase) - ride.template.phases[limb.index()]).abs() < 0.001);
        assert!((sd(&phase) - 0.01).abs() < 0.001);
    }
}

#[test]
fn the_same_ride_is_drawn_the_same_and_another_seed_otherwise() {
    let ride = Ride { stride_cv: 0.02, phase_sd: 0.004, ..asked("canter", 12, 5) };
    assert_eq!(Truth::new(ride), Truth::new(ride));
    let other = Truth::new(Ride { seed: 6, ..ride });
    assert_ne!(Truth::new(ride).starts, other.starts);
    assert_eq!(Truth::new(ride).starts.len(), other.starts.len());
}

#[test]
fn changes_change_the_pair_that_was_asked_and_keep_the_beat() {
    const LATE: &[Change] = &[
        Change { stride: 5, hinds: false, fores: true },
        Change { stride: 6, hinds: true, fores: false },
    ];
    let ride = Ride { changes: LATE, ..asked("canter", 12, 1) };
    let truth = Truth::new(ride);
    let t = ride.template.stride_s;
    for (k, start) in truth.starts.iter().enumerate().skip(1).take(12) {
        let stride = k - 1;
        let phase = |limb: Limb| ((truth.stances[limb.index()][k].on - start) / t * 1e6).round();
        let own = |limb: Limb| (ride.template.phases[limb.index()] * 1e6).round();
        let (hinds, fores) = (stride >= 6, stride >= 5);
        for limb in Limb::ALL {
            let changed = if limb.is_hind() { hinds } else { fores };
            let role = if changed { limb.opposite() } else { limb };
            assert!((phase(limb) - own(role)).abs() < 1.0, "{limb} in stride {stride}");
        }
    }
    // Two changes of one pair are none.
    const TWICE: &[Change] = &[
        Change { stride: 3, hinds: true, fores: true },
        Change { stride: 7, hinds: true, fores: true },
    ];
    let twice = Truth::new(Ride { changes: TWICE, ..asked("canter", 12, 1) });
    let plain = Truth::new(asked("canter", 12, 1));
    assert_eq!(twice.stances[0][10].on, plain.stances[0][10].on);
    assert_ne!(twice.stances[0][6].on, plain.stances[0][6].on);
}

#[test]
fn another_gait_from_a_stride_on_has_its_own_stride_and_speed() {
    let extended = *Template::named("trot-extended").unwrap();
    let ride = Ride { then: Some(Then { stride: 6, template: extended }), ..asked("trot", 12, 1) };
    let truth = Truth::new(ride);
    let t = durations(&truth);
    for (k, t) in t.iter().enumerate() {
        let wanted = if k < 7 { ride.template.stride_s } else { extended.stride_s };
        assert!((t - wanted).abs() < 1e-9, "{k}");
    }
    let turn = 6.0 * ride.template.stride_s;
    for (at, speed) in [(turn - 1.0, ride.template.speed), (turn + 1.0, extended.speed)] {
        let found = (ride.body_at(at + 0.01) - ride.body_at(at - 0.01)) / 0.02;
        assert!((found - speed).abs() < 1e-6, "{at}: {found}");
    }
    assert!((ride.body_at(turn + 1e-9) - ride.body_at(turn - 1e-9)).abs() < 1e-6);
}

#[test]
fn templates_are_the_gaits_they_are_called() {
    for t in TEMPLATES {
        assert_eq!(Template::named(t.name).map(|n| n.name), Some(t.name));
        assert!((t.mirrored().mirrored().phases[0] - t.phases[0]).abs() < 1e-12);
        let spread = |a: usize, b: usize| {
            let d = (t.phases[a] - t.phases[b]).rem_euclid(1.0);
            d.min(1.0 - d)
        };
        let couplet = spread(2, 3) < 0.44;
        let galloping = t.name.starts_with("canter") || t.name == "gallop";
        assert_eq!(couplet, galloping, "{}", t.name);
        // A hoof stands less than half of the stride in every gait with air.
        let air = ["trot", "canter", "gallop", "passage", "pace", "rack"];
        let walking = ["walk", "flat", "running", "stepping", "fox", "piaffe"];
        let named = |of: &[&str]| of.iter().any(|w| t.name.starts_with(w));
        assert!(
            if named(&walking) { t.duty > 0.5 } else { named(&air) && t.duty < 0.5 },
            "{}",
            t.name
        );
    }
    assert!(Template::named("hop").is_none() && Coat::named("pink").is_none());
    for coat in ["bay", "chestnut", "grey"] {
        assert!(Coat::named(coat).is_some());
    }
}

#[test]
fn bones_keep_their_length_and_hooves_stay_above_the_ground() {
    for t in TEMPLATES {
        let truth = Truth::new(asked(t.name, 4, 1));
        let (mut shortest, mut longest) = ([f64::MAX; 4], [0.0f64; 4]);
        let mut stretched = 0.0f64;
        let frames = (truth.duration() * 100.0) as u32;
        for k in 0..frames {
            let pose = Pose::at(&truth, f64::from(k) / 100.0);
            for limb in &pose.limbs {
                assert!(limb.toe.z >= -1e-9, "{}: toe {}", t.name, limb.toe.z);
                assert!(limb.stance.is_none_or(|s| limb.toe.z < 1e-9 && (0.0..=1.0).contains(&s)));
                stretched = stretched.max(limb.stretch);
            }
            let flat = |a: V3, b: V3| (a.x - b.x).hypot(a.z - b.z);
            let hind = &pose.limbs[Limb::LH.index()];
            let fore = &pose.limbs[Limb::LF.index()];
            let bones = [
                flat(hind.root, hind.upper),
                flat(hind.middle, hind.fetlock),
                flat(fore.root, fore.upper),
                flat(hind.fetlock, hind.coronet),
            ];
            for (k, bone) in bones.into_iter().enumerate() {
                shortest[k] = shortest[k].min(bone);
                longest[k] = longest[k].max(bone);
            }
        }
        for k in 0..4 {
            assert!(longest[k] / shortest[k] < 1.0 + 1e-9, "{} bone {k}", t.name);
        }
        // At full gallop the drawn limbs are too short for their reach; no film shows it.
        assert!(stretched < 1.11 || t.name == "gallop", "{}: stretched by {stretched}", t.name);
    }
}

#[test]
fn both_reins_are_the_same_ride_turned_about() {
    let left = asked("trot", 6, 2);
    let right = Ride { rein: Side::Right, from_y: 48.0, ..left };
    let (a, b) = (Truth::new(left).footfalls(), Truth::new(right).footfalls());
    assert_eq!(a.len(), b.len());
    for (a, b) in a.iter().zip(&b) {
        assert_eq!((a.limb, a.on), (b.limb, b.on));
        let (p, q) = (a.at.unwrap(), b.at.unwrap());
        // Half a turn about the middle of the line: (18, 30).
        assert!((p.x.0 + q.x.0 - 36.0).abs() < 1e-9 && (p.y.0 + q.y.0 - 60.0).abs() < 1e-9);
    }
}

#[test]
fn marks_read_off_frames_are_never_early_and_less_than_a_frame_late() {
    let truth = Truth::new(Ride { stride_cv: 0.02, ..asked("canter", 10, 4) });
    let exact = truth.footfalls();
    for (rate, first) in [(30.0, 0.0), (59.94, 0.0123), (240.0, -0.5)] {
        let read = truth.read_off(rate, first);
        for (e, r) in exact.iter().zip(&read) {
            let late = r.on.0 - e.on.0;
            assert!((-1e-9..1.0 / rate).contains(&late), "{rate}: {late}");
            let frame = (r.on.0 - first) * rate;
            assert!((frame - frame.round()).abs() < 1e-6);
        }
    }
}

#[test]
fn every_hoofbeat_is_heard_when_it_lands() {
    let film = film(asked("walk", 5, 3), true);
    let sound = hoofbeats(&film);
    assert_eq!(sound.len(), (film.frames() as f64 / 60.0 * f64::from(RATE)) as usize);
    assert!(sound.iter().all(|v| v.abs() <= 1.0));
    let at = |t: f64| ((t + film.shot.margin_s) * f64::from(RATE)) as usize;
    let energy = |from: usize, n: usize| -> f64 {
        sound[from..from + n].iter().map(|v| f64::from(*v).powi(2)).sum::<f64>() / n as f64
    };
    let beats = film.truth.footfalls();
    for f in beats.iter().filter(|f| f.on.0 > 0.1) {
        let k = at(f.on.0);
        // 4 ms before and 6 ms after.
        let (before, after) = (energy(k - 240, 192), energy(k + 24, 288));
        assert!(after > 4.0 * before, "{} at {}: {before} {after}", f.limb, f.on.0);
    }
    assert_eq!(hoofbeats(&film), sound);
}

#[test]
fn a_camera_that_follows_keeps_the_horse_in_the_picture_and_one_that_stands_does_not_move() {
    let following = film(asked("trot", 8, 1), true);
    let still = film(asked("trot", 8, 1), false);
    let last = following.frames() - 1;
    assert!((following.time(0) + 0.25).abs() < 1e-12);
    assert!((following.time(last) - following.truth.duration() - 0.25).abs() < 2.1 / 60.0);
    assert_eq!(still.camera(0), still.camera(last));
    assert_ne!(following.camera(0), following.camera(last));
    for frame in [0, last / 2, last] {
        let ride = &following.truth.ride;
        let (x, y) = ride.arena(ride.body_at(following.time(frame)), 0.0);
        let seen = following.camera(frame).see(umlauf_synth::vec3::v3(x, y, 1.0)).unwrap();
        assert!((seen.x - 160.0).abs() < 20.0 && (seen.y - 90.0).abs() < 40.0, "{seen:?}");
    }
}

#[test]
fn a_picture_shows_the_horse_that_is_there_and_what_moves_is_the_horse() {
    let film = film(asked("trot", 6, 1), false);
    let middle = film.frames() / 2;
    let (a, b) = (film.draw(middle), film.draw(middle + 6));
    assert_eq!(a.len(), 320 * 180 * 3);
    assert!(a == film.draw(middle));
    let ride = &film.truth.ride;
    let camera = film.camera(middle);
    let moved: Vec<(f64, f64)> = (0..320 * 180)
        .filter(|k| (0..3).any(|c| a[3 * k + c].abs_diff(b[3 * k + c]) > 24))
        .map(|k| ((k % 320) as f64, (k / 320) as f64))
        .collect();
    assert!(moved.len() > 300, "{}", moved.len());
    // All that changes lies within a horse's length of where the horse is.
    let (x, y) = ride.arena(ride.body_at(film.time(middle)), 0.0);
    let here = camera.see(umlauf_synth::vec3::v3(x, y, 0.8)).unwrap();
    let metre = camera.focal_px / here.depth;
    for (px, py) in moved {
        let (dx, dy) = ((px - here.x).abs() / metre, (py - here.y).abs() / metre);
        assert!(dx < 3.2 && dy < 2.2, "{px} {py}: {dx} {dy} m away");
    }
}
