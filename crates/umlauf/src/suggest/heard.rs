//! Hoofbeats in a film's sound, stretch by stretch.

use std::path::Path;

use anyhow::{Context as _, Result};
use umlauf_footage::sound::{FINE_RATE, pieces};
use umlauf_signals::sound::beats::{Beat, beats};

use crate::suggest::giving_way::giving_way;

/// Sound is listened to in stretches of so many seconds, with some more for the rhythm about their ends.
const STRETCH_S: f64 = 300.0;
const MORE_S: f64 = 8.0;

/// Beats fewer than these are noises.
const FEWEST: usize = 8;

/// Beats between two moments of the file's clock.
///
/// # Errors
/// When the sound cannot be read.
pub async fn heard(path: &Path, first: f64, last: f64) -> Result<Result<Vec<Beat>, &'static str>> {
    let mut out: Vec<Beat> = Vec::new();
    let mut from = first;
    while from < last {
        let to = (from + STRETCH_S).min(last + 0.001);
        let begin = (from - MORE_S).max(0.0);
        let mut samples: Vec<f32> = Vec::new();
        pieces(path, begin, to + MORE_S - begin, |piece| samples.extend_from_slice(piece))
            .await
            .with_context(|| format!("the sound of {} cannot be read", path.display()))?;
        let heard = giving_way(move || beats(&samples, FINE_RATE)).await?;
        let own = heard.beats.into_iter().map(|b| Beat { at_s: b.at_s + begin, ..b });
        out.extend(own.filter(|b| (from..to).contains(&b.at_s)));
        from = to;
    }
    if out.len() < FEWEST {
        return Ok(Err("no hoofbeats are heard; film nearer, away from the wind and from speech"));
    }
    Ok(Ok(out))
}

/// Why a beat is less than sure.
pub fn why(beat: &Beat) -> String {
    if beat.rings {
        "follows a louder sound, perhaps its echo".to_owned()
    } else if beat.confidence < 0.9 {
        "hardly louder than what is about it".to_owned()
    } else {
        String::new()
    }
}
