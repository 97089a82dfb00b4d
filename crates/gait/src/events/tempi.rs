//! Tempi: flying changes at a count, every stride, every second, third or fourth.

use crate::events::flying_change::{FlyingChange, Verdict};
use crate::marks::movement::MovementKind;
use crate::marks::ride_mark::MovementStretch;

/// Lines of tempi that the coach planned.
pub fn tempi_plans(stretches: &[MovementStretch]) -> Vec<Plan> {
    let plan = |s: &MovementStretch| {
        let MovementKind::Tempi { every, count } = s.movement.kind else { return None };
        Some(Plan { from_s: s.from_s, to_s: s.to_s, every, count })
    };
    stretches.iter().filter_map(plan).collect()
}

/// What went wrong in a line of tempi.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Fault {
    /// A change that was not clean.
    NotClean {
        /// What became of it.
        verdict: Verdict,
        /// Strides by which the later pair was late.
        late_by_strides: usize,
    },
    /// A change after fewer or more strides than counted.
    OutOfCount {
        /// Strides since the change before.
        gap: usize,
    },
}

/// A line of tempi.
#[derive(Clone, Debug, PartialEq)]
pub struct Tempi {
    /// First change, s.
    pub time_s: f64,
    /// Last change, s.
    pub end_s: f64,
    /// Every how many strides: as planned, else the commonest gap.
    pub every: usize,
    /// Changes planned.
    pub planned_count: Option<usize>,
    /// Changes ridden.
    pub changes: usize,
    /// Clean ones.
    pub clean: usize,
    /// Strides from one to the next.
    pub gaps: Vec<usize>,
    /// Faults by number of the change, from 1.
    pub faults: Vec<(usize, Fault)>,
}

/// A line as planned by the coach.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Plan {
    /// From, s.
    pub from_s: f64,
    /// To, s.
    pub to_s: f64,
    /// Every how many strides.
    pub every: usize,
    /// How many changes.
    pub count: Option<usize>,
}

/// Longest gap of tempi that are found without a plan, strides.
const LONGEST: usize = 6;

/// Fewest changes of a line that is found without a plan.
const FEWEST: usize = 3;

/// Lines of tempi among changes in order of time: the planned ones, and runs of three and more
/// changes at most six strides apart whose gaps differ by at most one stride from the commonest.
pub fn tempi(changes: &[FlyingChange], plans: &[Plan]) -> Vec<Tempi> {
    let mut out: Vec<Tempi> = plans
        .iter()
        .filter_map(|plan| {
            let own: Vec<FlyingChange> = changes
                .iter()
                .filter(|c| (plan.from_s..=plan.to_s).contains(&c.time_s))
                .copied()
                .collect();
            (!own.is_empty()).then(|| line(&own, plan.every, plan.count))
        })
        .collect();
    let planned = |c: &FlyingChange| plans.iter().any(|p| (p.from_s..=p.to_s).contains(&c.time_s));
    let free: Vec<FlyingChange> = changes.iter().filter(|c| !planned(c)).copied().collect();
    let near = |a: &FlyingChange, b: &FlyingChange| {
        b.strides_since_last.is_some() && b.stride - a.stride <= LONGEST
    };
    for run in free.chunk_by(near).filter(|run| run.len() >= FEWEST) {
        let gaps: Vec<usize> = run.windows(2).map(|w| w[1].stride - w[0].stride).collect();
        let every = commonest(&gaps);
        if gaps.iter().all(|g| g.abs_diff(every) <= 1) {
            out.push(line(run, every, None));
        }
    }
    out.sort_by(|a, b| a.time_s.total_cmp(&b.time_s));
    out
}

fn line(run: &[FlyingChange], every: usize, planned_count: Option<usize>) -> Tempi {
    let gaps: Vec<usize> = run.windows(2).map(|w| w[1].stride - w[0].stride).collect();
    let mut faults = Vec::new();
    for (k, change) in run.iter().enumerate() {
        if !matches!(change.verdict, Verdict::Clean | Verdict::Withheld) {
            let FlyingChange { verdict, late_by_strides, .. } = *change;
            faults.push((k + 1, Fault::NotClean { verdict, late_by_strides }));
        }
        if k > 0 && gaps[k - 1] != every {
            faults.push((k + 1, Fault::OutOfCount { gap: gaps[k - 1] }));
        }
    }
    Tempi {
        time_s: run[0].time_s,
        end_s: run[run.len() - 1].time_s,
        every,
        planned_count,
        changes: run.len(),
        clean: run.iter().filter(|c| c.verdict == Verdict::Clean).count(),
        gaps,
        faults,
    }
}

fn commonest(gaps: &[usize]) -> usize {
    (1..=LONGEST).max_by_key(|g| gaps.iter().filter(|x| *x == g).count()).unwrap_or(1)
}
