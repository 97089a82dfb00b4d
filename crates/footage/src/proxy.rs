//! A proxy for the desk: every frame a key frame, so that a step either way is one decode.
//!
//! Measured in headless Chromium: H.264 with only key frames seeks in about 20 ms, with the usual
//! groups of pictures in about 500 ms. The picture is upright, at most 1920 pixels long and has
//! even sides. The proxy's clock begins at 0; otherwise its frames stand as far apart as the
//! original's, and that is checked frame for frame.

use std::ffi::OsString;
use std::path::Path;
use std::time::Duration;

use crate::child;
use crate::error::FootageError;
use crate::probe::probe;

/// What a proxy shows of its original.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Shown {
    /// How many frames, from the first: all, but for a file that breaks off, whose last ones
    /// cannot be decoded.
    pub frames: usize,
    /// What is to be added to a time of the proxy for that of the original, µs.
    pub shift_us: i64,
}

/// Makes a proxy of `original`, whose frames are shown at `times` (µs), at `into`.
/// `share_done` hears of the progress, 0 to 1. An unfinished or wrong proxy is removed.
///
/// # Errors
/// As [`check`].
pub async fn make(
    original: &Path,
    times: &[i64],
    into: &Path,
    mut share_done: impl FnMut(f64),
) -> Result<Shown, FootageError> {
    let result = match encode(original, times, into, |share| share_done(MADE * share)).await {
        Ok(()) => check(into, times, |share| share_done(MADE + (1.0 - MADE) * share)).await,
        Err(e) => Err(e),
    };
    if result.is_err() {
        // Nothing to remove is fine.
        let _ = tokio::fs::remove_file(into).await;
    }
    result
}

/// Sides even, the longer one at most 1920 pixels, the shape kept.
const SIZE: &str = "scale=w='if(gte(iw,ih),trunc(min(iw,1920)/2)*2,-2)'\
                    :h='if(gte(iw,ih),-2,trunc(min(ih,1920)/2)*2)'";

/// Share of the work that is done when a proxy is made and not yet checked.
const MADE: f64 = 0.8;

/// Checks a proxy: its frames stand where the original's do, and every one of them can be decoded.
///
/// # Errors
/// [`FootageError::ProxyTimes`] when the frames are not the original's, [`FootageError::Broken`] when some cannot be
/// shown, and what the child processes may meet.
pub async fn check(
    made: &Path,
    times: &[i64],
    mut share_done: impl FnMut(f64),
) -> Result<Shown, FootageError> {
    let shown = matched(&probe(made).await?.frame_times, times).ok_or(FootageError::ProxyTimes)?;
    let mut args: Vec<OsString> = PROGRESS.map(OsString::from).to_vec();
    args.extend(["-xerror", "-err_detect", "explode"].map(OsString::from));
    args.extend(child::fenced(made));
    args.extend(["-map", "0:V:0", "-fps_mode", "passthrough", "-f", "null", "-"].map(Into::into));
    let mut got = 0;
    let decoded = child::run_with("ffmpeg", &args, limit(times), |block| {
        got = frames_done(block).unwrap_or(got);
        share_done(share(got, shown.frames));
    })
    .await;
    match decoded {
        Ok(()) if got >= shown.frames => Ok(shown),
        Ok(()) | Err(FootageError::Failed { .. }) => {
            Err(FootageError::Broken { asked: shown.frames, got })
        }
        Err(e) => Err(e),
    }
}

/// How `ffmpeg` tells of its progress.
const PROGRESS: [&str; 8] =
    ["-v", "error", "-nostdin", "-y", "-progress", "pipe:1", "-stats_period", "0.5"];

/// Twenty times real time and five minutes more than any machine should need.
fn limit(times: &[i64]) -> Duration {
    let length_s = times.last().map_or(0, |t| t / 1_000_000).unsigned_abs();
    Duration::from_secs(300 + 20 * length_s)
}

#[expect(clippy::cast_precision_loss, reason = "frames of a file")]
fn share(done: usize, of: usize) -> f64 {
    (done as f64 / of.max(1) as f64).min(1.0)
}

async fn encode(
    original: &Path,
    times: &[i64],
    into: &Path,
    mut share_done: impl FnMut(f64),
) -> Result<(), FootageError> {
    let mut args: Vec<OsString> = PROGRESS.map(OsString::from).to_vec();
    args.extend(child::fenced(original));
    args.extend(["-map", "0:V:0", "-map", "0:a:0?", "-vf", SIZE].map(OsString::from));
    args.extend(["-fps_mode", "passthrough", "-enc_time_base", "-1"].map(OsString::from));
    args.extend(["-c:v", "libx264", "-preset", "veryfast"].map(OsString::from));
    args.extend(["-tune", "fastdecode", "-crf", "22", "-g", "1"].map(OsString::from));
    args.extend(["-pix_fmt", "yuv420p", "-c:a", "aac", "-b:a", "96k"].map(OsString::from));
    args.extend(["-movflags", "+faststart", "-map_metadata", "-1"].map(OsString::from));
    args.extend(["-f", "mp4"].map(OsString::from));
    args.push(into.into());
    child::run_with("ffmpeg", &args, limit(times), |block| {
        if let Some(done) = frames_done(block) {
            share_done(share(done, times.len()));
        }
    })
    .await
}

/// Frame for frame the same distances, to 1 µs, over the whole file or up to where it breaks off
/// (half of it at the least).
fn matched(made: &[i64], times: &[i64]) -> Option<Shown> {
    if made.len() > times.len() || 2 * made.len() < times.len() {
        return None;
    }
    let shift_us = times.first()? - made.first()?;
    let same = made.iter().zip(times).all(|(a, b)| (a + shift_us - b).abs() <= 1);
    same.then_some(Shown { frames: made.len(), shift_us })
}

/// The latest `frame=` of ffmpeg's progress report.
fn frames_done(block: &[u8]) -> Option<usize> {
    let text = String::from_utf8_lossy(block);
    text.lines().rev().find_map(|l| l.strip_prefix("frame=")?.trim().parse().ok())
}
