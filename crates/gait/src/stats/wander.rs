//! How a series of strides wanders: its own spread, how alike neighbours are, and what that leaves
//! uncertain in a mean. One model at every length.
//!
//! Values wander about their mean as a first-order autoregression with standard deviation s and
//! likeness r of neighbours; marks add an error of known variance. A few strides can tell neither s
//! nor r, so both are drawn beforehand from what horses usually show ([`Usual`]) and moved by the
//! values as far as those can: the posterior over a grid of (s, r). No rule changes at a length.
//!
//! The likelihood is that of the series' cosine transform (DCT-II without the mean's coefficient),
//! which all but makes such a series independent (Ahmed, Natarajan and Rao 1974, IEEE Trans Comput
//! 23:90; value from memory); every coefficient's variance is exact. Neighbouring frequencies share
//! a band, and series of more than [`WHOLE`] values are read in stretches, so the cost is O(n) with a
//! bounded rest.

use std::sync::OnceLock;

use crate::base::number::count;
use crate::base::usual::Usual;
use crate::stats::quantiles::normal_within;

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

/// A spread and a likeness, and how probable they are.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Cell {
    /// Probability.
    pub weight: f64,
    /// Variance s².
    pub variance: f64,
    /// Likeness of neighbours r.
    pub likeness: f64,
}

/// What a series tells of its spread and likeness.
#[derive(Clone, Debug, PartialEq)]
pub struct Wander {
    /// Cells of the posterior that matter, their weights adding up to 1.
    pub cells: Vec<Cell>,
}

/// Longest series that is transformed as a whole.
const WHOLE: usize = 48;

/// How many frequencies share a band.
const BANDS: [usize; 11] = [1, 1, 1, 1, 2, 2, 4, 4, 8, 8, 16];

/// Nodes of the grid over ln s and over r.
const NODES: (usize, usize) = (20, 11);

/// Cells less likely than the likeliest by more than this factor's logarithm are left out.
const NEGLIGIBLE: f64 = 9.0;

/// Likeness that is thought of: a stride may make up for the last, and beyond the most a mean would
/// never settle.
const LIKENESS: (f64, f64) = (-0.4, 0.8);

impl Wander {
    /// The posterior of spread and likeness after `series`, with `usual` before it.
    pub fn read(series: &Series, usual: &Usual) -> Self {
        let bands = bands(series);
        let centre = usual.spread.ln();
        let seen: f64 = bands.iter().map(|b| b.energy).sum::<f64>()
            / bands.iter().map(|b| b.coefficients).sum::<f64>().max(1.0);
        // Wide enough for a series that does not wander at all and for one that wanders wildly.
        let informed = bands.iter().map(|b| b.coefficients).sum::<f64>().min(64.0);
        let mut from = centre - usual.log_sd * (4.0 + informed * usual.log_sd);
        let mut to = (centre + 4.0 * usual.log_sd).max(0.5 * seen.max(1e-300).ln() + 1.5);
        let mut likeness = LIKENESS;
        let mut grid = Vec::new();
        for _ in 0..5 {
            grid = evaluate(&bands, series, usual, (from, to), likeness);
            let most = grid.iter().fold(f64::NEG_INFINITY, |m, n| m.max(n.log));
            let kept = grid.iter().filter(|n| n.log > most - NEGLIGIBLE);
            let mut inner = (f64::INFINITY, f64::NEG_INFINITY, f64::INFINITY, f64::NEG_INFINITY);
            for n in kept {
                inner =
                    (inner.0.min(n.ln_s), inner.1.max(n.ln_s), inner.2.min(n.r), inner.3.max(n.r));
            }
            let step =
                ((to - from) / count(NODES.0 - 1), (likeness.1 - likeness.0) / count(NODES.1 - 1));
            let next = ((inner.0 - step.0).max(from), (inner.1 + step.0).min(to));
            let next_r = ((inner.2 - step.1).max(likeness.0), (inner.3 + step.1).min(likeness.1));
            let shrinks = (next.1 - next.0) / (to - from) < 0.7
                || (next_r.1 - next_r.0) / (likeness.1 - likeness.0) < 0.6;
            if !shrinks {
                break;
            }
            (from, to) = next;
            likeness = next_r;
        }
        let most = grid.iter().fold(f64::NEG_INFINITY, |m, n| m.max(n.log));
        let mut cells: Vec<Cell> = grid
            .iter()
            .filter(|n| n.log > most - NEGLIGIBLE)
            .map(|n| Cell {
                weight: n.edge * (n.log - most).exp(),
                variance: (2.0 * n.ln_s).exp(),
                likeness: n.r,
            })
            .collect();
        let sum: f64 = cells.iter().map(|c| c.weight).sum();
        for c in &mut cells {
            c.weight /= sum;
        }
        Self { cells }
    }

    /// Half the width of the interval that holds a normal error with probability `p`, its variance
    /// being that of each cell.
    pub fn half_width(&self, p: f64, variance: impl Fn(&Cell) -> f64) -> f64 {
        let errors: Vec<(f64, f64)> =
            self.cells.iter().map(|c| (c.weight, variance(c).max(0.0).sqrt())).collect();
        let mean = errors.iter().map(|(w, e)| w * e * e).sum::<f64>().sqrt();
        if mean <= 0.0 {
            return 0.0;
        }
        // Newton's steps inside a bracket: the share held rises smoothly with the width.
        let (mut lo, mut hi) = (0.0, f64::INFINITY);
        let mut half = 2.0 * mean;
        for _ in 0..30 {
            let (mut held, mut rise) = (-p, 0.0);
            for (w, e) in &errors {
                let z = half / e;
                held += w * normal_within(z);
                rise += w * (-0.5 * z * z).exp() / e;
            }
            if held < 0.0 {
                lo = half;
            } else {
                hi = half;
            }
            let step = held / (rise * (2.0 / std::f64::consts::PI).sqrt());
            let next = half - step;
            half = if next > lo && next < hi {
                next
            } else if hi.is_finite() {
                f64::midpoint(lo, hi)
            } else {
                2.0 * half
            };
            if step.abs() < 1e-6 * half {
                break;
            }
        }
        half
    }

