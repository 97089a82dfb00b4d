//! What is looked for with a figure and its error: where it is read, up to where nothing is wrong,
//! and from where it is spoken of.

use crate::base::gait::Gait;
use crate::base::limb::Side;
use crate::base::number::count;
use crate::base::thresholds::Thresholds;
use crate::bouts::bout_figures::BoutFigures;
use crate::findings::ground_kind::GroundKind;
use crate::findings::kind::{Kind, RegularityBand};
use crate::marks::movement::LateralMovement;
use crate::stats::pooled::Known;

/// What is looked for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Sought {
    /// Canter in four beats.
    FourBeats,
    /// A walk that leaves its even beats, to lateral or to diagonal pairs.
    WalkBeats,
    /// Hinds that stand differently long.
    HindStance,
    /// Fores that stand differently long.
    ForeStance,
    /// Left and right steps of unlike times.
    Steps,
    /// Strides of unlike durations.
    Rhythm,
    /// A tempo that drifts or changes within a bout.
    Drift,
    /// A change of speed made by tempo.
    ByTempo,
    /// Quarters beside the forehand.
    Crooked,
    /// Lateral work that loses tempo.
    LateralLoss(LateralMovement, Option<Side>),
    /// Lateral work that loses more tempo on this side than on the other.
    WeakerSide(LateralMovement, Side),
}

/// A step or stance as unlike as this share of what is spoken of is every horse's (project default).
const OWN_ASYMMETRY: f64 = 0.5;

/// The same of steps: sound horses' hinds land up to 1.5 % of the stride off the middle (project
/// default).
const OWN_STEPS: f64 = 0.75;

impl Sought {
    /// What belongs to a horse and its gait, not to one stretch.
    pub const OF_A_HORSE: [Self; 6] = [
        Self::FourBeats,
        Self::WalkBeats,
        Self::HindStance,
        Self::ForeStance,
        Self::Steps,
        Self::Rhythm,
    ];

    /// How many kinds there are.
    pub const KINDS: usize = 9;

    /// Kinds of things that are looked for: what asks one question of the horse is one kind.
    pub const fn kind(self) -> usize {
        match self {
            Self::HindStance | Self::ForeStance => 0,
            Self::Steps => 1,
            Self::FourBeats => 2,
            Self::WalkBeats => 3,
            Self::LateralLoss(..) | Self::WeakerSide(..) => 4,
            Self::ByTempo => 5,
            Self::Drift => 6,
            Self::Rhythm => 7,
            Self::Crooked => 8,
        }
    }

    /// Whether the figure has two signs, each of them a fault.
    pub const fn is_signed(self) -> bool {
        matches!(
            self,
            Self::FourBeats
                | Self::WalkBeats
                | Self::HindStance
                | Self::ForeStance
                | Self::Steps
                | Self::Crooked
        )
    }

    /// A bout's figure, 0 being as it should be: s, share of the stride, per cent; of rhythm the
    /// spread's logarithm in per cent.
    pub fn read(self, bout: &BoutFigures) -> Option<Known> {
        let symmetrical = !bout.label.gait.is_asymmetrical();
        match self {
            Self::FourBeats if bout.label.gait == Gait::Canter && !bout.label.is_disunited() => {
                Known::of(bout.canter?.dissociation)
            }
            Self::WalkBeats if bout.label.gait == Gait::Walk => {
                Known::of(bout.lap?).map(|k| Known { value: k.value - 0.25, ..k })
            }
            Self::HindStance if symmetrical => Known::of(bout.stance_symmetry[1]?),
            Self::ForeStance if symmetrical => Known::of(bout.stance_symmetry[0]?),
            Self::Steps if symmetrical => Known::of(bout.step_asymmetry?),
            Self::Rhythm => spread(bout),
            _ => None,
        }
    }

    /// Up to where nothing is wrong, and from where it is spoken of, in the unit of [`Self::read`].
    pub fn limits(self, of: &Thresholds) -> (f64, f64) {
        match self {
            Self::FourBeats => {
                (f64::midpoint(of.three_beat_split_s, of.four_beat_split_s), of.four_beat_split_s)
            }
            Self::WalkBeats => (0.5 * (0.25 - of.walk_lateral), 0.25 - of.walk_lateral),
            Self::HindStance | Self::ForeStance => {
                (OWN_ASYMMETRY * of.stance_asymmetry_pct, of.stance_asymmetry_pct)
            }
            Self::Steps => (OWN_STEPS * of.step_asymmetry_pct, of.step_asymmetry_pct),
            // A spread has no value that is right: below the limit all are fine.
            Self::Rhythm => {
                let limit = of.regularity_bands_pct[1].ln();
                (limit, limit)
            }
            Self::Drift => (0.0, of.drift_share),
            Self::ByTempo => (of.tempo_share[0], of.tempo_share[1]),
            Self::Crooked => (0.5 * of.crooked_m, of.crooked_m),
            Self::LateralLoss(..) | Self::WeakerSide(..) => (0.0, of.lateral_loss_pct),
        }
    }

    /// What a fault was looked for with, and on which side of what is right it lies; `None` for what
    /// is not measured but seen, such as a lead.
    pub fn of(kind: &Kind) -> Option<(Self, f64)> {
        Some(match kind {
            Kind::FourBeats { dissociation, .. } => (Self::FourBeats, dissociation.value.signum()),
            Kind::LateralWalk { .. } => (Self::WalkBeats, -1.0),
            Kind::DiagonalWalk { .. } => (Self::WalkBeats, 1.0),
            Kind::UnevenStance { hind: true, index } => (Self::HindStance, index.value.signum()),
            Kind::UnevenStance { hind: false, index } => (Self::ForeStance, index.value.signum()),
            Kind::UnevenSteps { index } => (Self::Steps, index.value.signum()),
            Kind::Steadiness {
                band: Some(RegularityBand::Unsettled | RegularityBand::Irregular),
                ..
            } => (Self::Rhythm, 1.0),
            Kind::Drift { drift } | Kind::TempoChange { drift } => {
                (Self::Drift, drift.total_share.signum())
            }
            Kind::Speed { .. } => (Self::ByTempo, 1.0),
            Kind::Ground(GroundKind::Crooked { beside }) => (Self::Crooked, beside.value.signum()),
            Kind::Lateral { movement, side, .. } => (Self::LateralLoss(*movement, *side), 1.0),
            Kind::BothSides { movement, weaker: Some(side), .. } => {
                (Self::WeakerSide(*movement, *side), 1.0)
            }
            _ => return None,
        })
    }
}

/// Logarithm of a bout's spread in per cent. One that the clip could not tell from the marks' error
/// is the likeliest one, give or take what leaves its bound at 95 %.
fn spread(bout: &BoutFigures) -> Option<Known> {
    let regularity = bout.regularity?;
    let dof = count(bout.strides);
    match (regularity.ci95, regularity.at_most) {
        (Some((lo, hi)), _) if lo > 0.0 => {
            // The interval's middle: the strides' own spread is too small where neighbours are alike.
            let error = (hi / lo).ln() / (2.0 * 1.96);
            Some(Known { value: 0.5 * (lo * hi).ln(), error, dof })
        }
        (_, Some(most)) if most > 0.0 && regularity.likely > 0.0 => {
            let error = (most / regularity.likely).ln().max(0.1) / 1.645;
            Some(Known { value: regularity.likely.min(most).ln(), error, dof })
        }
        _ => None,
    }
}
