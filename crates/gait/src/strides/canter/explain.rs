//! One stride's marks explained by leads: which mark is whose footfall, what is missing, what was given
//! to a wrong limb.

use crate::base::limb::Limb;
use crate::base::number::count;

/// A mark is no footfall of a place this far from it, share of a stride.
const NEAR: f64 = 0.12;

/// Log-likelihood lost by a footfall without its mark: one in twenty is not made, …
const MISSING: f64 = 3.0;

/// … by a mark given to a wrong limb, one of three, in two hundred, …
const WRONG_LIMB: f64 = 6.0;

/// … and by a mark that is nobody's footfall.
const FOREIGN: f64 = 7.0;

/// Most that a mark's distance from its place speaks against it.
const MOST: f64 = 6.0;

/// Marks that are looked at in one stride.
const MANY: usize = 12;

/// How leads explain a stride's marks.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Explained {
    /// Log-likelihood lost.
    pub cost: f64,
    /// Which mark is the footfall of each place.
    pub of_place: [Option<usize>; 4],
    /// How far the stride begins from where it was thought to, share of a stride.
    pub shift: f64,
    /// Marks given to a wrong limb.
    pub wrong: usize,
    /// Marks of the right limb far from their place.
    pub far: usize,
    /// Marks that are nobody's footfall.
    pub foreign: usize,
}

impl Explained {
    /// How many of the four footfalls were marked.
    pub fn found(&self) -> usize {
        self.of_place.iter().flatten().count()
    }

    /// Whether all of them were, each as the limb's own.
    pub fn is_whole(&self) -> bool {
        self.found() == 4 && self.wrong == 0
    }
}

/// How surely a stride's places are known, shares of a stride.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Scatter {
    /// Standard deviation of a mark about its place, …
    pub mark: f64,
    /// … and of the stride's start.
    pub start: f64,
}

/// Explains marks (when, in strides from where the stride is thought to begin, and whose) by footfalls
/// at places. A mark of the right limb near its place is that footfall; what is left over fills what is
/// left empty, as a mark given to a wrong limb.
pub fn explain(marks: &[(f64, Limb)], places: &[(Limb, f64); 4], scatter: Scatter) -> Explained {
    let mut of_place = [None; 4];
    let mut used = [false; MANY];
    let looked_at = &marks[..marks.len().min(MANY)];
    let off = |m: usize, p: usize| looked_at[m].0 - places[p].1;
    // The right limb first, then any limb near by, then the right limb anywhere in the stride.
    let passes: [(bool, f64); 3] = [(true, NEAR), (false, NEAR), (true, f64::INFINITY)];
    for (own, reach) in passes {
        loop {
            let open = (0..4).filter(|p| of_place[*p].is_none());
            let pairs = open.flat_map(|p| (0..looked_at.len()).map(move |m| (m, p)));
            let fits = pairs
                .filter(|(m, p)| !used[*m] && (!own || looked_at[*m].1 == places[*p].0))
                .filter(|(m, p)| off(*m, *p).abs() < reach);
            let nearest = fits.min_by(|a, b| off(a.0, a.1).abs().total_cmp(&off(b.0, b.1).abs()));
            let Some((m, p)) = nearest else { break };
            used[m] = true;
            of_place[p] = Some(m);
        }
    }
    let mut best = weigh(of_place, marks, places, scatter);
    // Two marks of one limb may have taken each other's places. None goes far from where it is near: a
    // mark of a wrong limb would be the right limb's elsewhere.
    if best.wrong > 0 {
        for (p, q) in [(0, 1), (0, 2), (0, 3), (1, 2), (1, 3), (2, 3)] {
            let mut swapped = best.of_place;
            swapped.swap(p, q);
            let other = weigh(swapped, marks, places, scatter);
            if other.cost < best.cost && other.far <= best.far {
                best = other;
            }
        }
    }
    best
}

/// What it costs that marks are the footfalls of places.
fn weigh(
    of_place: [Option<usize>; 4],
    marks: &[(f64, Limb)],
    places: &[(Limb, f64); 4],
    scatter: Scatter,
) -> Explained {
    let given = || of_place.iter().zip(places).filter_map(|(m, p)| Some((marks[(*m)?], p)));
    let near = || given().map(|(m, p)| m.0 - p.1).filter(|off| off.abs() < NEAR);
    let all = given().count();
    let (n, wrong) = (near().count(), given().filter(|(m, p)| m.1 != p.0).count());
    let (far, foreign) = (all - n, marks.len() - all);
    let (mark, start) = (scatter.mark.powi(2), scatter.start.powi(2).max(1e-12));
    let shift = near().sum::<f64>() / mark / (count(n) / mark + 1.0 / start);
    let by_time: f64 = near().map(|off| (0.5 * (off - shift).powi(2) / mark).min(MOST)).sum();
    let cost = by_time
        + 0.5 * shift * shift / start
        + MOST * count(far)
        + MISSING * count(4 - all)
        + WRONG_LIMB * count(wrong)
        + FOREIGN * count(foreign);
    Explained { cost, of_place, shift, wrong, far, foreign }
}
