//! How loud each band of the sound is, millisecond by millisecond.

use std::f64::consts::{PI, SQRT_2};

use crate::number::small;

/// Lower and upper edges of the bands, Hz: the thud, its overtones, the knock, and the burst of sand.
pub const EDGES: [(f64, f64); 5] =
    [(40.0, 120.0), (120.0, 300.0), (300.0, 900.0), (900.0, 2500.0), (2500.0, 7000.0)];

/// Mean powers of a band in steps of one millisecond.
pub type Powers = Vec<f32>;

/// Mean power of mono samples in each of [`EDGES`], one value a millisecond; a last part of one is left
/// out. Each band is cut by two Butterworth filters of second order, forwards only, so that no beat
/// sounds before it begins. Samples that are no numbers count as silence. Empty below 16 000
/// samples a second.
pub fn powers(samples: &[f32], rate: u32) -> [Powers; 5] {
    if rate < 16_000 {
        return Default::default();
    }
    let step = (rate / 1000) as usize;
    EDGES.map(|(low, high)| {
        let mut cut = [Cut::above(low, rate), Cut::below(high, rate)];
        let mut out = Vec::with_capacity(samples.len() / step);
        for part in samples.chunks_exact(step) {
            let mut sum = 0.0;
            for s in part {
                let s = f64::from(*s);
                let s = if s.is_finite() { s } else { 0.0 };
                let s = cut.iter_mut().fold(s, |s, c| c.next(s));
                sum += s * s;
            }
            out.push(small(sum / f64::from(rate / 1000)));
        }
        out
    })
}

/// A Butterworth filter of second order (bilinear transform; Oppenheim and Schafer, Discrete-Time Signal
/// Processing; value from memory).
struct Cut {
    b: [f64; 3],
    a: [f64; 2],
    kept: [f64; 2],
}

impl Cut {
    fn above(edge: f64, rate: u32) -> Self {
        Self::new(edge, rate, true)
    }

    fn below(edge: f64, rate: u32) -> Self {
        Self::new(edge, rate, false)
    }

    fn new(edge: f64, rate: u32, above: bool) -> Self {
        let k = (PI * edge / f64::from(rate)).tan();
        let all = 1.0 / (1.0 + SQRT_2 * k + k * k);
        let b = if above {
            [all, -2.0 * all, all]
        } else {
            [k * k * all, 2.0 * k * k * all, k * k * all]
        };
        let a = [2.0 * (k * k - 1.0) * all, (1.0 - SQRT_2 * k + k * k) * all];
        Self { b, a, kept: [0.0; 2] }
    }

    fn next(&mut self, x: f64) -> f64 {
        let y = self.b[0] * x + self.kept[0];
        self.kept[0] = self.b[1] * x - self.a[0] * y + self.kept[1];
        self.kept[1] = self.b[2] * x - self.a[1] * y;
        y
    }
}
