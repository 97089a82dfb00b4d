//! How light a limb is above the row on which it ends: its hoof, its pastern, its cannon.

use crate::picture::hoof::{Hoof, Looks, columns_of, middle_of, steps};
use crate::picture::strokes::Stroke;

/// Heights above the sole of what is looked at, heights at the withers: the hoof, the pastern, the cannon.
const PARTS: [(f64, f64); 3] = [(0.0, 0.025), (0.035, 0.075), (0.085, 0.125)];

impl Looks<'_, '_> {
    /// The share of the ground's light that a stroke's limb has above the row on which it ends, where its hoof should be.
    pub fn above_sole(&self, hoof: &Hoof, stroke: &Stroke, row: f64) -> f32 {
        self.tone(hoof, stroke, row, PARTS[0])
    }

    /// The shares of the ground's light that a stroke's hoof, pastern and cannon have, of those that are seen.
    pub fn tones(&self, hoof: &Hoof, stroke: &Stroke, row: f64) -> [Option<f32>; 3] {
        PARTS.map(|part| Some(self.tone(hoof, stroke, row, part)).filter(|tone| !tone.is_nan()))
    }

    fn tone(&self, hoof: &Hoof, stroke: &Stroke, row: f64, (low, high): (f64, f64)) -> f32 {
        let own = columns_of(&hoof.weight, hoof.columns.len());
        let edge = own.len() / 4;
        let columns = &hoof.columns[own.start + edge..own.end - edge];
        let rows = steps(row - high * self.height, row - low * self.height - 0.5);
        let template = self.template(stroke, columns, &rows);
        let behind = self.behind(hoof.middle, columns, &rows);
        let shares = template.iter().zip(&behind).map(|(t, b)| t / b.max(1.0));
        middle_of(&mut shares.filter(|s| !s.is_nan()).collect::<Vec<_>>())
    }
}
