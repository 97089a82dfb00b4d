//! What was measured: strides, bouts and events, before anything is said of them.

use crate::base::gait::Label;
use crate::bouts::bout_figures::BoutFigures;
use crate::bouts::options::Options;
use crate::events::aid_phase::{self, AidPhase, AidSummary};
use crate::events::answer::{self, Answer, ChangeAnswer};
use crate::events::drill::{self, Drill};
use crate::events::flying_change::{self, FlyingChange};
use crate::events::forward_back::ForwardBack;
use crate::events::lateral_tempo::{BothSides, Lateral};
use crate::events::pirouette::{self, Pirouette};
use crate::events::posting::{self, Posting};
use crate::events::rein_back::{self, ReinBack};
use crate::events::speed_change::SpeedChange;
use crate::events::tempi::{self, Tempi};
use crate::events::transition::{self, SimpleChange, Transition};
use crate::events::withheld::Open;
use crate::marks::footfall::Footfall;
use crate::marks::ride_mark;
use crate::strides::bout;
use crate::strides::halt::Halt;
use crate::strides::relabel::Relabelled;
use crate::strides::stride::Stride;
use crate::strides::tidy::Dropped;

/// What was measured of one list of marks, before anything is said of it.
#[derive(Clone, Debug, PartialEq)]
pub struct Measured {
    /// Marks given.
    pub footfalls: usize,
    /// What was left out.
    pub dropped: Vec<Dropped>,
    /// What was given to another limb.
    pub relabelled: Vec<Relabelled>,
    /// Timing error of the whole, s.
    pub timing_sd_s: Option<f64>,
    /// Strides in order of time.
    pub strides: Vec<Stride>,
    /// Bouts in order of time.
    pub bouts: Vec<BoutFigures>,
    /// Which strides each bout holds.
    pub bout_strides: Vec<std::ops::Range<usize>>,
    /// What happened between and inside bouts.
    pub events: Events,
}

/// Events of an analysis, each kind in order of time.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Events {
    /// Flying changes, missed ones among them, each with its answer to the aid.
    pub changes: Vec<(FlyingChange, ChangeAnswer)>,
    /// Lines of tempi.
    pub tempi: Vec<Tempi>,
    /// Changes of lead through walk.
    pub simple: Vec<SimpleChange>,
    /// Transitions, each with its answer to the aid.
    pub transitions: Vec<(Transition, Option<Answer>)>,
    /// Halts.
    pub halts: Vec<Halt>,
    /// Pirouettes that the coach marked.
    pub pirouettes: Vec<Pirouette>,
    /// Rein-backs that the coach marked.
    pub rein_backs: Vec<ReinBack>,
    /// Lateral bouts against straight work.
    pub lateral: Vec<Lateral>,
    /// Lateral movements ridden to both sides.
    pub both_sides: Vec<BothSides>,
    /// Changes of speed, with the place of the later bout.
    pub speed_changes: Vec<(usize, SpeedChange)>,
    /// Work forward and back.
    pub forward_back: Vec<ForwardBack>,
    /// Transition drills.
    pub drills: Vec<Drill>,
    /// Runs of rising trot.
    pub posting: Vec<Posting>,
    /// Aids in their strides.
    pub aids: Vec<AidPhase>,
    /// The same by kind.
    pub aid_summaries: Vec<AidSummary>,
}

#[expect(clippy::too_many_arguments, reason = "everything that a ride's events rest on")]
pub(crate) fn events(
    strides: &[Stride],
    bouts: &[bout::Bout],
    open: &Open<'_>,
    marks: &[Footfall],
    halts: Vec<Halt>,
    movements: &[ride_mark::MovementStretch],
    mark_sd: Option<f64>,
    options: &Options,
) -> Events {
    let limits = &options.thresholds;
    let mut labels = vec![Label::UNCLEAR; strides.len()];
    for bout in bouts {
        labels[bout.strides.clone()].fill(bout.label);
    }
    let between = transition::between(strides, bouts, marks, &halts, limits);
    let mut changes = flying_change::changes(strides, &labels, open, limits);
    changes.extend(between.through_trot);
    changes.sort_by(|a, b| a.time_s.total_cmp(&b.time_s));
    let tempi = tempi::tempi(&changes, &tempi::tempi_plans(movements));
    let (answers, missed) = answer::change_answers(&changes, &options.marks, strides);
    let mut changes: Vec<(FlyingChange, ChangeAnswer)> = changes.into_iter().zip(answers).collect();
    changes.extend(missed.into_iter().map(|m| (m, ChangeAnswer::default())));
    changes.sort_by(|a, b| a.0.time_s.total_cmp(&b.0.time_s));
    let mut found = between.transitions;
    found.extend(transition::of_halts(&halts, strides, bouts, marks, limits));
    let rein_backs = rein_back::rein_backs(marks, movements);
    rein_back::out_of_halts(&rein_backs, &halts, &mut found);
    found.sort_by(|a, b| a.time_s.total_cmp(&b.time_s));
    let mut not_before = f64::NEG_INFINITY;
    let transitions = found.into_iter().map(|t| {
        let answer = answer::answer(&t, not_before, &options.marks, strides, options.degree);
        not_before = t.time_s;
        (t, answer)
    });
    let ride = &options.marks;
    let aids = aid_phase::aid_phases(strides, &labels, options);
    Events {
        pirouettes: pirouette::pirouettes(strides, &labels, movements, mark_sd, limits),
        rein_backs,
        drills: drill::drills(marks, movements, ride),
        posting: posting::posting(strides, &labels, ride),
        aid_summaries: aid_phase::summaries(&aids),
        aids,
        transitions: transitions.collect(),
        halts,
        simple: between.simple,
        changes,
        tempi,
        ..Events::default()
    }
}
