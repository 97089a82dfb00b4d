//! A film for others: without its sound, with a head made unsharp, and without what the camera has noted beside the
//! pictures (where, when, by whom).

use std::ffi::OsString;
use std::fmt::Write as _;
use std::path::Path;
use std::time::Duration;

use crate::child;
use crate::error::FootageError;

/// Copies the pictures of `original`, as they are, into an MP4 at `into`; nothing else of it comes along.
///
/// # Errors
/// What the child process may meet. What was half made is removed.
pub async fn silent(original: &Path, length_s: f64, into: &Path) -> Result<(), FootageError> {
    let mut args = begun(original);
    args.extend(["-map", "0:V:0", "-an", "-sn", "-dn", "-c:v", "copy"].map(OsString::from));
    made(args, Duration::from_secs(60) + Duration::from_secs_f64(length_s.clamp(0.0, 1e5)), into)
        .await
}

/// A part of a picture: from the left, from the top, width, height, pixels; it may reach beyond.
pub type Part = (f64, f64, f64, f64);

/// A film whose heads are hidden.
#[derive(Clone, Copy, Debug)]
pub struct Hidden<'a> {
    /// When each frame is shown, µs.
    pub times: &'a [i64],
    /// Width and height as shown, pixels.
    pub size: (u32, u32),
    /// What is made unsharp in each frame; where nothing is said, the whole picture.
    pub parts: &'a [Option<Part>],
    /// Without its sound.
    pub silent: bool,
}

/// Encodes `original` anew with parts of its pictures made unsharp, into an MP4 at `into`.
///
/// # Errors
/// What the child process may meet. What was half made is removed.
pub async fn hidden(original: &Path, film: Hidden<'_>, into: &Path) -> Result<(), FootageError> {
    // The filters are long: they are handed over in a file, which needs no quoting of its name.
    let script = into.with_extension("filters");
    let write = tokio::fs::write(&script, filters(&film)).await;
    let mut args = begun(original);
    args.extend(["-filter_complex_script".into(), script.clone().into_os_string()]);
    args.extend(["-map", "[out]", "-sn", "-dn"].map(OsString::from));
    if film.silent {
        args.push("-an".into());
    } else {
        args.extend(["-map", "0:a:0?", "-c:a", "aac", "-b:a", "96k"].map(OsString::from));
    }
    args.extend(["-fps_mode", "passthrough", "-enc_time_base", "-1"].map(OsString::from));
    args.extend(["-c:v", "libx264", "-preset", "veryfast", "-crf", "23"].map(OsString::from));
    args.extend(["-pix_fmt", "yuv420p"].map(OsString::from));
    let length_s = film.times.last().map_or(0, |t| t / 1_000_000).unsigned_abs();
    let done = match write {
        Ok(()) => made(args, Duration::from_secs(300 + 20 * length_s), into).await,
        Err(e) => Err(e.into()),
    };
    // Nothing to remove is fine.
    let _ = tokio::fs::remove_file(&script).await;
    done
}

fn begun(original: &Path) -> Vec<OsString> {
    let mut args: Vec<OsString> = ["-v", "error", "-nostdin", "-y"].map(OsString::from).to_vec();
    args.extend(child::fenced(original));
    args
}

async fn made(mut args: Vec<OsString>, limit: Duration, into: &Path) -> Result<(), FootageError> {
    args.extend(["-map_metadata", "-1", "-map_chapters", "-1"].map(OsString::from));
    args.extend(["-fflags", "+bitexact", "-flags:v", "+bitexact"].map(OsString::from));
    args.extend(["-movflags", "+faststart", "-f", "mp4"].map(OsString::from));
    args.push(into.into());
    let made = child::run_with("ffmpeg", &args, limit, |_| ()).await;
    if made.is_err() {
        // Nothing to remove is fine.
        let _ = tokio::fs::remove_file(into).await;
    }
    made
}

/// A part that has moved less than this share of its size stays where it was: it is larger than what it hides.
const STAYS: f64 = 0.03;

/// Of a part so few points are left, the longer way.
const POINTS: f64 = 10.0;

/// Stretches without a part that lie nearer together than this are one, s; further apart the more there are.
const NEAR_S: f64 = 0.3;

