//! Hooves in flat films: another horse, drawn by another method, on a track that passes near the camera, with
//! lenses that nobody tells and hands that tremble. These films are of the kind that goes well, taken to see that it
//! still does; how many of all do is in `docs/method.md`.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_gait::base::limb::{Limb, Side};
use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::laid::laid;
use umlauf_signals::picture::motion::Layers;
use umlauf_signals::picture::path::{Keys, path};
use umlauf_signals::picture::unrolled::{Unrolled, focal};
use umlauf_signals::picture::watch::watch;
use umlauf_synth::flat::conditions::{Conditions, Handling, TESTED_FROM};
use umlauf_synth::flat::film::{FlatFilm, MARGIN_S};
use umlauf_synth::template::Template;
use umlauf_synth::truth::{Ride, Truth};

fn film(gait: &str, strides: usize, made: Conditions) -> FlatFilm {
    assert!(made.seed >= TESTED_FROM);
    FlatFilm::new(
        Truth::new(Ride {
            template: *Template::named(gait).unwrap(),
            strides,
            seed: made.seed + 17,
            stride_cv: 0.015,
            serial: 0.3,
            phase_sd: 0.006,
            duty_sd: 0.008,
            withers: 1.65,
            rein: Side::Left,
            from_y: 0.0,
            line_x: 0.0,
            changes: &[],
            then: None,
        }),
        made,
    )
}

fn frames(film: &FlatFilm) -> Vec<Layers> {
    let (w, h) = film.made.size;
    let drawn = |f: usize| Layers::of(Grey::new(w, h, film.draw(f)).unwrap());
    let some = |from: usize| (from..film.frames()).step_by(2).map(drawn).collect::<Vec<_>>();
    let (even, odd) = std::thread::scope(|scope| {
        let odd = scope.spawn(|| some(1));
        (some(0), odd.join().unwrap())
    });
    let mut odd = odd.into_iter();
    even.into_iter().flat_map(|frame| [Some(frame), odd.next()]).flatten().collect()
}

/// Footfalls in view, those found within 1.5 frames, those of them of the right limb, and the error, frames.
fn judged(film: &FlatFilm) -> (usize, usize, usize, f64) {
    let rate = film.made.rate;
    let found = watch(frames(film), rate, None).unwrap();
    let near = if film.made.rightward { Side::Right } else { Side::Left };
    assert_eq!(found.near, near);
    let last = film.frames() as f64 - 0.15 * rate;
    let mut open: Vec<(Limb, f64, f64)> = Limb::ALL
        .into_iter()
        .flat_map(|l| film.truth.stances[l.index()].iter().map(move |s| (l, *s)))
        .filter(|(_, s)| (s.on + MARGIN_S) > 0.4 && (s.off + MARGIN_S) * rate < last)
        .map(|(l, s)| (l, (s.on + MARGIN_S) * rate, (s.off + MARGIN_S) * rate))
        .collect();
    let all = open.len();
    let (mut hit, mut right, mut squares, mut offs) = (0, 0, 0.0, vec![]);
    for seen in &found.footfalls {
        let far = |(limb, on, _): &(Limb, f64, f64)| {
            (seen.on - on).abs() + if *limb == seen.limb { 0.0 } else { 0.7 }
        };
        let best = (0..open.len()).min_by(|a, b| far(&open[*a]).total_cmp(&far(&open[*b])));
        if let Some(k) = best.filter(|k| (seen.on - open[*k].1).abs() <= 1.5) {
            let (limb, on, off) = open.remove(k);
            offs.extend(seen.off.map(|o| (o - off) * (o - off)));
            hit += 1;
            right += usize::from(limb == seen.limb);
            squares += (seen.on - on) * (seen.on - on);
        }
    }
    // What was made up is what was found beyond those in view and the few at the ends.
    assert!(found.footfalls.len() <= hit + 6, "{} found, {hit} right", found.footfalls.len());
    // Toes are seen to leave, nearly all.
    offs.sort_by(f64::total_cmp);
    assert!(10 * offs.len() >= 9 * hit, "{} offs of {hit}", offs.len());
    assert!(offs[offs.len() * 9 / 10].sqrt() < 1.5, "{offs:?}");
    (all, hit, right, (squares / f64::from(u32::try_from(hit.max(1)).unwrap())).sqrt())
}

