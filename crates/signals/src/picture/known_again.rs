//! Near or far where limbs that do not look alike are known again.

use crate::picture::turns::taking_turns;

/// Chances of the near side, as [`taking_turns`] tells them, where limbs that do not look alike are known again:
/// `lighter` are log odds of the lighter one of each girdle. Whether that is the near one is not known: each answer
/// counts as much as it makes of all the odds what takes turns.
pub fn known_again(
    ons: &[f64],
    fore: &[bool],
    odds: &[f64],
    lighter: &[f64],
    are: &[f64],
) -> Vec<f64> {
    let marked = [false, true].map(|girdle| {
        fore.iter().zip(lighter).any(|(fore, lighter)| *fore == girdle && *lighter != 0.0)
    });
    let answers = marked.map(|marked| if marked { &[1.0, -1.0][..] } else { &[0.0][..] });
    let mut all: Vec<(Vec<f64>, f64)> = vec![];
    for hind in answers[0] {
        for front in answers[1] {
            let by_look = |k: usize| lighter[k] * if fore[k] { front } else { hind };
            let both: Vec<f64> = (0..odds.len()).map(|k| odds[k] + by_look(k)).collect();
            let (chances, likely) = taking_turns(ons, fore, &both, are);
            // What two say that do not agree is less likely than what either says.
            let agree: f64 = (0..odds.len()).map(|k| agree(odds[k], by_look(k))).sum();
            all.push((chances, likely + agree));
        }
    }
    let most = all.iter().map(|a| a.1).fold(f64::NEG_INFINITY, f64::max);
    let weights: Vec<f64> = all.iter().map(|a| (a.1 - most).exp()).collect();
    let sum: f64 = weights.iter().sum();
    let mixed = |k: usize| all.iter().zip(&weights).map(|(a, w)| w * a.0[k]).sum::<f64>() / sum;
    (0..odds.len()).map(mixed).collect()
}

/// Log of the chance of two log odds together by that of their sum.
fn agree(a: f64, b: f64) -> f64 {
    let log = |x: f64| -(-x).exp().ln_1p();
    log(a) + log(b) - log(a + b)
}
