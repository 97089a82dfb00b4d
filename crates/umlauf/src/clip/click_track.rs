//! The click track of an analysis: at the tempo measured, bout by bout, or at a target.

use std::io::Cursor;

use anyhow::{Context as _, Result};
use umlauf_gait::Analysis;
use umlauf_signals::click::{self, Click};

/// Longest track, s: an hour.
pub const LONGEST_S: f64 = 3600.0;

/// A WAV file of clicks. At the tempo measured each bout has its own mean tempo from its start to
/// its end, so that beside the footage a drift is heard; with `target` (strides/min) the clicks
/// run evenly from the first stride to the last. `on_film` turns true seconds into seconds of the
/// track.
///
/// # Errors
/// When the analysis has no tempo, or the track would be longer than [`LONGEST_S`].
pub fn wav(
    analysis: &Analysis,
    target: Option<f64>,
    on_film: impl Fn(f64) -> f64,
) -> Result<Vec<u8>> {
    let timed: Vec<_> = analysis.bouts.iter().filter_map(|b| Some((b, b.tempo?))).collect();
    let (first, _) = timed.first().context("no bout has a tempo yet: mark a few strides first")?;
    let end = on_film(timed.last().map_or(0.0, |(b, _)| b.end_s));
    anyhow::ensure!(end <= LONGEST_S, "a click track may be an hour long; cut the clip shorter");
    let beats = |b: &umlauf_gait::bouts::bout_figures::BoutFigures| match b.label.gait.beats() {
        Some(beats) if beats < 2.5 => 2,
        Some(beats) if beats < 3.5 => 3,
        Some(_) => 4,
        None => 1,
    };
    // A film slowed by a factor has its strides slowed with it.
    let slowed = |tempo: f64| tempo / (on_film(1.0) - on_film(0.0));
    let clicks: Vec<Click> = match target {
        Some(tempo) => click::even(on_film(first.start_s), end, slowed(tempo), beats(first)),
        None => timed
            .iter()
            .flat_map(|(b, t)| {
                let (from, to) = (on_film(b.start_s), on_film(b.end_s));
                click::even(from, to, slowed(t.tempo.value), beats(b))
            })
            .collect(),
    };
    let spec = hound::WavSpec {
        channels: 1,
        sample_rate: click::RATE,
        bits_per_sample: 16,
        sample_format: hound::SampleFormat::Int,
    };
    let mut out = Cursor::new(Vec::new());
    let mut writer = hound::WavWriter::new(&mut out, spec)?;
    for sample in click::track(&clicks, end + 0.05) {
        writer.write_sample(sample)?;
    }
    writer.finalize()?;
    Ok(out.into_inner())
}
