//! Gaits and labels: what a stride or a bout is called.

use crate::base::limb::Side;

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

    /// Whether no transition lies between the two: canter and gallop are one, disunited strides are
    /// part of their canter.
    pub fn is_one_with(self, other: Self) -> bool {
        self == other || (self.is_asymmetrical() && other.is_asymmetrical())
    }

    /// From the name that files use.
    ///
    /// ```
    /// use umlauf_gait::base::gait::Gait;
    /// assert_eq!(Gait::named("rein-back"), Some(Gait::ReinBack));
    /// assert_eq!(Gait::named("moonwalk"), None);
    /// ```
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
    ///
    /// ```
    /// use umlauf_gait::base::gait::Gait;
    /// assert_eq!(Gait::Trot.beats(), Some(2.0));
    /// assert_eq!(Gait::Walk.beats(), Some(4.0));
    /// ```
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
    ///
    /// ```
    /// use umlauf_gait::Side;
    /// use umlauf_gait::base::gait::{Gait, Label};
    /// let on = |hind, fore| Label { gait: Gait::Canter, hind_lead: Some(hind), fore_lead: Some(fore) };
    /// assert!(on(Side::Left, Side::Right).is_disunited());
    /// assert!(!on(Side::Left, Side::Left).is_disunited());
    /// ```
    pub fn is_disunited(&self) -> bool {
        matches!((self.hind_lead, self.fore_lead), (Some(h), Some(f)) if h != f)
    }
}
