//! A proxy for the desk: every frame a key frame, so that a step either way is one decode.
//!
//! Measured in headless Chromium: H.264 with only key frames seeks in about 20 ms, with the usual
//! groups of pictures in about 500 ms. Frame times are the original's, and that is checked.

use std::ffi::OsString;
use std::path::Path;
use std::time::Duration;

use crate::FootageError;
use crate::child;
use crate::probe::probe;

/// Makes a proxy of `original`, whose frames are shown at `times` (µs), at `into`, and checks
/// that it has the same frames at the same times (to 1 µs). `share_done` hears of the progress,
/// 0 to 1. An unfinished or wrong proxy is removed.
///
/// # Errors
/// [`FootageError::ProxyTimes`] when the times differ, and what the child process may meet.
pub async fn make(
    original: &Path,
    times: &[i64],
    into: &Path,
    share_done: impl FnMut(f64),
) -> Result<(), FootageError> {
    let result = encode_and_check(original, times, into, share_done).await;
    if result.is_err() {
        // Nothing to remove is fine.
        let _ = tokio::fs::remove_file(into).await;
    }
    result
}

async fn encode_and_check(
    original: &Path,
    times: &[i64],
    into: &Path,
    mut share_done: impl FnMut(f64),
) -> Result<(), FootageError> {
    let length_s = times.last().map_or(0, |t| t / 1_000_000).unsigned_abs();
    // Twenty times real time and five minutes more than any machine should need.
    let limit = Duration::from_secs(300 + 20 * length_s);
    let mut args: Vec<OsString> = [
        "-v",
        "error",
        "-nostdin",
        "-y",
        "-progress",
        "pipe:1",
        "-stats_period",
        "0.5",
        "-protocol_whitelist",
        "file,pipe",
        "-i",
    ]
    .map(OsString::from)
    .to_vec();
    args.push(original.into());
    args.extend(
        [
            "-map",
            "0:v:0",
            "-map",
            "0:a:0?",
            "-fps_mode",
            "passthrough",
            "-enc_time_base",
            "-1",
            "-c:v",
            "libx264",
            "-preset",
            "veryfast",
            "-tune",
            "fastdecode",
            "-crf",
            "22",
            "-g",
            "1",
            "-pix_fmt",
            "yuv420p",
            "-c:a",
            "aac",
            "-b:a",
            "96k",
            "-movflags",
            "+faststart",
            "-map_metadata",
            "-1",
            "-f",
            "mp4",
        ]
        .map(OsString::from),
    );
    args.push(into.into());
    #[expect(clippy::cast_precision_loss, reason = "frames of a file")]
    let frames = times.len().max(1) as f64;
    child::run_with("ffmpeg", &args, limit, |block| {
        if let Some(done) = frames_done(block) {
            share_done((done / frames).min(1.0));
        }
    })
    .await?;
    let made = probe(into).await?;
    let same = made.frame_times.len() == times.len()
        && made.frame_times.iter().zip(times).all(|(a, b)| (a - b).abs() <= 1);
    if same { Ok(()) } else { Err(FootageError::ProxyTimes) }
}

/// The latest `frame=` of ffmpeg's progress report.
fn frames_done(block: &[u8]) -> Option<f64> {
    let text = String::from_utf8_lossy(block);
    text.lines().rev().find_map(|l| l.strip_prefix("frame=")?.trim().parse().ok())
}
