//! The same films with their sound: what was seen, joined with the beats that are heard.

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::Limb;
use umlauf_signals::fusion::{Moment, Told, joined};
use umlauf_signals::picture::seen::Seen;
use umlauf_signals::sound::beats::beats;

use crate::flat::canvas::count;
use crate::flat::film::{FlatFilm, MARGIN_S};
use crate::sound::{RATE, hoofbeats_of};

/// Hiss lies so far below the beats' first 60 ms, dB.
const SNR_DB: f64 = 10.0;

/// A beat is loud for so long, s.
const LOUD_S: f64 = 0.06;

/// Sound comes so much later than the picture, s: by its way, and by how the film was cut.
const LATE_S: std::ops::Range<f64> = -0.03..0.08;

/// The film's sound, late by what its seed says, in hiss.
fn sound(film: &FlatFilm) -> Vec<f32> {
    let mut rng = ChaCha8Rng::seed_from_u64(film.truth.ride.seed ^ 0x51);
    let margin_s = MARGIN_S + rng.random_range(LATE_S);
    let mut out = hoofbeats_of(&film.truth, margin_s, count(film.frames()) / film.made.rate);
    let rate = f64::from(RATE);
    let loud: Vec<f64> = film
        .truth
        .stances
        .iter()
        .flatten()
        .flat_map(|s| {
            let from = (s.on + margin_s).max(0.0) * rate;
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "samples")]
            let (from, long) = (from as usize, (LOUD_S * rate) as usize);
            out.iter().skip(from).take(long).map(|v| f64::from(v * v)).collect::<Vec<f64>>()
        })
        .collect();
    let power = loud.iter().sum::<f64>() / count(loud.len().max(1));
    // Even noise from −1 to 1 has a third of full power.
    let gain = (3.0 * power / 10f64.powf(SNR_DB / 10.0)).sqrt();
    #[expect(clippy::cast_possible_truncation, reason = "samples are f32")]
    out.iter_mut().for_each(|v| *v += (gain * rng.random_range(-1.0..1.0)) as f32);
    out
}

/// What was seen in a film with what is heard of it; as it was seen where no offset fits. A beat that is of no known
/// limb is none of a footfall.
pub fn with_sound(film: &FlatFilm, seen: &[Seen]) -> Vec<Seen> {
    let rate = film.made.rate;
    let eyes: Vec<Told> = seen
        .iter()
        .map(|s| Told {
            limb: Some(s.limb),
            on: Moment { at: s.on / rate, sd: s.on_sd / rate },
            confidence: s.confidence,
        })
        .collect();
    let ears: Vec<Told> = beats(&sound(film), RATE)
        .beats
        .iter()
        .map(|b| Told {
            limb: None,
            on: Moment { at: b.at_s, sd: b.sd_s },
            confidence: b.confidence,
        })
        .collect();
    let Some((both, _)) = joined(&eyes, &ears) else { return seen.to_vec() };
    let alike = |limb: Limb| seen.iter().find(|s| s.limb == limb);
    both.into_iter()
        .filter_map(|f| {
            let (on, on_sd, limb) = (f.told.on.at * rate, f.told.on.sd * rate, f.told.limb?);
            let own = match f.seen {
                Some(k) => seen[k].clone(),
                None => Seen { off: None, heel_off: None, ..alike(limb)?.clone() },
            };
            Some(Seen { on, on_sd, limb, confidence: f.told.confidence, ..own })
        })
        .collect()
}
