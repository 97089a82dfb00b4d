//! Marks given to the wrong limb: found by the pattern their neighbours predict, put right and
//! reported.
//!
//! A footfall marked for the wrong limb stands between two footfalls of that limb which are one
//! stride apart without it, and leaves a hole of two strides in the limb it belongs to. Only a mark
//! that does both is moved.

use rayon::iter::{IntoParallelIterator, ParallelIterator};

use crate::base::limb::Limb;
use crate::marks::footfall::{self, Footfall};
use crate::strides::nearby::NearbyDuration;

/// A mark that was given to another limb.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Relabelled {
    /// Row of the input.
    pub line: usize,
    /// Limb as marked.
    pub from: Limb,
    /// Limb whose missing place it fits.
    pub to: Limb,
}

/// How far the gap around an intruder may be from one stride, share of a stride.
const ONE_STRIDE: f64 = 0.30;

/// How far a mark may lie from the missing place it fits, share of a stride.
const FITS: f64 = 0.12;

/// A mark that fits another limb: how badly, its place, the limb and which hole of it.
type Move = (f64, usize, Limb, usize);

/// Moves mislabelled marks (sorted by time) to their limbs. Beside what was moved stands the stride
/// duration nearby, as the marks told it before. O(n log n).
pub fn relabel(marks: &mut [Footfall]) -> (Vec<Relabelled>, NearbyDuration) {
    let by_limb = footfall::by_limb(marks);
    let times = by_limb.each_ref().map(|own| own.iter().map(|k| marks[*k].on.0).collect());
    let nearby = NearbyDuration::new(&times);
    let mut moves: Vec<Move> = Limb::ALL
        .into_par_iter()
        .flat_map_iter(|limb| moves_of(limb, &times, &by_limb[limb.index()], &nearby))
        .collect();
    // Each hole takes the mark that fits it best.
    moves.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
    let mut filled: Vec<(Limb, usize)> = Vec::new();
    let mut out = Vec::new();
    for (_, mark, to, hole) in moves {
        let from = marks[mark].limb;
        // Of two marks close together only one is the intruder.
        let neighbour_moved = out.iter().any(|r: &(usize, Relabelled)| {
            r.1.from == from && (marks[r.0].on.0 - marks[mark].on.0).abs() < 0.3
        });
        if !filled.contains(&(to, hole)) && !neighbour_moved {
            filled.push((to, hole));
            let line = marks[mark].line;
            marks[mark].limb = to;
            out.push((mark, Relabelled { line, from, to }));
        }
    }
    let mut out: Vec<Relabelled> = out.into_iter().map(|(_, r)| r).collect();
    out.sort_by_key(|r| r.line);
    (out, nearby)
}

/// The moves that marks of one limb offer.
fn moves_of(
    limb: Limb,
    times: &[Vec<f64>; 4],
    own: &[usize],
    nearby: &NearbyDuration,
) -> Vec<Move> {
    let mut moves = Vec::new();
    let mut near = nearby.walk();
    for (i, &mark) in own.iter().enumerate() {
        let t = times[limb.index()][i];
        let Some(stride) = near.at(t) else { continue };
        if !is_intruder(&times[limb.index()], i, stride) {
            continue;
        }
        let unevenness = 0.5 * unevenness(&times[limb.index()], i, stride);
        let best = Limb::ALL
            .into_iter()
            .filter(|to| *to != limb)
            .filter_map(|to| {
                let (off, hole) = missing_place(&times[to.index()], t, stride)?;
                Some((off + unevenness, mark, to, hole))
            })
            .min_by(|a, b| a.0.total_cmp(&b.0));
        moves.extend(best);
    }
    moves
}

/// Whether its neighbours are one stride apart without the i-th mark of a limb.
fn is_intruder(own: &[f64], i: usize, stride: f64) -> bool {
    let one = |gap: f64| (gap - stride).abs() < ONE_STRIDE * stride;
    let get = |k: Option<usize>| k.and_then(|k| own.get(k)).copied();
    let (before, after) = (get(i.checked_sub(1)), get(Some(i + 1)));
    match (before, after) {
        (Some(b), Some(a)) => one(a - b),
        // At an end: too near to its only neighbour, which keeps step with the next one.
        (None, Some(a)) => {
            !one(a - own[i]) && a - own[i] < stride && get(Some(i + 2)).is_some_and(|n| one(n - a))
        }
        (Some(b), None) => {
            !one(own[i] - b)
                && own[i] - b < stride
                && get(i.checked_sub(2)).is_some_and(|n| one(b - n))
        }
        (None, None) => false,
    }
}

/// How far from one stride the gaps are that a limb keeps about its i-th mark without it, share of
/// a stride. Of two marks close together it tells which one is out of step.
fn unevenness(own: &[f64], i: usize, stride: f64) -> f64 {
    let rest: Vec<f64> =
        (i.saturating_sub(2)..(i + 3).min(own.len())).filter(|k| *k != i).map(|k| own[k]).collect();
    let gaps = rest.windows(2).map(|w| ((w[1] - w[0]) / stride - 1.0).abs());
    gaps.sum::<f64>() / crate::base::number::count(rest.len().max(2) - 1)
}

/// How far `t` lies from a missing place of a limb (share of a stride), and which hole that is.
fn missing_place(own: &[f64], t: f64, stride: f64) -> Option<(f64, usize)> {
    let k = own.partition_point(|x| *x < t);
    let (before, after) = (k.checked_sub(1).map(|k| own[k]), own.get(k).copied());
    let expected = match (before, after) {
        (Some(b), Some(a)) => {
            match (a - b) / stride {
                ..1.6 => return None,
                ..=2.4 => f64::midpoint(a, b),
                // Before or after a halt.
                _ if t - b < a - t => b + stride,
                _ => a - stride,
            }
        }
        (Some(b), None) => b + stride,
        (None, Some(a)) => a - stride,
        (None, None) => return None,
    };
    let off = (t - expected).abs() / stride;
    (off < FITS).then_some((off, k))
}
