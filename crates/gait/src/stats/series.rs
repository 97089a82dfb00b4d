//! A series of strides, and its cosine transform in bands.

use std::sync::OnceLock;

use crate::base::number::count;

/// Values whose wandering is to be read.
#[derive(Clone, Copy, Debug)]
pub struct Series<'a> {
    /// In order of time.
    pub values: &'a [f64],
    /// Variance that the marks put into one value.
    pub noise: f64,
    /// Covariance that a shared mark puts between neighbouring values, as a share of `noise`: −½ for
    /// durations, each of which begins with the mark that ends the one before.
    pub shared: f64,
    /// Share of the next stride in a value, 0 to 1: a mean over limbs that land late in the stride
    /// holds a part of the next.
    pub next: f64,
    /// The values have had a straight line taken out.
    pub detrended: bool,
}

impl Series<'_> {
    /// Autocovariances of the series for a spread of variance `s2` and likeness `r`, from lag 0.
    pub fn autocovariance(&self, s2: f64, r: f64, out: &mut [f64]) {
        let (a, b) = (1.0 - self.next, self.next);
        let (squares, product) = (a * a + b * b, a * b);
        let (mut before, mut power) = (r, 1.0);
        for c in out.iter_mut() {
            *c = s2 * (squares * power + product * (before + power * r));
            (before, power) = (power, power * r);
        }
        for (c, share) in out.iter_mut().zip([1.0, self.shared]) {
            *c += share * self.noise;
        }
    }
}

/// Longest series that is transformed as a whole.
pub const WHOLE: usize = 48;

/// How many frequencies share a band.
pub const BANDS: [usize; 11] = [1, 1, 1, 1, 2, 2, 4, 4, 8, 8, 16];

/// Coefficients of neighbouring frequencies.
pub struct Band {
    /// How many, over all stretches.
    pub coefficients: f64,
    /// Sum of their squares.
    pub energy: f64,
    /// Mean variance that the marks put into one.
    pub noise: f64,
    /// Weights of the series' autocovariances in a coefficient's variance, mean over the band.
    weights: &'static [f64],
}

impl Band {
    /// Mean variance of a coefficient for a series of variance 1 with likeness r of which each
    /// value holds the share `next` of the one after.
    pub fn own_variance(&self, r: f64, next: f64) -> f64 {
        let (a, b) = (1.0 - next, next);
        let (squares, product) = (a * a + b * b, a * b);
        // Σ_d w_d γ_d with γ_d = squares·r^d + product·(r^(d−1) + r^(d+1)) for d ≥ 1.
        let (mut sum, mut power) = (self.weights[0] * (squares + 2.0 * product * r), 1.0);
        for w in &self.weights[1..] {
            let before = power;
            power *= r;
            sum += w * (squares * power + product * (before + power * r));
        }
        sum
    }
}

/// The bands of a series; none of fewer than two values.
pub fn bands(series: &Series) -> Vec<Band> {
    let n = series.values.len();
    if n < 2 {
        return Vec::new();
    }
    let stretches = n.div_ceil(WHOLE);
    let length = n / stretches;
    let shape = shape(length);
    let mut energies = [0.0; WHOLE];
    for stretch in series.values.chunks_exact(length).take(stretches) {
        for (j, energy) in energies.iter_mut().enumerate().take(length).skip(1) {
            let c: f64 = stretch.iter().zip(&shape.cosines[j]).map(|(v, c)| v * c).sum();
            *energy += c * c;
        }
    }
    // A line taken out of a whole series takes the slowest coefficient with it.
    let skipped = if series.detrended && stretches == 1 { 1 } else { 0 };
    shape
        .bands
        .iter()
        .skip(skipped)
        .map(|(from, to, weights)| {
            let shared = series.shared * weights.get(1).unwrap_or(&0.0);
            Band {
                coefficients: count((to - from) * stretches),
                energy: energies[*from..*to].iter().sum(),
                noise: series.noise * (weights[0] + shared),
                weights,
            }
        })
        .collect()
}

/// What the transform of a series of some length needs.
struct Shape {
    /// The cosines of each frequency, of unit length.
    cosines: Vec<Vec<f64>>,
    /// First and last (exclusive) frequency of each band, and the mean weight of each
    /// autocovariance in a coefficient's variance.
    bands: Vec<(usize, usize, Vec<f64>)>,
}

fn shape(length: usize) -> &'static Shape {
    static SHAPES: [OnceLock<Shape>; WHOLE + 1] = [const { OnceLock::new() }; WHOLE + 1];
    SHAPES[length].get_or_init(|| {
        let n = count(length);
        let cosines: Vec<Vec<f64>> = (0..length)
            .map(|j| {
                let turn = std::f64::consts::PI * count(j) / n;
                (0..length).map(|k| (2.0 / n).sqrt() * (turn * (count(k) + 0.5)).cos()).collect()
            })
            .collect();
        let weight = |j: usize, d: usize| {
            let c = &cosines[j];
            let both = if d == 0 { 1.0 } else { 2.0 };
            both * c.iter().zip(&c[d..]).map(|(a, b)| a * b).sum::<f64>()
        };
        let mut bands = Vec::new();
        let mut from = 1;
        for wide in BANDS {
            let to = (from + wide).min(length);
            if from >= to {
                break;
            }
            let mean = |d: usize| (from..to).map(|j| weight(j, d)).sum::<f64>() / count(to - from);
            bands.push((from, to, (0..length).map(mean).collect()));
            from = to;
        }
        Shape { cosines, bands }
    })
}
