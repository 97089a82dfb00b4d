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

use crate::base::number::count;
use crate::base::usual::Usual;
use crate::stats::descriptive::mean;
use crate::stats::quantiles::{normal_quantile, normal_within};
use crate::stats::series::{BANDS, Band, Series, WHOLE, bands};
use crate::stats::toeplitz::log_density;

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

/// Nodes of the grid over ln s and over r.
const NODES: (usize, usize) = (16, 9);

/// Cells less likely than the likeliest by more than this factor's logarithm are left out.
const NEGLIGIBLE: f64 = 9.0;

/// Farthest from the usual that ln s is looked for.
const FARTHEST: f64 = 25.0;

/// Likeness that is thought of: a stride may make up for the last, and beyond the most a mean would
/// never settle.
const LIKENESS: (f64, f64) = (-0.4, 0.8);

impl Wander {
    /// The posterior of spread and likeness after `series`, with `usual` before it.
    pub fn read(series: &Series, usual: &Usual) -> Self {
        let bands = bands(series);
        let (mut spreads, mut likeness) = (span(&bands, series, usual), LIKENESS);
        let mut grid = evaluate(&bands, series, usual, spreads, likeness);
        // A long series leaves few nodes that matter: look at those more closely.
        for _ in 0..3 {
            let inner = inside(&grid, spreads, likeness);
            let shrinks = |(a, b): (f64, f64), (c, d): (f64, f64)| b - a < 0.6 * (d - c);
            if !shrinks(inner.0, spreads) && !shrinks(inner.1, likeness) {
                break;
            }
            (spreads, likeness) = inner;
            grid = evaluate(&bands, series, usual, spreads, likeness);
        }
        let alike = series.shared != 0.0 || series.next != 0.0;
        if alike && !series.detrended && (2..=WHOLE).contains(&series.values.len()) {
            exactly(&mut grid, series, usual);
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
                let (within, density) = within_and_density(half / e);
                held += w * within;
                rise += w * density / e;
            }
            if held < 0.0 {
                lo = half;
            } else {
                hi = half;
            }
            let step = held / rise;
            let next = half - step;
            half = if next > lo && next < hi {
                next
            } else if hi.is_finite() {
                f64::midpoint(lo, hi)
            } else {
                2.0 * half
            };
            if step.abs() < 1e-4 * half {
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
        // Nodes stand at equal steps of ln s.
        let nodes: Vec<(f64, f64)> = by_spread
            .chunk_by(|a, b| (a.0 / b.0 - 1.0).abs() < 1e-9)
            .map(|same| (0.5 * same[0].0.ln(), same.iter().map(|s| s.1).sum()))
            .collect();
        let weight = |k: usize| nodes.get(k).map_or(0.0, |n| n.1);
        let mut below = 0.0;
        let mut last: Option<(f64, f64)> = None;
        for (k, (ln_s, here)) in nodes.iter().enumerate() {
            // Trapezoids with Euler and Maclaurin's correction for the slope at their end.
            let slope = 0.5 * (weight(k + 1) - if k > 0 { weight(k - 1) } else { 0.0 });
            let share = (below + 0.5 * here - slope / 12.0).clamp(1e-9, 1.0 - 1e-9);
            below += here;
            // Posteriors are nearly normal in ln s: between nodes the normal score runs straight.
            let score = normal_quantile(share);
            if share >= p {
                let wanted = normal_quantile(p);
                return last
                    .map_or(*ln_s, |(from, before)| {
                        from + (ln_s - from) * (wanted - before) / (score - before).max(1e-12)
                    })
                    .exp();
            }
            last = Some((*ln_s, score));
        }
        last.map_or(0.0, |(ln_s, _)| ln_s.exp())
    }
}

/// Probability that a standard normal number lies within ± `z`, good to 2·10⁻⁷, and how fast it
/// rises with z: they share the exponential, which is what an interval's search costs (Hastings'
/// approximation, Abramowitz and Stegun, Handbook of Mathematical Functions, 1964, 7.1.26; values
/// from memory, checked against the exact function below).
fn within_and_density(z: f64) -> (f64, f64) {
    const A: [f64; 5] =
        [0.254_829_592, -0.284_496_736, 1.421_413_741, -1.453_152_027, 1.061_405_429];
    let bell = (-0.5 * z * z).exp();
    let t = 1.0 / (1.0 + 0.327_591_1 * std::f64::consts::FRAC_1_SQRT_2 * z);
    let sum = t * (A[0] + t * (A[1] + t * (A[2] + t * (A[3] + t * A[4]))));
    (1.0 - sum * bell, bell * std::f64::consts::FRAC_2_SQRT_PI * std::f64::consts::FRAC_1_SQRT_2)
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

/// Where ln s may lie, at the usual likeness: from the likeliest outwards until nothing that matters
/// is left.
fn span(bands: &[Band], series: &Series, usual: &Usual) -> (f64, f64) {
    let (mut energy, mut noise, mut n) = (0.0, 0.0, 0.0);
    for band in bands {
        energy += band.energy;
        noise += band.noise * band.coefficients;
        n += band.coefficients;
    }
    let centre = usual.spread.ln();
    let own = (energy - noise) / n.max(1.0);
    let from_series = if own > 0.0 { 0.5 * f64::ln(own) } else { centre };
    let own = own_variances(bands, usual.likeness, series.next);
    let at = |ln_s: f64| by_bands(bands, &own, usual, ln_s, usual.likeness);
    let mut best = if at(from_series) > at(centre) { from_series } else { centre };
    let mut step = 0.5;
    while step > 0.01 {
        match [best - step, best + step].into_iter().find(|x| at(*x) > at(best)) {
            // A series without any wandering at all has no likeliest spread.
            Some(x) if (x - centre).abs() < FARTHEST => best = x,
            _ => step *= 0.5,
        }
    }
    let least = at(best) - NEGLIGIBLE;
    let end = |way: f64| {
        let (mut inner, mut step) = (best, 0.05);
        while at(inner + way * step) > least && (inner - centre).abs() < FARTHEST {
            inner += way * step;
            step *= 1.6;
        }
        for _ in 0..8 {
            step *= 0.5;
            if at(inner + way * step) > least {
                inner += way * step;
            }
        }
        inner
    };
    let (low, high) = (end(-1.0), end(1.0));
    // Other likenesses go with somewhat other spreads.
    let room = 0.12 * (high - low);
    (low - room, high + room)
}

/// Sets the grid to the exact density of a short series whose values share marks or strides, which the
/// transform leaves least independent: its distance from the bands' density, taken at a few nodes,
/// is smooth and interpolated between them (Lagrange).
fn exactly(grid: &mut [Node], series: &Series, usual: &Usual) {
    const AT: ([usize; 5], [usize; 5]) = ([0, 2, 4, 6, 8], [0, 4, 8, 12, 15]);
    // About the mean, so that no digits are lost.
    let middle = mean(series.values);
    let values: Vec<f64> = series.values.iter().map(|v| v - middle).collect();
    let mut covariance = vec![0.0; values.len()];
    let apart = AT.0.map(|j| {
        AT.1.map(|k| {
            let node = &grid[j * NODES.0 + k];
            series.autocovariance((2.0 * node.ln_s).exp(), node.r, &mut covariance);
            log_density(&covariance, &values) + prior(usual, node.ln_s, node.r) - node.log
        })
    });
    if apart.iter().flatten().any(|d| !d.is_finite()) {
        return;
    }
    for (place, node) in grid.iter_mut().enumerate() {
        let (j, k) = (place / NODES.0, place % NODES.0);
        for (a, row) in apart.iter().enumerate() {
            for (b, apart) in row.iter().enumerate() {
                node.log += lagrange(&AT.0, a, j) * lagrange(&AT.1, b, k) * apart;
            }
        }
    }
}

/// The polynomial that is 1 at the `own` of some places and 0 at the others, at `place`.
fn lagrange(places: &[usize], own: usize, place: usize) -> f64 {
    let others = places.iter().enumerate().filter(|(k, _)| *k != own);
    others.map(|(_, p)| (count(place) - count(*p)) / (count(places[own]) - count(*p))).product()
}

/// The part of the grid that holds all nodes which matter, one node wider on every side.
fn inside(grid: &[Node], spreads: (f64, f64), likeness: (f64, f64)) -> ((f64, f64), (f64, f64)) {
    let most = grid.iter().fold(f64::NEG_INFINITY, |m, n| m.max(n.log));
    let (mut s, mut r) = ((f64::INFINITY, f64::NEG_INFINITY), (f64::INFINITY, f64::NEG_INFINITY));
    for n in grid.iter().filter(|n| n.log > most - NEGLIGIBLE) {
        s = (s.0.min(n.ln_s), s.1.max(n.ln_s));
        r = (r.0.min(n.r), r.1.max(n.r));
    }
    let wider = |inner: (f64, f64), outer: (f64, f64), nodes: usize| {
        let step = (outer.1 - outer.0) / count(nodes - 1);
        ((inner.0 - step).max(outer.0), (inner.1 + step).min(outer.1))
    };
    (wider(s, spreads, NODES.0), wider(r, likeness, NODES.1))
}

fn own_variances(bands: &[Band], r: f64, next: f64) -> [f64; BANDS.len()] {
    let mut own = [0.0; BANDS.len()];
    for (own, band) in own.iter_mut().zip(bands) {
        *own = band.own_variance(r, next);
    }
    own
}

/// Logarithm of the posterior's density, but for a constant.
fn by_bands(bands: &[Band], own: &[f64; BANDS.len()], usual: &Usual, ln_s: f64, r: f64) -> f64 {
    let s2 = (2.0 * ln_s).exp();
    let mut log = 0.0;
    // Bands of as many coefficients share a logarithm, which costs most.
    let (mut product, mut coefficients) = (1.0, 0.0);
    for (own, band) in own.iter().zip(bands) {
        let variance = s2 * own + band.noise;
        if coefficients != band.coefficients && product != 1.0 {
            log += coefficients * f64::ln(product);
            product = 1.0;
        }
        product *= variance;
        coefficients = band.coefficients;
        log += band.energy / variance;
    }
    prior(usual, ln_s, r) - 0.5 * (log + coefficients * f64::ln(product))
}

/// Logarithm of how usual a spread and a likeness are, but for a constant.
fn prior(usual: &Usual, ln_s: f64, r: f64) -> f64 {
    let far = (ln_s - usual.spread.ln()) / usual.log_sd;
    let likely = (r - usual.likeness) / usual.likeness_sd;
    -0.5 * (far * far + likely * likely)
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
    for j in 0..NODES.1 {
        let r = least + (most - least) * count(j) / count(NODES.1 - 1);
        let own = own_variances(bands, r, series.next);
        for k in 0..NODES.0 {
            let ln_s = from + (to - from) * count(k) / count(NODES.0 - 1);
            let log = by_bands(bands, &own, usual, ln_s, r);
            out.push(Node { ln_s, r, log, edge: edge(k, NODES.0) * edge(j, NODES.1) });
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::within_and_density;
    use crate::stats::quantiles::normal_within;

    #[test]
    fn the_quick_normal_is_the_exact_one() {
        for k in 0..600 {
            let z = f64::from(k) / 100.0;
            let (within, density) = within_and_density(z);
            assert!((within - normal_within(z)).abs() < 2e-7, "{z}");
            let rise = (normal_within(z + 1e-5) - normal_within(z - 1e-5)) / 2e-5;
            assert!(k == 0 || (density - rise).abs() < 1e-6, "{z}: {density} {rise}");
        }
    }
}
