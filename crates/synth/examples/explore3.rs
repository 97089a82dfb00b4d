//! x
#![allow(warnings)]
use rand::Rng;
use umlauf_gait::base::limb::Side;
use umlauf_gait::*;
use umlauf_synth::marking::*;
use umlauf_synth::schooling::*;
fn main() {
    let (mut n, mut a, mut b, mut both, mut tot, mut tot2) = (0, 0, 0, 0, 0.0, 0.0);
    let mut ratio = vec![];
    for k in 0..1500 {
        let mut r = rng(4, k);
        let rng = &mut r;
        let mut marking = Marking::hard(120.0, rng);
        marking.missing = 0.0;
        marking.mislabel = false;
        marking.stride_cv = rng.random_range(0.01..0.02);
        let up = if rng.random_bool(0.5) { 1.0 } else { -1.0 };
        marking.drift = up * 0.05 * 42.0 / 40.0;
        let school = ride(varied("trot", rng), &[(Side::Left, Side::Left); 42], &marking, rng);
        let f = analyse(&school.marks, &marking.options());
        let bt = f.bouts.iter().max_by_key(|b| b.strides).unwrap();
        let d = bt.drift.unwrap();
        n += 1;
        if d.by_chance > 0.018 {
            a += 1;
        }
        if d.total_share.abs() <= 0.03 {
            b += 1;
            if d.by_chance > 0.018 {
                both += 1;
            }
        }
        let t = d.total_share * up;
        tot += t;
        tot2 += t * t;
        let se = marking.stride_cv
            * (12.0f64 / 39.0).sqrt()
            * ((1.0 + marking.serial) / (1.0 - marking.serial)).sqrt();
        ratio.push(
            (d.ci95.1 - d.ci95.0) / 2.0 / 1.05 / 1.96 * d.total_share.abs() / d.per_min.abs() / se,
        );
    }
    let m = tot / n as f64;
    ratio.sort_by(f64::total_cmp);
    println!(
        "{n} p fails {a} total fails {b} both {both}; mean {m} sd {} se ratio med {} ",
        (tot2 / n as f64 - m * m).sqrt(),
        ratio[ratio.len() / 2]
    );
}
