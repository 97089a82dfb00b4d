//! The figures by which bouts, sessions and horses are compared: what each is, in which unit, which
//! way is better, and how small a change is worth speaking of.

use crate::base::gait::Gait;
use crate::bouts::bout_figures::BoutFigures;
use crate::stats::estimate::Estimate;

/// A figure of a bout.
#[derive(Clone, Copy, Debug, Eq, Hash, Ord, PartialEq, PartialOrd)]
pub enum Metric {
    /// Strides/min.
    Tempo,
    /// Spread of stride durations, %.
    Regularity,
    /// Stride length, m.
    StrideLength,
    /// One moment of air, ms.
    Suspension,
    /// Dissociation of the canter's diagonal, ms, hind first positive.
    Dissociation,
    /// Unevenness of four beats, % of the stride.
    Unevenness,
    /// Fore after the hind of its side, % of the stride.
    Placement,
    /// Left step against right, %, positive when the left takes longer: without its sign a symmetric
    /// horse would never read 0.
    StepAsymmetry,
    /// Left hind's stance against the right's, %, positive when the left stands longer.
    HindAsymmetry,
    /// Stance of the hinds, % of the stride.
    HindDuty,
}

/// Which way is better.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Direction {
    /// More.
    Higher,
    /// Less.
    Lower,
    /// Nearer to a target.
    Target,
    /// Neither.
    None,
}

impl Metric {
    /// All, in the order of a card.
    pub const ALL: [Self; 10] = [
        Self::Regularity,
        Self::Tempo,
        Self::StrideLength,
        Self::Suspension,
        Self::Dissociation,
        Self::Unevenness,
        Self::Placement,
        Self::StepAsymmetry,
        Self::HindAsymmetry,
        Self::HindDuty,
    ];

