//! Short transition drills: two strides trot, two strides walk, … planned against ridden.

use crate::base::gait::Gait;
use crate::base::limb::Limb;
use crate::base::number::count;
use crate::events::answer::answer_score;
use crate::marks::aid::Aid;
use crate::marks::footfall::Footfall;
use crate::marks::movement::{Movement, MovementKind};
use crate::marks::ride_mark::{MarkKind, MovementStretch, RideMark};

/// A drill.
#[derive(Clone, Debug, PartialEq)]
pub struct Drill {
    /// First footfall, s.
    pub time_s: f64,
    /// Last footfall, s.
    pub end_s: f64,
    /// Strides planned of either gait, in turn.
    pub planned: (usize, usize),
    /// What was ridden, run by run: gait, strides (in halves: each hind footfall is a step) and the
    /// time it began, s. The first and the last run may reach out of the drill.
    pub runs: Vec<(Gait, f64, f64)>,
    /// Answer of each change to the aid for it, s; `None` without an aid.
    pub answers_s: Vec<Option<f64>>,
    /// Score of each answer, 0 to 10.
    pub scores: Vec<Option<f64>>,
    /// Slope of the answers, s a change, when there are four or more: negative is getting
    /// quicker.
    pub trend_s: Option<f64>,
}

/// Strides planned of `drill-2x2`.
pub fn planned(movement: &Movement) -> Option<(usize, usize)> {
    match movement.kind {
        MovementKind::Drill(a, b) => Some((a, b)),
        _ => None,
    }
}

/// Drills in the stretches that the coach marked as such, from tidy marks in order of time.
///
/// Bouts are no use here: two strides are too few for one. Each hind footfall is a step, and its
/// gait is read from its neighbours: hinds as a couplet are canter, else a diagonal fore that
/// lands with it is trot, and one that does not is walk. A single step unlike both its neighbours
/// is taken for theirs.
pub fn drills(marks: &[Footfall], movements: &[MovementStretch], ride: &[RideMark]) -> Vec<Drill> {
    let one = |m: &MovementStretch| {
        let planned = planned(&m.movement)?;
        let from = marks.partition_point(|f| f.on.0 < m.from_s);
        let to = marks.partition_point(|f| f.on.0 <= m.to_s);
        let own = marks.get(from..to)?;
        let steps = smoothed(steps(own));
        let (time_s, end_s) = (own.first()?.on.0, own.last()?.on.0);
        let runs: Vec<(Gait, f64, f64)> = steps
            .chunk_by(|a, b| a.1 == b.1)
            .map(|run| (run[0].1, count(run.len()) / 2.0, run[0].0))
            .collect();
        let stride = step_s(&steps).map(|s| 2.0 * s);
        let answer = |w: &[(Gait, f64, f64)]| {
            let (gait, _, began) = w[1];
            let fits = |aid: &Aid| match aid {
                Aid::Walk => gait == Gait::Walk,
                Aid::Trot => gait == Gait::Trot,
                Aid::Canter(_) => gait == Gait::Canter,
                _ => false,
            };
            ride.iter()
                .filter(|r| matches!(&r.kind, MarkKind::Aid(aid) if fits(aid)))
                .map(|r| began - r.time)
                .filter(|s| *s >= 0.0 && *s <= began - w[0].2)
                .min_by(f64::total_cmp)
        };
        let answers_s: Vec<Option<f64>> = runs.windows(2).map(answer).collect();
        let scores = answers_s
            .iter()
            .map(|a| a.zip(stride).map(|(a, stride)| answer_score(a / stride)))
            .collect();
        let known: Vec<(f64, f64)> =
            answers_s.iter().enumerate().filter_map(|(k, a)| Some((count(k), (*a)?))).collect();
        let trend_s = (known.len() >= 4)
            .then(|| {
                let (x, y): (Vec<f64>, Vec<f64>) = known.into_iter().unzip();
                crate::stats::trend::theil_sen(&x, &y).map(|t| t.value)
            })
            .flatten();
        Some(Drill { time_s, end_s, planned, runs, answers_s, scores, trend_s })
    };
    movements.iter().filter_map(one).collect()
}

