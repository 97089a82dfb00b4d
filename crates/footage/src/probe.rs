//! What a file of footage holds, and when each of its frames is shown.

use std::path::Path;
use std::time::Duration;

use serde::Deserialize;

use crate::FootageError;
use crate::child;

/// A probed file.
#[derive(Clone, Debug, PartialEq)]
pub struct Probe {
    /// Codec, by ffprobe's name.
    pub codec: String,
    /// Picture width, pixels.
    pub width: u32,
    /// Picture height, pixels.
    pub height: u32,
    /// Presentation times of all frames in order, µs of the file's clock.
    pub frame_times: Vec<i64>,
    /// Whether there is sound.
    pub has_sound: bool,
}

impl Probe {
    /// Frames per second of the file's clock: from the median distance of neighbouring frames,
    /// which a pause or a doubled frame does not bend. `None` for a single frame.
    pub fn frame_rate(&self) -> Option<f64> {
        let mut gaps: Vec<i64> = self.frame_times.windows(2).map(|w| w[1] - w[0]).collect();
        if gaps.is_empty() {
            return None;
        }
        let n = gaps.len();
        let middle = *gaps.select_nth_unstable(n / 2).1;
        // Times are rounded to whole µs: over frames that agree with the median to a few µs the
        // mean gives the rate back exactly.
        let near: Vec<i64> = self
            .frame_times
            .windows(2)
            .map(|w| w[1] - w[0])
            .filter(|g| (g - middle).abs() <= 3)
            .collect();
        #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
        let mean = near.iter().sum::<i64>() as f64 / near.len() as f64;
        (mean > 0.0).then(|| 1e6 / mean)
    }
}

#[derive(Deserialize)]
struct Report {
    #[serde(default)]
    streams: Vec<Stream>,
}

#[derive(Deserialize)]
struct Stream {
    codec_type: Option<String>,
    codec_name: Option<String>,
    width: Option<u32>,
    height: Option<u32>,
    time_base: Option<String>,
}

/// A packet's line is some twenty bytes: this holds four million frames, nine hours at 120.
const MOST: u64 = 96 << 20;

/// Probes a file: no network, two minutes at most.
///
/// # Errors
/// [`FootageError::NotVideo`] when nothing can be read, [`FootageError::NoFrames`] when there is
/// no picture in it, and what the child process may meet.
pub async fn probe(path: &Path) -> Result<Probe, FootageError> {
    let limit = Duration::from_secs(120);
    let fence = ["-v", "error", "-protocol_whitelist", "file"];
    let mut args: Vec<&std::ffi::OsStr> = fence.iter().map(AsRef::as_ref).collect();
    let entries = "stream=codec_type,codec_name,width,height,time_base";
    args.extend(["-show_entries", entries, "-of", "json"].map(std::ffi::OsStr::new));
    args.push(path.as_ref());
    let out = child::run("ffprobe", &args, limit, 4 << 20).await.map_err(not_video)?;
    let report: Report =
        serde_json::from_slice(&out).map_err(|e| FootageError::NotVideo(e.to_string()))?;
    let kind = |s: &Stream, wanted: &str| s.codec_type.as_deref() == Some(wanted);
    let has_sound = report.streams.iter().any(|s| kind(s, "audio"));
    let video =
        report.streams.into_iter().find(|s| kind(s, "video")).ok_or(FootageError::NoFrames)?;
    let (num, den) = video.time_base.as_deref().and_then(ratio).ok_or(FootageError::NoFrames)?;

    let mut args: Vec<&std::ffi::OsStr> = fence.iter().map(AsRef::as_ref).collect();
    args.extend(
        ["-select_streams", "v:0", "-show_entries", "packet=pts,flags", "-of", "csv=p=0"]
            .map(std::ffi::OsStr::new),
    );
    args.push(path.as_ref());
    let out = child::run("ffprobe", &args, limit, MOST).await.map_err(not_video)?;
    let mut frame_times: Vec<i64> = String::from_utf8_lossy(&out)
        .lines()
        .filter_map(|line| {
            let (pts, flags) = line.split_once(',')?;
            // Packets an edit list hides are decoded but never shown.
            let shown = !flags.contains('D');
            shown.then(|| pts.trim().parse::<i64>().ok()).flatten()
        })
        .map(|pts| micros(pts, num, den))
        .collect();
    frame_times.sort_unstable();
    frame_times.dedup();
    let (Some(width), Some(height), false) = (video.width, video.height, frame_times.is_empty())
    else {
        return Err(FootageError::NoFrames);
    };
    let codec = video.codec_name.unwrap_or_default();
    Ok(Probe { codec, width, height, frame_times, has_sound })
}

fn not_video(e: FootageError) -> FootageError {
    match e {
        FootageError::Failed { says, .. } => FootageError::NotVideo(says),
        other => other,
    }
}

fn ratio(text: &str) -> Option<(i64, i64)> {
    let (a, b) = text.split_once('/')?;
    let (a, b) = (a.parse().ok()?, b.parse().ok()?);
    (a > 0 && b > 0).then_some((a, b))
}

/// A timestamp in whole µs, rounded to the nearest.
fn micros(pts: i64, num: i64, den: i64) -> i64 {
    let scaled = i128::from(pts) * i128::from(num) * 1_000_000;
    let den = i128::from(den);
    i64::try_from((scaled + den / 2).div_euclid(den)).unwrap_or(i64::MAX)
}

#[cfg(test)]
mod tests {
    use super::{Probe, micros};

    #[test]
    fn timestamps_round_to_the_nearest_microsecond() {
        assert_eq!(micros(1, 1, 120), 8333);
        assert_eq!(micros(2, 1, 120), 16667);
        assert_eq!(micros(1001, 1, 30000), 33367);
        assert_eq!(micros(-1, 1, 3), -333_333);
    }

    #[test]
    fn the_frame_rate_survives_rounding_and_a_pause() {
        let mut times: Vec<i64> = (0..200).map(|k| micros(k, 1, 120)).collect();
        times.extend((0..200).map(|k| 9_000_000 + micros(k, 1, 120)));
        let probe = Probe {
            codec: String::new(),
            width: 1,
            height: 1,
            frame_times: times,
            has_sound: false,
        };
        let rate = probe.frame_rate().unwrap_or(0.0);
        assert!((rate - 120.0).abs() < 0.01, "{rate}");
    }
}
