//! Where the marks look wrong: footfalls that are missing, and footfalls far from where their limb
//! lands in the other strides of the bout.

use crate::base::limb::Limb;
use crate::base::phase;
use crate::marks::footfall::Footfall;
use crate::strides::bout::Bout;
use crate::strides::stride::Stride;

/// A place to look at again.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct DoubtfulMark {
    /// From, s.
    pub from_s: f64,
    /// To, s.
    pub to_s: f64,
    /// What is wrong there.
    pub what: Doubt,
}

/// What looks wrong.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Doubt {
    /// A footfall of this limb is due here and is not marked.
    Missing(Limb),
    /// This footfall stands far from where its limb lands in the bout's other strides.
    OutOfPlace(Limb),
}

/// Share of the stride from a limb's mean place that no horse strays in a steady bout (project
/// default: ten times the usual spread).
const FAR: f64 = 0.15;

/// Bouts of fewer strides have no usual place.
const FEWEST: usize = 4;

/// More places than this are a table in the wrong order, not slips.
pub const MOST: usize = 400;

/// Places to look at again, in order of time, at most [`MOST`] of them. Marks are tidy, with those
/// inferred among them.
pub fn doubtful_marks(marks: &[Footfall], strides: &[Stride], bouts: &[Bout]) -> Vec<DoubtfulMark> {
    let missing = marks.iter().filter(|m| m.inferred).map(|m| DoubtfulMark {
        from_s: m.on.0,
        to_s: m.on.0,
        what: Doubt::Missing(m.limb),
    });
    let strayed = bouts.iter().filter(|b| b.strides.len() >= FEWEST).flat_map(|b| {
        let own = &strides[b.strides.clone()];
        Limb::ALL.into_iter().flat_map(move |limb| strayed(own, limb))
    });
    let mut out: Vec<DoubtfulMark> = missing.chain(strayed).collect();
    out.sort_by(|a, b| a.from_s.total_cmp(&b.from_s));
    out.truncate(MOST);
    out
}

/// A limb's footfalls far from its mean place in a bout.
fn strayed(strides: &[Stride], limb: Limb) -> Vec<DoubtfulMark> {
    let place: Vec<Option<f64>> = strides.iter().map(|s| s.phase(limb)).collect();
    let phases: Vec<f64> = place.iter().flatten().copied().collect();
    let Some(usual) = phase::mean(&phases) else { return Vec::new() };
    strides
        .iter()
        .zip(place)
        .filter(|(s, place)| {
            !s.inferred[limb.index()] && place.is_none_or(|p| phase::signed(p - usual).abs() > FAR)
        })
        .map(|(s, _)| match s.on[limb.index()] {
            Some(on) => DoubtfulMark { from_s: on, to_s: on, what: Doubt::OutOfPlace(limb) },
            // It stands in a neighbouring stride, too far from here to be this one's.
            None => {
                let due = s.start + usual * s.duration();
                DoubtfulMark { from_s: due, to_s: due, what: Doubt::Missing(limb) }
            }
        })
        .collect()
}
