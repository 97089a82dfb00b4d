//! A grey picture, its halves, and values between pixels.

use crate::number::whole_of;

/// A grey picture, 8 bits a pixel, row by row from the top.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Grey {
    /// Pixels across.
    pub width: usize,
    /// Pixels down.
    pub height: usize,
    /// One byte a pixel.
    pub pixels: Vec<u8>,
}

impl Grey {
    /// A picture from its pixels; `None` unless there are `width` times `height` of them.
    ///
    /// ```
    /// use umlauf_signals::picture::grey::Grey;
    /// assert!(Grey::new(2, 1, vec![0, 255]).is_some());
    /// assert!(Grey::new(2, 2, vec![0, 255]).is_none());
    /// ```
    pub fn new(width: usize, height: usize, pixels: Vec<u8>) -> Option<Self> {
        (width > 0 && height > 0 && pixels.len() == width.checked_mul(height)?).then_some(Self {
            width,
            height,
            pixels,
        })
    }

    /// Half as wide and high: means of two by two pixels.
    #[must_use]
    pub fn half(&self) -> Self {
        let (width, height) = ((self.width / 2).max(1), (self.height / 2).max(1));
        let mut pixels = Vec::with_capacity(width * height);
        for y in 0..height {
            let above = self.row((2 * y).min(self.height - 1));
            let below = self.row((2 * y + 1).min(self.height - 1));
            if self.width == 1 {
                #[expect(clippy::cast_possible_truncation, reason = "a mean of bytes")]
                pixels.push(((u16::from(above[0]) + u16::from(below[0])).div_ceil(2)) as u8);
                continue;
            }
            let pairs = above.as_chunks::<2>().0.iter().zip(below.as_chunks::<2>().0);
            pixels.extend(pairs.map(|(above, below)| {
                // Two pixels in one number: pairs are parted many at once.
                let (a, b) = (u16::from_le_bytes(*above), u16::from_le_bytes(*below));
                let sum = (a & 0xff) + (a >> 8) + (b & 0xff) + (b >> 8);
                #[expect(clippy::cast_possible_truncation, reason = "a mean of bytes")]
                let mean = ((sum + 2) / 4) as u8;
                mean
            }));
        }
        Self { width, height, pixels }
    }

    /// A row.
    pub fn row(&self, y: usize) -> &[u8] {
        &self.pixels[y * self.width..][..self.width]
    }

    /// Value between pixels by straight lines; `None` outside the pixels' middles.
    pub fn at(&self, x: f32, y: f32) -> Option<f32> {
        let (ix, iy) = (whole_of(x), whole_of(y));
        if !(x >= 0.0 && y >= 0.0) || ix + 1 >= self.width || iy + 1 >= self.height {
            return None;
        }
        #[expect(clippy::cast_precision_loss, reason = "pixels")]
        let (fx, fy) = (x - ix as f32, y - iy as f32);
        let w = self.width;
        let near = &self.pixels[iy * w + ix..][..w + 2];
        let p = |k: usize| f32::from(near[k]);
        let above = p(0) + fx * (p(1) - p(0));
        let below = p(w) + fx * (p(w + 1) - p(w));
        Some(above + fy * (below - above))
    }
}
