//! Leads, flying changes and disunited strides against the truth.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::analyse;
use umlauf_gait::base::limb::Side;
use umlauf_gait::events::flying_change::Verdict;

use crate::accuracy::row::Row;
use crate::accuracy::row::longest;
use crate::accuracy::row::side;
use crate::accuracy::row::tally;
use crate::marking::Marking;
use crate::schooling::Schooling;
use crate::schooling::ride;
use crate::schooling::rng;
use crate::schooling::varied;

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

/// Leads of hinds and fores, stride by stride.
type Leads = Vec<(Side, Side)>;
/// Stride and lateness (hinds later positive) of each change.
type Changes = Vec<(usize, i64)>;

/// A canter with changes.
fn with_changes(rng: &mut ChaCha8Rng) -> (Leads, Changes) {
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

/// What became of the changes of rides.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
struct Changed {
    /// Ridden.
    ridden: u64,
    /// Told with their stride, verdict and lateness.
    right: u64,
    /// Withheld.
    withheld: u64,
    /// Told otherwise, not told, or made up.
    wrong: u64,
}

impl Changed {
    fn add(&mut self, school: &Schooling, truth: &[(usize, i64)], marking: &Marking) {
        let found = analyse(&school.marks, &marking.options());
        let changes = &found.events.changes;
        let mut taken = vec![false; changes.len()];
        for (stride, late) in truth {
            self.ridden += 1;
            let verdict = match late.signum() {
                0 => Verdict::Clean,
                1 => Verdict::LateBehind,
                _ => Verdict::LateInFront,
            };
            let at = &school.strides[*stride];
            let off = |time: f64| (time - at.start).abs() / (at.end - at.start);
            // The nearest of those found, not counted yet: a change is told at most a stride and a
            // half off.
            let near = (0..changes.len())
                .filter(|k| !taken[*k] && off(changes[*k].0.time_s) < 1.6)
                .min_by(|a, b| off(changes[*a].0.time_s).total_cmp(&off(changes[*b].0.time_s)));
            let Some(k) = near else {
                self.wrong += 1;
                continue;
            };
            taken[k] = true;
            let c = &changes[k].0;
            let told = c.verdict == verdict
                && c.late_by_strides as u64 == late.unsigned_abs()
                && off(c.time_s) < 0.4;
            match (c.verdict, told) {
                (Verdict::Withheld, _) => self.withheld += 1,
                (_, true) => self.right += 1,
                (_, false) => self.wrong += 1,
            }
        }
        let made_up =
            changes.iter().zip(&taken).filter(|((c, _), t)| !**t && c.verdict != Verdict::Withheld);
        self.wrong += made_up.count() as u64;
    }
}

fn changed(rate: f64, runs: u64, hard: bool) -> Changed {
    let mut out = Changed::default();
    for k in 0..runs {
        let mut rng = rng(3, k);
        let name = ["canter", "canter-collected"][rng.random_range(0..2)];
        let mut marking = Marking::hard(rate, &mut rng);
        if !hard {
            marking = Marking { missing: 0.0, mislabel: false, ..marking };
        }
        let (leads, truth) = with_changes(&mut rng);
        let school = ride(varied(name, &mut rng), &leads, &marking, &mut rng);
        out.add(&school, &truth, &marking);
    }
    out
}

/// Flying changes under hard marks, wrong and withheld; with every mark made and none wrong, right and
/// withheld.
pub fn flying_changes(rate: f64, runs: u64) -> [Row; 4] {
    let (hard, made) = (changed(rate, runs, true), changed(rate, runs, false));
    let row = |what: &str, of: Changed, right: u64, aim: (f64, bool)| Row {
        what: what.to_owned(),
        rate,
        runs: of.ridden,
        right,
        aim,
    };
    let name = "a flying change: its stride, verdict and lateness";
    [
        row(&format!("{name}, wrong"), hard, hard.wrong, (0.005, true)),
        row("the same, withheld", hard, hard.withheld, (0.06, true)),
        row("with every mark made and none wrong: right", made, made.right, (0.995, false)),
        row("the same, withheld then", made, made.withheld, (0.0, true)),
    ]
}

/// Strides that the analysis calls disunited, against the truth of rides with late changes: every
/// disunited stride found and no other, ride by ride.
pub fn disunited(rate: f64, runs: u64) -> Row {
    tally("disunited strides, all and no others", rate, runs, (0.995, false), 9, |rng| {
        let marking = Marking { missing: 0.0, mislabel: false, ..Marking::hard(rate, rng) };
        let (leads, truth) = with_changes(rng);
        if truth.iter().all(|(_, late)| *late == 0) {
            return None;
        }
        let school = ride(varied("canter", rng), &leads, &marking, rng);
        let found = analyse(&school.marks, &marking.options());
        let truly = school.strides.iter().filter(|s| s.hind != s.fore);
        let called: usize =
            found.bouts.iter().filter(|b| b.label.is_disunited()).map(|b| b.strides).sum();
        Some(called == truly.count())
    })
}
