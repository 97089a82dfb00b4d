//! Ranges of frames at a chosen size, grey or in colour, for a program that looks at them. Nothing is written.

use std::ffi::OsString;
use std::ops::Range;
use std::path::Path;
use std::time::Duration;

use crate::child::{self, Haste, Running};
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

/// What is kept of a picture's tones.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Tones {
    /// Grey only.
    Grey,
    /// Colour: ITU-R BT.601, full range, colours at half the size.
    Colour,
}

impl Tones {
    const fn bytes(self, size: GreySize) -> usize {
        let half = size.width.div_ceil(2) as usize * size.height.div_ceil(2) as usize;
        match self {
            Self::Grey => size.pixels(),
            Self::Colour => size.pixels() + 2 * half,
        }
    }

    /// The filters that make pictures of a size.
    fn filters(self, GreySize { width, height }: GreySize) -> String {
        let scale = format!("scale={width}:{height}:flags=area");
        match self {
            Self::Grey => format!("{scale},format=gray"),
            Self::Colour => {
                format!("{scale}:out_color_matrix=bt601:out_range=pc,format=yuvj420p")
            }
        }
    }
}

/// A frame.
#[derive(Clone, Copy, Debug)]
pub struct Planes<'a> {
    /// Its place in the file.
    pub frame: usize,
    /// Grey, 0 to 255, row by row from the top.
    pub grey: &'a [u8],
    /// How much bluer than grey, at half the size (rounded up), 128 for not at all; and how much redder. Not where
    /// only grey was asked for.
    pub hues: Option<(&'a [u8], &'a [u8])>,
}

/// Frames of a file, decoded one after the other as fast as they are taken.
#[derive(Debug)]
pub struct Pictures {
    running: Running,
    size: GreySize,
    tones: Tones,
    asked: Range<usize>,
    /// The frame that comes next.
    next: usize,
    /// Its bytes, as far as they are read.
    picture: Vec<u8>,
    read: usize,
}

impl Pictures {
    /// Begins to decode the frames `range` of a file whose frames are shown at `times` (µs of its clock), upright,
    /// scaled to `size`; within a Tokio runtime.
    ///
    /// # Errors
    /// [`FootageError::NoFrames`] for a range that is empty or reaches outside the file, and what starting a child
    /// process may meet.
    pub fn open(
        path: &Path,
        times: &[i64],
        range: Range<usize>,
        size: GreySize,
        tones: Tones,
    ) -> Result<Self, FootageError> {
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
        let mut args: Vec<OsString> =
            ["-v", "error", "-nostdin", "-copyts", "-ss"].map(OsString::from).to_vec();
        args.push(format!("{seek:.6}").into());
        args.extend(child::fenced(path));
        args.extend(["-map", "0:V:0", "-an", "-vf"].map(OsString::from));
        let filters = tones.filters(size);
        args.push(format!("select='between(t,{from:.7},{to:.7})',{filters}").into());
        args.extend(["-fps_mode", "passthrough", "-frames:v"].map(OsString::from));
        args.push(wanted.len().to_string().into());
        args.extend(["-f", "rawvideo", "pipe:1"].map(OsString::from));
        // Ten times real time from the run-up on, and a minute more than any machine should need.
        let limit = Duration::from_secs_f64(60.0 + 10.0 * (last - first + RUN_UP_S));
        let running = Running::start("ffmpeg", &args, limit, Haste::GivesWay)?;
        let picture = vec![0; tones.bytes(size)];
        Ok(Self { running, size, tones, next: range.start, asked: range, picture, read: 0 })
    }

    /// The next frame; `None` after the last. Given up while it waits, it goes on next time.
    ///
    /// # Errors
    /// [`FootageError::Broken`] when fewer frames can be decoded than were asked for, and what the child process may
    /// meet.
    pub async fn next(&mut self) -> Result<Option<Planes<'_>>, FootageError> {
        if self.next >= self.asked.end {
            // How the program ended is its own to say.
            while self.running.read(&mut self.picture).await? > 0 {}
            return Ok(None);
        }
        while self.read < self.picture.len() {
            let n = self.running.read(&mut self.picture[self.read..]).await?;
            if n == 0 {
                let Range { start, end } = self.asked;
                return Err(FootageError::Broken { asked: end - start, got: self.next - start });
            }
            self.read += n;
        }
        let frame = self.next;
        self.next += 1;
        self.read = 0;
        let (grey, rest) = self.picture.split_at(self.size.pixels());
        let hues = (self.tones == Tones::Colour).then(|| rest.split_at(rest.len() / 2));
        Ok(Some(Planes { frame, grey, hues }))
    }
}
