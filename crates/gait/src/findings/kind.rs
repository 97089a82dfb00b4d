//! The kinds of findings, and which of them ask for attention.

use crate::base::gait::Gait;
use crate::base::limb::{Limb, Side};
use crate::events::flying_change::Verdict;
use crate::events::speed_change::{Manner, SpeedChange};
use crate::events::tempi::Fault;
use crate::events::withheld::Withheld;
use crate::figures::drift::Drift;
use crate::figures::regularity::Regularity;
use crate::findings::ground_kind::GroundKind;
use crate::marks::aid::Aid;
use crate::marks::movement::LateralMovement;
use crate::stats::estimate::Estimate;

/// Regularity in words.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum RegularityBand {
    /// Below the first limit.
    VeryRegular,
    /// Below the second.
    Regular,
    /// Below the third.
    Unsettled,
    /// Above.
    Irregular,
}

/// What four beats look like beside tempo and air.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum FourBeatManner {
    /// No air and the tempo falling: more energy.
    Laboured,
    /// At a high tempo.
    Hurried,
}

/// Aids whose place in the stride has a window.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Asked {
    /// The leg for one limb.
    Leg(Limb),
    /// A canter on a lead.
    Canter(Side),
    /// A flying change.
    Change,
    /// A half-halt.
    HalfHalt,
    /// A turn.
    Turn(Side),
}

impl Asked {
    /// The aid, if there is a window for it.
    pub fn of(aid: &Aid) -> Option<Self> {
        Some(match aid {
            Aid::Leg(limb) => Self::Leg(*limb),
            Aid::Canter(Some(side)) => Self::Canter(*side),
            Aid::Change => Self::Change,
            Aid::HalfHalt => Self::HalfHalt,
            Aid::Other(name) if name == "turn-left" => Self::Turn(Side::Left),
            Aid::Other(name) if name == "turn-right" => Self::Turn(Side::Right),
            _ => return None,
        })
    }
}

