//! Hoofbeats drawn with a truth of their own, duller than the demo's: no two alike, in sand that swallows
//! the knock, under wind, hiss, notes or speech, with an echo off a wall.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(
    clippy::cast_precision_loss,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "samples of a short sound"
)]

use std::f64::consts::TAU;

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

pub const RATE: u32 = 48_000;
const R: f64 = 48_000.0;
const LENGTH_S: f64 = 14.0;

/// What else sounds.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Noise {
    Hiss,
    Wind,
    Notes,
    Speech,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Going {
    Walk,
    Trot,
    Canter,
}

pub struct Scene {
    pub samples: Vec<f32>,
    /// Beats, s: footfalls within 32 ms of the one before are one beat.
    pub beats: Vec<f64>,
    /// Mean stride, s.
    pub stride_s: f64,
}

struct Chance(ChaCha8Rng);

impl Chance {
    fn between(&mut self, from: f64, to: f64) -> f64 {
        self.0.random_range(from..to)
    }

    fn normal(&mut self) -> f64 {
        (0..12).map(|_| self.0.random::<f64>()).sum::<f64>() - 6.0
    }
}

/// A ride of 14 s: mean power of the beats' first 60 ms over the noise's is `snr_db`.
pub fn scene(going: Going, noise: Noise, snr_db: f64, seed: u64) -> Scene {
    let mut chance = Chance(ChaCha8Rng::seed_from_u64(seed));
    let n = (LENGTH_S * R) as usize;
    let (footfalls, stride_s) = ride(going, &mut chance);
    let mut clean = vec![0.0; n];
    // Firm ground knocks up to 4 kHz, deep sand thuds below 250 Hz.
    let dull = 250.0 * 10f64.powf(chance.between(0.0, 1.2));
    footfalls.iter().for_each(|on| beat(&mut clean, *on, dull, &mut chance));
    let sounding: Vec<f64> = footfalls
        .iter()
        .flat_map(|on| clean[(on * R) as usize..].iter().take((0.06 * R) as usize))
        .map(|v| v * v)
        .collect();
    let power = sounding.iter().sum::<f64>() / sounding.len() as f64;
    let mut other = vec![0.0; n];
    match noise {
        Noise::Hiss => other.iter_mut().for_each(|v| *v = chance.between(-1.0, 1.0)),
        Noise::Wind => wind(&mut other, &mut chance),
        Noise::Notes => notes(&mut other, &mut chance),
        Noise::Speech => speech(&mut other, &mut chance),
    }
    let own = other.iter().map(|v| v * v).sum::<f64>() / n as f64;
    let gain = (power / own / 10f64.powf(snr_db / 10.0)).sqrt();
    let mut mix: Vec<f64> = clean.iter().zip(&other).map(|(a, b)| a + gain * b).collect();
    if seed.is_multiple_of(2) {
        let late = (chance.between(0.02, 0.07) * R) as usize;
        (late..n).rev().for_each(|k| mix[k] += 0.3 * mix[k - late]);
    }
    let most = mix.iter().fold(0.0f64, |m, v| m.max(v.abs()));
    let mut beats: Vec<f64> = Vec::new();
    for on in footfalls {
        if beats.last().is_none_or(|last| on - last > 0.032) {
            beats.push(on);
        }
    }
    let samples = mix.iter().map(|v| (0.8 * v / most) as f32).collect();
    Scene { samples, beats, stride_s }
}

fn ride(going: Going, chance: &mut Chance) -> (Vec<f64>, f64) {
    let (places, usual) = match going {
        Going::Walk => ([0.0, 0.25, 0.5, 0.75], chance.between(0.95, 1.2)),
        Going::Trot => ([0.0, 0.01, 0.5, 0.51], chance.between(0.68, 0.84)),
        Going::Canter => ([0.0, 0.29, 0.31, 0.58], chance.between(0.55, 0.68)),
    };
    let (mut out, mut now, mut strides) = (Vec::new(), 1.0, 0.0);
    while now < LENGTH_S - 1.5 {
        let stride = usual * (1.0 + 0.015 * chance.normal());
        out.extend(places.map(|p| now + (p + 0.004 * chance.normal()) * stride));
        now += stride;
        strides += 1.0;
    }
    out.sort_by(f64::total_cmp);
    (out, (now - 1.0) / strides)
}

/// A thud of some ten hertz and a burst of sand, both through what the ground lets pass.
fn beat(out: &mut [f64], on: f64, dull: f64, chance: &mut Chance) {
    let loud = 10f64.powf(chance.between(-0.3, 0.3));
    let (pitch, rise) = (chance.between(60.0, 110.0), chance.between(0.0005, 0.003));
    let passes = 1.0 - (-TAU * dull / R).exp();
    let (start, mut passed) = (on * R, 0.0);
    for k in 0..7200 {
        let at = start.ceil() as usize + k;
        let Some(sample) = out.get_mut(at) else { return };
        let t = (at as f64 - start) / R;
        let sand = 0.8 * chance.between(-1.0, 1.0) * (-t / 0.015).exp();
        passed += passes * ((TAU * pitch * t).sin() * (-t / 0.03).exp() + sand - passed);
        *sample += loud * passed * (1.0 - (-t / rise).exp());
    }
}

fn wind(out: &mut [f64], chance: &mut Chance) {
    let (mut low, mut high, mut gust) = (0.0, 0.0, 1.0);
    for v in out {
        low += 0.02 * (chance.between(-1.0, 1.0) - low);
        high += 0.3 * (chance.between(-1.0, 1.0) - high);
        gust += 0.0005 * (chance.between(0.2, 2.0) - gust);
        *v = gust * (4.0 * low + 0.3 * high);
    }
}

/// Three notes on every beat of a tune.
fn notes(out: &mut [f64], chance: &mut Chance) {
    let step = 60.0 / chance.between(85.0, 130.0);
    for k in 0..(LENGTH_S / step) as usize {
        for _ in 0..3 {
            let pitch = 110.0 * 2f64.powf(f64::from(chance.0.random_range(0..24)) / 12.0);
            for (j, v) in out[(k as f64 * step * R) as usize..].iter_mut().enumerate().take(60_000)
            {
                let t = j as f64 / R;
                let swell = (1.0 - (-t / 0.01).exp()) * (-t / 0.4).exp();
                *v += swell * ((TAU * pitch * t).sin() + 0.4 * (2.0 * TAU * pitch * t).sin());
            }
        }
    }
}

/// Syllables of a voice: harmonics through two formants.
fn speech(out: &mut [f64], chance: &mut Chance) {
    let mut from = 0;
    while from < out.len() {
        let length = (chance.between(0.12, 0.35) * R) as usize;
        let pitch = chance.between(100.0, 220.0);
        let formants = [chance.between(300.0, 800.0), chance.between(900.0, 2200.0)];
        for (k, v) in out[from..].iter_mut().enumerate().take(length) {
            let t = k as f64 / R;
            let swell = (0.5 * TAU * k as f64 / length as f64).sin().powf(0.5);
            for harmonic in 1..12 {
                let f = pitch * f64::from(harmonic);
                let through =
                    |formant: f64, wide: f64| 1.0 / (1.0 + ((f - formant) / wide).powi(2));
                let loud = through(formants[0], 120.0) + 0.6 * through(formants[1], 150.0) + 0.02;
                *v += swell * loud * (TAU * f * t).sin();
            }
        }
        from += length + (chance.between(0.03, 0.3) * R) as usize;
    }
}
