//! When a sensor is quiet: a hoof that stands does not accelerate, and turns little.

use std::ops::Range;

use crate::number::{count, place};
use crate::sensor::trace::Trace;

/// Over so long it is looked at how much a trace moves, s.
const OVER: f64 = 0.025;

/// Quiet for less than this, s, is no stance; a noise of less than that does not end one.
const SHORTEST: f64 = 0.06;
const BRIDGED: f64 = 0.015;

/// What moves less than this, m/s², is quiet whatever the rest does.
const STILL: f64 = 0.4;

/// The samples in which a sensor is quiet, in order of time: stretches between a level that parts the moving from the
/// still best (Otsu 1979, IEEE Trans Syst Man Cybern 9:62; of the logarithm; value from memory).
pub fn quiet(trace: &Trace) -> Vec<Range<usize>> {
    let moves = moves(trace);
    let Some(level) = level(&moves) else { return vec![] };
    let (shortest, bridged) = (trace.samples_in(SHORTEST), trace.samples_in(BRIDGED));
    let mut out: Vec<Range<usize>> = vec![];
    for (k, m) in moves.iter().enumerate() {
        if *m > level {
            continue;
        }
        match out.last_mut() {
            Some(last) if k <= last.end + bridged => last.end = k + 1,
            _ => out.push(k..k + 1),
        }
    }
    out.retain(|r| r.len() >= shortest);
    out
}

/// How much the acceleration moves about each sample: its deviation within a short time, m/s².
fn moves(trace: &Trace) -> Vec<f64> {
    let half = trace.samples_in(0.5 * OVER);
    let all = &trace.samples;
    (0..all.len())
        .map(|k| {
            let near = &all[k.saturating_sub(half)..(k + half + 1).min(all.len())];
            let mean =
                [0, 1, 2].map(|i| near.iter().map(|s| s.a[i]).sum::<f64>() / count(near.len()));
            let apart = near
                .iter()
                .map(|s| s.a.iter().zip(mean).map(|(a, m)| (a - m) * (a - m)).sum::<f64>());
            (apart.sum::<f64>() / count(near.len())).sqrt()
        })
        .collect()
}

/// Heaps of the histogram.
const HEAPS: usize = 64;

fn level(moves: &[f64]) -> Option<f64> {
    let logs: Vec<f64> = moves.iter().map(|m| m.max(1e-3).ln()).collect();
    let least = logs.iter().copied().fold(f64::INFINITY, f64::min);
    let most = logs.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    if most - least < 1.0 {
        return None;
    }
    let heap = (most - least) / count(HEAPS);
    let mut counts = [0usize; HEAPS];
    for l in &logs {
        counts[place((l - least) / heap).min(HEAPS - 1)] += 1;
    }
    let all: f64 = counts.iter().enumerate().map(|(k, n)| count(k * n)).sum();
    let (mut below, mut sum, mut best) = (0.0, 0.0, (0.0, 0));
    for (k, n) in counts.iter().enumerate() {
        below += count(*n);
        sum += count(k * n);
        let above = count(logs.len()) - below;
        if below < 1.0 || above < 1.0 {
            continue;
        }
        let apart = below * above * (sum / below - (all - sum) / above).powi(2);
        if apart > best.0 {
            best = (apart, k);
        }
    }
    Some((least + heap * count(best.1 + 1)).exp().max(STILL))
}
