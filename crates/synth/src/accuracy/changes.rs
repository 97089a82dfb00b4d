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

/// How many changes of a ride were found with their stride, verdict and lateness. A change that
/// was made up counts against them.
fn changes_right(school: &Schooling, truth: &[(usize, i64)], marking: &Marking) -> u64 {
    let found = analyse(&school.marks, &marking.options());
    let changes = &found.events.changes;
    let right = truth.iter().filter(|(stride, late)| {
        let verdict = match late.signum() {
            0 => Verdict::Clean,
            1 => Verdict::LateBehind,
            _ => Verdict::LateInFront,
        };
        let at = &school.strides[*stride];
        changes.iter().any(|(c, _)| {
            c.verdict == verdict
                && c.late_by_strides as u64 == late.unsigned_abs()
                && (c.time_s - at.start).abs() < 0.4 * (at.end - at.start)
        })
    });
    let made_up = changes.len().saturating_sub(truth.len()) as u64;
    (right.count() as u64).saturating_sub(made_up)
}

/// Verdict, stride and lateness of changes.
pub fn flying_changes(rate: f64, runs: u64, hard: bool) -> Row {
    let aim = if rate >= 120.0 { 0.995 } else { 0.98 };
    let what = if hard {
        "a flying change: its stride, verdict and lateness"
    } else {
        "the same with every mark made and none wrong"
    };
    let mut row = Row { what: what.to_owned(), rate, runs: 0, right: 0, aim: (aim, false) };
    for k in 0..runs {
        let mut rng = rng(3, k);
        let name = ["canter", "canter-collected"][rng.random_range(0..2)];
        let mut marking = Marking::hard(rate, &mut rng);
        if !hard {
            marking = Marking { missing: 0.0, mislabel: false, ..marking };
        }
        let (leads, truth) = with_changes(&mut rng);
        let school = ride(varied(name, &mut rng), &leads, &marking, &mut rng);
        row.runs += truth.len() as u64;
        row.right += changes_right(&school, &truth, &marking);
    }
    row
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
