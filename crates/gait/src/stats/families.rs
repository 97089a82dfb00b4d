//! Many looks of several kinds, counted.

use crate::base::number::count;
use crate::stats::two_samples::holm_weighted;

/// One look: its kind, the chance of as much where there is nothing, and what it counts for among the
/// looks of its kind.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Counted {
    /// Kind.
    pub kind: usize,
    /// Chance.
    pub chance: f64,
    /// Weight.
    pub weight: f64,
}

/// Chances with everything counted, in the order given: Holm's steps over the looks of a kind, and over
/// the kinds, each with its least, so that a kind looked for twice does not pay for one looked for
/// forty times. The chance that anything is found where nothing is stays what it is said to be, as
/// each of the two steps keeps it.
///
/// ```
/// use umlauf_gait::stats::families::{Counted, among_all};
/// let look = |kind, chance| Counted { kind, chance, weight: 1.0 };
/// // Two kinds: one look of the first, two of the second.
/// let all = among_all(&[look(0, 0.01), look(1, 0.5), look(1, 0.6)]);
/// assert!((all[0] - 0.02).abs() < 1e-12 && all[1] > 0.9);
/// ```
pub fn among_all(looks: &[Counted]) -> Vec<f64> {
    let mut kinds: Vec<usize> = looks.iter().map(|l| l.kind).collect();
    kinds.sort_unstable();
    kinds.dedup();
    let mut within = vec![1.0; looks.len()];
    let mut least: Vec<(f64, Vec<usize>)> = Vec::new();
    for kind in kinds {
        let own: Vec<usize> = (0..looks.len()).filter(|k| looks[*k].kind == kind).collect();
        let of = |get: fn(&Counted) -> f64| -> Vec<f64> {
            own.iter().map(|k| get(&looks[*k])).collect()
        };
        let adjusted = holm_weighted(&of(|l| l.chance), &of(|l| l.weight));
        for (k, p) in own.iter().zip(&adjusted) {
            within[*k] = *p;
        }
        least.push((adjusted.into_iter().fold(1.0, f64::min), own));
    }
    least.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut out = vec![1.0; looks.len()];
    let mut most: f64 = 0.0;
    for (rank, (first, own)) in least.iter().enumerate() {
        let kinds_left = count(least.len() - rank);
        most = most.max(first * kinds_left);
        for k in own {
            out[*k] = (within[*k] * kinds_left).max(most).min(1.0);
        }
    }
    out
}
