//! Two sessions compared: a change is found, and none is made up. The whole table is made by
//! `make accuracy`.

use umlauf_gait::metric::Metric;
use umlauf_synth::pairs::{alike, false_headlines, found};

#[test]
fn no_change_makes_no_headline() {
    let share = false_headlines(150);
    assert!(share <= 0.08, "{share}");
}

#[test]
fn four_per_cent_of_tempo_and_eight_of_stride_are_found() {
    for metric in [Metric::Tempo, Metric::StrideLength] {
        let share = found(metric, 100);
        assert!(share >= 0.9, "{metric:?} {share}");
    }
}

#[test]
fn no_real_difference_needs_the_whole_interval() {
    let said = alike(30).expect("only then");
    assert!(said > 0.02 && said < 0.9, "{said}");
}
