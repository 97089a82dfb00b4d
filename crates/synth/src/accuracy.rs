//! How often the analysis is right about rides whose truth is known.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::analyse;
use umlauf_gait::analysis::BoutFigures;
use umlauf_gait::classify::Gait;
use umlauf_gait::flying_change::Verdict;
use umlauf_gait::limb::Side;
use umlauf_gait::uncertainty::Estimate;

use crate::schooling::{Marking, Schooling, ride, rng, varied};

/// One row of the table: how many runs, how many right.
#[derive(Clone, Debug, PartialEq)]
pub struct Row {
    /// What was asked.
    pub what: String,
    /// Frames per second.
    pub rate: f64,
    /// Runs.
    pub runs: u64,
    /// Right answers.
    pub right: u64,
    /// The aim, as a share, and whether it is an upper limit.
    pub aim: (f64, bool),
}

impl Row {
    /// Share of right answers.
    pub fn share(&self) -> f64 {
        #[expect(clippy::cast_precision_loss, reason = "counts")]
        let share = self.right as f64 / self.runs.max(1) as f64;
        share
    }
}

/// Frame rates of the table.
pub const RATES: [f64; 4] = [30.0, 60.0, 120.0, 240.0];

const GAITS: [(&str, Gait); 9] = [
    ("walk", Gait::Walk),
    ("walk-collected", Gait::Walk),
    ("trot", Gait::Trot),
    ("trot-collected", Gait::Trot),
    ("trot-extended", Gait::Trot),
    ("canter", Gait::Canter),
    ("canter-collected", Gait::Canter),
    ("canter-extended", Gait::Canter),
    ("gallop", Gait::Gallop),
];

fn tally(
    what: &str,
    rate: f64,
    runs: u64,
    aim: (f64, bool),
    row: u64,
    mut run: impl FnMut(&mut ChaCha8Rng) -> Option<bool>,
) -> Row {
    let (mut counted, mut right) = (0, 0);
    for k in 0..runs {
        let mut rng = rng(row, k);
        if let Some(ok) = run(&mut rng) {
            counted += 1;
            right += u64::from(ok);
        }
    }
    Row { what: what.to_owned(), rate, runs: counted, right, aim }
}

fn side(rng: &mut ChaCha8Rng) -> Side {
    if rng.random_bool(0.5) { Side::Left } else { Side::Right }
}

fn longest(bouts: &[BoutFigures]) -> Option<&BoutFigures> {
    bouts.iter().max_by_key(|b| b.strides)
}

/// The label of a ride in one gait.
pub fn gait_labels(rate: f64, runs: u64) -> Row {
    tally("gait of a bout of 8 to 30 strides", rate, runs, (0.995, false), 1, |rng| {
        let (name, gait) = GAITS[rng.random_range(0..GAITS.len())];
        let marking = Marking::hard(rate, rng);
        let lead = side(rng);
        let n = rng.random_range(8..30);
        let school = ride(varied(name, rng), &vec![(lead, lead); n], &marking, rng);
        let found = analyse(&school.marks, &marking.options());
        let label = longest(&found.bouts).map(|b| b.label.gait);
        Some(label == Some(gait))
    })
}

/// Both leads of a canter.
pub fn leads(rate: f64, runs: u64) -> Row {
    tally("lead of a canter", rate, runs, (0.999, false), 2, |rng| {
        let name = ["canter", "canter-collected", "canter-extended"][rng.random_range(0..3)];
        let marking = Marking::hard(rate, rng);
        let lead = side(rng);
        let n = rng.random_range(8..30);
        let school = ride(varied(name, rng), &vec![(lead, lead); n], &marking, rng);
        let found = analyse(&school.marks, &marking.options());
        let label = longest(&found.bouts).map(|b| (b.label.hind_lead, b.label.fore_lead));
        Some(label == Some((Some(lead), Some(lead))))
    })
}

/// A canter with changes: leads by stride, and each change's stride and lateness (hinds later
/// positive).
fn with_changes(rng: &mut ChaCha8Rng) -> (Vec<(Side, Side)>, Vec<(usize, i64)>) {
    let mut lead = side(rng);
    let mut leads = vec![(lead, lead); rng.random_range(6..10)];
    let mut changes = Vec::new();
    for _ in 0..rng.random_range(1..4) {
        let late: i64 = match rng.random_range(0..10) {
            0..=4 => 0,
            5..=6 => 1,
            7 => 2,
            8 => -1,
            _ => -2,
        };
        changes.push((leads.len(), late));
        let new = lead.opposite();
        for _ in 0..late.unsigned_abs() {
            leads.push(if late > 0 { (lead, new) } else { (new, lead) });
        }
        lead = new;
        let until = rng.random_range(5..10);
        leads.extend(vec![(lead, lead); until]);
    }
    (leads, changes)
}

