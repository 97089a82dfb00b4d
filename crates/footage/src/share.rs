//! A film for others: without its sound, without what the camera has noted beside the pictures (where, when, by whom).

use std::ffi::OsString;
use std::path::Path;
use std::time::Duration;

use crate::child;
use crate::error::FootageError;

/// Copies the pictures of `original`, as they are, into an MP4 at `into`; nothing else of it comes along.
///
/// # Errors
/// What the child process may meet. What was half made is removed.
pub async fn silent(original: &Path, length_s: f64, into: &Path) -> Result<(), FootageError> {
    let mut args: Vec<OsString> = ["-v", "error", "-nostdin", "-y"].map(OsString::from).to_vec();
    args.extend(child::fenced(original));
    args.extend(["-map", "0:V:0", "-an", "-sn", "-dn", "-c:v", "copy"].map(OsString::from));
    args.extend(["-map_metadata", "-1", "-map_chapters", "-1"].map(OsString::from));
    args.extend(["-fflags", "+bitexact", "-flags:v", "+bitexact"].map(OsString::from));
    args.extend(["-movflags", "+faststart", "-f", "mp4"].map(OsString::from));
    args.push(into.into());
    let limit = Duration::from_secs(60) + Duration::from_secs_f64(length_s.clamp(0.0, 1e5));
    let made = child::run_with("ffmpeg", &args, limit, |_| ()).await;
    if made.is_err() {
        // Nothing to remove is fine.
        let _ = tokio::fs::remove_file(into).await;
    }
    made
}
