//! Whose beats are whose, carried on from strides that somebody has labelled.
//!
//! A limb's next beat lies a stride after its last. The stride is followed as it changes; where a beat is missing the
//! limb goes on by the stride; where none of a stride's beats is found, nothing more is named that way.

use umlauf_gait::base::limb::Limb;

use crate::number::{count, place};

/// Strides that are looked for, s: from a quick trot to a slow walk.
const STRIDES: (f64, f64) = (0.35, 1.6);

/// Step of the search for a stride, s.
const STEP: f64 = 0.004;

/// A beat this part of a stride from where it should be is its limb's.
const NEAR: f64 = 0.08;

/// Parts of a stride by which each known beat may be farther off than where all fit best.
const FITS: f64 = 0.03;

/// How much of what a stride is longer or shorter than expected is taken for the next.
const FOLLOWS: f64 = 0.25;

/// Strides in a row without half of their beats end it.
const LOST: usize = 2;

/// The limb of each of some beats, s in order of time, from `known` footfalls, s. Beats that cannot be told have none.
///
/// ```
/// use umlauf_gait::base::limb::Limb;
/// use umlauf_signals::sound::pattern::labelled;
/// let walk = [Limb::LH, Limb::LF, Limb::RH, Limb::RF];
/// let beats: Vec<f64> = (0..20).map(|k| 0.27 * f64::from(k)).collect();
/// let known: Vec<_> = (0..4).map(|k| (walk[k], beats[8 + k])).collect();
/// let told = labelled(&beats, &known);
/// assert!(told.iter().enumerate().all(|(k, limb)| *limb == Some(walk[k % 4])));
/// ```
pub fn labelled(beats: &[f64], known: &[(Limb, f64)]) -> Vec<Option<Limb>> {
    let mut out = vec![None; beats.len()];
    let Some(stride) = stride(beats, known) else { return out };
    for (limb, at) in known {
        if let Some(k) = nearest(beats, *at, NEAR * stride) {
            out[k] = Some(*limb);
        }
    }
    for way in [1.0, -1.0] {
        carry_on(beats, known, stride, way, &mut out);
    }
    out
}

fn carry_on(beats: &[f64], known: &[(Limb, f64)], stride: f64, way: f64, out: &mut [Option<Limb>]) {
    // Where each limb was last, that way.
    let mut last: Vec<(Limb, f64)> = Limb::ALL
        .into_iter()
        .filter_map(|limb| {
            let own = known.iter().filter(|k| k.0 == limb).map(|k| k.1);
            own.max_by(|a, b| (way * a).total_cmp(&(way * b))).map(|at| (limb, at))
        })
        .collect();
    let (mut stride, mut lost) = (stride, 0);
    while lost < LOST && !last.is_empty() {
        let mut found = 0;
        let mut longer = 0.0;
        for (limb, at) in &mut last {
            let expected = *at + way * stride;
            *at = expected;
            // A beat that has its limb already may be two hooves' at once.
            if let Some(k) = nearest(beats, expected, NEAR * stride) {
                out[k].get_or_insert(*limb);
                longer += way * (beats[k] - expected);
                *at = beats[k];
                found += 1;
            }
        }
        if found > 0 {
            stride += FOLLOWS * longer / count(found);
        }
        lost = if 2 * found >= last.len() { 0 } else { lost + 1 };
        let gone = |at: f64| beats.first().is_none_or(|b| at < *b) || beats.last() < Some(&at);
        if last.iter().all(|l| gone(l.1)) || !(STRIDES.0..STRIDES.1).contains(&stride) {
            break;
        }
    }
}

/// The stride: by limbs that are known twice, or else that after which most beats come again.
fn stride(beats: &[f64], known: &[(Limb, f64)]) -> Option<f64> {
    let twice = known.iter().enumerate().find_map(|(k, (limb, at))| {
        let next = known[k + 1..].iter().filter(|o| o.0 == *limb).map(|o| (o.1 - at).abs());
        next.min_by(f64::total_cmp)
    });
    if let Some(stride) = twice.filter(|s| (STRIDES.0..STRIDES.1).contains(s)) {
        return Some(stride);
    }
    let first = known.iter().map(|k| k.1).fold(f64::INFINITY, f64::min);
    let last = known.iter().map(|k| k.1).fold(f64::NEG_INFINITY, f64::max);
    // The first limb's next beat comes after the last one's, by half of what lies between two at least.
    let between = (last - first) / count(known.len().saturating_sub(1).max(1));
    let shortest = STRIDES.0.max(last - first + 0.5 * between);
    let steps = place(((STRIDES.1 - shortest) / STEP).max(0.0));
    let off = |stride: f64| -> f64 {
        let shifts = [-2.0, -1.0, 1.0, 2.0];
        known
            .iter()
            .flat_map(|k| shifts.iter().map(move |s| k.1 + s * stride))
            .filter(|at| (beats[0]..=beats[beats.len() - 1]).contains(at))
            .map(|at| {
                let far = nearest(beats, at, 1.0).map_or(1.0, |k| (beats[k] - at).abs());
                (far / stride).min(NEAR)
            })
            .sum()
    };
    if beats.is_empty() || known.is_empty() {
        return None;
    }
    let tried: Vec<(f64, f64)> = (0..=steps)
        .map(|k| STEP.mul_add(count(k), shortest))
        .map(|stride| (stride, off(stride)))
        .collect();
    // In an even walk a beat more fits as well: the shortest of those that fit counts.
    let least = tried.iter().map(|t| t.1).fold(f64::INFINITY, f64::min);
    let fits = least + FITS * count(known.len());
    let first = tried.iter().position(|t| t.1 <= fits)?;
    let near = tried[first..].iter().take_while(|t| t.1 <= fits);
    near.min_by(|a, b| a.1.total_cmp(&b.1)).map(|t| t.0)
}

fn nearest(beats: &[f64], at: f64, within: f64) -> Option<usize> {
    let next = beats.partition_point(|b| *b < at);
    (next.saturating_sub(1)..(next + 1).min(beats.len()))
        .filter(|k| (beats[*k] - at).abs() < within)
        .min_by(|a, b| (beats[*a] - at).abs().total_cmp(&(beats[*b] - at).abs()))
}
