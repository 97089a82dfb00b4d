//! x
#![allow(warnings)]
use umlauf_synth::accuracy::intervals::*;
fn main() {
    for r in [30.0, 60.0, 120.0, 240.0] {
        let a = drifts(r, 1500, 0.05);
        let b = drifts(r, 1500, 0.0);
        println!("{r} found {:.3} false {:.3}", a.share(), b.share());
    }
    if std::env::args().len() > 1 {
        for r in [30.0, 60.0, 120.0, 240.0] {
            for m in [Marks::Scattered, Marks::Grid] {
                for i in [
                    Interval::Tempo,
                    Interval::Regularity,
                    Interval::Suspension,
                    Interval::Dissociation,
                ] {
                    let c = coverage(i, m, r, 1000);
                    println!(
                        "{r} {m:?} {i:?} {:.3} of {} width {:.2}",
                        c.row.share(),
                        c.row.runs,
                        c.width
                    );
                }
            }
        }
    }
}
