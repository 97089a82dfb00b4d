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
            for k in from..to {
                out[k] += ((rises[k] - middle) / scatter - 1.0).clamp(0.0, MOST);
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
    (0..n)
        .map(|k| {
            let (from, to) = (k.saturating_sub(before), (k + after).min(n));
            if from == k { 0.0 } else { small(mean(k, to) - mean(from, k)) }
        })
        .collect()
}

/// Median, and median absolute deviation from it as a standard deviation.
fn usual(values: &[f32]) -> (f32, f32) {
    let mut sorted = values.to_vec();
    if sorted.is_empty() {
        return (0.0, 1.0);
    }
    let half = sorted.len() / 2;
    let middle = *sorted.select_nth_unstable_by(half, f32::total_cmp).1;
    sorted.iter_mut().for_each(|v| *v = (*v - middle).abs());
    let scatter = *sorted.select_nth_unstable_by(half, f32::total_cmp).1;
    (middle, 1.4826 * scatter.max(0.02))
}
