//! The analysis against rides whose truth is known: a small set with fixed seeds. The whole table
//! is made by `make accuracy`.

use umlauf_synth::accuracy::by_length::{self, Cell, Figure, drifting_sessions};
use umlauf_synth::accuracy::changes::{disunited, flying_changes, leads};
use umlauf_synth::accuracy::halts::{self, Part};
use umlauf_synth::accuracy::intervals::{Interval, Marks, coverage, drifts, four_beat_verdicts};
use umlauf_synth::accuracy::labels::{calibration, gait_labels, other_gait_labels};
use umlauf_synth::accuracy::one_more::{self, SHORT};
use umlauf_synth::accuracy::records::{self, Change};
use umlauf_synth::accuracy::row::Row;
use umlauf_synth::accuracy::sessions::headed;
use umlauf_synth::accuracy::transitions::{Going, told};
use umlauf_synth::second_horse::Kind;
use umlauf_synth::session_rides::fault::Fault;

/// Limits lie below what the whole table reaches by the scatter of so few rides.
fn at_least(row: &Row, limit: f64) {
    assert!(row.runs > 50, "{row:?}");
    assert!(row.share() >= limit, "{:.3}, {row:?}", row.share());
}

#[test]
fn gaits_leads_changes_and_disunited_strides_are_told() {
    for rate in [60.0, 120.0] {
        at_least(&gait_labels(rate, 200), 0.985);
        at_least(&other_gait_labels(rate, 200), 0.985);
        at_least(&leads(rate, 200), 0.99);
        assert_eq!(four_beat_verdicts(rate, 200).right, 0);
        let [wrong, withheld, right, open] = flying_changes(rate, 200);
        assert!(wrong.share() <= 0.01 && withheld.share() <= 0.06, "{wrong:?} {withheld:?}");
        at_least(&right, 0.99);
        assert_eq!(open.right, 0);
        at_least(&disunited(rate, 200), 0.98);
    }
}

#[test]
fn a_drift_is_found_and_none_is_made_up() {
    for rate in [60.0, 120.0] {
        at_least(&drifts(rate, 120, 0.05), 0.92);
        assert!(drifts(rate, 120, 0.0).share() <= 0.02);
    }
}

#[test]
fn intervals_hold_the_truth() {
    for rate in [60.0, 120.0, 240.0] {
        for (of, limit) in [
            (Interval::Tempo, 0.92),
            (Interval::Regularity, 0.91),
            (Interval::Suspension, 0.91),
            (Interval::Dissociation, 0.90),
        ] {
            let found = coverage(of, Marks::Scattered, rate, 300);
            at_least(&found.row, limit);
            // An interval that always holds the truth is idle.
            assert!(found.row.share() < 0.999 && found.width < 1.6, "{found:?}");
            let grid = coverage(of, Marks::Grid, rate, 300);
            at_least(&grid.row, limit);
        }
    }
}

#[test]
fn intervals_hold_over_the_strides_of_a_long_side_as_over_many() {
    for strides in 8..=11 {
        for (kind, rate) in [(Kind::Trot, 60.0), (Kind::Canter, 120.0), (Kind::Walk, 60.0)] {
            let cell = Cell { kind, strides, rate, bare: false, spread: (0.01, 0.05), drift: 0.0 };
            let found = by_length::cell(&cell, 250);
            for (figure, held) in Figure::ALL.into_iter().zip(&found.figures) {
                // A figure the gait does not have, or the clip cannot resolve, is not judged.
                if held.cases >= 100 {
                    let share = held.share();
                    assert!(share >= 0.90, "{figure:?} {cell:?}: {share:.3}");
                    assert!(held.beside_ideal < 1.4, "{figure:?} {cell:?}: {held:?}");
                }
            }
            assert!(found.drifting * 25 <= found.bouts, "{cell:?}: {} drift", found.drifting);
        }
    }
}

#[test]
fn one_stride_more_changes_no_width_by_a_jump() {
    for (kind, rate) in [(Kind::Trot, 60.0), (Kind::Canter, 120.0), (Kind::Walk, 60.0)] {
        let spread = (0.01, 0.05);
        let cell = Cell { kind, strides: 5, rate, bare: false, spread, drift: 0.0 };
        for (figure, steps) in Figure::ALL.into_iter().zip(one_more::steps(&cell, 160)) {
            for (from, ratio) in SHORT.into_iter().zip(steps) {
                // A median of 160 widths is known to a twentieth.
                let ratio = ratio.unwrap_or(0.9);
                assert!(ratio > 0.77 && ratio < 1.08, "{figure:?} {kind:?} {from}: {ratio:.3}");
            }
        }
    }
}

#[test]
fn transitions_begin_with_their_first_footfall_up_and_down() {
    for pair in Going::PAIRS {
        at_least(&told(pair, 60.0, false, 120), 0.98);
        at_least(&told(pair, 120.0, true, 120), 0.93);
    }
    for part in Part::ALL {
        at_least(&halts::told(part, 60.0, false, 120), 0.98);
        at_least(&halts::told(part, 120.0, true, 120), 0.91);
    }
}

#[test]
fn ten_bouts_without_a_drift_seldom_show_one() {
    let (told, sessions) = drifting_sessions(60);
    assert!(told * 12 <= sessions, "{told} of {sessions}");
}

#[test]
fn confidence_is_what_it_claims() {
    for row in calibration(1500).iter().filter(|r| r.bouts >= 60) {
        assert!((row.claimed - row.right).abs() < 0.08, "{row:?}");
    }
}

#[test]
fn a_session_is_headed_by_what_is_wrong_and_by_nothing_when_nothing_is() {
    let none = headed(None, 150);
    assert!(none.headed <= 7, "{none:?}");
    for fault in Fault::ALL {
        let with = headed(Some(fault), 30);
        assert!(with.headed >= 27, "{with:?}");
    }
}

#[test]
fn a_record_is_headed_by_what_changes_and_by_nothing_when_nothing_does() {
    let none = records::told(None, 60);
    assert!(none.told <= 4, "{none:?}");
    for (change, least) in
        [(Change::Air, 18), (Change::LeftRein, 16), (Change::Rhythm, 17), (Change::Steps, 18)]
    {
        let told = records::told(Some(change), 20);
        assert!(told.told >= least, "{told:?}");
    }
}

#[test]
fn what_is_wrong_in_each_of_twelve_sessions_is_told_of_the_record() {
    assert_eq!(records::told_again(None, 10), 0);
    for fault in Fault::ALL {
        assert_eq!(records::told_again(Some(fault), 3), 3, "{fault:?}");
    }
}
