//! The sound of a file, for drawing and listening, not for timing to the sample.

use std::ffi::OsString;
use std::path::Path;
use std::time::Duration;

use crate::FootageError;
use crate::child;

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