/// What was found.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kind {
    /// The clip's clock does not fit a horse: a slow-motion factor would mend it.
    SlowMotion {
        /// Strides/min as they stand.
        tempo: f64,
        /// The factor (2, 4 or 8, or a fraction when the file is taken for slower than it is) that
        /// brings them into a horse's range.
        factor: f64,
    },
    /// Hinds and fores on different leads.
    Disunited {
        /// Strides.
        strides: usize,
    },
    /// Not the lead wanted.
    WrongLead {
        /// The lead cantered.
        got: Side,
    },
    /// Canter in four beats.
    FourBeats {
        /// Dissociation of the diagonal, s, hind first positive.
        dissociation: Estimate,
        /// No air either.
        no_air: bool,
        /// Laboured, hurried, or neither.
        manner: Option<FourBeatManner>,
    },
    /// Canter with the diagonal a little apart.
    SplitBeats {
        /// Dissociation of the diagonal, s, hind first positive.
        dissociation: Estimate,
    },
    /// Canter in three clear beats.
    ThreeBeats {
        /// Dissociation of the diagonal, s, hind first positive.
        dissociation: Estimate,
    },
    /// The dissociation's interval reaches over a limit.
    BeatsUntold {
        /// Dissociation of the diagonal, s, hind first positive.
        dissociation: Estimate,
    },
    /// The walk drifts towards lateral pairs.
    LateralWalk {
        /// Lateral advanced placement.
        lap: Estimate,
    },
    /// The walk drifts towards diagonal pairs.
    DiagonalWalk {
        /// Lateral advanced placement.
        lap: Estimate,
    },
    /// The tempo drifts, too slowly to be felt.
    Drift {
        /// The figures.
        drift: Drift,
    },
    /// The tempo changes within the bout, quickly enough to be felt.
    TempoChange {
        /// The figures.
        drift: Drift,
    },
    /// A flying change that was not clean, or was offered.
    Change {
        /// What became of it.
        verdict: Verdict,
        /// Strides late.
        late_by_strides: usize,
        /// The same in seconds.
        late_by_s: Option<f64>,
        /// Trot steps between.
        steps: usize,
        /// It came before the aid.
        offered: bool,
    },
    /// A flying change whose verdict hangs on a mark.
    ChangeWithheld {
        /// What is open.
        withheld: Withheld,
    },
    /// A clean flying change.
    CleanChange {
        /// Suspension of the stride before, s.
        suspension_before: Option<f64>,
        /// Lead after.
        to: Side,
    },
    /// A line of tempi.
    Tempi {
        /// Every how many strides.
        every: usize,
        /// Changes planned.
        planned: Option<usize>,
        /// Changes ridden.
        changes: usize,
        /// Clean ones.
        clean: usize,
        /// The first fault: number of the change and what it was.
        fault: Option<(usize, Fault)>,
    },
    /// A change of lead through walk.
    SimpleChange {
        /// Steps of walk.
        steps: usize,
    },
    /// A halt that is not square.
    NotSquare {
        /// The limb that stands behind.
        trailing: Limb,
        /// By how much, m.
        offset: f64,
    },
    /// A walk of four even beats.
    EvenWalk {
        /// RMS of the four gaps against 25 %, per cent of the stride.
        rms_pct: f64,
    },
    /// How the trot's diagonals land.
    Diagonals {
        /// LH before RF and RH before LF, s, hind first positive.
        hind_first: [Estimate; 2],
    },
    /// Spread of stride durations.
    Steadiness {
        /// The figures.
        regularity: Regularity,
        /// The band of the whole interval, if it lies in one.
        band: Option<RegularityBand>,
    },
    /// Left and right stand differently long.
    UnevenStance {
        /// At the hinds, or at the fores.
        hind: bool,
        /// Symmetry index, %, positive when the left stands longer.
        index: Estimate,
    },
    /// Left and right steps take unlike times.
    UnevenSteps {
        /// Symmetry index of the hinds' steps, %, positive when the step onto the left takes longer.
        index: Estimate,
    },
    /// A pirouette.
    Pirouette {
        /// Strides ridden.
        strides: usize,
        /// Fewest and most.
        expected: (usize, usize),
        /// Strides that lost the canter.
        lost: usize,
        /// Most good strides in a row.
        best_run: usize,
        /// Tempo against the canter before.
        tempo_ratio: Option<f64>,
    },
    /// A rein-back.
    ReinBack {
        /// Steps.
        steps: usize,
        /// Steps in diagonal pairs, of those with both hooves marked.
        diagonal: (usize, usize),
    },
    /// Lateral work against straight work.
    Lateral {
        /// What was ridden.
        movement: LateralMovement,
        /// To which side.
        side: Option<Side>,
        /// Change of tempo, %.
        tempo_change: Estimate,
        /// It loses more than the limit.
        loses: bool,
        /// The limit, %.
        limit_pct: f64,
    },
    /// A lateral movement on both reins.
    BothSides {
        /// What was ridden.
        movement: LateralMovement,
        /// Change of tempo to the left less that to the right, percentage points.
        difference: Estimate,
        /// The side that loses more, when it can be told.
        weaker: Option<Side>,
    },
    /// A change of speed.
    Speed {
        /// The figures.
        change: SpeedChange,
        /// In walk.
        walk: bool,
    },
    /// Work forward and back.
    ForwardBack {
        /// Big strides by small ones.
        stride_ratio: Option<f64>,
        /// Tempo held within, %.
        held_pct: f64,
        /// Breaks of gait.
        breaks: usize,
        /// Strides each change took.
        strides_to_change: Option<f64>,
    },
    /// A transition drill.
    Drill {
        /// Strides planned.
        planned: (usize, usize),
        /// Runs that kept to the plan, of how many.
        kept: (usize, usize),
        /// Slope of the answers, s a change.
        trend_s: Option<f64>,
    },
    /// Rising trot.
    Posting {
        /// The diagonal the rider sits on.
        diagonal: Option<Side>,
        /// Spread of the sit's place, share of the stride.
        scatter: f64,
        /// Strides by which the horse follows the rider.
        lag: Option<usize>,
    },
    /// When aids of one kind fall.
    Aids {
        /// Which.
        asked: Asked,
        /// Inside the window, of how many.
        inside: (usize, usize),
        /// Circular mean of the phases.
        mean_phase: f64,
        /// Circular spread, share of the stride.
        scatter: f64,
    },
    /// Answers to aids for a gait.
    Answer {
        /// Gait before.
        from: Gait,
        /// Gait asked for.
        to: Gait,
        /// Strides from the aid.
        strides: f64,
        /// Suggested score, 0 to 10.
        score: f64,
        /// Steps of a gait between.
        steps: usize,
    },
    /// Another gait without having been asked.
    Unasked {
        /// Gait before.
        from: Gait,
        /// Gait after.
        to: Gait,
        /// Out of counter canter.
        counter: bool,
    },
    /// How a halt was left.
    HaltLeft {
        /// The limb that left first.
        first: Limb,
        /// The limb that stood behind, when known.
        trailing: Option<Limb>,
    },
    /// How long a halt was held.
    HaltHeld {
        /// All four standing, s.
        seconds: f64,
        /// Square, when positions tell.
        square: Option<bool>,
        /// How long it is to be held, s.
        least_s: f64,
    },
    /// A gaited horse slips out of its gait into stepping pace.
    Stepping {
        /// Strides.
        strides: usize,
        /// Lateral advanced placement.
        lap: Option<Estimate>,
    },
    /// Hooves run in this many tracks.
    Tracks {
        /// Tracks.
        tracks: u8,
        /// Tracks that the school in force wants, for shoulder-in.
        wanted: Option<u8>,
        /// Shoulder angle, degrees.
        shoulder: Option<Estimate>,
    },
    /// What the ground tells.
    Ground(GroundKind),
    /// Time in the air.
    Suspension {
        /// One aerial phase, s, signed.
        each: Estimate,
        /// Moments of air in a stride, if they can be told.
        phases: Option<usize>,
    },
}

