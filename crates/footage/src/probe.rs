//! What a file of footage holds, and when each of its frames is shown.

use std::collections::HashMap;
use std::ffi::OsString;
use std::path::Path;
use std::time::Duration;

use serde::Deserialize;

use crate::child;
use crate::error::FootageError;

/// A probed file.
#[derive(Clone, Debug, PartialEq)]
pub struct Probe {
    /// Codec, by ffprobe's name.
    pub codec: String,
    /// Picture width as shown, pixels.
    pub width: u32,
    /// Picture height as shown, pixels.
    pub height: u32,
    /// Degrees by which a player turns the picture clockwise: 0, 90, 180 or 270.
    pub rotation: i32,
    /// Presentation times of all frames in order, µs of the file's clock.
    pub frame_times: Vec<i64>,
    /// Whether there is sound.
    pub has_sound: bool,
    /// Whether fewer frames have come than the file announces.
    pub breaks_off: bool,
    /// Frames per second at which the camera says it filmed, when it says so.
    pub tagged_rate: Option<f64>,
    /// When it was filmed, as the camera wrote it (ISO 8601; with the place's offset where there
    /// is one, else in universal time).
    pub recorded: Option<String>,
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
        // Times are rounded (to whole µs, or to whole ms in some containers): over the frames that
        // agree with the median within that rounding the mean gives the rate back.
        let rounding = if self.frame_times.iter().all(|t| t % 1000 == 0) { 1001 } else { 3 };
        let near: Vec<i64> = self
            .frame_times
            .windows(2)
            .map(|w| w[1] - w[0])
            .filter(|g| (g - middle).abs() <= rounding)
            .collect();
        #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
        let mean = near.iter().sum::<i64>() as f64 / near.len() as f64;
        (mean > 0.0).then(|| 1e6 / mean)
    }

    /// Slow-motion factor that the camera's own note of its capture rate implies: filmed at 240,
    /// stored at 30 makes 8. `None` without a note, or when the two rates agree.
    pub fn tagged_slow_factor(&self) -> Option<f64> {
        slow_factor(self.tagged_rate?, self.frame_rate()?)
    }
}

/// Slow-motion factor of footage captured at one rate and stored at another, rounded to a half;
/// `None` when they agree within a fifth.
pub fn slow_factor(captured: f64, stored: f64) -> Option<f64> {
    let factor = (2.0 * captured / stored).round() / 2.0;
    ((1.5..=64.0).contains(&factor) && captured / stored > 1.2).then_some(factor)
}

#[derive(Deserialize)]
struct Report {
    #[serde(default)]
    streams: Vec<Stream>,
    #[serde(default)]
    format: Format,
}

#[derive(Default, Deserialize)]
struct Format {
    #[serde(default)]
    tags: HashMap<String, String>,
}

#[derive(Deserialize)]
struct Stream {
    codec_type: Option<String>,
    codec_name: Option<String>,
    width: Option<u32>,
    height: Option<u32>,
    time_base: Option<String>,
    nb_frames: Option<String>,
    #[serde(default)]
    tags: HashMap<String, String>,
    #[serde(default)]
    side_data_list: Vec<SideData>,
    #[serde(default)]
    disposition: Disposition,
}

#[derive(Default, Deserialize)]
struct Disposition {
    #[serde(default)]
    attached_pic: u8,
}

#[derive(Deserialize)]
struct SideData {
    rotation: Option<f64>,
}

/// A packet's line is some twenty bytes: this holds four million frames, nine hours at 120.
const MOST: u64 = 96 << 20;
const LIMIT: Duration = Duration::from_secs(120);

/// Probes a file: no network, two minutes at most.
///
/// # Errors
/// [`FootageError::NotVideo`] when nothing can be read, [`FootageError::NoFrames`] when there is
/// no picture in it, and what the child process may meet.
pub async fn probe(path: &Path) -> Result<Probe, FootageError> {
    let entries = "stream=codec_type,codec_name,width,height,time_base,nb_frames:stream_tags:\
                   stream_side_data:stream_disposition=attached_pic:format_tags";
    let out = ffprobe(path, &["-show_entries", entries, "-of", "json"], 4 << 20).await?;
    let report: Report =
        serde_json::from_slice(&out).map_err(|e| FootageError::NotVideo(e.to_string()))?;
    let is = |s: &Stream, wanted: &str| s.codec_type.as_deref() == Some(wanted);
    let has_sound = report.streams.iter().any(|s| is(s, "audio"));
    let video = report
        .streams
        .into_iter()
        .find(|s| is(s, "video") && s.disposition.attached_pic == 0)
        .ok_or(FootageError::NoFrames)?;
    let base = video.time_base.as_deref().and_then(ratio).ok_or(FootageError::NoFrames)?;
    let (frame_times, packets) = frame_times(path, base).await?;
    let announced = video.nb_frames.and_then(|n| n.parse::<usize>().ok());
    let (Some(width), Some(height), false) = (video.width, video.height, frame_times.is_empty())
    else {
        return Err(FootageError::NoFrames);
    };
    let rotation = rotation(&video.side_data_list);
    let turned = rotation % 180 != 0;
    let (width, height) = if turned { (height, width) } else { (width, height) };
    let tags = [&report.format.tags, &video.tags];
    Ok(Probe {
        tagged_rate: tag(&tags, &["com.android.capture.fps"])
            .and_then(|t| t.parse().ok())
            .filter(|f| (1.0..=100_000.0).contains(f)),
        recorded: tag(&tags, &["com.apple.quicktime.creationdate", "creation_time", "date"]),
        codec: video.codec_name.unwrap_or_default(),
        width,
        height,
        rotation,
        frame_times,
        has_sound,
        breaks_off: announced.is_some_and(|n| packets < n),
    })
}

