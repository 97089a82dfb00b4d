//! `umlauf suggest`: footfalls that a film tells of by itself, as a table to begin with.
//!
//! What is seen has a limb. A beat that only sounds has none: the table's `limb` stays empty until
//! someone says whose it was.

use std::path::PathBuf;

use anyhow::{Context as _, Result, ensure};
use clap::{Args, ValueEnum};
use umlauf_footage::probe::{self, Probe};
use umlauf_gait::base::limb::Side;

use crate::cli::input::positive;
use crate::suggest::heard::heard;
use crate::suggest::seen::{camera_name, seen, time_of};
use crate::suggest::suggestion::{
    Suggested, Suggestion, Unseen, gait, of_heard, of_seen, side_name, together,
};
use crate::suggest::table::table;

/// Options of a search.
#[derive(Args)]
pub struct Suggest {
    /// The film.
    footage: PathBuf,
    /// What is looked at: picture, sound, or both.
    #[arg(long = "use", value_delimiter = ',', default_value = "picture,sound")]
    sources: Vec<Source>,
    /// The side of the horse that is seen, where the way it goes does not tell it (rein-back).
    #[arg(long, value_parser = side)]
    near: Option<Side>,
    /// Distance of the camera from the horse, m: sound comes later by its way.
    #[arg(long, value_parser = positive)]
    distance: Option<f64>,
    /// The film is slowed by this factor.
    #[arg(long, value_parser = positive)]
    slow_factor: Option<f64>,
    /// Print one JSON document instead of a table.
    #[arg(long)]
    json: bool,
}

/// Where footfalls are looked for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
enum Source {
    /// Hooves that stand still in the pictures.
    Picture,
    /// Hoofbeats in the sound.
    Sound,
}

fn side(text: &str) -> Result<Side, String> {
    match text {
        "left" => Ok(Side::Left),
        "right" => Ok(Side::Right),
        _ => Err("left or right".to_owned()),
    }
}

/// Speed of sound, m/s, in air of 20 °C (any table of physics).
const SOUND: f64 = 343.0;

/// Looks at a film, listens to it, and prints what was found.
///
/// # Errors
/// When the film cannot be read.
pub fn run(args: &Suggest) -> Result<()> {
    let found = tokio::runtime::Runtime::new()?.block_on(search(args))?;
    if args.json {
        println!("{}", serde_json::to_string_pretty(&found)?);
    } else {
        print!("{}", table(&found));
    }
    Ok(())
}

async fn search(args: &Suggest) -> Result<Suggested> {
    let path = &args.footage;
    let probe =
        probe::probe(path).await.with_context(|| format!("{} cannot be read", path.display()))?;
    let slow = args.slow_factor.unwrap_or(1.0);
    ensure!(slow < 1e3, "--slow-factor {slow}: more than 1000 is no film");
    let mut found = Suggested::new();
    let mut reasons: Vec<String> = Vec::new();
    let mut eyes = Vec::new();
    if args.sources.contains(&Source::Picture) {
        match looked_at(args, &probe, slow, &mut found).await? {
            Ok(footfalls) => eyes = footfalls,
            Err(why) => reasons.push(why),
        }
    }
    let mut ears = Vec::new();
    if args.sources.contains(&Source::Sound) {
        match listened_to(args, &probe, slow).await? {
            Ok(beats) => ears = beats,
            Err(why) => reasons.push(why),
        }
    }
    if eyes.is_empty() && ears.is_empty() {
        return Ok(Suggested { refused: Some(reasons.join("; ")), ..found });
    }
    if eyes.is_empty() {
        found.footfalls = ears;
    } else {
        (found.footfalls, found.sound_late_s) = together(eyes, ears);
        found.gait = gait(&found.footfalls, probe.frame_rate().unwrap_or(30.0) * slow);
    }
    Ok(found)
}

async fn looked_at(
    args: &Suggest,
    probe: &Probe,
    slow: f64,
    found: &mut Suggested,
) -> Result<Result<Vec<Suggestion>, String>> {
    let Some(rate) = probe.frame_rate().map(|r| r * slow) else {
        return Ok(Err("the film is a single picture".to_owned()));
    };
    let times = &probe.frame_times;
    let time = |frame: f64| (time_of(times, frame) - time_of(times, 0.0)) / 1e6 / slow;
    #[expect(clippy::cast_precision_loss, reason = "frames of a film")]
    let at = |frame: usize| time(frame as f64);
    let whole = match seen(&args.footage, probe, rate, args.near).await? {
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
    args: &Suggest,
    probe: &Probe,
    slow: f64,
) -> Result<Result<Vec<Suggestion>, String>> {
    if !probe.has_sound {
        return Ok(Err("the film has no sound".to_owned()));
    }
    #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
    let seconds = |us: Option<&i64>| us.map_or(0.0, |us| *us as f64 / 1e6);
    let (first, last) = (seconds(probe.frame_times.first()), seconds(probe.frame_times.last()));
    let beats = match heard(&args.footage, first, last).await? {
        Ok(beats) => beats,
        Err(why) => return Ok(Err(why.to_owned())),
    };
    let late = args.distance.unwrap_or(0.0) / SOUND;
    let time = |at: f64| (at - first) / slow - late;
    Ok(Ok(beats.iter().map(|b| of_heard(b, time, slow)).collect()))
}
