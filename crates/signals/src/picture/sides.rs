//! Which limb each stance was: fore or hind by its place under the body, near or far by the row it stands
//! on and by its light.
//!
//! The far hoof stands higher in the picture by little more than a pixel, on ground that is not level
//! there: that is enough where it is known whose [turn](crate::picture::turns) it is. But what is taken for a hoof's
//! lowest row may be its shadow's, of all the hooves of a clip: where [light](crate::picture::shade)
//! contradicts the rows it is followed, and nothing is sure.

use umlauf_gait::base::limb::{Limb, Side};

use crate::number::count;
use crate::picture::level::{ROW_SD, ground, halves, trust};
use crate::picture::may::May;
use crate::picture::stance::{FEWEST, Stance, fores};
use crate::picture::turns::taking_turns;

/// A limb and how sure it is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Named {
    /// The limb.
    pub limb: Limb,
    /// Chance that it is this one.
    pub sure: f64,
}

/// The limbs of stances in order of time; `near` is the side of the horse that is seen. Empty for fewer
/// than six.
pub fn limbs(stances: &[Stance], near: Side) -> Vec<Named> {
    limbs_about(stances, near, &[])
}

/// As [`limbs`], where a person has said of some stances, by their places, which limb they are: the others
/// are told anew about them.
pub fn limbs_about(stances: &[Stance], near: Side, said: &[(usize, Limb)]) -> Vec<Named> {
    if stances.len() < FEWEST {
        return vec![];
    }
    let mut may: Vec<May> = stances.iter().map(|s| s.may).collect();
    for (k, limb) in said.iter().filter(|(k, _)| *k < stances.len()) {
        may[*k] = May::only(*limb);
    }
    let mut fore = fores(stances);
    for (fore, may) in fore.iter_mut().zip(&may) {
        *fore = may.girdle().map_or(*fore, |front| (front, 1.0));
    }
    let known: Vec<Option<bool>> =
        may.iter().zip(&fore).map(|(m, f)| m.side(f.0).map(|side| side == near)).collect();
    let chances = near_chances(stances, &fore, &known);
    fore.iter()
        .zip(chances)
        .map(|((fore, sure), near_chance)| {
            let side = if near_chance >= 0.5 { near } else { near.opposite() };
            let limb = match (*fore, side) {
                (true, Side::Left) => Limb::LF,
                (true, Side::Right) => Limb::RF,
                (false, Side::Left) => Limb::LH,
                (false, Side::Right) => Limb::RH,
            };
            Named { limb, sure: sure * near_chance.max(1.0 - near_chance) }
        })
        .collect()
}

/// Chance that each stance is of the near side.
fn near_chances(stances: &[Stance], fore: &[(bool, f64)], known: &[Option<bool>]) -> Vec<f64> {
    let own = settled(stances, fore, known);
    if known.iter().any(Option::is_some) {
        return own.chances;
    }
    // A whole clip may be told the wrong way round: sides look at each other's evidence as a whole.
    let all = |odds: &dyn Fn(usize) -> f64| -> f64 {
        let each = (0..stances.len()).map(|k| stances[k].is_one * odds(k));
        each.zip(&own.chances).map(|(odds, chance)| odds * (2.0 * chance - 1.0)).sum()
    };
    let seen = believed(all(&|k| own.rows[k] + stances[k].nearer), ROWS_LIE);
    let lit = believed(all(&|k| stances[k].lit), LIGHT_LIES);
    let right = seen * lit / (seen * lit + (1.0 - seen) * (1.0 - lit));
    own.chances.iter().map(|near| right * near + (1.0 - right) * (1.0 - near)).collect()
}

/// The chance that is left of log odds when what they come from lies for the whole clip with a chance of `lies`.
fn believed(odds: f64, lies: f64) -> f64 {
    let chance = 1.0 / (1.0 + (-odds).exp());
    (1.0 - lies) * chance + lies * (1.0 - chance)
}

/// Chance that rows tell the sides of a whole clip the wrong way round, and that light does (project default).
const ROWS_LIE: f64 = 0.03;
const LIGHT_LIES: f64 = 0.02;

/// The light of one stance counts so much: it goes with the turns of a couplet as well as with sides.
const OF_ONE: f64 = 0.2;

/// But a fore's counts so much where the rows of fores say nothing (by drawn films that are only used for this): hinds
/// go in and out of the trunk's shade as they take turns.
const OF_A_FORE_ALONE: f64 = 1.3;

/// Sides and ground that fit each other.
struct Settled {
    /// Chances of the near side.
    chances: Vec<f64>,
    /// Log odds of it by the rows alone.
    rows: Vec<f64>,
}

