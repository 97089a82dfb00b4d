//! Colours of a picture, at half its size: what a camera keeps of them is no finer.

use crate::number::{count, place};
use crate::picture::grey::Grey;

/// A colour as films keep it (ITU-R BT.601, full range): grey, and how much bluer and redder than grey,
/// 128 for neither.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Colour {
    /// Grey value.
    pub grey: f64,
    /// How blue.
    pub blue: f64,
    /// How red.
    pub red: f64,
}

impl Colour {
    /// From red, green and blue, 0 to 255 each (ITU-R BT.601-7, §2.5).
    ///
    /// ```
    /// use umlauf_signals::picture::tint::Colour;
    /// let grey = Colour::of_rgb([90, 90, 90]);
    /// assert!((grey.grey - 90.0).abs() < 1e-9 && (grey.blue - 128.0).abs() < 1e-9);
    /// assert!(Colour::of_rgb([255, 0, 0]).red > 255.0);
    /// ```
    pub fn of_rgb(rgb: [u8; 3]) -> Self {
        let [r, g, b] = rgb.map(f64::from);
        let grey = 0.299 * r + 0.587 * g + 0.114 * b;
        Self { grey, blue: 128.0 + (b - grey) / 1.772, red: 128.0 + (r - grey) / 1.402 }
    }
}

/// The colours of a picture.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Tint {
    width: usize,
    /// Grey, blue, red of each pixel.
    pixels: Vec<[u8; 3]>,
}

impl Tint {
    /// The colours of a picture, of which `blue` and `red` are given at half its size, rounded up; `None`
    /// when they are not as many.
    pub fn new(picture: &Grey, blue: &[u8], red: &[u8]) -> Option<Self> {
        let (width, height) = (picture.width.div_ceil(2), picture.height.div_ceil(2));
        if blue.len() != width * height || red.len() != width * height {
            return None;
        }
        let half = picture.half();
        let grey =
            |k: usize| half.row((k / width).min(half.height - 1))[(k % width).min(half.width - 1)];
        let pixels =
            blue.iter().zip(red).enumerate().map(|(k, (b, r))| [grey(k), *b, *r]).collect();
        Some(Self { width, pixels })
    }

    /// The colour at a place of the whole picture; `None` outside.
    pub fn at(&self, x: f64, y: f64) -> Option<Colour> {
        if !(x >= 0.0 && y >= 0.0) {
            return None;
        }
        let (x, y) = (place(0.5 * x), place(0.5 * y));
        if x >= self.width {
            return None;
        }
        let [grey, blue, red] = self.pixels.get(y * self.width + x)?.map(f64::from);
        Some(Colour { grey, blue, red })
    }

    /// The middle colour of what lies within `reach` pixels of a place; `None` when none of it is in the
    /// picture.
    pub fn about(&self, x: f64, y: f64, reach: usize) -> Option<Colour> {
        let r = count(reach);
        let span = || (0..=2 * reach).map(|k| count(k) - r);
        let all: Vec<Colour> = span()
            .flat_map(|down| span().map(move |across| (across, down)))
            .filter_map(|(across, down)| self.at(x + across, y + down))
            .collect();
        let middle = |of: fn(&Colour) -> f64| {
            let mut sorted: Vec<f64> = all.iter().map(of).collect();
            sorted.sort_by(f64::total_cmp);
            sorted.get(sorted.len() / 2).copied()
        };
        Some(Colour {
            grey: middle(|c| c.grey)?,
            blue: middle(|c| c.blue)?,
            red: middle(|c| c.red)?,
        })
    }
}
