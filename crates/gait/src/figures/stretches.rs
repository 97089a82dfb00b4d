//! Stretches of strides between marked footfalls, and how long each limb says a stride lasts.

use crate::base::limb::Limb;
use crate::base::number::count;
use crate::strides::stride::Stride;

/// Stretches of strides between two marked footfalls of the first-hind clock. A footfall that is
/// missing inside a stretch does not matter to its mean.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Stretches {
    /// Seconds of all stretches.
    pub seconds: f64,
    /// Strides in them.
    pub strides: usize,
    /// How many stretches.
    pub runs: usize,
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
}

impl Stretches {
    /// The stretches of strides in order of time.
    pub fn of(strides: &[Stride]) -> Self {
        let mut out = Self::default();
        for run in strides.chunk_by(|a, b| (b.start - a.end).abs() < 1e-9) {
            let first = run.iter().position(Stride::start_is_marked);
            let last = run.iter().rposition(|s| !s.end_inferred);
            if let (Some(first), Some(last)) = (first, last)
                && first <= last
            {
                out.seconds += run[last].end - run[first].start;
                out.strides += last + 1 - first;
                out.runs += 1;
            }
            let whole = run.iter().filter(|s| s.start_is_marked() && !s.end_inferred);
            out.durations.extend(whole.map(Stride::duration));
            for w in run.windows(2) {
                if let Some((duration, limbs)) = limb_duration(&w[0], &w[1]) {
                    out.limbs += count(limbs);
                    out.by_limbs.push(duration);
                    out.lateness += lateness(&w[0]);
                }
            }
        }
        out.limbs /= count(out.by_limbs.len().max(1));
        out.lateness /= count(out.by_limbs.len().max(1));
        out
    }
}

/// Mean phase of a stride's marked limbs, 0 to 1, a little before the start counting as 0.
fn lateness(stride: &Stride) -> f64 {
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
