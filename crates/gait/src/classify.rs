//! The gait of one stride, or of a bout's mean stride.
//!
//! Symmetrical gaits by two numbers: hind duty factor and lateral advanced placement
//! (Hildebrand, Science 150:701, 1965; value from memory). Asymmetrical gaits by the phase
//! difference inside each pair: walk and canter have nearly the same lateral advanced placement,
//! the pair decides.

use crate::limb::{Limb, Side};
use crate::phase;
use crate::stride::Stride;
use crate::thresholds::Thresholds;

/// A gait, as the analysis labels it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Gait {
    /// Four even beats, one hind always down.
    Walk,
    /// Diagonal pairs together, two beats.
    Trot,
    /// A trot of long strides with the limbs lingering in swing.
    Passage,
    /// A trot on the spot.
    Piaffe,
    /// Three beats and a moment of air.
    Canter,
    /// A fast canter with the diagonal clearly split.
    Gallop,
    /// Gaited: even four, at a walk's pace.
    FlatWalk,
    /// Gaited: even four, quicker.
    RunningWalk,
    /// Gaited: diagonal couplets.
    FoxTrot,
    /// Gaited: even four, running (tölt).
    Rack,
    /// Gaited: lateral couplets.
    SteppingPace,
    /// Same-side pairs together.
    Pace,
    /// Diagonal pairs backwards; only from positions or the coach's mark.
    ReinBack,
    /// Standing on all four.
    Halt,
    /// The marks fit no gait.
    Unclear,
}

impl Gait {
    /// Every gait that a bout may carry.
    pub const ALL: [Self; 15] = [
        Self::Walk,
        Self::Trot,
        Self::Passage,
        Self::Piaffe,
        Self::Canter,
        Self::Gallop,
        Self::FlatWalk,
        Self::RunningWalk,
        Self::FoxTrot,
        Self::Rack,
        Self::SteppingPace,
        Self::Pace,
        Self::ReinBack,
        Self::Halt,
        Self::Unclear,
    ];

    /// From the name that files use.
    pub fn named(code: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|g| g.code() == code)
    }

    /// The name that files use.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Walk => "walk",
            Self::Trot => "trot",
            Self::Passage => "passage",
            Self::Piaffe => "piaffe",
            Self::Canter => "canter",
            Self::Gallop => "gallop",
            Self::FlatWalk => "flat-walk",
            Self::RunningWalk => "running-walk",
            Self::FoxTrot => "fox-trot",
            Self::Rack => "rack",
            Self::SteppingPace => "stepping-pace",
            Self::Pace => "pace",
            Self::ReinBack => "rein-back",
            Self::Halt => "halt",
            Self::Unclear => "unclear",
        }
    }

    /// Canter and gallop: the pairs land as couplets and have a lead.
    pub const fn is_asymmetrical(self) -> bool {
        matches!(self, Self::Canter | Self::Gallop)
    }

    /// Beats a coach counts in one stride.
    pub const fn beats(self) -> Option<f64> {
        match self {
            Self::Trot | Self::Passage | Self::Piaffe | Self::Pace | Self::ReinBack => Some(2.0),
            Self::Canter => Some(3.0),
            Self::Halt | Self::Unclear => None,
            _ => Some(4.0),
        }
    }

    /// Where the beats of an ideal stride fall, phases from the first hind. Canter: the working
    /// canter's (project default).
    pub const fn ideal_beats(self) -> &'static [f64] {
        match self {
            Self::Trot | Self::Passage | Self::Piaffe | Self::Pace | Self::ReinBack => &[0.0, 0.5],
            Self::Canter => &[0.0, 0.25, 0.48],
            Self::Gallop | Self::Halt | Self::Unclear => &[0.0],
            _ => &[0.0, 0.25, 0.5, 0.75],
        }
    }

    /// Moments in the stride at which all hooves could be off the ground.
    pub const fn aerial_phases(self) -> Option<usize> {
        match self {
            Self::Trot | Self::Passage | Self::Piaffe | Self::Pace => Some(2),
            Self::Canter | Self::Gallop => Some(1),
            Self::Halt | Self::Unclear => None,
            _ => Some(0),
        }
    }
}

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
    /// Split of the canter's diagonal pair, share of the stride, trailing fore after leading hind.
    pub split: f64,
}

/// A label: the gait and, in asymmetrical gaits, the lead of each pair.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Label {
    /// The gait.
    pub gait: Gait,
    /// Lead of the hinds.
    pub hind_lead: Option<Side>,
    /// Lead of the fores.
    pub fore_lead: Option<Side>,
}

impl Label {
    /// No label.
    pub const UNCLEAR: Self = Self { gait: Gait::Unclear, hind_lead: None, fore_lead: None };

    /// Hinds and fores on different leads.
    pub fn is_disunited(&self) -> bool {
        matches!((self.hind_lead, self.fore_lead), (Some(h), Some(f)) if h != f)
    }
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
            split: phase::signed(stride.phase_between(hind, fore)?),
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
        let gait =
            if p.split >= limits.gallop_split && quick { Gait::Gallop } else { Gait::Canter };
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