    /// Two-sided probability that a normal error of each cell's variance is as large as `size`.
    pub fn beyond(&self, size: f64, variance: impl Fn(&Cell) -> f64) -> f64 {
        let within = |c: &Cell| normal_within(size.abs() / variance(c).max(1e-300).sqrt());
        (1.0 - self.cells.iter().map(|c| c.weight * within(c)).sum::<f64>()).clamp(0.0, 1.0)
    }

    /// Spread s below which the horse's lies with probability `p`.
    pub fn spread_quantile(&self, p: f64) -> f64 {
        let mut by_spread: Vec<(f64, f64)> =
            self.cells.iter().map(|c| (c.variance, c.weight)).collect();
        by_spread.sort_by(|a, b| a.0.total_cmp(&b.0));
        // Every node stands for the stretch half way to its neighbours, in ln s.
        let steps: Vec<(f64, f64)> = by_spread
            .chunk_by(|a, b| (a.0 / b.0 - 1.0).abs() < 1e-9)
            .map(|same| (0.5 * same[0].0.ln(), same.iter().map(|s| s.1).sum()))
            .collect();
        let mut below = 0.0;
        for (k, (at, weight)) in steps.iter().enumerate() {
            if below + weight >= p {
                let before = if k > 0 { f64::midpoint(steps[k - 1].0, *at) } else { *at };
                let after = steps.get(k + 1).map_or(*at, |next| f64::midpoint(*at, next.0));
                return (before + (after - before) * (p - below) / weight).exp();
            }
            below += weight;
        }
        steps.last().map_or(0.0, |s| s.0.exp())
    }
}

/// Variance of the mean of n values of variance 1 whose neighbours are alike by `r`:
/// (1/n)·[(1 + r)/(1 − r) − 2r(1 − rⁿ)/(n(1 − r)²)].
///
/// ```
/// use umlauf_gait::stats::wander::variance_of_mean;
/// // Two values: (1 + r)/2.
/// assert!((variance_of_mean(2, 0.4) - 0.7).abs() < 1e-12);
/// ```
pub fn variance_of_mean(n: usize, r: f64) -> f64 {
    #[expect(clippy::cast_possible_truncation, clippy::cast_possible_wrap, reason = "capped")]
    let power = r.powi(n.min(10_000) as i32);
    let n = count(n.max(1));
    ((1.0 + r) / (1.0 - r) - 2.0 * r * (1.0 - power) / (n * (1.0 - r) * (1.0 - r))) / n
}

/// Variance of Σ w_k x_k for values of variance 1 whose neighbours are alike by `r`. O(n).
pub fn variance_of_sum(weights: impl Iterator<Item = f64>, r: f64) -> f64 {
    let (mut sum, mut carried) = (0.0, 0.0);
    for w in weights {
        sum += w * w + 2.0 * w * carried;
        carried = r * (carried + w);
    }
    sum
}

/// A node of the grid.
struct Node {
    ln_s: f64,
    r: f64,
    /// Logarithm of the posterior's density.
    log: f64,
    /// Half at the border of the grid (trapezoid rule), 1 inside.
    edge: f64,
}

fn evaluate(
    bands: &[Band],
    series: &Series,
    usual: &Usual,
    (from, to): (f64, f64),
    (least, most): (f64, f64),
) -> Vec<Node> {
    let mut out = Vec::with_capacity(NODES.0 * NODES.1);
    let edge = |k: usize, n: usize| if k == 0 || k + 1 == n { 0.5 } else { 1.0 };
    let mut own = [0.0; BANDS.len()];
    for j in 0..NODES.1 {
        let r = least + (most - least) * count(j) / count(NODES.1 - 1);
        let likely = (r - usual.likeness) / usual.likeness_sd;
        for (own, band) in own.iter_mut().zip(bands) {
            *own = band.own_variance(r, series.next);
        }
        for k in 0..NODES.0 {
            let ln_s = from + (to - from) * count(k) / count(NODES.0 - 1);
            let s2 = (2.0 * ln_s).exp();
            let far = (ln_s - usual.spread.ln()) / usual.log_sd;
            let mut log = -0.5 * (far * far + likely * likely);
            for (own, band) in own.iter().zip(bands) {
                let variance = s2 * own + band.noise;
                log -= 0.5 * (band.coefficients * variance.ln() + band.energy / variance);
            }
            out.push(Node { ln_s, r, log, edge: edge(k, NODES.0) * edge(j, NODES.1) });
        }
    }
    out
}

/// Coefficients of neighbouring frequencies.
struct Band {
    /// How many, over all stretches.
    coefficients: f64,
    /// Sum of their squares.
    energy: f64,
    /// Mean variance that the marks put into one.
    noise: f64,
    /// Weights of the series' autocovariances in a coefficient's variance, mean over the band.
    weights: &'static [f64],
}

impl Band {
    /// Mean variance of a coefficient for a series of variance 1 with likeness r of which each
    /// value holds the share `next` of the one after.
    fn own_variance(&self, r: f64, next: f64) -> f64 {
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

fn bands(series: &Series) -> Vec<Band> {
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
