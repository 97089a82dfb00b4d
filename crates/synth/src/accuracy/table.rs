//! The whole table.

use crate::accuracy::by_length::{Cell, Found, all_cells, drifting_sessions};
use crate::accuracy::changes::disunited;
use crate::accuracy::changes::flying_changes;
use crate::accuracy::changes::leads;
use crate::accuracy::halts::{self, Part};
use crate::accuracy::intervals::Coverage;
use crate::accuracy::intervals::Interval;
use crate::accuracy::intervals::Marks;
use crate::accuracy::intervals::coverage;
use crate::accuracy::intervals::drifts;
use crate::accuracy::intervals::four_beat_verdicts;
use crate::accuracy::labels::Calibration;
use crate::accuracy::labels::calibration;
use crate::accuracy::labels::gait_labels;
use crate::accuracy::labels::other_gait_labels;
use crate::accuracy::one_more::{Steps, all_steps};
use crate::accuracy::records::{self, Change, Told};
use crate::accuracy::row::RATES;
use crate::accuracy::row::Row;
use crate::accuracy::sessions::{Headed, headed};
use crate::accuracy::transitions::{Going, told};
use crate::accuracy::two_sessions::{self, Asked, DAYS};
use crate::session_rides::fault::Fault;

/// Everything that is measured.
#[derive(Clone, Debug, PartialEq)]
pub struct Table {
    /// Verdicts and labels.
    pub rows: Vec<Row>,
    /// Intervals.
    pub coverage: Vec<Coverage>,
    /// Confidence.
    pub calibration: Vec<Calibration>,
    /// Intervals and drift by length.
    pub by_length: Vec<(Cell, Found)>,
    /// Sessions of ten bouts in which a drift was told, of how many.
    pub drifting_sessions: (u64, u64),
    /// What one stride more changes.
    pub one_more: Vec<(Cell, Steps)>,
    /// Transitions: every mark made, and hard marks.
    pub transitions: [Vec<Row>; 2],
    /// What heads sessions: faultless ones first, then those with each fault.
    pub sessions: Vec<Headed>,
    /// Two sessions compared.
    pub two_sessions: Vec<Row>,
    /// What heads a record after a season: without a change first.
    pub records: Vec<Told>,
    /// Records of twelve sessions with the same fault, or with none: which, how many, and how many say so.
    pub again: Vec<(Option<Fault>, u64, u64)>,
}

/// The whole table: every row at every rate, `runs` rides a row.
pub fn table(runs: u64) -> Table {
    let rows = |rate: f64| {
        let mut out =
            vec![gait_labels(rate, runs), other_gait_labels(rate, runs), leads(rate, runs)];
        out.extend(flying_changes(rate, runs));
        out.extend([
            disunited(rate, runs),
            drifts(rate, runs, 0.05),
            drifts(rate, runs, 0.0),
            four_beat_verdicts(rate, runs),
        ]);
        out
    };
    let figures =
        [Interval::Tempo, Interval::Regularity, Interval::Suspension, Interval::Dissociation];
    let covered = |rate: f64| {
        figures.into_iter().flat_map(move |of| {
            [Marks::Scattered, Marks::Grid].map(|marks| coverage(of, marks, rate, runs))
        })
    };
    Table {
        rows: RATES.into_iter().flat_map(rows).collect(),
        coverage: RATES.into_iter().flat_map(covered).collect(),
        calibration: calibration(3 * runs),
        by_length: all_cells(runs / 4),
        drifting_sessions: drifting_sessions(runs),
        one_more: all_steps(runs / 4),
        transitions: [false, true].map(|hard| {
            let pairs = Going::PAIRS.into_iter();
            let gaits = pairs.flat_map(|pair| RATES.map(|rate| told(pair, rate, hard, runs / 2)));
            let parts = Part::ALL.into_iter();
            let halts =
                parts.flat_map(|part| RATES.map(|rate| halts::told(part, rate, hard, runs / 2)));
            gaits.chain(halts).collect()
        }),
        sessions: std::iter::once(headed(None, runs / 2))
            .chain(Fault::ALL.map(|f| headed(Some(f), runs / 10)))
            .collect(),
        two_sessions: DAYS
            .into_iter()
            .flat_map(|days| {
                [Asked::Headline, Asked::NoDifference]
                    .map(|asked| two_sessions::told(asked, days, runs / 2))
            })
            .collect(),
        records: std::iter::once(records::told(None, runs / 2))
            .chain(Change::ALL.map(|c| records::told(Some(c), runs / 10)))
            .collect(),
        again: std::iter::once((None, runs / 2))
            .chain(Fault::ALL.map(|f| (Some(f), runs / 10)))
            .map(|(fault, seasons)| (fault, seasons, records::told_again(fault, seasons)))
            .collect(),
    }
}

pub(crate) fn grouped<T>(all: &[T], name: impl Fn(&T) -> &str) -> Vec<&T> {
    let mut names: Vec<&str> = Vec::new();
    for one in all {
        if !names.contains(&name(one)) {
            names.push(name(one));
        }
    }
    names
        .into_iter()
        .flat_map(|n| all.iter().filter(|r| name(r) == n).collect::<Vec<_>>())
        .collect()
}
