//! Small pictures along a clip, side by side in one JPEG, for the strip.

use std::ffi::OsString;
use std::path::Path;
use std::time::Duration;

use crate::FootageError;
use crate::child;

/// Height of a picture, pixels.
pub const HEIGHT: u32 = 64;
/// Pictures in a filmstrip.
pub const PICTURES: u32 = 40;

/// Makes a filmstrip of a proxy (whose every frame can be jumped to) of `length_s` at `into`:
/// [`PICTURES`] pictures, the k-th from the middle of the k-th stretch of the clip. Each costs
/// one jump, so an hour costs no more than a minute.
///
/// # Errors
/// What the child process may meet.
pub async fn make(proxy: &Path, length_s: f64, into: &Path) -> Result<(), FootageError> {
    let limit = Duration::from_secs(60);
    let parts = into.with_extension("parts");
    tokio::fs::create_dir_all(&parts).await?;
    let made = async {
        for k in 0..PICTURES {
            let at = length_s * (f64::from(k) + 0.5) / f64::from(PICTURES);
            let mut args: Vec<OsString> =
                ["-v", "error", "-nostdin", "-y", "-ss"].map(OsString::from).to_vec();
            args.push(format!("{at:.3}").into());
            args.extend(child::fenced(proxy));
            args.extend(["-frames:v", "1", "-vf"].map(OsString::from));
            args.push(format!("scale=-2:{HEIGHT}").into());
            args.extend(["-q:v", "5"].map(OsString::from));
            args.push(parts.join(format!("{k:02}.jpg")).into());
            child::run("ffmpeg", &args, limit, 1 << 16).await?;
        }
        let mut args: Vec<OsString> =
            ["-v", "error", "-nostdin", "-y", "-i"].map(OsString::from).to_vec();
        args.push(parts.join("%02d.jpg").into());
        args.push("-vf".into());
        args.push(format!("tile={PICTURES}x1").into());
        args.extend(["-frames:v", "1", "-q:v", "5"].map(OsString::from));
        args.push(into.into());
        child::run("ffmpeg", &args, limit, 1 << 16).await
    };
    let done = made.await;
    // The pieces are of no further use, whatever came of them.
    let _ = tokio::fs::remove_dir_all(&parts).await;
    done.map(drop)
}