impl Drill {
    /// Strides ridden of either gait, pair by pair.
    pub fn ridden(&self) -> Vec<Vec<f64>> {
        self.runs.chunks(2).map(|pair| pair.iter().map(|r| r.1).collect()).collect()
    }

    /// Runs that kept to the plan within half a stride, and runs between the first and the last,
    /// which the drill's borders do not cut.
    pub fn kept(&self) -> (usize, usize) {
        let n = self.runs.len();
        let inner = self.runs.iter().enumerate().skip(1).take(n.saturating_sub(2));
        let plan =
            |k: usize| count(if k.is_multiple_of(2) { self.planned.0 } else { self.planned.1 });
        let kept = inner.clone().filter(|(k, r)| (r.1 - plan(*k)).abs() <= 0.5).count();
        (kept, inner.count())
    }
}

/// Two hinds nearer than this share of a stride land as a couplet.
const COUPLET: f64 = 0.385;

/// A diagonal fore within this share of a stride lands with its hind: between the trot's 0 and the
/// walk's quarter.
const TOGETHER: f64 = 0.125;

/// Time and gait of each hind step; steps without a fore to tell by are left out.
fn steps(marks: &[Footfall]) -> Vec<(f64, Gait)> {
    let hinds: Vec<&Footfall> = marks.iter().filter(|m| m.limb.is_hind()).collect();
    let fores: Vec<&Footfall> = marks.iter().filter(|m| !m.limb.is_hind()).collect();
    let mut out = Vec::with_capacity(hinds.len());
    for (k, hind) in hinds.iter().enumerate() {
        // The stride about this step: to the same hind before or after.
        let same = |other: &&&Footfall| other.limb == hind.limb;
        let next = hinds[k + 1..].iter().find(same).map(|h| h.on.0 - hind.on.0);
        let last = hinds[..k].iter().rev().find(same).map(|h| hind.on.0 - h.on.0);
        let t = match (last, next) {
            (Some(a), Some(b)) => a.min(b),
            (a, b) => match a.or(b) {
                Some(t) => t,
                None => continue,
            },
        };
        let apart = |to: Option<&&Footfall>| {
            to.filter(|h| h.limb != hind.limb).map(|h| (h.on.0 - hind.on.0).abs() / t)
        };
        let before = k.checked_sub(1).and_then(|k| hinds.get(k));
        let nearer = [apart(before), apart(hinds.get(k + 1))].into_iter().flatten();
        let couplet = nearer.fold(1.0, f64::min) < COUPLET;
        let diagonal = if hind.limb == Limb::LH { Limb::RF } else { Limb::LF };
        let first = fores.partition_point(|f| f.on.0 < hind.on.0 - t);
        let fore = fores[first..]
            .iter()
            .take_while(|f| f.on.0 < hind.on.0 + t)
            .filter(|f| f.limb == diagonal)
            .map(|f| (f.on.0 - hind.on.0).abs() / t)
            .min_by(f64::total_cmp);
        let Some(fore) = fore else { continue };
        let gait = if couplet {
            Gait::Canter
        } else if fore < TOGETHER {
            Gait::Trot
        } else {
            Gait::Walk
        };
        out.push((hind.on.0, gait));
    }
    out
}

fn smoothed(mut steps: Vec<(f64, Gait)>) -> Vec<(f64, Gait)> {
    for k in 1..steps.len().saturating_sub(1) {
        let (a, b, c) = (steps[k - 1].1, steps[k].1, steps[k + 1].1);
        if a == c && b != a {
            steps[k].1 = a;
        }
    }
    steps
}

fn step_s(steps: &[(f64, Gait)]) -> Option<f64> {
    let mut gaps: Vec<f64> = steps.windows(2).map(|w| w[1].0 - w[0].0).collect();
    let middle = gaps.len() / 2;
    (!gaps.is_empty()).then(|| *gaps.select_nth_unstable_by(middle, f64::total_cmp).1)
}
