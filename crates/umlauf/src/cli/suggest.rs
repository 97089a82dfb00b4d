//! `umlauf suggest`: hoofbeats that a film's sound tells of, as a table to begin with.
//!
//! A beat has no limb of its own: the table's `limb` stays empty until someone, or another source, says
//! whose it was.

use std::fmt::Write as _;
use std::path::{Path, PathBuf};

use anyhow::{Context as _, Result, ensure};
use clap::Args;
use serde::Serialize;
use umlauf_footage::probe;
use umlauf_footage::sound::{FINE_RATE, pieces};
use umlauf_signals::sound::beats::{Beat, beats};

use crate::cli::input::positive;

/// Options of a search.
#[derive(Args)]
pub struct Suggest {
    /// The film.
    footage: PathBuf,
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

/// What was found.
#[derive(Serialize)]
struct Suggested {
    schema: &'static str,
    /// Why nothing is suggested.
    refused: Option<String>,
    footfalls: Vec<Suggestion>,
}

/// A beat.
#[derive(Serialize)]
struct Suggestion {
    /// Not told by sound.
    limb: Option<&'static str>,
    /// True seconds from the first frame.
    on_s: f64,
    sd_on_s: f64,
    confidence: f64,
    source: &'static str,
    /// Why it is less than sure.
    why: String,
}

/// Speed of sound, m/s, in air of 20 °C (any table of physics).
const SOUND: f64 = 343.0;

/// Sound is listened to in stretches of so many seconds, with some more for the rhythm about their ends.
const STRETCH_S: f64 = 300.0;
const MORE_S: f64 = 8.0;

/// Beats fewer than these are noises.
const FEWEST: usize = 8;

/// Listens to a film and prints the hoofbeats heard.
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
    let refused = |why: &str| {
        Ok(Suggested { schema: SCHEMA, refused: Some(why.to_owned()), footfalls: Vec::new() })
    };
    if !probe.has_sound {
        return refused("the film has no sound, and only sound is listened to");
    }
    #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
    let seconds = |us: Option<&i64>| us.map_or(0.0, |us| *us as f64 / 1e6);
    let (first, last) = (seconds(probe.frame_times.first()), seconds(probe.frame_times.last()));
    let slow = args.slow_factor.unwrap_or(1.0);
    ensure!(slow < 1e3, "--slow-factor {slow}: more than 1000 is no film");
    let heard = listen(path, first, last).await?;
    if heard.len() < FEWEST {
        return refused("no hoofbeats are heard; film nearer, away from the wind and from speech");
    }
    let late = args.distance.unwrap_or(0.0) / SOUND;
    let footfalls = heard
        .iter()
        .map(|b| Suggestion {
            limb: None,
            on_s: (b.at_s - first) / slow - late,
            sd_on_s: b.sd_s / slow,
            confidence: b.confidence,
            source: "sound",
            why: why(b),
        })
        .collect();
    Ok(Suggested { schema: SCHEMA, refused: None, footfalls })
}

const SCHEMA: &str = "umlauf.suggest/1";

fn why(beat: &Beat) -> String {
    if beat.rings {
        "follows a louder sound, perhaps its echo".to_owned()
    } else if beat.confidence < 0.9 {
        "hardly louder than what is about it".to_owned()
    } else {
        String::new()
    }
}

/// Beats between two moments of the file's clock, stretch by stretch.
async fn listen(path: &Path, first: f64, last: f64) -> Result<Vec<Beat>> {
    let mut out: Vec<Beat> = Vec::new();
    let mut from = first;
    while from < last {
        let to = (from + STRETCH_S).min(last + 0.001);
        let begin = (from - MORE_S).max(0.0);
        let mut samples: Vec<f32> = Vec::new();
        pieces(path, begin, to + MORE_S - begin, |piece| samples.extend_from_slice(piece))
            .await
            .with_context(|| format!("the sound of {} cannot be read", path.display()))?;
        let heard = tokio::task::spawn_blocking(move || beats(&samples, FINE_RATE)).await?;
        let own = heard.beats.into_iter().map(|b| Beat { at_s: b.at_s + begin, ..b });
        out.extend(own.filter(|b| (from..to).contains(&b.at_s)));
        from = to;
    }
    Ok(out)
}

fn table(found: &Suggested) -> String {
    let mut out = String::new();
    if let Some(why) = &found.refused {
        let _ = writeln!(out, "# refused: {why}");
    }
    out.push_str("limb,on_s,off_s,x_m,y_m,x_px,y_px,sd_on_s,sd_off_s,confidence,source,why\n");
    for f in &found.footfalls {
        let _ = writeln!(
            out,
            ",{:.6},,,,,,{:.6},,{:.3},{},\"{}\"",
            f.on_s, f.sd_on_s, f.confidence, f.source, f.why
        );
    }
    out
}