#[test]
fn a_walk_filmed_from_the_hand_times_itself() {
    let made = Conditions::drawn(TESTED_FROM + 21, 60.0, Handling::Handheld);
    let (all, hit, right, rms) = judged(&film("walk", 4, made));
    assert!(all >= 12 && 20 * hit >= 19 * all && hit == right, "{hit} of {all}, {right} right");
    assert!(rms < 0.4, "{rms} frames");
}

#[test]
fn a_trot_that_passes_near_the_camera_times_itself() {
    let made = Conditions::drawn(TESTED_FROM, 60.0, Handling::Panning);
    let (all, hit, right, rms) = judged(&film("trot", 6, made));
    assert!(all >= 18 && 10 * hit >= 9 * all, "{hit} of {all}");
    assert!(20 * right >= 19 * hit && rms < 0.4, "{right} of {hit}, {rms} frames");
}

#[test]
fn a_lens_is_as_long_as_it_is_and_the_ground_stands_still_in_what_it_unrolls() {
    let made = Conditions {
        distance: 10.0,
        ..Conditions::drawn(TESTED_FROM + 5, 30.0, Handling::Panning)
    };
    let film = film("trot", 5, made);
    let (flat, rate) = (frames(&film), film.made.rate);
    let keys = Keys::of(&flat, rate);
    let long = focal(&flat, rate, &path(&flat, rate, &keys, None).to_first).unwrap();
    let truly = made.withers_px * made.distance / film.truth.ride.withers;
    assert!((long / truly - 1.0).abs() < 0.08, "{long:.0} of {truly:.0} pixels");
    let unrolled = Unrolled::new(made.size, long);
    let round: Vec<Layers> = flat.iter().map(|f| Layers::of(unrolled.of(f.picture()))).collect();
    let way = path(&round, rate, &keys, None);
    // A place on the ground under the horse, a third of a second later.
    let later = 10;
    let place = (300.0, 0.85 * made.size.1 as f64);
    for from in (0..film.frames() - later).step_by(7) {
        let seen = unrolled.back(place);
        let (x, _) = film.moved(from, from + later, seen.0, seen.1);
        let ground = way.to_first[from].of(place.0, place.1);
        let told = unrolled.back(way.to_first[from + later].back().of(ground.0, ground.1));
        let far = (x - seen.0).abs();
        assert!((told.0 - x).abs() < 0.012 * far + 0.5, "{from}: {:.2} of {far:.0}", told.0 - x);
    }
}

#[test]
fn the_cameras_way_past_the_horse_is_known_to_a_tenth_of_a_pixel() {
    // At each of these rates 50 ms are no whole number of frames, or the film is no whole number of them.
    for (rate, handling) in [
        (25.0, Handling::Panning),
        (30.0, Handling::Handheld),
        (50.0, Handling::Panning),
        (60.0, Handling::Panning),
    ] {
        let film = film("trot", 4, Conditions::drawn(TESTED_FROM + 8, rate, handling));
        let (wide, high) = film.made.size;
        let (wide, high) = (wide as f64, high as f64);
        let found = laid(frames(&film), rate, &[], &|_| {}).unwrap();
        let unrolled = found.unrolled.unwrap();
        let later = (0.05 * rate).round() as usize;
        let squares: Vec<f64> = (0..film.frames() - later)
            .map(|from| {
                // Between the legs, where a camera that follows the horse sees only ground that goes by.
                let seen = (0.5 * wide, 0.78 * high);
                let truth = film.moved(from, from + later, seen.0, seen.1);
                let place = unrolled.onto(seen);
                let ground = found.way.to_first[from].of(place.0, place.1);
                let told = found.way.to_first[from + later].back().of(ground.0, ground.1);
                let told = unrolled.back(told);
                (told.0 - truth.0).powi(2) + (told.1 - truth.1).powi(2)
            })
            .collect();
        let rms = (squares.iter().sum::<f64>() / squares.len() as f64).sqrt();
        assert!(rms < 0.1, "{rms} pixels at {rate} frames/s");
    }
}
