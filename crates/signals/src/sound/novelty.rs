//! Where the sound suddenly grows louder, in all bands together.

use crate::number::{count, of_rank, small};
use crate::sound::bands::Powers;

/// Milliseconds after a moment that are set against those before it, band by band: low tones need longer
/// to show how loud they are.
const AROUND: [(usize, usize); 5] = [(14, 45), (10, 28), (8, 20), (8, 20), (8, 20)];

/// Stretch over which what is usual is read, ms.
const USUAL: usize = 3000;

/// The most that one band adds, in its own usual scatters: no single band makes a beat.
const MOST: f32 = 10.0;

/// For every millisecond by how much it is louder after it than before, in multiples of what is usual
/// about it (median absolute deviations), summed over the bands.
pub fn novelty(bands: &[Powers; 5]) -> Vec<f32> {
    let n = bands.iter().map(Vec::len).min().unwrap_or(0);
    let mut out = vec![0.0f32; n];
    for (powers, around) in bands.iter().zip(AROUND) {
        let rises = rises(&powers[..n], around);
        for from in (0..n).step_by(USUAL / 2) {
            let to = (from + USUAL / 2).min(n);
            // What is usual is read from twice as long a stretch about it.
            let about = from.saturating_sub(USUAL / 4)..(to + USUAL / 4).min(n);
            let (middle, scatter) = usual(&rises[about]);
            let per = 1.0 / scatter;
            for (out, rise) in out[from..to].iter_mut().zip(&rises[from..to]) {
                *out += ((rise - middle) * per - 1.0).clamp(0.0, MOST);
            }
        }
    }
    out
}

/// Mean logarithm of the power after each moment less that before.
fn rises(powers: &[f32], (after, before): (usize, usize)) -> Vec<f32> {
    let n = powers.len();
    // Digital silence has no logarithm.
    let floor = of_rank(powers, n / 10).unwrap_or(0.0).max(1e-12);
    let mut sums = Vec::with_capacity(n + 1);
    let mut sum = 0.0f64;
    sums.push(0.0);
    for p in powers {
        sum += f64::from((p + 0.1 * floor).ln());
        sums.push(sum);
    }
    let mean = |from: usize, to: usize| (sums[to] - sums[from]) / count((to - from).max(1));
    let shares = (1.0 / count(after), 1.0 / count(before));
    (0..n)
        .map(|k| {
            let (from, to) = (k.saturating_sub(before), (k + after).min(n));
            if to - from == before + after {
                small((sums[to] - sums[k]) * shares.0 - (sums[k] - sums[from]) * shares.1)
            } else if from == k {
                0.0
            } else {
                small(mean(k, to) - mean(from, k))
            }
        })
        .collect()
}

/// Median, and median absolute deviation from it as a standard deviation.
fn usual(values: &[f32]) -> (f32, f32) {
    let half = values.len() / 2;
    let middle = of_rank(values, half).unwrap_or(0.0);
    let off: Vec<f32> = values.iter().map(|v| (v - middle).abs()).collect();
    let scatter = of_rank(&off, half).unwrap_or(1.0);
    (middle, 1.4826 * scatter.max(0.02))
}