/// Presentation times from the packets' own stamps, which needs no decoding; from the decoded
/// frames when a container does not stamp its packets; and how many packets there are.
async fn frame_times(path: &Path, base: (i64, i64)) -> Result<(Vec<i64>, usize), FootageError> {
    let select = ["-select_streams", "V:0", "-of", "csv=p=0", "-show_entries"];
    let packets = [&select[..], &["packet=pts,flags"]].concat();
    let out = ffprobe(path, &packets, MOST).await?;
    let text = String::from_utf8_lossy(&out);
    // Packets that an edit list hides are decoded but never shown.
    let shown = || text.lines().filter_map(|l| l.split_once(',')).filter(|(_, f)| !f.contains('D'));
    let mut stamps: Vec<i64> = shown().filter_map(|(pts, _)| pts.trim().parse().ok()).collect();
    if stamps.len() < shown().count() {
        let frames = [&select[..], &["frame=best_effort_timestamp"]].concat();
        let out = ffprobe(path, &frames, MOST).await?;
        let text = String::from_utf8_lossy(&out);
        stamps = text.lines().filter_map(|l| l.trim_matches([',', ' ']).parse().ok()).collect();
    }
    let mut times: Vec<i64> = stamps.into_iter().map(|pts| micros(pts, base.0, base.1)).collect();
    times.sort_unstable();
    times.dedup();
    Ok((times, text.lines().count()))
}

async fn ffprobe(path: &Path, ask: &[&str], most: u64) -> Result<Vec<u8>, FootageError> {
    let mut args: Vec<OsString> = ["-v", "error"].map(OsString::from).to_vec();
    args.extend(ask.iter().map(OsString::from));
    args.extend(child::fenced(path));
    child::run("ffprobe", &args, LIMIT, most).await.map_err(|e| match e {
        FootageError::Failed { says, .. } => FootageError::NotVideo(says),
        other => other,
    })
}

/// The display matrix turns counter-clockwise by its angle; players show it so.
fn rotation(side_data: &[SideData]) -> i32 {
    let angle = side_data.iter().find_map(|s| s.rotation).unwrap_or(0.0);
    #[expect(clippy::cast_possible_truncation, reason = "0 to 3 quarter turns")]
    let quarters = (-angle / 90.0).round().rem_euclid(4.0) as i32;
    quarters * 90
}

fn tag(tags: &[&HashMap<String, String>], keys: &[&str]) -> Option<String> {
    keys.iter()
        .find_map(|key| tags.iter().find_map(|t| t.get(*key)))
        .map(|text| text.trim().chars().take(64).collect())
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
    use super::{Probe, micros, slow_factor};

    #[test]
    fn timestamps_round_to_the_nearest_microsecond() {
        assert_eq!(micros(1, 1, 120), 8333);
        assert_eq!(micros(2, 1, 120), 16667);
        assert_eq!(micros(1001, 1, 30000), 33367);
        assert_eq!(micros(-1, 1, 3), -333_333);
    }

    fn file(frame_times: Vec<i64>) -> Probe {
        Probe {
            codec: String::new(),
            width: 1,
            height: 1,
            rotation: 0,
            frame_times,
            has_sound: false,
            breaks_off: false,
            tagged_rate: None,
            recorded: None,
        }
    }

    #[test]
    fn the_frame_rate_survives_rounding_and_a_pause() {
        let mut times: Vec<i64> = (0..200).map(|k| micros(k, 1, 120)).collect();
        times.extend((0..200).map(|k| 9_000_000 + micros(k, 1, 120)));
        assert!((file(times).frame_rate().unwrap() - 120.0).abs() < 0.01);
        // Whole milliseconds: 33, 34, 33 …
        let times = (0..300).map(|k| (f64::from(k) / 0.02997).round() as i64 * 1000).collect();
        assert!((file(times).frame_rate().unwrap() - 29.97).abs() < 0.01);
    }

    #[test]
    fn a_slow_factor_follows_from_the_two_rates() {
        assert_eq!(slow_factor(240.0, 30.0), Some(8.0));
        assert_eq!(slow_factor(239.8, 29.97), Some(8.0));
        assert_eq!(slow_factor(120.0, 24.0), Some(5.0));
        assert_eq!(slow_factor(30.0, 29.97), None);
        assert_eq!(slow_factor(60.0, 120.0), None);
    }
}
