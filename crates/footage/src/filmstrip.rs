//! Small pictures along a clip, side by side in one JPEG, for the strip.

use std::ffi::OsString;
use std::path::Path;
use std::time::Duration;

use crate::child;
use crate::error::FootageError;

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
    let mut args: Vec<OsString> = ["-v", "error", "-nostdin", "-y"].map(OsString::from).to_vec();
    let mut filter = String::new();
    for k in 0..PICTURES {
        let at = length_s * (f64::from(k) + 0.5) / f64::from(PICTURES);
        // Every frame is a key frame: the one before the moment is the one on screen.
        args.extend(["-noaccurate_seek", "-threads", "1", "-ss"].map(OsString::from));
        args.push(format!("{at:.3}").into());
        args.extend(child::fenced(proxy));
        filter += &format!("[{k}:v]trim=end_frame=1,scale=-2:{HEIGHT},setsar=1[p{k}];");
    }
    for k in 0..PICTURES {
        filter += &format!("[p{k}]");
    }
    filter += &format!("hstack=inputs={PICTURES}");
    args.extend(["-filter_complex".into(), filter.into()]);
    args.extend(["-frames:v", "1", "-q:v", "5"].map(OsString::from));
    args.push(into.into());
    child::run("ffmpeg", &args, Duration::from_secs(120), 1 << 16).await.map(drop)
}
