//! Hoofbeats against sound whose truth is known, other than the one it was made with.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{Going, Noise, RATE, scene};
use umlauf_signals::sound::beats::{Beat, beats};
use umlauf_signals::sound::onset::onset;
use umlauf_signals::sound::rhythm::Rhythm;

/// Beats found, made up and missed, and errors of those found in s and in their own deviations.
#[derive(Default)]
struct Count {
    found: usize,
    made_up: usize,
    missed: usize,
    errors: Vec<(f64, f64)>,
}

impl Count {
    fn add(&mut self, truth: &[f64], heard: &[Beat]) {
        let mut taken = vec![false; heard.len()];
        for on in truth {
            let near = |k: &usize| !taken[*k] && (heard[*k].at_s - on).abs() < 0.02;
            let apart = |k: usize| (heard[k].at_s - on).abs();
            let best = (0..heard.len()).filter(near).min_by(|a, b| apart(*a).total_cmp(&apart(*b)));
            if let Some(k) = best {
                taken[k] = true;
                self.found += 1;
                self.errors.push((heard[k].at_s - on, heard[k].sd_s));
            } else {
                self.missed += 1;
            }
        }
        self.made_up += taken.iter().filter(|t| !**t).count();
    }

    /// Twice the beats found by all that are true and all that were told.
    fn f1(&self) -> f64 {
        let n = |n: usize| n as f64;
        2.0 * n(self.found) / n(2 * self.found + self.made_up + self.missed)
    }

    fn rms(&self) -> f64 {
        (self.errors.iter().map(|(e, _)| e * e).sum::<f64>() / self.errors.len() as f64).sqrt()
    }
}

const GOING: [Going; 3] = [Going::Walk, Going::Trot, Going::Canter];

#[test]
fn beats_are_found_to_milliseconds_through_noise() {
    for (noise, snr, f1, rms) in [
        (Noise::Hiss, 10.0, 0.98, 0.003),
        (Noise::Hiss, 0.0, 0.95, 0.004),
        (Noise::Wind, 10.0, 0.93, 0.004),
        (Noise::Notes, 10.0, 0.95, 0.003),
        (Noise::Speech, 10.0, 0.90, 0.0035),
    ] {
        let mut count = Count::default();
        for (k, going) in GOING.into_iter().enumerate() {
            for seed in 0..2 {
                let scene = scene(going, noise, snr, 9000 + 10 * k as u64 + seed);
                count.add(&scene.beats, &beats(&scene.samples, RATE).beats);
            }
        }
        assert!(count.f1() > f1, "{noise:?} {snr} dB: {:.3}", count.f1());
        assert!(count.rms() < rms, "{noise:?} {snr} dB: {:.4} s", count.rms());
        // What is told of the errors holds, and is not idle.
        let within = count.errors.iter().filter(|(e, sd)| e.abs() < 2.0 * sd).count() as f64;
        assert!(within / count.errors.len() as f64 > 0.9, "{noise:?} {snr} dB: {within}");
        assert!(count.errors.iter().all(|(_, sd)| *sd < 0.015));
    }
}

#[test]
fn the_rhythm_is_heard_where_single_beats_are_not() {
    for (k, going) in GOING.into_iter().enumerate() {
        let scene = scene(going, Noise::Hiss, 0.0, 9100 + k as u64);
        let heard = beats(&scene.samples, RATE);
        let rhythm = heard.rhythms[7].unwrap();
        // Even beats repeat from one to the next, those of a canter from stride to stride.
        let beats = match going {
            Going::Walk => 4.0,
            Going::Trot => 2.0,
            Going::Canter => 1.0,
        };
        let apart = rhythm.period_s * beats / scene.stride_s - 1.0;
        assert!(apart.abs() < 0.015, "{going:?}: {apart:.4}");
    }
}

#[test]
fn a_tempo_is_heard_within_one_percent_where_the_noise_is_as_loud_as_the_hooves() {
    let noises = [Noise::Hiss, Noise::Wind, Noise::Notes, Noise::Speech];
    let (mut within, mut all) = (0, 0);
    for (noise, going) in noises.into_iter().flat_map(|n| GOING.map(|g| (n, g))) {
        for seed in 0..2 {
            let scene = scene(going, noise, 0.0, 9150 + seed);
            all += 1;
            // A walk of two even halves may come round twice a stride.
            let fits = |r: Rhythm| {
                let off = |beats: f64| (r.period_s * beats / scene.stride_s - 1.0).abs() < 0.01;
                off(1.0)
                    || (going != Going::Canter && off(2.0))
                    || (going == Going::Walk && off(4.0))
            };
            within += i32::from(beats(&scene.samples, RATE).whole.is_some_and(fits));
        }
    }
    assert!(within >= all - 1, "{within} of {all}");
}

#[test]
fn what_is_no_hoof_is_hardly_ever_one() {
    // Noise alone, silence, a constant, and sound that is no number.
    let hiss = scene(Going::Trot, Noise::Hiss, -60.0, 9200);
    assert!(beats(&hiss.samples, RATE).beats.len() < 8);
    for samples in [vec![0.0; 96_000], vec![0.7; 96_000], vec![f32::NAN; 96_000], Vec::new()] {
        assert!(beats(&samples, RATE).beats.is_empty());
    }
    // Too coarse to listen to.
    assert!(beats(&hiss.samples, 8_000).beats.is_empty());
}

#[test]
fn a_beginning_is_told_to_the_sample_where_sound_begins_at_once() {
    // A tone over a hum, from sample 700 on.
    let sample = |k: usize| {
        let t = k as f64;
        let hum = 0.1 * (0.05 * t).sin() + 0.01 * (1.7 * t * t).sin();
        (hum + if k >= 700 { 0.5 * (0.9 * (t - 700.0)).cos() } else { 0.0 }) as f32
    };
    let samples: Vec<f32> = (0..1000).map(sample).collect();
    let found = onset(&samples, 620..760, 300).unwrap();
    assert!(found.sample.abs_diff(700) <= 1, "{found:?}");
    assert!(found.sd < 2.0 && found.rise_db > 10.0, "{found:?}");
    // No room to listen before, or nothing to look at.
    assert_eq!(onset(&samples, 10..60, 300), None);
    assert_eq!(onset(&samples, 990..1100, 300), None);
}
