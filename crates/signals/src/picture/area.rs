//! A part of a picture.

/// Part of a picture, pixels.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Area {
    /// From the left.
    pub left: f32,
    /// Up to.
    pub right: f32,
    /// From the top.
    pub top: f32,
    /// Down to.
    pub bottom: f32,
}

impl Area {
    /// The same in a picture `by` times as large.
    #[must_use]
    pub fn scaled(&self, by: f64) -> Self {
        #[expect(clippy::cast_possible_truncation, reason = "pixels")]
        let by = by as f32;
        Self {
            left: self.left * by,
            right: self.right * by,
            top: self.top * by,
            bottom: self.bottom * by,
        }
    }

    /// Whether a place lies in it.
    pub fn holds(&self, x: f32, y: f32) -> bool {
        (self.left..=self.right).contains(&x) && (self.top..=self.bottom).contains(&y)
    }
}
