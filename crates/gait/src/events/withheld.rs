//! What the marks leave open of a flying change: a verdict that hangs on a mark nobody made is withheld,
//! and says which.

use crate::base::limb::Limb;
use crate::events::verdict::Verdict;
use crate::strides::canter::states::Instead;
use crate::strides::stride::Stride;

/// What is withheld.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Withheld {
    /// The likeliest verdict, with its lateness in strides, …
    pub likely: (Verdict, usize),
    /// … and the next, when it differs in more than the stride it falls in.
    pub instead: Option<(Verdict, usize)>,
    /// The mark that would tell. `None` where a mark was left out because it contradicts the others.
    pub needs: Option<Needs>,
}

/// A mark that was not made, or was given to a limb that it may not be of.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Needs {
    /// The limb.
    pub limb: Limb,
    /// Place of the stride.
    pub stride: usize,
    /// About when it lands, s.
    pub time_s: f64,
    /// It was made.
    pub made: bool,
}

/// What is open about the strides of a ride.
#[derive(Clone, Copy, Debug)]
pub struct Open<'a> {
    /// What else the leads of each stride may be.
    pub instead: &'a [Instead],
    /// Times of marks that were left out, s, sorted, …
    pub slips: &'a [f64],
    /// … and of those given to another limb than marked.
    pub moved: &'a [f64],
}

/// A stride that is open: its place, its other leads, and the mark that would tell.
type OpenStride = (usize, Instead, Option<Needs>);

impl Open<'_> {
    /// The first open stride among those about a change. With every mark made, and none left out,
    /// nothing is.
    pub fn about(&self, strides: &[Stride], about: std::ops::Range<usize>) -> Option<OpenStride> {
        let strides_about = strides.get(about.clone())?;
        let (from, to) = (strides_about.first()?.start, strides_about.last()?.end);
        for k in about.clone() {
            let instead = self.instead.get(k).copied().flatten();
            if instead.is_some()
                && let Some(needs) = self.needs(strides, k)
            {
                return Some((k, instead, Some(needs)));
            }
        }
        let next = self.slips.partition_point(|t| *t < from);
        let slipped = self.slips.get(next).is_some_and(|t| *t < to);
        slipped.then(|| (about.start, None, about.clone().find_map(|k| missing(strides, k))))
    }

    /// The mark that would tell of a stride: one that was not made, else one that was moved.
    fn needs(&self, strides: &[Stride], k: usize) -> Option<Needs> {
        let is_moved = |on: f64| {
            let next = self.moved.partition_point(|t| *t < on - 1e-9);
            self.moved.get(next).is_some_and(|t| *t < on + 1e-9)
        };
        let moved = |s: &Stride, l: Limb| s.on[l.index()].is_some_and(is_moved);
        missing(strides, k).or_else(|| in_or_beside(strides, k, true, moved))
    }
}

/// A mark that was not made in a stride, else in those beside it, and where it is thought to be.
fn missing(strides: &[Stride], k: usize) -> Option<Needs> {
    in_or_beside(strides, k, false, |s, l| s.inferred[l.index()])
}

/// The first limb for which something holds in a stride, else in those beside it.
fn in_or_beside(
    strides: &[Stride],
    k: usize,
    made: bool,
    holds: impl Fn(&Stride, Limb) -> bool,
) -> Option<Needs> {
    let own = |k: usize| {
        let stride = strides.get(k)?;
        let limb = Limb::ALL.into_iter().find(|l| holds(stride, *l))?;
        Some(Needs { limb, stride: k, time_s: stride.on[limb.index()]?, made })
    };
    own(k).or_else(|| own(k + 1)).or_else(|| own(k.checked_sub(1)?))
}
