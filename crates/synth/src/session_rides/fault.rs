//! What can be wrong in a session, and where it is.

use umlauf_gait::base::limb::Side;

/// What is wrong in a session.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Fault {
    /// One change of a line comes late.
    LateChange,
    /// A canter on the other lead.
    WrongLead,
    /// A strike-off with hinds and fores on different leads.
    DisunitedStrikeOff,
    /// Canter in four beats.
    FourBeats,
    /// Lengthening that hurries.
    Hurried,
    /// Shoulder-in that loses tempo on one side.
    ShoulderIn,
    /// A gaited horse's stepping pace.
    Stepping,
    /// Left and right steps unlike.
    UnevenSteps,
    /// A slow answer to the aid to trot.
    SlowAnswer,
    /// A walk towards lateral pairs.
    IrregularWalk,
}

impl Fault {
    /// All of them.
    pub const ALL: [Self; 10] = [
        Self::LateChange,
        Self::WrongLead,
        Self::DisunitedStrikeOff,
        Self::FourBeats,
        Self::Hurried,
        Self::ShoulderIn,
        Self::Stepping,
        Self::UnevenSteps,
        Self::SlowAnswer,
        Self::IrregularWalk,
    ];

    /// Name for tables.
    pub const fn name(self) -> &'static str {
        match self {
            Self::LateChange => "a change late in a line",
            Self::WrongLead => "wrong lead",
            Self::DisunitedStrikeOff => "disunited strike-off",
            Self::FourBeats => "canter in four beats",
            Self::Hurried => "hurried lengthening",
            Self::ShoulderIn => "shoulder-in that loses tempo on one side",
            Self::Stepping => "slip to stepping pace",
            Self::UnevenSteps => "uneven steps",
            Self::SlowAnswer => "slow answer",
            Self::IrregularWalk => "irregular walk",
        }
    }
}

/// Where the fault is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Planted {
    /// Clip.
    pub clip: usize,
    /// From, s.
    pub from_s: f64,
    /// To, s.
    pub to_s: f64,
    /// The side it is on: the lead cantered, the hind that is stepped onto late, the side of the
    /// shoulder-in.
    pub side: Side,
    /// It is in the clips of both reins.
    pub both: bool,
}
