//! Hooves in drawn films, whose footfalls and camera are known, and films in which there are none.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_gait::base::limb::{Limb, Side};
use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::motion::Layers;
use umlauf_signals::picture::path::{Keys, path};
use umlauf_signals::picture::refused::{Camera, Refused};
use umlauf_signals::picture::watch::{Watched, watch};
use umlauf_synth::clips::DEMO;
use umlauf_synth::film::{Film, Shot};
use umlauf_synth::truth::{Change, Ride, Truth};
use umlauf_synth::vec3::v3;

/// What a panning camera sees is drawn twice as large as it is watched: a lens does not draw steps.
const SIZE: (u32, u32) = (1280, 720);

/// A film of one of the demo's horses, drawn anew: another ride, another camera.
fn film(name: &str, seed: u64, change: impl Fn(&mut Ride, &mut Shot)) -> Film {
    let clip = DEMO.iter().find(|c| c.name == name).unwrap();
    let mut ride = Ride { seed, strides: 5, changes: &[], then: None, ..clip.ride() };
    let mut shot = Shot {
        size: SIZE,
        rate: 60.0,
        tripod: v3(-3.0, 30.0, 1.9),
        focal_px: 4700.0,
        panning: true,
        margin_s: 0.25,
        cones: &[],
    };
    change(&mut ride, &mut shot);
    Film::new(Truth::new(ride), shot, clip.coat)
}

fn frames(film: &Film) -> Vec<Layers> {
    let (w, h) = (film.shot.size.0 as usize, film.shot.size.1 as usize);
    let grey = |rgb: &[u8]| {
        let value =
            0.299 * f64::from(rgb[0]) + 0.587 * f64::from(rgb[1]) + 0.114 * f64::from(rgb[2]);
        value.round() as u8
    };
    let drawn = |f: usize| {
        let pixels = film.draw(f).chunks(3).map(grey).collect();
        let picture = Grey::new(w, h, pixels).unwrap();
        Layers::of(if film.shot.size == SIZE { picture.half() } else { picture })
    };
    let some = |from: usize| (from..film.frames()).step_by(2).map(drawn).collect::<Vec<_>>();
    let (even, odd) = std::thread::scope(|scope| {
        let odd = scope.spawn(|| some(1));
        (some(0), odd.join().unwrap())
    });
    let mut odd = odd.into_iter();
    even.into_iter().flat_map(|frame| [Some(frame), odd.next()]).flatten().collect()
}

/// Footfalls whose landing is well inside the film: limb and frame.
fn landings(film: &Film) -> Vec<(Limb, f64)> {
    let (rate, margin) = (film.shot.rate, film.shot.margin_s);
    let own = |limb: Limb| film.truth.stances[limb.index()].iter().map(move |s| (limb, s.on));
    Limb::ALL
        .into_iter()
        .flat_map(own)
        .map(|(limb, on)| (limb, (on + margin) * rate))
        .filter(|(_, on)| *on > 0.45 * rate && on + 0.25 * rate < film.frames() as f64)
        .collect()
}

/// Share found within 1.5 frames, share of those with the right limb, share made up, and the errors.
fn judged(film: &Film, found: &Watched) -> (f64, f64, f64, Vec<f64>) {
    let mut open = landings(film);
    let truths = open.len() as f64;
    let (mut errors, mut right, mut made_up) = (vec![], 0, 0);
    for seen in &found.footfalls {
        let far = |(limb, on): &(Limb, f64)| {
            (seen.on - on).abs() + if *limb == seen.limb { 0.0 } else { 0.7 }
        };
        let best = (0..open.len()).min_by(|a, b| far(&open[*a]).total_cmp(&far(&open[*b])));
        match best.filter(|k| (seen.on - open[*k].1).abs() <= 1.5) {
            Some(k) => {
                let (limb, on) = open.remove(k);
                right += usize::from(limb == seen.limb);
                errors.push(seen.on - on);
            }
            // Before and after the stances that are asked for there are others.
            None => {
                let inside = (0.5 * film.shot.rate..film.frames() as f64 - 0.3 * film.shot.rate)
                    .contains(&seen.on);
                made_up += usize::from(inside);
            }
        }
    }
    let n = errors.len() as f64;
    (n / truths, right as f64 / n, f64::from(made_up as u32) / n, errors)
}

