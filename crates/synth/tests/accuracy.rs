//! The analysis against rides whose truth is known: a small set of fixed seeds. The whole table is
//! made by `make bench`.

use umlauf_synth::accuracy::{
    Interval, RATES, Row, coverage, drifts, flying_changes, gait_labels, leads,
};

fn print(row: &Row) {
    println!("{:>4} {:<50} {:.3} of {}", row.rate, row.what, row.share(), row.runs);
}

#[test]
fn look() {
    for rate in RATES {
        for row in [
            gait_labels(rate, 300),
            leads(rate, 300),
            flying_changes(rate, 300, true),
            flying_changes(rate, 300, false),
            drifts(rate, 200, 0.05),
            drifts(rate, 200, 0.0),
            coverage(Interval::Tempo, rate, 400),
            coverage(Interval::Regularity, rate, 400),
            coverage(Interval::Suspension, rate, 400),
            coverage(Interval::Dissociation, rate, 400),
        ] {
            print(&row);
        }
    }
}
