//! The sound of a file: coarse for drawing it whole, fine in pieces for looking into it.

use std::ffi::OsString;
use std::path::Path;
use std::time::Duration;

use crate::child;
use crate::error::FootageError;

/// Samples per second of [`samples`].
pub const RATE: usize = 8000;

/// Mono samples at [`RATE`], −1 to 1, of at most two hours, from zero of the file's clock
/// on: sound that begins later begins with silence.
///
/// # Errors
/// What the child process may meet; a file without sound fails.
pub async fn samples(path: &Path) -> Result<Vec<f32>, FootageError> {
    let mut args: Vec<OsString> =
        ["-v", "error", "-nostdin", "-copyts"].map(OsString::from).to_vec();
    args.extend(child::fenced(path));
    args.extend(["-vn", "-ac", "1", "-ar", "8000"].map(OsString::from));
    args.extend(["-af", "aresample=async=1:first_pts=0"].map(OsString::from));
    args.extend(["-f", "f32le", "pipe:1"].map(OsString::from));
    let two_hours = 2 * 3600 * RATE as u64 * 4;
    let bytes = child::run("ffmpeg", &args, Duration::from_secs(300), two_hours).await?;
    Ok(bytes.as_chunks::<4>().0.iter().map(|b| f32::from_le_bytes(*b)).collect())
}

/// Samples per second of [`pieces`].
pub const FINE_RATE: u32 = 48_000;

/// Longest stretch of [`pieces`] in one go, s.
const LONGEST_S: f64 = 7200.0;

/// Mono samples at [`FINE_RATE`], −1 to 1, from `from_s` of the file's clock on for at most
/// `length_s`, handed over piece by piece as they are decoded: the k-th sample of all of them
/// stands at `from_s` + k / 48 000. Sound that begins later begins with silence.
///
/// # Errors
/// [`FootageError::NoSound`] for a stretch that is none, and what the child process may meet; a
/// file without sound fails.
pub async fn pieces(
    path: &Path,
    from_s: f64,
    length_s: f64,
    mut take: impl FnMut(&[f32]),
) -> Result<(), FootageError> {
    let possible = (0.0..1e6).contains(&from_s) && length_s > 0.0 && length_s <= LONGEST_S;
    if !possible {
        return Err(FootageError::NoSound);
    }
    let rate = f64::from(FINE_RATE);
    let (first, end) = ((from_s * rate).round(), ((from_s + length_s) * rate).round());
    let mut args: Vec<OsString> =
        ["-v", "error", "-nostdin", "-copyts", "-ss"].map(OsString::from).to_vec();
    args.push(format!("{from_s:.6}").into());
    args.extend(child::fenced(path));
    args.extend(["-map", "0:a:0", "-vn", "-ac", "1", "-af"].map(OsString::from));
    args.push(
        format!(
            "aresample={FINE_RATE}:async=1:first_pts={first},atrim=start_pts={first}:end_pts={end}"
        )
        .into(),
    );
    args.extend(["-ar", "48000", "-f", "f32le", "pipe:1"].map(OsString::from));
    let limit = Duration::from_secs_f64(60.0 + length_s);
    let mut bytes: Vec<u8> = Vec::new();
    child::run_with("ffmpeg", &args, limit, |block| {
        bytes.extend_from_slice(block);
        let whole = bytes.len() / 4 * 4;
        let piece: Vec<f32> =
            bytes[..whole].as_chunks::<4>().0.iter().map(|b| f32::from_le_bytes(*b)).collect();
        bytes.drain(..whole);
        if !piece.is_empty() {
            take(&piece);
        }
    })
    .await
}