impl Kind {
    /// Whether it asks for attention. Every kind stands here: a new one must choose.
    pub fn is_fault(&self) -> bool {
        match self {
            Self::SlowMotion { .. }
            | Self::Disunited { .. }
            | Self::WrongLead { .. }
            | Self::FourBeats { .. }
            | Self::LateralWalk { .. }
            | Self::DiagonalWalk { .. }
            | Self::Drift { .. }
            | Self::TempoChange { .. }
            | Self::Change { .. }
            | Self::NotSquare { .. }
            | Self::UnevenStance { .. }
            | Self::UnevenSteps { .. }
            | Self::Unasked { .. }
            | Self::Stepping { .. } => true,
            Self::SplitBeats { .. }
            | Self::ThreeBeats { .. }
            | Self::BeatsUntold { .. }
            | Self::EvenWalk { .. }
            | Self::CleanChange { .. }
            | Self::ChangeWithheld { .. }
            | Self::Diagonals { .. }
            | Self::Suspension { .. }
            | Self::ReinBack { .. }
            | Self::Drill { .. }
            | Self::Posting { .. }
            | Self::Aids { .. }
            | Self::HaltLeft { .. }
            | Self::HaltHeld { .. }
            | Self::Tracks { .. } => false,
            Self::Tempi { fault, .. } => fault.is_some(),
            // Three to five steps are as they should be (published rule; value from memory).
            Self::SimpleChange { steps } => !(3..=5).contains(steps),
            Self::Steadiness { band, .. } => {
                matches!(band, Some(RegularityBand::Unsettled | RegularityBand::Irregular))
            }
            Self::Pirouette { lost, .. } => *lost > 0,
            Self::Lateral { loses, .. } => *loses,
            Self::BothSides { weaker, .. } => weaker.is_some(),
            Self::Speed { change, .. } => change.manner == Manner::ByTempo,
            Self::ForwardBack { breaks, .. } => *breaks > 0,
            Self::Answer { score, .. } => *score < 5.0,
            Self::Ground(ground) => ground.is_fault(),
        }
    }

    /// Whether it belongs to the Ground desk.
    pub const fn is_of_ground(&self) -> bool {
        matches!(
            self,
            Self::Ground(_) | Self::Speed { .. } | Self::Tracks { .. } | Self::NotSquare { .. }
        )
    }
}
