//! Hoofbeats on the film's clock: a dull thud and a burst of sand for every footfall.

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

use crate::film::Film;
use crate::truth::Truth;

/// Samples per second.
pub const RATE: u32 = 48_000;

/// The film's sound, mono, −1 to 1. The beat starts at the footfall itself: no travel time.
pub fn hoofbeats(film: &Film) -> Vec<f32> {
    #[expect(clippy::cast_precision_loss, reason = "a short clip")]
    let length = film.frames() as f64 / film.shot.rate;
    hoofbeats_of(&film.truth, film.shot.margin_s, length)
}

/// The sound of `length` seconds that begin `margin_s` before a ride.
pub fn hoofbeats_of(truth: &Truth, margin_s: f64, length: f64) -> Vec<f32> {
    let rate = f64::from(RATE);
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a short clip")]
    let samples = (length * rate) as usize;
    let mut rng = ChaCha8Rng::seed_from_u64(truth.ride.seed ^ 0x50u64);
    let mut low = 0.0;
    let mut out: Vec<f64> = (0..samples)
        .map(|_| {
            // Wind over the flats.
            low += 0.02 * (rng.random_range(-1.0..1.0) - low);
            low * 0.05
        })
        .collect();
    for (limb, own) in truth.stances.iter().enumerate() {
        for s in own {
            let from = (s.on + margin_s) * rate;
            let heavy = 0.42 + 0.10 * rng.random::<f64>() + if limb < 2 { 0.06 } else { 0.0 };
            let pitch = 74.0 + 16.0 * rng.random::<f64>() + if limb < 2 { 8.0 } else { 0.0 };
            for k in 0..9600 {
                let place = from.ceil() + f64::from(k);
                if place < 0.0 || place >= length * rate - 1.0 {
                    continue;
                }
                let t = (place - from) / rate;
                let thud = (std::f64::consts::TAU * pitch * t).sin() * (-t / 0.035).exp();
                let sand = rng.random_range(-1.0..1.0) * 0.35 * (-t / 0.016).exp();
                let attack = 1.0 - (-t / 0.0008).exp();
                #[expect(
                    clippy::cast_possible_truncation,
                    clippy::cast_sign_loss,
                    reason = "checked above"
                )]
                let at = place as usize;
                out[at] += heavy * attack * (thud + sand);
            }
        }
    }
    #[expect(clippy::cast_possible_truncation, reason = "samples are f32")]
    out.into_iter().map(|v| (v * 0.8).tanh() as f32).collect()
}
