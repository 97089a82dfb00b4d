//! Stretches of strides between marked footfalls, and how long each limb says a stride lasts.

use crate::base::limb::Limb;
use crate::base::number::count;
use crate::figures::run_length::RunLength;
use crate::strides::stride::{Stride, follows};

/// Stretches of strides between marked footfalls, by [`RunLength`]. A footfall that is missing inside a
/// stretch does not matter to its mean.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Stretches {
    /// Seconds of all stretches.
    pub seconds: f64,
    /// Strides in them.
    pub strides: usize,
    /// How many stretches, each divided by the limbs that it rests on: so many pairs of end footfalls their mean carries
    /// the error of.
    pub ends: f64,
    /// Durations of the strides both of whose ends were marked, s.
    pub durations: Vec<f64>,
    /// Durations as the mean over the limbs that were marked in a stride and in the next, s: each
    /// limb times the stride anew, so these know more of the horse's own spread.
    pub by_limbs: Vec<f64>,
    /// How many limbs those means rest on, on average.
    pub limbs: f64,
    /// Mean phase of those limbs: a limb that lands late in the stride times a part of this one and
    /// a part of the next.
    pub lateness: f64,
    /// Variance of a footfall about its place in the stride, s², from the places of the limbs other
    /// than the first hind, and how many degrees of freedom it rests on.
    pub scatter: (f64, f64),
}

impl Stretches {
    /// The stretches of strides in order of time. `after` is the stride that follows them, whose
    /// footfalls end the last one's intervals limb by limb.
    pub fn of(strides: &[Stride], after: Option<&Stride>) -> Self {
        let mut out = Self::default();
        for run in strides.chunk_by(follows) {
            if let Some(length) = RunLength::of(run, after) {
                out.seconds += length.seconds;
                out.strides += length.strides;
                out.ends += 1.0 / length.limbs;
            }
            let whole = run.iter().filter(|s| s.start_is_marked() && !s.end_inferred);
            out.durations.extend(whole.map(Stride::duration));
            let next = run.iter().skip(1).chain(after);
            for (here, next) in run.iter().zip(next).filter(|(a, b)| follows(a, b)) {
                if let Some((duration, limbs)) = limb_duration(here, next) {
                    out.limbs += count(limbs);
                    out.by_limbs.push(duration);
                    out.lateness += lateness(here);
                }
            }
        }
        out.limbs /= count(out.by_limbs.len().max(1));
        out.lateness /= count(out.by_limbs.len().max(1));
        out.scatter = scatter(strides);
        out
    }
}

/// Variance of a footfall about its limb's mean place, s², and its degrees of freedom. A place
/// (on − start)/T rests on three marks: with its mean φ their errors weigh 1, 1 − φ and φ.
fn scatter(strides: &[Stride]) -> (f64, f64) {
    let mut of_limbs = [(0.0, 0.0); 4];
    for limb in Limb::ALL {
        let k = limb.index();
        let places: Vec<(f64, f64)> = strides
            .iter()
            .filter(|s| s.start_is_marked() && !s.end_inferred && s.first_hind != limb)
            .filter(|s| !s.inferred[k])
            .filter_map(|s| Some(((s.on[k]? - s.start) / s.duration(), s.duration())))
            .collect();
        if places.len() >= 2 {
            let n = count(places.len());
            let (place, t) =
                places.iter().fold((0.0, 0.0), |(p, t), (q, u)| (p + q / n, t + u / n));
            let squares: f64 = places.iter().map(|(p, _)| (p - place) * (p - place)).sum();
            let weight = 1.0 + (1.0 - place) * (1.0 - place) + place * place;
            of_limbs[k] = (squares * t * t / weight, n - 1.0);
        }
    }
    // Left and right first, so that a mirror image adds up to the very same number.
    let add = |a: (f64, f64), b: (f64, f64)| (a.0 + b.0, a.1 + b.1);
    let (sum, dof) = add(add(of_limbs[0], of_limbs[1]), add(of_limbs[2], of_limbs[3]));
    (if dof > 0.0 { sum / dof } else { 0.0 }, dof)
}

/// Mean phase of a stride's marked limbs, 0 to 1, a little before the start counting as 0.
pub fn lateness(stride: &Stride) -> f64 {
    let phase = |limb: Limb| {
        stride.on[limb.index()]
            .map_or(0.0, |on| ((on - stride.start) / stride.duration()).clamp(0.0, 1.0))
    };
    let n = stride.on.iter().flatten().count();
    // Left and right first, as in [`limb_duration`].
    let sum = (phase(Limb::LF) + phase(Limb::RF)) + (phase(Limb::LH) + phase(Limb::RH));
    sum / count(n.max(1))
}

/// Mean over the limbs of what each says of a stride's duration, from its footfall in it to that
/// in the next, s, and how many limbs say so; `None` when none does.
pub fn limb_duration(stride: &Stride, next: &Stride) -> Option<(f64, usize)> {
    let says = |limb: Limb| {
        let k = limb.index();
        let marked = !stride.inferred[k] && !next.inferred[k];
        marked.then(|| Some(next.on[k]? - stride.on[k]?)).flatten()
    };
    // Left and right are added first, so that a mirror image adds up to the very same number.
    let pair = |left, right| match (says(left), says(right)) {
        (Some(l), Some(r)) => (l + r, 2),
        (Some(v), None) | (None, Some(v)) => (v, 1),
        (None, None) => (0.0, 0),
    };
    let (fores, f) = pair(Limb::LF, Limb::RF);
    let (hinds, h) = pair(Limb::LH, Limb::RH);
    (f + h > 0).then(|| ((fores + hinds) / count(f + h), f + h))
}
