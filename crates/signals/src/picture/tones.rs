//! How light a limb is above the row on which it ends: its hoof, its pastern, its cannon.

use crate::picture::hoof::{Hoof, Looks, columns_of, middle_of, steps};
use crate::picture::strokes::Stroke;

/// Heights above the sole of what is looked at, heights at the withers: the hoof, the pastern, the cannon.
const PARTS: [(f64, f64); 3] = [(0.0, 0.025), (0.035, 0.075), (0.085, 0.125)];

/// The ground's light is read from so much below the sole, heights at the withers.
const GROUND: f64 = 0.02;

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
        let seen = |of: Vec<f32>| {
            middle_of(&mut of.into_iter().filter(|t| !t.is_nan()).collect::<Vec<_>>())
        };
        // What lies behind a cannon is seldom the ground.
        let ground = self.behind(hoof.middle, columns, &steps(row, row + GROUND * self.height));
        seen(self.template(stroke, columns, &rows)) / seen(ground).max(1.0)
    }
}
