//! x
#![allow(warnings)]
use umlauf_synth::accuracy::by_length::*;
use umlauf_synth::second_horse::Kind;
fn main() {
    let a: Vec<String> = std::env::args().collect();
    let runs: u64 = a[1].parse().unwrap();
    let bare = a[2] == "bare";
    let spread: (f64, f64) = (a[3].parse().unwrap(), a[4].parse().unwrap());
    let drift: f64 = a[5].parse().unwrap();
    let lengths: Vec<u32> = if a.len() > 6 {
        a[6].split(',').map(|s| s.parse().unwrap()).collect()
    } else {
        LENGTHS.to_vec()
    };
    let rates: Vec<f64> = if a.len() > 7 {
        a[7].split(',').map(|s| s.parse().unwrap()).collect()
    } else {
        vec![30.0, 60.0, 120.0, 240.0]
    };
    for kind in Kind::ALL {
        for &rate in &rates {
            println!("{} {rate}", kind.name());
            let all: Vec<_> = lengths
                .iter()
                .map(|&n| cell(&Cell { kind, strides: n, rate, bare, spread, drift }, runs))
                .collect();
            for (k, f) in Figure::ALL.iter().enumerate() {
                if all.iter().all(|h| h.figures[k].cases == 0) {
                    continue;
                }
                print!("  {:16}", f.name());
                for h in &all {
                    let h = &h.figures;
                    print!(
                        " {:5.1}/{:4.2}{}",
                        100.0 * h[k].share(),
                        h[k].beside_ideal,
                        if h[k].cases < runs { format!("({})", h[k].cases) } else { String::new() }
                    );
                }
                println!();
            }
            print!("  drift           ");
            for h in &all {
                print!(
                    " {:5.1}~{:4.2}",
                    100.0 * h.drifting as f64 / h.bouts as f64,
                    100.0 * h.slowly as f64 / h.bouts as f64
                );
            }
            println!();
            print!("  widths          ");
            for h in &all {
                print!(" {:.4}", h.figures[0].width);
            }
            println!();
        }
    }
}
