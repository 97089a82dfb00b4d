//! The analysis against rides whose truth is known: a small set with fixed seeds. The whole table
//! is made by `make accuracy`.

use umlauf_synth::accuracy::changes::{disunited, flying_changes, leads};
use umlauf_synth::accuracy::intervals::{Interval, Marks, coverage, drifts, four_beat_verdicts};
use umlauf_synth::accuracy::labels::{calibration, gait_labels, other_gait_labels};
use umlauf_synth::accuracy::row::Row;

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
        at_least(&flying_changes(rate, 200, false), 0.98);
        at_least(&flying_changes(rate, 200, true), 0.92);
        at_least(&disunited(rate, 200), 0.98);
    }
}

#[test]
fn a_drift_is_found_and_none_is_made_up() {
    for rate in [60.0, 120.0] {
        at_least(&drifts(rate, 120, 0.05), 0.90);
        assert!(drifts(rate, 120, 0.0).share() <= 0.05);
    }
}

#[test]
fn intervals_hold_the_truth() {
    for rate in [60.0, 120.0, 240.0] {
        for (of, limit) in [
            (Interval::Tempo, 0.90),
            (Interval::Regularity, 0.88),
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
fn confidence_is_what_it_claims() {
    for row in calibration(1500).iter().filter(|r| r.bouts >= 60) {
        assert!((row.claimed - row.right).abs() < 0.08, "{row:?}");
    }
}
