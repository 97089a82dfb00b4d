//! One sensor on the trunk: no hoof is felt, the rhythm is.

use crate::number::{count, place};
use crate::sensor::trace::{Sample, Trace};

/// A rhythm of the trunk.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Rhythm {
    /// Usual stride, s.
    pub stride_s: f64,
    /// Its standard deviation, s.
    pub stride_sd_s: f64,
    /// How alike one stride is to the next, 0 to 1.
    pub alike: f64,
    /// Scatter of single strides, % of the stride.
    pub cv_pct: f64,
    /// Strides that were looked at.
    pub strides: usize,
}

/// Strides that are looked for, s: from a passage to a slow walk.
const STRIDES: (f64, f64) = (0.35, 1.6);

/// Less alike than this after any time, there is no rhythm.
const FAINTEST: f64 = 0.35;

/// The trunk rises once or twice a stride: the longer time counts when the trace is so much more like itself after it.
const MORE_ALIKE: f64 = 0.02;

/// An axis with less than this share of the strongest one's power is noise.
const WEAK: f64 = 0.002;

/// Samples a second that are looked at.
const RATE: f64 = 200.0;

/// The rhythm of a trunk in the longest time in which it was felt without a hole; `None` where nothing repeats itself.
pub fn rhythm(trace: &Trace) -> Option<Rhythm> {
    let samples = trace.longest();
    let axes = [0, 1, 2].map(|i| even(samples, i));
    let n = axes[0].len();
    let (least, most) = (place(STRIDES.0 * RATE), place(STRIDES.1 * RATE));
    if n < 3 * most {
        return None;
    }
    // Every axis counts alike: the sway to the sides is small, and tells a stride from half of one.
    let powers = [0, 1, 2].map(|i| axes[i].iter().map(|v| v * v).sum::<f64>());
    let strongest = powers.iter().copied().fold(0.0, f64::max);
    let axes: Vec<Vec<f64>> = axes
        .into_iter()
        .zip(powers)
        .filter(|(_, power)| *power > strongest * WEAK && *power > 0.0)
        .map(|(axis, power)| axis.into_iter().map(|v| v / (power / count(n)).sqrt()).collect())
        .collect();
    let alike: Vec<f64> = (0..=most + 1)
        .map(|lag| {
            let one = |a: &Vec<f64>| a[lag..].iter().zip(a).map(|(x, y)| x * y).sum::<f64>();
            axes.iter().map(one).sum::<f64>() / count(axes.len().max(1)) / count(n - lag)
        })
        .collect();
    let is_peak = |k: usize| alike[k] >= alike[k - 1] && alike[k] > alike[k + 1];
    let peaks: Vec<usize> = (least..=most).filter(|k| is_peak(*k)).collect();
    let best = *peaks.iter().max_by(|a, b| alike[**a].total_cmp(&alike[**b]))?;
    if alike[best] < FAINTEST {
        return None;
    }
    // The shortest that is as alike as any: two strides repeat themselves as well.
    let short = *peaks.iter().find(|k| alike[**k] > alike[best] - MORE_ALIKE)?;
    let strides = single(&axes, short);
    let mean = strides.iter().sum::<f64>() / count(strides.len().max(1));
    let spread = strides.iter().map(|s| (s - mean) * (s - mean)).sum::<f64>();
    let sd = (spread / count(strides.len().saturating_sub(1).max(1))).sqrt();
    (strides.len() >= 3).then(|| Rhythm {
        stride_s: mean / RATE,
        stride_sd_s: sd / RATE / count(strides.len()).sqrt(),
        alike: alike[short],
        cv_pct: 100.0 * sd / mean,
        strides: strides.len(),
    })
}

/// The length of each stride: where it is most like the one before.
fn single(axes: &[Vec<f64>], usual: usize) -> Vec<f64> {
    let n = axes.first().map_or(0, Vec::len);
    let about = usual / 6;
    let like = |from: usize, lag: usize| -> f64 {
        axes.iter()
            .map(|a| {
                let (x, y) = (&a[from..from + usual], &a[from + lag..from + lag + usual]);
                x.iter().zip(y).map(|(x, y)| (x - y) * (x - y)).sum::<f64>()
            })
            .sum()
    };
    let mut out = vec![];
    let mut from = 0;
    while from + 2 * usual + about < n {
        let costs: Vec<f64> = (usual - about..=usual + about).map(|lag| like(from, lag)).collect();
        let Some(best) = (0..costs.len()).min_by(|a, b| costs[*a].total_cmp(&costs[*b])) else {
            break;
        };
        if best == 0 || best + 1 == costs.len() {
            from += usual;
            continue;
        }
        // Between samples by a parabola.
        let (a, b, c) = (costs[best - 1], costs[best], costs[best + 1]);
        let part = 0.5 * (a - c) / (a - 2.0 * b + c).max(1e-12);
        let lag = usual - about + best;
        out.push(count(lag) + part.clamp(-0.5, 0.5));
        from += lag;
    }
    out
}

/// An axis at an even rate, without its slow part.
fn even(all: &[Sample], axis: usize) -> Vec<f64> {
    let (Some(first), Some(last)) = (all.first(), all.last()) else { return vec![] };
    let (first, last) = (first.at, last.at);
    let n = place((last - first) * RATE);
    let mut k = 0;
    let raw: Vec<f64> = (0..n)
        .map(|i| {
            let at = first + count(i) / RATE;
            while k + 2 < all.len() && all[k + 1].at < at {
                k += 1;
            }
            let (a, b) = (&all[k], &all[(k + 1).min(all.len() - 1)]);
            let part = ((at - a.at) / (b.at - a.at).max(1e-9)).clamp(0.0, 1.0);
            a.a[axis] + part * (b.a[axis] - a.a[axis])
        })
        .collect();
    let half = place(STRIDES.1 * RATE);
    let mut sums = vec![0.0; n + 1];
    raw.iter().enumerate().for_each(|(i, v)| sums[i + 1] = sums[i] + v);
    (0..n)
        .map(|i| {
            let (from, to) = (i.saturating_sub(half), (i + half + 1).min(n));
            raw[i] - (sums[to] - sums[from]) / count(to - from)
        })
        .collect()
}
