//! A film's pictures for who looks at them stretch by stretch: each is decoded once, somewhat ahead.

use std::collections::VecDeque;
use std::ops::Range;
use std::path::Path;

use anyhow::{Context as _, Result};
use umlauf_footage::frames::{GreySize, Pictures, Tones};
use umlauf_footage::probe::Probe;
use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::motion::Layers;
use umlauf_signals::picture::tint::Tint;

/// Sizes at which a film is watched.
#[derive(Clone, Copy, Debug)]
pub struct Size {
    asked: GreySize,
    width: usize,
    height: usize,
}

impl Size {
    /// At most so wide, and how much larger the film is; `None` for a film too small to be watched.
    pub fn of(probe: &Probe, most_wide: u32) -> Option<(Self, f64)> {
        let (width, height) = (probe.width.max(1), probe.height.max(1));
        let wide = width.min(most_wide);
        let high =
            u32::try_from((u64::from(height) * u64::from(wide)).div_ceil(u64::from(width))).ok()?;
        let asked = GreySize::new(wide, high)?;
        let by = f64::from(width) / f64::from(wide);
        let (width, height) = (usize::try_from(wide).ok()?, usize::try_from(high).ok()?);
        Some((Self { asked, width, height }, by))
    }

    /// Pixels of a picture.
    pub const fn pixels(self) -> usize {
        self.asked.pixels()
    }
}

/// Pictures that lie side by side, and their colours where those were asked for.
pub type Stretch = (Vec<Layers>, Vec<Tint>);

/// A film that is read.
pub struct Reading<'a> {
    path: &'a Path,
    pictures: Pictures,
    size: Size,
    /// Pictures that are read and not all handed over yet, from this frame on.
    first: usize,
    read: VecDeque<(Layers, Option<Tint>)>,
    over: bool,
}

impl<'a> Reading<'a> {
    /// Begins to read the frames `range` of a film.
    ///
    /// # Errors
    /// When there are none, or no program to decode them.
    pub fn of(
        path: &'a Path,
        probe: &Probe,
        range: Range<usize>,
        size: Size,
        coloured: bool,
    ) -> Result<Self> {
        let tones = if coloured { Tones::Colour } else { Tones::Grey };
        let first = range.start;
        let pictures = Pictures::open(path, &probe.frame_times, range, size.asked, tones)
            .with_context(|| unreadable(path))?;
        Ok(Self { path, pictures, size, first, read: VecDeque::new(), over: false })
    }

    /// Reads one more picture, until there is none. Given up while it waits, it goes on next time.
    ///
    /// # Errors
    /// When the film cannot be decoded.
    pub async fn one(&mut self) -> Result<()> {
        let next = self.pictures.next().await.with_context(|| unreadable(self.path))?;
        let Some(planes) = next else {
            self.over = true;
            return Ok(());
        };
        let Size { width, height, .. } = self.size;
        if let Some(picture) = Grey::new(width, height, planes.grey.to_vec()) {
            let tint = planes.hues.and_then(|(blue, red)| Tint::new(&picture, blue, red));
            self.read.push_back((Layers::of(picture), tint));
        }
        Ok(())
    }

    /// Whether `most` pictures wait, or no more come.
    pub fn is_ahead(&self, most: usize) -> bool {
        self.over || self.read.len() >= most
    }

    /// The pictures up to frame `to`, from the first that is still here on. Those from frame `again` on are handed
    /// over once more next time. `read` hears how many are here.
    ///
    /// # Errors
    /// When the film cannot be decoded.
    pub async fn up_to(
        &mut self,
        to: usize,
        again: usize,
        read: impl Fn(usize),
    ) -> Result<Stretch> {
        let wanted = to.saturating_sub(self.first);
        while !self.is_ahead(wanted) {
            self.one().await?;
            if self.read.len().is_multiple_of(60) {
                read(self.read.len());
            }
        }
        let wanted = wanted.min(self.read.len());
        let gone = again.saturating_sub(self.first).min(wanted);
        let mut out: Vec<_> = self.read.drain(..gone).collect();
        out.extend(self.read.range(..wanted - gone).cloned());
        self.first += gone;
        let (pictures, tints): (Vec<_>, Vec<_>) = out.into_iter().unzip();
        Ok((pictures, tints.into_iter().flatten().collect()))
    }
}

fn unreadable(path: &Path) -> String {
    format!("the pictures of {} cannot be read", path.display())
}