/// Stretches at most.
const STRETCHES: usize = 60;

/// The filters: one window, as large as the largest part, goes along with it; what is seen through it is made of a few
/// points. Where nothing is said the whole picture is unsharp.
fn filters(film: &Hidden<'_>) -> String {
    let (wide, high) = (f64::from(film.size.0), f64::from(film.size.1));
    let seen = || film.parts.iter().flatten();
    // Encoders and windows want even numbers.
    let even = |x: f64, most: f64| ((x.min(most) / 2.0).floor() * 2.0).max(2.0);
    let w = even(seen().map(|p| p.2.ceil() + 2.0).fold(16.0, f64::max), wide);
    let h = even(seen().map(|p| p.3.ceil() + 2.0).fold(16.0, f64::max), high);
    let at = |p: &Part| {
        let along = |from: f64, size: f64, window: f64, most: f64| {
            (from + 0.5 * (size - window)).clamp(0.0, most - window).round()
        };
        (along(p.0, p.2, w, wide), along(p.1, p.3, h, high))
    };
    let mut now = seen().next().map_or((0.0, 0.0), at);
    let first = now;
    let mut moves = String::new();
    let start = film.times.first().copied().unwrap_or(0);
    #[expect(clippy::cast_precision_loss, reason = "µs of a film, far below 2^52")]
    let second = |us: i64| (us - start) as f64 / 1e6;
    for (time, part) in film.times.iter().zip(film.parts) {
        let Some(next) = part.as_ref().map(at) else { continue };
        if (next.0 - now.0).abs() < STAYS * w && (next.1 - now.1).abs() < STAYS * h {
            continue;
        }
        now = next;
        // A little before the frame: its time is rounded.
        let from = (second(*time) - 0.0005).max(0.0);
        // Writing to a string cannot fail.
        let _ = write!(
            moves,
            "{from:.4} crop@head x {x}, crop@head y {y}, overlay@head x {x}, overlay@head y {y};",
            x = now.0,
            y = now.1
        );
    }
    let moves = if moves.is_empty() { String::new() } else { format!("sendcmd=c='{moves}',") };
    let few = (w.max(h) / POINTS).max(2.0);
    let (points_w, points_h) = ((w / few).ceil().max(2.0), (h / few).ceil().max(2.0));
    let (x, y) = first;
    let unsharp = unsharp(film, second);
    format!(
        "[0:V:0]setpts=PTS-STARTPTS,{moves}split[whole][under];\
         [under]crop@head={w}:{h}:{x}:{y},scale={points_w}:{points_h}:flags=area,\
         scale={w}:{h}:flags=bilinear[hidden];\
         [whole][hidden]overlay@head={x}:{y}{unsharp},\
         scale=trunc(iw/2)*2:trunc(ih/2)*2[out]"
    )
}

/// What makes the whole picture unsharp in stretches without a part.
fn unsharp(film: &Hidden<'_>, second: impl Fn(i64) -> f64) -> String {
    let mut stretches: Vec<(f64, f64)> = vec![];
    for (k, time) in film.times.iter().enumerate() {
        if film.parts.get(k).is_some_and(Option::is_some) {
            continue;
        }
        let (from, to) =
            (second(*time) - 0.0005, film.times.get(k + 1).map_or(1e9, |t| second(*t)));
        match stretches.last_mut() {
            Some(last) if from - last.1 < NEAR_S => last.1 = to,
            _ => stretches.push((from, to)),
        }
    }
    while stretches.len() > STRETCHES {
        // The nearest two become one: more of the film is unsharp, never less.
        let gap = |k: &usize| stretches[*k + 1].0 - stretches[*k].1;
        let Some(k) = (0..stretches.len() - 1).min_by(|a, b| gap(a).total_cmp(&gap(b))) else {
            break;
        };
        stretches[k].1 = stretches[k + 1].1;
        stretches.remove(k + 1);
    }
    if stretches.is_empty() {
        return String::new();
    }
    let when: Vec<String> =
        stretches.iter().map(|(from, to)| format!("between(t,{from:.4},{to:.4})")).collect();
    let sigma = f64::from(film.size.0.max(film.size.1)) / 24.0;
    format!(",gblur=sigma={sigma:.1}:steps=3:enable='{}'", when.join("+"))
}