fn changes_right(school: &Schooling, truth: &[(usize, i64)], marking: &Marking) -> bool {
    let found = analyse(&school.marks, &marking.options());
    let changes = &found.events.changes;
    changes.len() == truth.len()
        && changes.iter().zip(truth).all(|((c, _), (stride, late))| {
            let verdict = match late.signum() {
                0 => Verdict::Clean,
                1 => Verdict::LateBehind,
                _ => Verdict::LateInFront,
            };
            let at = &school.strides[*stride];
            c.verdict == verdict
                && c.late_by_strides as u64 == late.unsigned_abs()
                && (c.time_s - at.start).abs() < 0.4 * (at.end - at.start)
        })
}

/// Verdict and stride of every change of a ride.
pub fn flying_changes(rate: f64, runs: u64, hard: bool) -> Row {
    let aim = if rate >= 120.0 { 0.995 } else { 0.98 };
    let what = if hard {
        "every change of a ride: verdict and stride"
    } else {
        "the same with every mark made and none wrong"
    };
    tally(what, rate, runs, (aim, false), 3, |rng| {
        let name = ["canter", "canter-collected"][rng.random_range(0..2)];
        let mut marking = Marking::hard(rate, rng);
        if !hard {
            marking = Marking { missing: 0.0, mislabel: false, ..marking };
        }
        let (leads, truth) = with_changes(rng);
        let school = ride(varied(name, rng), &leads, &marking, rng);
        Some(changes_right(&school, &truth, &marking))
    })
}

/// A drift of tempo over forty strides: found, or falsely found.
pub fn drifts(rate: f64, runs: u64, drift: f64) -> Row {
    let (what, aim) = if drift > 0.0 {
        ("a drift of 5 % over 40 strides is found", (0.95, false))
    } else {
        ("a drift is found where there is none", (0.05, true))
    };
    tally(what, rate, runs, aim, 4, |rng| {
        let mut marking = Marking::hard(rate, rng);
        marking.missing = 0.0;
        marking.mislabel = false;
        marking.stride_cv = rng.random_range(0.01..0.02);
        let up = if rng.random_bool(0.5) { 1.0 } else { -1.0 };
        marking.drift = up * drift;
        let school = ride(varied("trot", rng), &[(Side::Left, Side::Left); 42], &marking, rng);
        let found = analyse(&school.marks, &marking.options());
        Some(longest(&found.bouts)?.drift.is_some_and(|d| d.flagged))
    })
}

/// What an interval is of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Interval {
    /// Mean stride duration of this horse's gait.
    Tempo,
    /// Spread of stride durations.
    Regularity,
    /// Suspension.
    Suspension,
    /// Dissociation of a diagonal.
    Dissociation,
}

/// How often a 95 % interval holds the truth.
pub fn coverage(of: Interval, rate: f64, runs: u64) -> Row {
    let (what, row) = match of {
        Interval::Tempo => ("the interval of tempo holds the truth", 5),
        Interval::Regularity => ("the interval of regularity, where resolved", 6),
        Interval::Suspension => ("the interval of suspension", 7),
        Interval::Dissociation => ("the interval of a diagonal's dissociation", 8),
    };
    tally(what, rate, runs, (0.93, false), row, |rng| {
        let marking = Marking::clean(rate, rng);
        let n = rng.random_range(10..40);
        let school = ride(varied("trot", rng), &vec![(Side::Left, Side::Left); n], &marking, rng);
        let found = analyse(&school.marks, &marking.options());
        let bout = longest(&found.bouts)?;
        let t = school.template;
        let holds =
            |e: Option<Estimate>, truth: f64| e?.ci95.map(|(lo, hi)| lo <= truth && truth <= hi);
        match of {
            Interval::Tempo => holds(Some(bout.tempo?.duration), t.stride_s),
            Interval::Regularity => {
                let (lo, hi) = bout.regularity?.ci95?;
                let truth = 100.0 * marking.stride_cv;
                Some(lo <= truth && truth <= hi)
            }
            Interval::Suspension => {
                // First hoof of either pair down, last hoof of the other off; the mean of both.
                let on = |a: usize, b: usize| t.phases[a].min(t.phases[b]);
                let off = |a: usize, b: usize| t.phases[a].max(t.phases[b]) + t.duty;
                let one = on(0, 3) - off(1, 2);
                let two = 1.0 + on(1, 2) - off(0, 3);
                holds(bout.suspension.map(|s| s.each), f64::midpoint(one, two) * t.stride_s)
            }
            Interval::Dissociation => {
                let gap = t.phases[1] - t.phases[2];
                holds(bout.dissociation[0], gap * t.stride_s)
            }
        }
    })
}
