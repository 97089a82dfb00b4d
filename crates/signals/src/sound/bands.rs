//! How loud each band of the sound is, millisecond by millisecond.

use std::f32::consts::{PI, SQRT_2};

use crate::number::{count, place, small};

/// Lower and upper edges of the bands, Hz: the thud, its overtones, the knock, and the burst of sand.
pub const EDGES: [(f32, f32); 5] =
    [(40.0, 120.0), (120.0, 300.0), (300.0, 900.0), (900.0, 2500.0), (2500.0, 7000.0)];

/// Mean powers of a band in steps of one millisecond.
pub type Powers = Vec<f32>;

/// Means a second that the three low bands are cut from, at least.
pub const SLOW: u32 = 8_000;

/// Means a second that the others are cut from.
pub const QUICK: u32 = 16_000;

/// Mean power of a sound in each of [`EDGES`], one value a millisecond; a last part of one is left out. Each band is
/// cut by two Butterworth filters of second order, forwards only, so that no beat sounds before it begins. The sound
/// comes as means of samples, at least [`SLOW`] and [`QUICK`] a second.
pub fn powers(slow: &Slower, quick: &Slower) -> [Powers; 5] {
    // Four are computed as fast as two.
    let [a, b, c, _] = slow.powers([EDGES[0], EDGES[1], EDGES[2], EDGES[2]]);
    let [d, e, _, _] = quick.powers([EDGES[3], EDGES[4], EDGES[4], EDGES[4]]);
    [a, b, c, d, e]
}

/// Means of some samples in a row.
pub struct Slower {
    /// The means; of samples that are no numbers 0.
    pub samples: Vec<f32>,
    /// Means a second.
    pub rate: f64,
}

impl Slower {
    /// Of samples, `rate` a second, `about` so many means a second, or more.
    pub fn of(samples: &[f32], rate: u32, about: u32) -> Self {
        let step = usize::try_from(rate / about.max(1)).unwrap_or(1).max(1);
        // What a compiler knows to be short it adds up at once.
        let samples = match step {
            1 => means::<1>(samples),
            2 => means::<2>(samples),
            3 => means::<3>(samples),
            5 => means::<5>(samples),
            6 => means::<6>(samples),
            _ => samples.chunks_exact(step).map(mean).collect(),
        };
        Self { samples, rate: f64::from(rate) / count(step) }
    }

    /// Mean powers of bands, all at once: what one filter waits for another computes.
    #[inline(never)]
    fn powers(&self, edges: [(f32, f32); LANES]) -> [Powers; LANES] {
        let rate = small(self.rate);
        let mut above = Cuts::new(edges.map(|e| Cut::above(e.0, rate)));
        let mut below = Cuts::new(edges.map(|e| Cut::below(e.1, rate)));
        let mut out = [(); LANES].map(|()| Vec::with_capacity(self.samples.len() / 8));
        // A millisecond need not be a whole number of samples.
        let end = |ms: usize| place((0.001 * self.rate * count(ms)).ceil());
        let mut from = 0;
        while let Some(part) = self.samples.get(from..end(out[0].len() + 1)) {
            let mut sums = [0.0f32; LANES];
            for s in part {
                let cut = below.next(above.next([*s; LANES]));
                sums.iter_mut().zip(cut).for_each(|(sum, s)| *sum += s * s);
            }
            let share = small(count(part.len()));
            out.iter_mut().zip(sums).for_each(|(out, sum)| out.push(sum / share));
            from += part.len();
            above.settle();
            below.settle();
        }
        out
    }
}

fn means<const N: usize>(samples: &[f32]) -> Vec<f32> {
    samples.as_chunks::<N>().0.iter().map(|part| mean(part)).collect()
}

fn mean(part: &[f32]) -> f32 {
    let mean = part.iter().sum::<f32>() / small(count(part.len()));
    if mean.is_finite() { mean } else { 0.0 }
}

/// Filters that are computed as one.
const LANES: usize = 4;

/// What rings on more faintly than this is silence: numbers that are all but none take a processor long.
const SILENT: f32 = 1e-15;

/// A Butterworth filter of second order (bilinear transform; Oppenheim and Schafer, Discrete-Time Signal
/// Processing; value from memory): weights of the sample and the two before it, and of what came out before.
struct Cut {
    b: [f32; 3],
    a: [f32; 2],
}

impl Cut {
    fn above(edge: f32, rate: f32) -> Self {
        Self::new(edge, rate, true)
    }

    fn below(edge: f32, rate: f32) -> Self {
        Self::new(edge, rate, false)
    }

    fn new(edge: f32, rate: f32, above: bool) -> Self {
        let k = (PI * edge / rate).tan();
        let all = 1.0 / (1.0 + SQRT_2 * k + k * k);
        let b = if above {
            [all, -2.0 * all, all]
        } else {
            [k * k * all, 2.0 * k * k * all, k * k * all]
        };
        let a = [2.0 * (k * k - 1.0) * all, (1.0 - SQRT_2 * k + k * k) * all];
        Self { b, a }
    }
}

/// Filters side by side.
struct Cuts {
    b: [[f32; LANES]; 3],
    a: [[f32; LANES]; 2],
    kept: [[f32; LANES]; 2],
}

impl Cuts {
    fn new(cuts: [Cut; LANES]) -> Self {
        Self {
            b: [0, 1, 2].map(|k| std::array::from_fn(|n| cuts[n].b[k])),
            a: [0, 1].map(|k| std::array::from_fn(|n| cuts[n].a[k])),
            kept: [[0.0; LANES]; 2],
        }
    }

    /// Ends what rings on too faintly to be heard.
    fn settle(&mut self) {
        for kept in self.kept.as_flattened_mut() {
            if kept.abs() < SILENT {
                *kept = 0.0;
            }
        }
    }

    fn next(&mut self, x: [f32; LANES]) -> [f32; LANES] {
        let ([b0, b1, b2], [a0, a1]) = (&self.b, &self.a);
        let y: [f32; LANES] = std::array::from_fn(|n| b0[n] * x[n] + self.kept[0][n]);
        self.kept[0] = std::array::from_fn(|n| b1[n] * x[n] + self.kept[1][n] - a0[n] * y[n]);
        self.kept[1] = std::array::from_fn(|n| b2[n] * x[n] - a1[n] * y[n]);
        y
    }
}
