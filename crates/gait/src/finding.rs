//! Findings: what was seen, where, how sure. Facts only; the sentences live in [`crate::wording`].

use crate::analysis::{Analysis, BoutFigures, LeadVerdict, Options};
use crate::canter::BeatClass;
use crate::classify::Gait;
use crate::collection::{Manner, SpeedChange};
use crate::drift::Drift;
use crate::finding_ground::{self, GroundKind};
use crate::finding_work;
use crate::flying_change::{FlyingChange, Verdict};
use crate::lateral::LateralMovement;
use crate::limb::{Limb, Side};
use crate::regularity::Regularity;
use crate::ride_mark::Aid;
use crate::tempi::Fault;
use crate::uncertainty::Estimate;

/// How sure a finding is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Sure {
    /// The interval lies wholly on one side of the limit.
    Clear,
    /// The figure lies beyond the limit, its interval does not wholly.
    Likely,
    /// The clip does not support a verdict.
    CannotTell,
}

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
        /// Split of the diagonal, s.
        split: Estimate,
        /// No air either.
        no_air: bool,
        /// Laboured, hurried, or neither.
        manner: Option<FourBeatManner>,
    },
    /// Canter with the diagonal a little apart.
    SplitBeats {
        /// Split of the diagonal, s.
        split: Estimate,
    },
    /// Canter in three clear beats.
    ThreeBeats {
        /// Split of the diagonal, s.
        split: Estimate,
    },
    /// The split's interval reaches over a limit.
    BeatsUntold {
        /// Split of the diagonal, s.
        split: Estimate,
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
    /// The tempo drifts.
    Drift {
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
    /// A clean flying change.
    CleanChange {
        /// Suspension of the stride before, s.
        air_before: Option<f64>,
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
    Air {
        /// One aerial phase, s, signed.
        each: Estimate,
        /// Moments of air in a stride, if they can be told.
        phases: Option<usize>,
    },
}

/// One finding.
#[derive(Clone, Debug, PartialEq)]
pub struct Finding {
    /// What.
    pub kind: Kind,
    /// Bout it was seen in.
    pub bout: usize,
    /// From, s.
    pub start_s: f64,
    /// To, s.
    pub end_s: f64,
    /// How sure.
    pub sure: Sure,
}

/// The findings of an analysis: faults first, in order of time, then the plain figures.
pub fn findings(analysis: &Analysis, options: &Options) -> Vec<Finding> {
    let mut out = Vec::new();
    for (k, bout) in analysis.bouts.iter().enumerate().filter(|(_, b)| b.strides > 0) {
        let mut add = |kind, sure| {
            out.push(Finding { kind, bout: k, start_s: bout.start_s, end_s: bout.end_s, sure });
        };
        if let Some(kind) = slow_motion(bout) {
            add(kind, Sure::Likely);
            continue;
        }
        leads(bout, of_a_change(bout, analysis), &mut add);
        beats(bout, options, &mut add);
        symmetry(bout, options, &mut add);
        if let Some(drift) = bout.drift.filter(|d| d.flagged) {
            add(Kind::Drift { drift }, Sure::Clear);
        }
        steadiness(bout, options, &mut add);
        if let Some(air) = bout.suspension {
            let sure = if air.phases.is_some() { Sure::Clear } else { Sure::CannotTell };
            add(Kind::Air { each: air.each, phases: air.phases }, sure);
        }
    }
    of_events(analysis, &mut out);
    out.extend(finding_work::of_work(analysis, options));
    out.extend(finding_ground::of_ground(analysis, options));
    out.sort_by(|a, b| {
        let last = |f: &Finding| !is_fault(&f.kind);
        last(a).cmp(&last(b)).then(a.start_s.total_cmp(&b.start_s))
    });
    out
}

/// What happened between and inside bouts.
fn of_events(analysis: &Analysis, out: &mut Vec<Finding>) {
    let bout_at =
        |time: f64| analysis.bouts.iter().rposition(|b| b.start_s <= time + 1e-9).unwrap_or(0);
    let mut add = |kind, from: f64, to: f64| {
        out.push(Finding {
            kind,
            bout: bout_at(from),
            start_s: from,
            end_s: to,
            sure: Sure::Clear,
        });
    };
    let events = &analysis.events;
    for (change, answer) in &events.changes {
        let stride = analysis.strides.get(change.stride);
        let (from, to) = stride.map_or((change.time_s, change.time_s), |s| (s.start, s.end));
        let kind = if change.verdict == Verdict::Clean && !answer.offered_early {
            Kind::CleanChange { air_before: change.suspension_before_s, to: change.to }
        } else {
            Kind::Change {
                verdict: change.verdict,
                late_by_strides: change.late_by_strides,
                late_by_s: change.late_by_s,
                steps: change.intermediate_steps,
                offered: answer.offered_early,
            }
        };
        add(kind, from.min(change.time_s), to);
    }
    for line in &events.tempi {
        let kind = Kind::Tempi {
            every: line.every,
            planned: line.planned_count,
            changes: line.changes,
            clean: line.clean,
            fault: line.faults.first().copied(),
        };
        add(kind, line.time_s, line.end_s);
    }
    for change in &events.simple {
        add(Kind::SimpleChange { steps: change.walk_steps }, change.time_s, change.time_s);
    }
    for halt in &events.halts {
        if let Some((trailing, offset)) = halt.trailing {
            add(Kind::NotSquare { trailing, offset }, halt.start_s, halt.end_s);
        }
    }
}

/// Whether a finding asks for attention.
pub fn is_fault(kind: &Kind) -> bool {
    if let Kind::Ground(ground) = kind {
        return ground.is_fault();
    }
    !matches!(
        kind,
        Kind::SplitBeats { .. }
            | Kind::ThreeBeats { .. }
            | Kind::BeatsUntold { .. }
            | Kind::EvenWalk { .. }
            | Kind::CleanChange { .. }
            | Kind::Tempi { fault: None, .. }
            | Kind::Diagonals { .. }
            | Kind::Steadiness {
                band: None | Some(RegularityBand::VeryRegular | RegularityBand::Regular),
                ..
            }
            | Kind::Air { .. }
            | Kind::Pirouette { lost: 0, .. }
            | Kind::ReinBack { .. }
            | Kind::Lateral { loses: false, .. }
            | Kind::BothSides { weaker: None, .. }
            | Kind::Speed {
                change: SpeedChange {
                    manner: Manner::ByStride | Manner::Between | Manner::CannotTell,
                    ..
                },
                ..
            }
            | Kind::ForwardBack { breaks: 0, .. }
            | Kind::Drill { .. }
            | Kind::Posting { .. }
            | Kind::Aids { .. }
            | Kind::HaltLeft { .. }
            | Kind::HaltHeld { .. }
            | Kind::Tracks { .. }
    ) && !matches!(kind, Kind::Answer { score, .. } if *score >= 5.0)
}

/// Tempi outside 30–125 (symmetrical) or 60–165 (asymmetrical) strides/min are no horse's
/// (project default, wide enough for ponies, passage, rack and pirouettes).
fn slow_motion(bout: &BoutFigures) -> Option<Kind> {
    let tempo = bout.tempo?.tempo.value;
    let range = if bout.label.gait.is_asymmetrical() { 60.0..=165.0 } else { 30.0..=125.0 };
    if range.contains(&tempo) {
        return None;
    }
    let factor =
        [2.0, 4.0, 8.0, 0.5, 0.25, 0.125].into_iter().find(|f| range.contains(&(tempo * f)))?;
    Some(Kind::SlowMotion { tempo, factor })
}

/// Whether the disunited strides of a bout are those of a late change, which is told as such.
fn of_a_change(bout: &BoutFigures, analysis: &Analysis) -> bool {
    let inside = |time: f64| (bout.start_s - 1e-9..bout.end_s).contains(&time);
    let late = |c: &FlyingChange| c.late_by_strides > 0 || c.verdict == Verdict::NotCompleted;
    analysis.events.changes.iter().any(|(c, _)| late(c) && inside(c.time_s))
}

fn leads(bout: &BoutFigures, of_a_change: bool, add: &mut impl FnMut(Kind, Sure)) {
    let sure = if bout.confidence >= 0.9 { Sure::Clear } else { Sure::Likely };
    match (bout.lead_verdict, bout.label.hind_lead) {
        (Some(LeadVerdict::Disunited), _) if of_a_change => {}
        (Some(LeadVerdict::Disunited), _) => add(Kind::Disunited { strides: bout.strides }, sure),
        (Some(LeadVerdict::Wrong), Some(got)) => add(Kind::WrongLead { got }, sure),
        _ => {}
    }
}

/// Four beats with falling tempo and no air are laboured; with high tempo they are hurried.
fn four_beat_manner(bout: &BoutFigures, no_air: bool, options: &Options) -> Option<FourBeatManner> {
    let falls = bout.drift.is_some_and(|d| d.ci95.1 < 0.0);
    if no_air && falls {
        return Some(FourBeatManner::Laboured);
    }
    let (lo, _) = bout.tempo?.tempo.ci95?;
    (lo > options.thresholds.hurried_canter).then_some(FourBeatManner::Hurried)
}

fn beats(bout: &BoutFigures, options: &Options, add: &mut impl FnMut(Kind, Sure)) {
    if bout.label.gait == Gait::Canter
        && !bout.label.is_disunited()
        && let Some(canter) = bout.canter
        && canter.split.ci95.is_some()
    {
        let split = canter.split;
        let no_air = bout.suspension.is_some_and(|s| s.phases == Some(0));
        match canter.verdict {
            Some(BeatClass::Four) => {
                let manner = four_beat_manner(bout, no_air, options);
                add(Kind::FourBeats { split, no_air, manner }, Sure::Clear);
            }
            Some(BeatClass::Split) => add(Kind::SplitBeats { split }, Sure::Clear),
            Some(BeatClass::Three) => add(Kind::ThreeBeats { split }, Sure::Clear),
            None => add(Kind::BeatsUntold { split }, Sure::CannotTell),
        }
    }
    if bout.label.gait == Gait::Walk
        && let Some(lap) = bout.lap
        && let Some((lo, hi)) = lap.ci95
    {
        let limits = &options.thresholds;
        if lap.value < limits.walk_lateral {
            let sure = if hi < limits.walk_lateral { Sure::Clear } else { Sure::Likely };
            add(Kind::LateralWalk { lap }, sure);
        } else if lap.value > limits.walk_diagonal {
            let sure = if lo > limits.walk_diagonal { Sure::Clear } else { Sure::Likely };
            add(Kind::DiagonalWalk { lap }, sure);
        } else if let Some(rms_pct) = bout.beat_evenness_rms_pct {
            let inside = lo >= limits.walk_lateral && hi <= limits.walk_diagonal;
            add(Kind::EvenWalk { rms_pct }, if inside { Sure::Clear } else { Sure::Likely });
        }
    }
    if bout.label.gait == Gait::Trot
        && let [Some(left), Some(right)] = bout.dissociation
        && left.ci95.is_some()
    {
        add(Kind::Diagonals { hind_first: [left, right] }, Sure::Clear);
    }
}

fn symmetry(bout: &BoutFigures, options: &Options, add: &mut impl FnMut(Kind, Sure)) {
    if bout.label.gait.is_asymmetrical() || bout.strides < 6 {
        return;
    }
    for (index, hind) in [(bout.stance_symmetry[0], false), (bout.stance_symmetry[1], true)] {
        if let Some(index) = index
            && let Some((lo, hi)) = index.ci95
            && (lo > 0.0 || hi < 0.0)
            && index.value.abs() >= options.thresholds.stance_asymmetry_pct
        {
            let limit = options.thresholds.stance_asymmetry_pct;
            let beyond = lo > limit || hi < -limit;
            add(
                Kind::UnevenStance { hind, index },
                if beyond { Sure::Clear } else { Sure::Likely },
            );
        }
    }
}

fn steadiness(bout: &BoutFigures, options: &Options, add: &mut impl FnMut(Kind, Sure)) {
    let Some(regularity) = bout.regularity else { return };
    let [very, regular, unsettled] = options.thresholds.regularity_bands_pct;
    let band_of = |cv: f64| {
        if cv < very {
            RegularityBand::VeryRegular
        } else if cv < regular {
            RegularityBand::Regular
        } else if cv < unsettled {
            RegularityBand::Unsettled
        } else {
            RegularityBand::Irregular
        }
    };
    let (band, sure) = match (regularity.ci95, regularity.at_most) {
        (Some((lo, hi)), _) if band_of(lo) == band_of(hi) => (Some(band_of(hi)), Sure::Clear),
        (Some(_), _) => (Some(band_of(regularity.value)), Sure::Likely),
        (None, Some(most)) if band_of(most) == RegularityBand::VeryRegular => {
            (Some(RegularityBand::VeryRegular), Sure::Clear)
        }
        _ => (None, Sure::CannotTell),
    };
    add(Kind::Steadiness { regularity, band }, sure);
}
