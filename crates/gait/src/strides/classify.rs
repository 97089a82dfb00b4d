//! The gait of one stride, or of a bout's mean stride.
//!
//! Symmetrical gaits by two numbers: hind duty factor and lateral advanced placement
//! (Hildebrand, Science 150:701, 1965; value from memory). Asymmetrical gaits by the phase
//! difference inside each pair: walk and canter have nearly the same lateral advanced placement,
//! the pair decides.

use crate::base::gait::{Gait, Label};
use crate::base::limb::{Limb, Side};
use crate::base::phase;
use crate::base::thresholds::Thresholds;
use crate::strides::stride::Stride;

/// What the label of a stride is read from. Phases 0 to 1.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pattern {
    /// Stride duration, s.
    pub duration: f64,
    /// LH after RH, share of the stride.
    pub hind_delta: f64,
    /// LF after RF.
    pub fore_delta: f64,
    /// Fore after the hind of the same side, mean of both sides.
    pub lap: f64,
    /// Mean stance share of the hinds, when offs are known.
    pub hind_duty: Option<f64>,
    /// Dissociation of the canter's diagonal pair, share of the stride, trailing fore after leading hind.
    pub dissociation: f64,
}

impl Pattern {
    /// The pattern of one stride; `None` unless all four limbs are marked.
    pub fn of(stride: &Stride) -> Option<Self> {
        let hind_delta = stride.phase_between(Limb::RH, Limb::LH)?;
        let fore_delta = stride.phase_between(Limb::RF, Limb::LF)?;
        let left = stride.phase_between(Limb::LH, Limb::LF)?;
        let right = stride.phase_between(Limb::RH, Limb::RF)?;
        let leading = pair_lead(hind_delta, 0.0, 0.5).unwrap_or(Side::Left);
        let (hind, fore) = diagonal(leading);
        Some(Self {
            duration: stride.duration(),
            hind_delta,
            fore_delta,
            lap: phase::mean(&[left, right]).unwrap_or(left),
            hind_duty: stride.hind_duty(),
            dissociation: phase::signed(stride.phase_between(hind, fore)?),
        })
    }
}

/// The pair whose beat is the second of the canter: the leading hind and the trailing fore of
/// the diagonal, for a hind lead.
pub const fn diagonal(hind_lead: Side) -> (Limb, Limb) {
    match hind_lead {
        Side::Left => (Limb::LH, Limb::RF),
        Side::Right => (Limb::RH, Limb::LF),
    }
}

/// Lead of a pair from its phase difference δ (left after right): between `min` and `max` the
/// left leads, the same distance on the other side of the circle the right.
pub fn pair_lead(delta: f64, min: f64, max: f64) -> Option<Side> {
    if delta > min && delta < max {
        Some(Side::Left)
    } else if delta > 1.0 - max && delta < 1.0 - min {
        Some(Side::Right)
    } else {
        None
    }
}

/// Labels a pattern. `gaited`: the horse's intended gait may be a four-beat gait other than walk.
pub fn label(p: &Pattern, gaited: bool, limits: &Thresholds) -> Label {
    let hind = pair_lead(p.hind_delta, limits.couplet_min, limits.couplet_max);
    let fore = pair_lead(p.fore_delta, limits.couplet_min, limits.couplet_max);
    if let (Some(h), Some(f)) = (hind, fore) {
        let quick = p.duration <= limits.gallop_stride_s;
        let gait = if p.dissociation >= limits.gallop_split && quick {
            Gait::Gallop
        } else {
            Gait::Canter
        };
        return Label { gait, hind_lead: Some(h), fore_lead: Some(f) };
    }
    let alternate = |delta: f64| (limits.couplet_max..=1.0 - limits.couplet_max).contains(&delta);
    if !(alternate(p.hind_delta) && alternate(p.fore_delta)) {
        return Label::UNCLEAR;
    }
    Label { gait: symmetrical(p, gaited, limits), hind_lead: None, fore_lead: None }
}

fn symmetrical(p: &Pattern, gaited: bool, limits: &Thresholds) -> Gait {
    let running = p.hind_duty.map(|d| d < 0.5);
    if (limits.two_beat_min..=limits.two_beat_max).contains(&p.lap) {
        return match running {
            Some(true) if p.duration >= limits.passage_stride_s => Gait::Passage,
            Some(false) if p.duration >= limits.passage_stride_s => Gait::Piaffe,
            _ => Gait::Trot,
        };
    }
    if p.lap < limits.pace_max || p.lap > 1.0 - limits.pace_max {
        return Gait::Pace;
    }
    if p.lap > limits.two_beat_max {
        return Gait::Unclear;
    }
    let walks = running.map_or(p.duration >= limits.walk_stride_s, |r| !r);
    if !gaited && walks {
        return Gait::Walk;
    }
    if p.lap < limits.single_foot_min {
        return Gait::SteppingPace;
    }
    if p.lap > limits.single_foot_max {
        return Gait::FoxTrot;
    }
    if running.unwrap_or(p.duration < limits.rack_stride_s) {
        Gait::Rack
    } else if p.duration >= limits.flat_walk_stride_s {
        Gait::FlatWalk
    } else {
        Gait::RunningWalk
    }
}