#[test]
fn a_trot_that_is_panned_times_itself() {
    let film = film("distel-trot", 901, |_, _| {});
    let found = watch(frames(&film), film.shot.rate, None).unwrap();
    assert_eq!((found.camera, found.near), (Camera::Panning, Side::Left));
    let (hit, right, made_up, errors) = judged(&film, &found);
    assert!(hit >= 0.8 && right >= 0.93 && made_up <= 0.25, "{hit} {right} {made_up}");
    let rms = (errors.iter().map(|e| e * e).sum::<f64>() / errors.len() as f64).sqrt();
    assert!(rms < 0.7, "{rms} frames");
}

#[test]
fn a_late_change_is_in_what_is_seen_before_a_camera_that_stands() {
    const LATE: &[Change] = &[
        Change { stride: 3, hinds: false, fores: true },
        Change { stride: 4, hinds: true, fores: false },
    ];
    let film = film("bernsteen-changes", 902, |ride, shot| {
        ride.changes = LATE;
        shot.panning = false;
        shot.size = (1280, 360);
        shot.focal_px = 2000.0;
    });
    let found = watch(frames(&film), film.shot.rate, None).unwrap();
    assert_eq!(found.camera, Camera::Fixed);
    let (hit, right, made_up, _) = judged(&film, &found);
    assert!(hit >= 0.9 && right >= 0.9 && made_up <= 0.04, "{hit} {right} {made_up}");
}

#[test]
fn the_cameras_way_is_the_cameras() {
    let film = film("kiebitz-walk", 903, |ride, shot| {
        ride.strides = 2;
        shot.rate = 30.0;
    });
    let frames = frames(&film);
    // Where the horse is does not matter yet: its sides do.
    let rate = film.shot.rate;
    let way = path(&frames, rate, &Keys::of(&frames, rate), None);
    let first = film.camera(0);
    let errors: Vec<f64> = (0..frames.len())
        .map(|f| {
            let turned = film.camera(f).yaw - first.yaw;
            let (x, _) = way.to_first[f].of(320.0, 180.0);
            // Half the size it was drawn at.
            let far = 0.5 * first.focal_px * turned;
            // To the right of the first picture is less yaw.
            (x - 320.0 + far).abs() / far.abs().max(40.0)
        })
        .collect();
    let most = errors.iter().copied().fold(0.0, f64::max);
    assert!(most < 0.06, "{most} of the way");
}

#[test]
fn what_cannot_be_timed_is_refused_with_its_reason() {
    let far = film("distel-trot", 904, |ride, shot| {
        ride.strides = 4;
        shot.panning = false;
        shot.focal_px = 1500.0;
        (shot.size, shot.rate) = ((640, 360), 30.0);
    });
    assert_eq!(watch(frames(&far), 30.0, None).unwrap_err(), Refused::TooSmall);
    let close = film("distel-trot", 905, |ride, shot| {
        ride.strides = 3;
        shot.focal_px = 14000.0;
        (shot.size, shot.rate) = ((640, 360), 30.0);
    });
    let refused = watch(frames(&close), 30.0, None).unwrap_err();
    assert!(
        [Refused::TooClose, Refused::CameraLost, Refused::NoHorse].contains(&refused),
        "{refused:?}"
    );
    // The same frame again and again, with a camera's noise: nobody there.
    let still = film("distel-trot", 906, |_, _| {});
    let (w, h) = (SIZE.0 as usize, SIZE.1 as usize);
    let empty: Vec<Layers> = (0..120u32)
        .map(|f| {
            let picture = still.draw(0);
            let noisy = picture.chunks(3).enumerate().map(|(k, rgb)| {
                let noise = (k as u32).wrapping_mul(2_654_435_761).wrapping_add(f * 40_503) >> 29;
                rgb[1].saturating_add(noise as u8)
            });
            let pixels: Vec<u8> = noisy.collect();
            Layers::of(Grey::new(w, h, pixels).unwrap())
        })
        .collect();
    assert_eq!(watch(empty.clone(), 60.0, None).unwrap_err(), Refused::NoHorse);
    assert_eq!(watch(empty[..30].to_vec(), 60.0, None).unwrap_err(), Refused::Short);
}
