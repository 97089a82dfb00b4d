//! The tempo of a whole sound, from beats of which many are missed and some are none.

use crate::number::{count, place};
use crate::sound::rhythm::Rhythm;

/// Beats so many s apart are compared at most; this and what follows was chosen on drawn sounds that no test uses but
/// one.
const FARTHEST: f64 = 8.0;

/// A beat this part of a period from where it should be is still one.
const ROOM: f64 = 0.2;

/// Beats a number of periods apart are enough where they are this share of those one apart, as far as there is sound
/// for them.
const ENOUGH: f64 = 0.3;

/// So often the middle of those that are near is looked for anew.
const ROUNDS: usize = 3;

/// A rhythm told more exactly by `beats`, s in order of time, each with how sure it is: by those ever more periods
/// apart, for as long as enough of them come. The mean of all that lies between them is what is told, so that it is
/// that of the whole sound, and one stride longer or shorter than usual counts as one.
pub fn tempo(rhythm: Rhythm, beats: &[(f64, f64)]) -> Rhythm {
    let mut period = rhythm.period_s;
    let room = ROOM * period;
    let once = near(beats, period, room).1;
    let span = beats.last().zip(beats.first()).map_or(0.0, |(last, first)| last.0 - first.0);
    for times in 1..=place(FARTHEST / period) {
        let (mut about, mut weight) = (count(times) * period, 0.0);
        for _ in 0..ROUNDS {
            (about, weight) = near(beats, about, room);
        }
        if weight <= ENOUGH * once * (1.0 - about / span).max(0.0) {
            break;
        }
        period = about / count(times);
    }
    Rhythm { period_s: period, ..rhythm }
}

/// The mean time between beats that lie about a time apart, s, the nearer to it the more it counts, and their weight.
fn near(beats: &[(f64, f64)], about: f64, room: f64) -> (f64, f64) {
    let (mut sum, mut weights) = (0.0, 0.0);
    for (k, (at, sure)) in beats.iter().enumerate() {
        let from = k + beats[k..].partition_point(|b| b.0 - at < about - room);
        for (later, also) in beats[from..].iter().take_while(|b| b.0 - at < about + room) {
            let off = later - at - about;
            let weight = sure * also * (1.0 - (off / room).powi(2));
            sum += weight * off;
            weights += weight;
        }
    }
    (about + sum / weights.max(f64::MIN_POSITIVE), weights)
}
