//! Carrying on: the next footfall of every limb, foretold from its last ones, for the coach to look
//! at before it counts.

use crate::base::limb::Limb;
use crate::base::units::Seconds;
use crate::marks::footfall::Footfall;

/// A footfall that has not been looked at.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Foretold {
    /// Limb.
    pub limb: Limb,
    /// Hoof takes the ground.
    pub on: Seconds,
    /// Hoof leaves it, when this limb's stances are known.
    pub off: Option<Seconds>,
}

/// Footfalls of a limb that a forecast rests on.
const MEMORY: usize = 4;

/// A limb that was not marked for this many strides is not foretold.
const LOST: f64 = 2.5;

/// An interval this far from the others, as a share, is a change of lead or a missing mark.
const ODD: f64 = 0.15;

/// The next footfall of every limb after the marks that begin up to `until` (true seconds), in
/// order of time. A stride lasts as long as the median of the limbs' latest intervals; a limb's
/// next footfall is the median of what its last three say, or a stride after its last one when it
/// has just changed its place in the stride. Empty before any limb was marked twice; limbs that
/// are marked already at the foretold place are left out. O(n).
///
/// ```
/// use umlauf_gait::base::units::Seconds;
/// use umlauf_gait::marking::next_stride::next_stride;
/// use umlauf_gait::{Footfall, Limb};
/// // A walk of 1.1 s a stride: the left hind comes again 1.1 s after its last footfall.
/// let walk: Vec<Footfall> = (0..3)
///     .flat_map(|k| {
///         [(Limb::LH, 0.0), (Limb::LF, 0.27), (Limb::RH, 0.55), (Limb::RF, 0.82)]
///             .map(|(limb, at)| Footfall::new(limb, Seconds(1.1 * f64::from(k) + at)))
///     })
///     .collect();
/// let next = next_stride(&walk, Seconds(3.1));
/// let hind = next.iter().find(|f| f.limb == Limb::LH).expect("foretold");
/// assert!((hind.on.0 - 3.3).abs() < 0.02);
/// ```
pub fn next_stride(marks: &[Footfall], until: Seconds) -> Vec<Foretold> {
    let mut own: [Vec<&Footfall>; 4] = Default::default();
    let mut later: [Vec<f64>; 4] = Default::default();
    for mark in marks {
        if mark.on.0 <= until.0 + 1e-9 {
            own[mark.limb.index()].push(mark);
        } else {
            later[mark.limb.index()].push(mark.on.0);
        }
    }
    for list in &mut own {
        list.sort_by(|a, b| a.on.0.total_cmp(&b.on.0));
        list.drain(..list.len().saturating_sub(MEMORY));
    }
    let gaps = own.iter().flat_map(|list| list.windows(2).map(|w| w[1].on.0 - w[0].on.0));
    let mut gaps: Vec<f64> = gaps.filter(|g| *g > 0.0).collect();
    let Some(shortest) = gaps.iter().copied().min_by(f64::total_cmp) else { return Vec::new() };
    // Holes are whole strides longer.
    gaps.retain(|g| *g < 1.6 * shortest);
    let Some(stride) = median(&mut gaps) else { return Vec::new() };

    let mut out: Vec<Foretold> = Limb::ALL
        .into_iter()
        .filter_map(|limb| {
            let own = &own[limb.index()];
            let last = own.last()?.on.0;
            if until.0 - last > LOST * stride {
                return None;
            }
            let settled =
                own.windows(2).all(|w| ((w[1].on.0 - w[0].on.0) / stride - 1.0).abs() < ODD);
            let mut says: Vec<f64> = if settled {
                let back = own.iter().rev().take(3).zip(1u8..);
                back.map(|(m, strides)| m.on.0 + f64::from(strides) * stride).collect()
            } else {
                vec![last + stride]
            };
            let on = median(&mut says)?;
            let mut stances: Vec<f64> = own.iter().filter_map(|m| m.stance()).collect();
            let off = median(&mut stances).map(|stance| Seconds(on + stance));
            let marked = later[limb.index()].iter().any(|t| (t - on).abs() < 0.25 * stride);
            (!marked).then_some(Foretold { limb, on: Seconds(on), off })
        })
        .collect();
    out.sort_by(|a, b| a.on.0.total_cmp(&b.on.0));
    out
}

/// The middle value; the mean of the middle two.
fn median(values: &mut [f64]) -> Option<f64> {
    values.sort_by(f64::total_cmp);
    let (low, high) =
        (values.get(values.len().checked_sub(1)? / 2)?, values.get(values.len() / 2)?);
    Some(f64::midpoint(*low, *high))
}