/// Ground, distances and sides found in turn, from a first guess by the rows about a smooth ground.
fn settled(stances: &[Stance], fore: &[(bool, f64)], known: &[Option<bool>]) -> Settled {
    let mut out = Settled { chances: vec![0.5; stances.len()], rows: vec![0.0; stances.len()] };
    let mut apart = [0.0; 2];
    let mut by_light = [OF_ONE; 2];
    let low = lower_half(stances);
    let mut by_half = vec![0.0; stances.len()];
    let girdles = [false, true];
    let ons: Vec<f64> = stances.iter().map(|s| s.on).collect();
    let front: Vec<bool> = fore.iter().map(|f| f.0).collect();
    let are: Vec<f64> = stances.iter().map(|s| s.is_one).collect();
    for round in 0..ROUNDS {
        let side = |k: usize| 2.0 * out.chances[k] - 1.0;
        let levelled: Vec<f64> = stances
            .iter()
            .enumerate()
            .map(|(k, s)| s.row - side(k) * apart[usize::from(fore[k].0)])
            .collect();
        let rests: Vec<f64> = (0..stances.len())
            .map(|k| stances[k].row - ground(stances, fore, &levelled, k))
            .collect();
        for ((girdle, apart), by_light) in girdles.into_iter().zip(&mut apart).zip(&mut by_light) {
            let own: Vec<usize> = (0..stances.len()).filter(|k| fore[*k].0 == girdle).collect();
            let trusted: f64 = own.iter().map(|k| trust(&stances[*k])).sum();
            // Of one half alone it cannot be told how far it stands from the other.
            if trusted < MOST_TRUSTED * count(own.len()).max(1.0) {
                own.iter().for_each(|k| out.rows[*k] = 0.0);
                *apart = 0.0;
                if girdle && round == 0 {
                    *by_light = OF_A_FORE_ALONE;
                }
                if round == ROUNDS / 2 && told_by_half(&own, &low, &out.chances, &mut by_half) {
                    *by_light = OF_ONE;
                }
                continue;
            }
            let middle = |mut sizes: Vec<f64>| {
                sizes.sort_by(f64::total_cmp);
                sizes[sizes.len() / 2]
            };
            let sd = if round == 0 {
                *apart = middle(own.iter().map(|k| rests[*k].abs()).collect()).max(0.1);
                0.7 * *apart
            } else {
                let along: f64 =
                    own.iter().map(|k| trust(&stances[*k]) * side(*k) * rests[*k]).sum();
                *apart = (along / trusted).max(0.05);
                let off = |k: &usize| (rests[*k] - side(*k).signum() * *apart).abs();
                1.48 * middle(own.iter().map(off).collect())
            };
            let sd = sd.max(ROW_SD);
            for k in own {
                let by_row = (2.0 * rests[k] * *apart / (sd * sd)).clamp(-MOST_ODDS, MOST_ODDS);
                out.rows[k] = trust(&stances[k]) * by_row;
            }
        }
        let odds = |said: f64| -> Vec<f64> {
            let each = (0..stances.len()).map(|k| {
                let by_light = by_light[usize::from(fore[k].0)] * stances[k].lit;
                let seen = out.rows[k] + by_half[k] + stances[k].nearer + by_light;
                known[k].map_or(seen, |near| seen + if near { said } else { -said })
            });
            each.collect()
        };
        // A word holds where it is said. Beyond that it is heard beside what is seen: one that all the others
        // contradict does not make them say nothing.
        let said = if round + 1 == ROUNDS { SAID } else { HEARD };
        out.chances = taking_turns(&ons, &front, &odds(said), &are);
    }
    out
}

/// Rows that do not say which half of a girdle is near may still say which stances are of one half: 1 for the lower one,
/// -1 for the higher, 0 where there are no halves.
fn lower_half(stances: &[Stance]) -> Vec<f64> {
    let all: Vec<Stance> = stances.iter().map(|s| Stance { row_sd: 0.0, ..*s }).collect();
    let sign = |half| match half {
        Some((high, apart)) if apart >= LEAST_APART => {
            if high {
                -1.0
            } else {
                1.0
            }
        }
        _ => 0.0,
    };
    halves(&all).into_iter().map(sign).collect()
}

/// Log odds of the near side by the halves of a girdle, where what is known of it says which half is near: whether it
/// does.
fn told_by_half(own: &[usize], low: &[f64], chances: &[f64], odds: &mut [f64]) -> bool {
    let (lower, all) = own.iter().fold((0.0, 0.0), |(lower, all), k| {
        let near = 2.0 * chances[*k] - 1.0;
        (lower + low[*k] * near, all + near.abs())
    });
    let agree: f64 = lower / f64::max(all, 1.0);
    if agree.abs() < AGREE {
        return false;
    }
    own.iter().for_each(|k| odds[*k] = HALF_SAYS * agree * low[*k]);
    true
}

/// Halves that stand nearer to each other than this, pixels, are none; …
const LEAST_APART: f64 = 0.6;

/// … this share of a girdle must agree that one of them is near, more than disagree; …
const AGREE: f64 = 0.5;

/// … and to be of it says this much then, log odds (by drawn films that are only used for this).
const HALF_SAYS: f64 = 3.0;

/// Rows of a girdle say nothing unless this part of them is to be trusted.
const MOST_TRUSTED: f64 = 0.7;

/// Rounds in which ground and sides are found in turn.
const ROUNDS: usize = 12;

/// One row says no more than this, log odds.
const MOST_ODDS: f64 = 4.0;

/// A person's word says this much of its own stance, log odds, …
const SAID: f64 = 30.0;

/// … and this much while ground and distances are found.
const HEARD: f64 = 4.0;
