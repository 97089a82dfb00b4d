//! `umlauf analyse`: a footfalls table in, words or JSON out.

use std::path::{Path, PathBuf};

use anyhow::{Context as _, Result};
use clap::Args;
use umlauf_gait::base::limb::UnknownSide;
use umlauf_gait::base::schools::Schools;
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::marks::{captions, marks_csv};
use umlauf_gait::{Footfall, Side};

use crate::cli::input::{self, positive};
use crate::clip::click_track;
use crate::document::summary::summary;
use crate::document::table::{self, Given};
use crate::document::whole::document;

/// Options of an analysis.
#[derive(Args)]
pub struct Analyse {
    /// The table, or - for standard input.
    footfalls: PathBuf,
    /// Marks beside the footfalls: aids, movements, letters.
    #[arg(long)]
    marks: Option<PathBuf>,
    /// Rein ridden: left or right.
    #[arg(long, value_parser = side)]
    rein: Option<Side>,
    /// Canter lead asked for: left or right.
    #[arg(long, value_parser = side)]
    asked_lead: Option<Side>,
    /// Capture rate, frames/s.
    #[arg(long, value_parser = frame_rate)]
    frame_rate: Option<FrameRate>,
    /// Standard deviation of a mark's time, s.
    #[arg(long, value_parser = positive)]
    timing_sd: Option<f64>,
    /// Height at the withers, m.
    #[arg(long, value_parser = positive)]
    withers: Option<f64>,
    /// The intended gait may be a four-beat gait other than walk.
    #[arg(long)]
    gaited: bool,
    /// A school, as matter=school; may be given several times. Example: `--school counting=beats`
    #[arg(long)]
    school: Vec<String>,
    /// The horse's degree of collection, 1 to 4: from 2 on direct transitions are expected.
    #[arg(long, value_parser = clap::value_parser!(u8).range(1..=4))]
    degree: Option<u8>,
    /// Write footfall captions (WebVTT) to this file.
    #[arg(long)]
    captions: Option<PathBuf>,
    /// Write a click track (WAV) to this file, at the tempo measured or at --click-tempo.
    #[arg(long)]
    clicks: Option<PathBuf>,
    /// Tempo of the click track, strides/min.
    #[arg(long, value_parser = positive, requires = "clicks")]
    click_tempo: Option<f64>,
    /// Print one JSON document instead of text.
    #[arg(long)]
    json: bool,
}

fn side(text: &str) -> Result<Side, UnknownSide> {
    text.parse()
}

fn frame_rate(text: &str) -> Result<FrameRate, String> {
    let rate = text.parse().map_err(|_| "must be a number of frames/s".to_owned())?;
    FrameRate::new(rate).map_err(|e| e.to_string())
}

/// Analyses a table and prints what was found.
///
/// # Errors
/// When a table is refused or a file cannot be read or written.
pub fn run(args: &Analyse) -> Result<()> {
    let marks = match &args.marks {
        Some(path) => marks_csv::read(&input::read(path)?)
            .with_context(|| format!("{} was refused", path.display()))?,
        None => Vec::new(),
    };
    let mut schools = Schools::default();
    for text in &args.school {
        table::choose_school(&mut schools, text)
            .map_err(|e| anyhow::anyhow!("--school {text}: {e}"))?;
    }
    let given = Given {
        marks,
        schools,
        degree: args.degree,
        rein: args.rein,
        asked_lead: args.asked_lead,
        frame_rate: args.frame_rate,
        timing_sd: args.timing_sd.map(Seconds),
        withers: args.withers.map(Metres),
        gaited: args.gaited,
    };
    let bytes = input::read(&args.footfalls)?;
    let (analysis, footfalls) = table::table(&bytes, &given)
        .with_context(|| format!("{} was refused", args.footfalls.display()))?;
    let put = |path: &Path, bytes: &[u8]| {
        std::fs::write(path, bytes).with_context(|| format!("{} cannot be written", path.display()))
    };
    if let Some(path) = &args.captions {
        put(path, captions::webvtt(&footfalls, |s| s).as_bytes())?;
    }
    if let Some(path) = &args.clicks {
        put(path, &click_track::wav(&analysis, args.click_tempo, |s| s)?)?;
    }
    let document = document(&analysis);
    if args.json {
        println!("{}", serde_json::to_string_pretty(&document)?);
    } else {
        print!("{}", summary(&document));
        if let Some(says) = nobody_looked(&footfalls) {
            println!("\n{says}");
        }
    }
    Ok(())
}

/// What rests on suggestions says so.
fn nobody_looked(footfalls: &[Footfall]) -> Option<String> {
    let n = footfalls.iter().filter(|f| f.origin.is_unseen()).count();
    (n > 0).then(|| {
        format!(
            "Nobody has looked at {n} of {} footfalls: they are suggestions. Look at what is said of them before \
             you act on it, above all at left against right.",
            footfalls.len()
        )
    })
}
