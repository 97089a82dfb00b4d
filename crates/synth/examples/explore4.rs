//! x
#![allow(warnings)]
use umlauf_gait::*;
use umlauf_synth::schooling::rng;
use umlauf_synth::second_horse::*;
fn main() {
    let only: u32 = std::env::args().nth(1).map_or(0, |a| a.parse().unwrap());
    for n in [8u32, 16, 40, 200, 2500].into_iter().filter(|n| only == 0 || *n == only) {
        let mut r = rng(1, 1);
        let p = pace(Kind::Trot, &mut r);
        let s = Straying::drawn((0.01, 0.05), &mut r);
        let seen = Seen { rate: 60.0, scatter: 0.0 };
        let m = marks(&p, &s, n, &seen, &mut r);
        let o = seen.options(&p);
        let t = std::time::Instant::now();
        let k = 200;
        for _ in 0..k {
            std::hint::black_box(analyse(&m, &o));
        }
        println!("{n}: {:.3} ms", t.elapsed().as_secs_f64() * 1e3 / k as f64);
    }
}
