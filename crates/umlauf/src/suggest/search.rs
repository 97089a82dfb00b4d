//! A film is looked at and listened to, and what was found is put together.

use std::path::Path;

use anyhow::{Context as _, Result};
use umlauf_footage::probe::Probe;
use umlauf_gait::Footfall;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_signals::picture::follow::Click as OnHoof;

use crate::suggest::felt::Sensed;
use crate::suggest::heard::heard;
use crate::suggest::known::about_known;
use crate::suggest::seen::{Known, camera_name, seen, time_of};
use crate::suggest::suggestion::{
    Suggested, Suggestion, Trunk, Unseen, gait, of_heard, of_seen, side_name, side_of, together,
};
use crate::suggest::with_sensors::joined;
use crate::suggest::worn::{Click, Shown, learned, of_the};

/// What is asked of a film.
#[derive(Clone, Copy, Debug)]
pub struct Ask {
    /// Its pictures are looked at.
    pub picture: bool,
    /// Its sound is listened to.
    pub sound: bool,
    /// The side of the horse that is seen, where it was said.
    pub near: Option<Side>,
    /// Distance of the camera from the horse, m.
    pub distance_m: Option<f64>,
    /// How many times slower the file runs than the world.
    pub slow: f64,
}

/// What is known of a film beside it.
#[derive(Clone, Debug, Default)]
pub struct Given {
    /// What sensors felt meanwhile.
    pub sensed: Option<Sensed>,
    /// Footfalls that somebody has labelled.
    pub known: Vec<Footfall>,
    /// Wraps that were shown.
    pub wraps: Vec<(Limb, Shown)>,
    /// Hooves that were shown as they stand.
    pub hooves: Vec<(Limb, Click)>,
}

/// Speed of sound, m/s, in air of 20 °C (any table of physics).
const SOUND: f64 = 343.0;

/// Looks at a film and listens to it; `given` is what is known besides. `done` is told the share that is
/// looked at.
///
/// # Errors
/// When the film cannot be read.
pub async fn search(
    path: &Path,
    probe: &Probe,
    ask: Ask,
    given: &Given,
    done: &(dyn Fn(f64) + Sync),
) -> Result<Suggested> {
    let mut found = Suggested::new();
    let mut reasons: Vec<String> = Vec::new();
    let mut ears = Vec::new();
    if ask.sound {
        match listened_to(path, probe, ask).await? {
            Ok(beats) => ears = beats,
            Err(why) => reasons.push(why),
        }
    }
    let mut eyes = Vec::new();
    if ask.picture {
        match looked_at(path, probe, ask, given, &mut found, done).await? {
            Ok(footfalls) => eyes = footfalls,
            Err(why) => reasons.insert(0, why),
        }
    }
    let near = found.near.and_then(side_of);
    let beats: Vec<f64> = ears.iter().map(|b| b.on_s).collect();
    if eyes.is_empty() {
        found.footfalls = ears;
    } else {
        (found.footfalls, found.sound_late_s) = together(eyes, &ears);
    }
    if let Some(sensed) = &given.sensed {
        let all = joined(found.footfalls, &beats, sensed);
        found.footfalls = all.footfalls;
        found.sensor_late_s = all.late_s;
        found.sensors = all.says;
        found.trunk = sensed.trunk.map(Trunk::of);
    }
    if found.footfalls.is_empty() && found.trunk.is_none() {
        return Ok(Suggested { refused: Some(reasons.join("; ")), ..found });
    }
    if !given.known.is_empty() {
        about_known(&mut found.footfalls, near, &given.known);
    }
    if found.footfalls.iter().any(|f| f.limb.is_some()) {
        found.gait = gait(&found.footfalls, probe.frame_rate().unwrap_or(30.0) * ask.slow);
    }
    Ok(found)
}

async fn looked_at(
    path: &Path,
    probe: &Probe,
    ask: Ask,
    given: &Given,
    found: &mut Suggested,
    done: &(dyn Fn(f64) + Sync),
) -> Result<Result<Vec<Suggestion>, String>> {
    let slow = ask.slow;
    let Some(rate) = probe.frame_rate().map(|r| r * slow) else {
        return Ok(Err("the film is a single picture".to_owned()));
    };
    let times = &probe.frame_times;
    let time = |frame: f64| (time_of(times, frame) - time_of(times, 0.0)) / 1e6 / slow;
    #[expect(clippy::cast_precision_loss, reason = "frames of a film")]
    let at = |frame: usize| time(frame as f64);
    let wraps = learned(path, probe, slow, &given.wraps).await?;
    let clicks: Vec<OnHoof> = given
        .hooves
        .iter()
        .map(|(limb, click)| {
            let frame = click.frame(times, slow).with_context(|| of_the("hoof", *limb))?;
            Ok(OnHoof { limb: *limb, frame, at: (click.x, click.y) })
        })
        .collect::<Result<_>>()?;
    let known = Known { rate, near: ask.near, wraps: &wraps, clicks: &clicks };
    let whole = match seen(path, probe, known, done).await? {
        Ok(whole) => whole,
        Err(why) => {
            let (why, to_s) = (why.to_string(), at(times.len() - 1));
            found.unseen.push(Unseen { from_s: 0.0, to_s, why: why.clone() });
            return Ok(Err(why));
        }
    };
    found.camera = Some(camera_name(whole.camera));
    found.near = Some(side_name(whole.near));
    found.unseen = whole
        .unseen
        .iter()
        .map(|(from, to, why)| Unseen { from_s: at(*from), to_s: at(*to), why: why.to_string() })
        .collect();
    Ok(Ok(whole.footfalls.iter().map(|s| of_seen(s, time, 1.0 / rate)).collect()))
}

async fn listened_to(
    path: &Path,
    probe: &Probe,
    ask: Ask,
) -> Result<Result<Vec<Suggestion>, String>> {
    if !probe.has_sound {
        return Ok(Err("the film has no sound".to_owned()));
    }
    #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
    let seconds = |us: Option<&i64>| us.map_or(0.0, |us| *us as f64 / 1e6);
    let (first, last) = (seconds(probe.frame_times.first()), seconds(probe.frame_times.last()));
    let beats = match heard(path, first, last).await? {
        Ok(beats) => beats,
        Err(why) => return Ok(Err(why.to_owned())),
    };
    let late = ask.distance_m.unwrap_or(0.0) / SOUND;
    let time = |at: f64| (at - first) / ask.slow - late;
    Ok(Ok(beats.iter().map(|b| of_heard(b, time, ask.slow)).collect()))
}