    /// Its name in files.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Tempo => "tempo",
            Self::Regularity => "regularity",
            Self::StrideLength => "stride_length",
            Self::Suspension => "air",
            Self::Dissociation => "split",
            Self::Unevenness => "unevenness",
            Self::Placement => "placement",
            Self::StepAsymmetry => "step_asymmetry",
            Self::HindAsymmetry => "hind_asymmetry",
            Self::HindDuty => "hind_duty",
        }
    }

    /// By its name in files.
    ///
    /// ```
    /// use umlauf_gait::season::metric::Metric;
    /// assert_eq!(Metric::named("tempo"), Some(Metric::Tempo));
    /// assert_eq!(Metric::Tempo.unit(), "strides/min");
    /// ```
    pub fn named(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|m| m.word() == word)
    }

    /// Its name for a coach.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Tempo => "Tempo",
            Self::Regularity => "Rhythm: spread of stride durations",
            Self::StrideLength => "Stride length",
            Self::Suspension => "Air, one moment",
            Self::Dissociation => "Split of the diagonal",
            Self::Unevenness => "Unevenness of the four beats",
            Self::Placement => "Fore after the hind of its side",
            Self::StepAsymmetry => "Left step against right",
            Self::HindAsymmetry => "Left hind’s stance against right",
            Self::HindDuty => "Hind stance",
        }
    }

    /// Its unit.
    pub const fn unit(self) -> &'static str {
        match self {
            Self::Tempo => "strides/min",
            Self::StrideLength => "m",
            Self::Suspension | Self::Dissociation => "ms",
            Self::Regularity | Self::StepAsymmetry | Self::HindAsymmetry => "%",
            Self::Unevenness | Self::Placement | Self::HindDuty => "% of stride",
        }
    }

    /// Digits after the point.
    pub const fn digits(self) -> usize {
        match self {
            Self::StrideLength => 2,
            Self::Suspension | Self::Dissociation => 0,
            _ => 1,
        }
    }

    /// Which way is better. A longer stride is only better where it was asked for, more stance
    /// never by itself.
    pub const fn direction(self) -> Direction {
        match self {
            Self::Tempo
            | Self::Placement
            | Self::Dissociation
            | Self::StepAsymmetry
            | Self::HindAsymmetry => Direction::Target,
            Self::Suspension => Direction::Higher,
            Self::StrideLength | Self::HindDuty => Direction::None,
            _ => Direction::Lower,
        }
    }

    /// Whether it moves with speed, so that speed must be alike or taken out first.
    pub const fn moves_with_speed(self) -> bool {
        matches!(self, Self::Tempo | Self::Suspension | Self::HindDuty)
    }

    /// The smallest change worth speaking of, in the metric's unit, at a value (project defaults).
    pub fn worthwhile(self, value: f64) -> f64 {
        match self {
            Self::Tempo => 0.015 * value.abs(),
            Self::StrideLength => 0.03 * value.abs(),
            Self::Regularity => 0.5,
            Self::Suspension => 8.0,
            Self::Dissociation => 6.0,
            Self::Unevenness => 0.6,
            Self::Placement | Self::HindDuty => 1.5,
            Self::StepAsymmetry | Self::HindAsymmetry => 1.5,
        }
    }

    /// How far a horse's form shifts it from day to day, one standard deviation, in the metric's unit at
    /// a value: an eighth of what is worth speaking of (project default).
    pub fn day_to_day(self, value: f64) -> f64 {
        self.worthwhile(value) / 8.0
    }

    /// A target that holds for every horse: even four beats, left as right, a diagonal as one.
    pub const fn own_target(self, gait: Gait) -> Option<f64> {
        match (self, gait) {
            (Self::Placement, Gait::Walk | Gait::FlatWalk | Gait::RunningWalk | Gait::Rack) => {
                Some(25.0)
            }
            (Self::Dissociation | Self::StepAsymmetry | Self::HindAsymmetry, _) => Some(0.0),
            _ => None,
        }
    }

    /// Whether a gait has it on its card.
    pub const fn belongs_to(self, gait: Gait) -> bool {
        let four = matches!(
            gait,
            Gait::Walk
                | Gait::FlatWalk
                | Gait::RunningWalk
                | Gait::Rack
                | Gait::FoxTrot
                | Gait::SteppingPace
        );
        match self {
            Self::Dissociation => matches!(gait, Gait::Canter | Gait::Gallop),
            Self::Unevenness | Self::Placement => four,
            Self::Suspension => !four,
            Self::StepAsymmetry | Self::HindAsymmetry => !gait.is_asymmetrical(),
            _ => true,
        }
    }

    /// The figure of a bout, in the metric's unit. Of regularity the likeliest one, which all limbs tell
    /// together and which a clip has that cannot resolve it: left out, only unsteady bouts would count.
    pub fn read(self, b: &BoutFigures) -> Option<Estimate> {
        let gait = b.label.gait;
        if !self.belongs_to(gait) {
            return None;
        }
        match self {
            Self::Tempo => b.tempo.map(|t| t.tempo),
            Self::Regularity => b.regularity.map(|r| Estimate {
                value: r.at_most.map_or(r.likely, |most| r.likely.min(most)),
                sd: None,
                ci95: r.ci95.or(r.at_most.map(|most| (0.0, most))),
                n: b.strides,
            }),
            Self::StrideLength => {
                b.travel.filter(|_| b.impossible.is_none()).map(|t| t.stride_length)
            }
            Self::Suspension => b.suspension.map(|s| s.each.scaled(1000.0)),
            Self::Dissociation => b.canter.map(|c| c.dissociation.scaled(1000.0)),
            Self::Unevenness => b.beat_evenness_pct,
            Self::Placement => b.lap.map(|l| l.scaled(100.0)),
            Self::StepAsymmetry => b.step_asymmetry,
            Self::HindAsymmetry => b.stance_symmetry[1],
            Self::HindDuty => match (b.duty[2], b.duty[3]) {
                (Some(l), Some(r)) => {
                    let half = l.half_width().zip(r.half_width()).map(|(a, b)| 50.0 * a.hypot(b));
                    let value = 50.0 * (l.value + r.value);
                    let ci95 = half.map(|h| (value - h, value + h));
                    Some(Estimate { value, sd: None, ci95, n: l.n.min(r.n) })
                }
                _ => None,
            },
        }
    }
}
