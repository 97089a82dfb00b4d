//! Ranges of frames at a chosen size, grey or in colour, for a program that looks at them. Nothing is written.

use std::ffi::OsString;
use std::ops::Range;
use std::path::Path;
use std::time::Duration;

use crate::child;
use crate::error::FootageError;

/// Size of the pictures asked for, pixels.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct GreySize {
    width: u32,
    height: u32,
}

/// Longest side of a picture that is handed over, pixels.
const LONGEST: u32 = 1920;

impl GreySize {
    /// A size of 2 to 1920 pixels a side.
    ///
    /// ```
    /// use umlauf_footage::frames::GreySize;
    /// assert_eq!(GreySize::new(320, 180).map(GreySize::pixels), Some(57_600));
    /// assert_eq!(GreySize::new(0, 180), None);
    /// ```
    pub fn new(width: u32, height: u32) -> Option<Self> {
        let fits = |side: u32| (2..=LONGEST).contains(&side);
        (fits(width) && fits(height)).then_some(Self { width, height })
    }

    /// Pixels of a picture: one byte each.
    pub const fn pixels(self) -> usize {
        self.width as usize * self.height as usize
    }
}

/// Seeking comes down this much before the first frame, s: containers round, and sound may begin
/// before the pictures.
const RUN_UP_S: f64 = 2.0;

/// Decodes the frames `range` of a file whose frames are shown at `times` (µs of its clock), upright,
/// in grey, scaled to `size`. `each` gets a frame's place in `times` and its pixels, row by row
/// from the top, in order.
///
/// # Errors
/// [`FootageError::NoFrames`] for a range that is empty or reaches outside the file,
/// [`FootageError::Broken`] when fewer frames can be decoded, and what the child process may meet.
pub async fn grey(
    path: &Path,
    times: &[i64],
    range: Range<usize>,
    size: GreySize,
    each: impl FnMut(usize, &[u8]),
) -> Result<(), FootageError> {
    decoded(path, times, range, size, Tones::Grey, each).await
}

/// A frame in colour.
#[derive(Clone, Copy, Debug)]
pub struct Planes<'a> {
    /// Grey, 0 to 255.
    pub grey: &'a [u8],
    /// How much bluer than grey, at half the size (rounded up); 128 for not at all.
    pub blue: &'a [u8],
    /// How much redder, likewise.
    pub red: &'a [u8],
}

/// As [`grey`], in colour: ITU-R BT.601, full range, colours at half the size.
///
/// # Errors
/// As [`grey`].
pub async fn colour(
    path: &Path,
    times: &[i64],
    range: Range<usize>,
    size: GreySize,
    mut each: impl FnMut(usize, Planes),
) -> Result<(), FootageError> {
    decoded(path, times, range, size, Tones::Colour, |frame, bytes| {
        let (grey, rest) = bytes.split_at(size.pixels());
        let (blue, red) = rest.split_at(rest.len() / 2);
        each(frame, Planes { grey, blue, red });
    })
    .await
}

/// What is kept of a picture's tones.
#[derive(Clone, Copy)]
enum Tones {
    Grey,
    Colour,
}

impl Tones {
    const fn format(self) -> &'static str {
        match self {
            Self::Grey => "format=gray",
            Self::Colour => "format=yuvj420p",
        }
    }

    const fn bytes(self, size: GreySize) -> usize {
        let half = size.width.div_ceil(2) as usize * size.height.div_ceil(2) as usize;
        match self {
            Self::Grey => size.pixels(),
            Self::Colour => size.pixels() + 2 * half,
        }
    }
}

async fn decoded(
    path: &Path,
    times: &[i64],
    range: Range<usize>,
    size: GreySize,
    tones: Tones,
    mut each: impl FnMut(usize, &[u8]),
) -> Result<(), FootageError> {
    let wanted =
        times.get(range.clone()).filter(|w| !w.is_empty()).ok_or(FootageError::NoFrames)?;
    #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
    let seconds = |us: i64| us as f64 / 1e6;
    let (first, last) = (seconds(wanted[0]), seconds(wanted[wanted.len() - 1]));
    // Half-way to the neighbours: a container's rounding then changes nothing.
    let before = range.start.checked_sub(1).map(|k| seconds(times[k]));
    let after = times.get(range.end).map(|t| seconds(*t));
    let from = before.map_or(first - 1.0, |t| f64::midpoint(t, first));
    let to = after.map_or(last + 1.0, |t| f64::midpoint(t, last));
    let seek = (first - seconds(times[0]) - RUN_UP_S).max(0.0);
    let GreySize { width, height } = size;
    let (format, bytes) = (tones.format(), tones.bytes(size));
    let matrix = match tones {
        Tones::Grey => "",
        Tones::Colour => ":out_color_matrix=bt601:out_range=pc",
    };
    let mut args: Vec<OsString> =
        ["-v", "error", "-nostdin", "-copyts", "-ss"].map(OsString::from).to_vec();
    args.push(format!("{seek:.6}").into());
    args.extend(child::fenced(path));
    args.extend(["-map", "0:V:0", "-an", "-vf"].map(OsString::from));
    args.push(
        format!(
            "select='between(t,{from:.7},{to:.7})',scale={width}:{height}:flags=area{matrix},{format}"
        )
        .into(),
    );
    args.extend(["-fps_mode", "passthrough", "-frames:v"].map(OsString::from));
    args.push(wanted.len().to_string().into());
    args.extend(["-f", "rawvideo", "pipe:1"].map(OsString::from));
    // Ten times real time from the run-up on, and a minute more than any machine should need.
    let limit = Duration::from_secs_f64(60.0 + 10.0 * (last - first + RUN_UP_S));
    let mut picture: Vec<u8> = Vec::with_capacity(bytes);
    let mut frame = range.start;
    child::run_with("ffmpeg", &args, limit, |mut block| {
        while !block.is_empty() && frame < range.end {
            let (part, rest) = block.split_at(block.len().min(bytes - picture.len()));
            picture.extend_from_slice(part);
            block = rest;
            if picture.len() == bytes {
                each(frame, &picture);
                picture.clear();
                frame += 1;
            }
        }
    })
    .await?;
    if frame == range.end {
        Ok(())
    } else {
        Err(FootageError::Broken { asked: range.len(), got: frame - range.start })
    }
}
