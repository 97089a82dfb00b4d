//! Pirouettes: strides from first to last, those that lose the canter, and tempo against the
//! canter before.
//!
//! Canter-pirouette strides are slower than the collected canter around them, without suspension
//! and with a split diagonal even in elite horses (Burns and Clayton 1997; value from memory): a
//! tempo ratio below 1 is reported, never called a fault by itself.

use crate::base::gait::Label;
use crate::base::limb::Limb;
use crate::base::number::count;
use crate::base::phase;
use crate::base::thresholds::Thresholds;
use crate::figures::good_strides::couplet_kept;
use crate::marks::movement::{Movement, MovementKind};
use crate::marks::ride_mark::MovementStretch;
use crate::stats::descriptive::mean;
use crate::strides::classify::diagonal;
use crate::strides::stride::Stride;

/// A pirouette.
#[derive(Clone, Debug, PartialEq)]
pub struct Pirouette {
    /// First stride's start, s.
    pub time_s: f64,
    /// Last stride's end, s.
    pub end_s: f64,
    /// Strides from first to last.
    pub strides: usize,
    /// Fewest and most strides: 3–4 for a half, 6–8 for a full one (FEI Dressage Rules; value
    /// from memory).
    pub expected: (usize, usize),
    /// Strides in which the hind couplet breaks up.
    pub lost_strides: usize,
    /// Most good strides in a row.
    pub best_run: usize,
    /// Tempo against that of the canter before, a ratio.
    pub tempo_ratio: Option<f64>,
    /// Dissociation of the diagonal in the pirouette, s, hind first positive.
    pub dissociation_s: Option<f64>,
    /// The same in the canter before.
    pub dissociation_before_s: Option<f64>,
    /// Angle turned, degrees, left positive, when positions tell.
    pub angle_deg: Option<f64>,
}

/// Canter strides before the pirouette that its tempo is set against.
const BEFORE: usize = 6;

/// Fewest and most strides of the pirouette that a movement names.
pub fn expected(movement: &Movement) -> Option<(usize, usize)> {
    match movement.kind {
        MovementKind::HalfPirouette => Some((3, 4)),
        MovementKind::FullPirouette => Some((6, 8)),
        _ => None,
    }
}

/// Pirouettes in the stretches that the coach marked as such. `labels` are the strides' smoothed
/// ones, `mark_sd` the error of a mark, s.
pub fn pirouettes(
    strides: &[Stride],
    labels: &[Label],
    movements: &[MovementStretch],
    mark_sd: Option<f64>,
    limits: &Thresholds,
) -> Vec<Pirouette> {
    let one = |m: &MovementStretch| {
        let expected = expected(&m.movement)?;
        let middle = |s: &Stride| f64::midpoint(s.start, s.end);
        let first = strides.partition_point(|s| middle(s) < m.from_s);
        let last = strides.partition_point(|s| middle(s) < m.to_s);
        let own = strides.get(first..last).filter(|own| !own.is_empty())?;
        let half = 2.0 * std::f64::consts::SQRT_2 * mark_sd.unwrap_or(0.0);
        let good: Vec<bool> =
            own.iter().map(|s| couplet_kept(s, half / s.duration(), limits)).collect();
        let before: Vec<&Stride> = (0..first)
            .rev()
            .take_while(|k| labels[*k].gait.is_asymmetrical())
            .take(BEFORE)
            .map(|k| &strides[k])
            .collect();
        let lead = labels[first..last].iter().find_map(|l| l.hind_lead);
        let dissociation = |of: &mut dyn Iterator<Item = &Stride>| {
            let (hind, fore) = diagonal(lead?);
            let gaps: Vec<f64> = of.filter_map(|s| s.gap_short(hind, fore)).collect();
            (!gaps.is_empty()).then(|| mean(&gaps))
        };
        let duration = |of: &mut dyn Iterator<Item = &Stride>| {
            let all: Vec<f64> = of.map(Stride::duration).collect();
            (!all.is_empty()).then(|| mean(&all))
        };
        let kept = || own.iter().zip(&good).filter(|(_, good)| **good).map(|(s, _)| s);
        let ratio = duration(&mut before.iter().copied())
            .zip(duration(&mut kept()))
            .map(|(before, here)| before / here);
        Some(Pirouette {
            time_s: own[0].start,
            end_s: own[own.len() - 1].end,
            strides: own.len(),
            expected,
            lost_strides: good.iter().filter(|g| !**g).count(),
            best_run: good.split(|g| !g).map(<[bool]>::len).max().unwrap_or(0),
            tempo_ratio: ratio,
            dissociation_s: dissociation(&mut kept()),
            dissociation_before_s: dissociation(&mut before.into_iter()),
            angle_deg: turned(own),
        })
    };
    movements.iter().filter_map(one).collect()
}

/// Angle that the line from the hinds' middle to the fores' middle turns through from the first
/// stride to the last, degrees.
fn turned(strides: &[Stride]) -> Option<f64> {
    let headings: Vec<f64> = strides.iter().filter_map(heading).collect();
    if headings.len() < 2 {
        return None;
    }
    let turn = |w: &[f64]| phase::signed((w[1] - w[0]) / 360.0) * 360.0;
    let sum: f64 = headings.windows(2).map(turn).sum();
    // n headings span n − 1 of the n strides.
    Some(sum * count(headings.len()) / count(headings.len() - 1))
}

fn heading(stride: &Stride) -> Option<f64> {
    let at = |limb: Limb| stride.at[limb.index()];
    let (lf, rf, lh, rh) = (at(Limb::LF)?, at(Limb::RF)?, at(Limb::LH)?, at(Limb::RH)?);
    let dx = lf.x.0 + rf.x.0 - lh.x.0 - rh.x.0;
    let dy = lf.y.0 + rf.y.0 - lh.y.0 - rh.y.0;
    (dx.hypot(dy) > 0.0).then(|| dy.atan2(dx).to_degrees())
}
