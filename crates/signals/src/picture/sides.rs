//! Which limb each stance was: fore or hind by its place under the body, near or far by the row it stands
//! on.
//!
//! The far hoof stands higher in the picture by little more than a pixel, on ground that is not level
//! there: that is enough where it is known whose [turn](crate::picture::turns) it is.

use umlauf_gait::base::limb::{Limb, Side};

use crate::number::count;
use crate::picture::may::May;
use crate::picture::turns::taking_turns;

/// What is known of a stance.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stance {
    /// When it began, frames.
    pub on: f64,
    /// How far ahead of the body's middle it stood, heights at the withers.
    pub ahead: f64,
    /// Column of the ground picture.
    pub x: f64,
    /// Row of the ground picture.
    pub row: f64,
    /// Standard deviation of the row beyond what is usual, pixels: what is seen lowest may not be the hoof.
    pub row_sd: f64,
    /// Log odds that it is near, by what passed before it while it stood; 0 where that is not seen.
    pub nearer: f64,
    /// Whose it may be, by what its limb wears.
    pub may: May,
    /// Chance that it is a footfall at all.
    pub is_one: f64,
}

/// A limb and how sure it is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Named {
    /// The limb.
    pub limb: Limb,
    /// Chance that it is this one.
    pub sure: f64,
}

/// Least error of a row, pixels.
const ROW_SD: f64 = 0.25;

/// Fewest stances whose sides can be told.
const FEWEST: usize = 6;

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

/// Half of a girdle stands higher in the picture than the other half: which, and by how many pixels. Fewer than six
/// of a girdle are not parted.
pub fn halves(stances: &[Stance]) -> Vec<Option<(bool, f64)>> {
    let mut out = vec![None; stances.len()];
    if stances.len() < FEWEST {
        return out;
    }
    let girdles = fores(stances);
    let rows: Vec<f64> = stances.iter().map(|s| s.row).collect();
    let rests: Vec<f64> =
        (0..rows.len()).map(|k| rows[k] - ground(stances, &girdles, &rows, k)).collect();
    for girdle in [false, true] {
        let own: Vec<usize> = (0..rows.len()).filter(|k| girdles[*k].0 == girdle).collect();
        let mut sorted: Vec<f64> = own.iter().map(|k| rests[*k]).collect();
        if sorted.len() < FEWEST {
            continue;
        }
        sorted.sort_by(f64::total_cmp);
        let (mut high, mut low) = (sorted[sorted.len() / 5], sorted[4 * sorted.len() / 5]);
        for _ in 0..10 {
            let border = f64::midpoint(high, low);
            let split = sorted.partition_point(|r| *r < border).clamp(1, sorted.len() - 1);
            let middle = |v: &[f64]| v[v.len() / 2];
            (high, low) = (middle(&sorted[..split]), middle(&sorted[split..]));
        }
        for k in own {
            out[k] = Some((rests[k] < f64::midpoint(high, low), low - high));
        }
    }
    out
}

/// Which stances stand too high for the ground about them, by more than `most` pixels: a hoof that hovers
/// before it lands, or what lies behind.
pub fn hovering(stances: &[Stance], most: f64) -> Vec<bool> {
    let mut out = vec![false; stances.len()];
    for _ in 0..3 {
        let kept: Vec<Stance> =
            stances.iter().zip(&out).filter(|(_, high)| !**high).map(|(s, _)| *s).collect();
        if kept.len() < FEWEST {
            return out;
        }
        let girdles = fores(&kept);
        let rows: Vec<f64> = kept.iter().map(|s| s.row).collect();
        let rests: Vec<f64> =
            (0..kept.len()).map(|k| rows[k] - ground(&kept, &girdles, &rows, k)).collect();
        // The far hooves stand higher by right, and half of them are far.
        let mut apart: Vec<f64> = rests.iter().map(|r| r.abs()).collect();
        apart.sort_by(f64::total_cmp);
        let far = apart[apart.len() / 2];
        let kept: Vec<usize> = (0..out.len()).filter(|k| !out[*k]).collect();
        let mut found = false;
        for (k, rest) in kept.into_iter().zip(rests) {
            // What ends above its hoof stands high by itself.
            if rest < -(far + most) - stances[k].row_sd {
                out[k] = true;
                found = true;
            }
        }
        if !found {
            break;
        }
    }
    out
}

/// Fore or hind, and how sure: two heaps of places under the body.
pub fn fores(stances: &[Stance]) -> Vec<(bool, f64)> {
    let mut places: Vec<f64> = stances.iter().map(|s| s.ahead).collect();
    places.sort_by(f64::total_cmp);
    let quarter = places.len() / 4;
    let (mut hind, mut fore) = (places[quarter], places[places.len() - 1 - quarter]);
    let mut spread = 0.1;
    for _ in 0..20 {
        let border = f64::midpoint(hind, fore);
        let heap = |front: bool| {
            let own: Vec<f64> = places.iter().copied().filter(|p| (*p > border) == front).collect();
            (own.iter().sum::<f64>() / count(own.len().max(1)), own)
        };
        let ((h, hinds), (f, fores)) = (heap(false), heap(true));
        let squares = hinds.iter().map(|p| (p - h) * (p - h)).sum::<f64>()
            + fores.iter().map(|p| (p - f) * (p - f)).sum::<f64>();
        spread = (squares / count(places.len())).sqrt().max(0.03);
        (hind, fore) = (h, f);
    }
    let odds = |p: f64| {
        let (a, b) = ((p - hind) / spread, (p - fore) / spread);
        // Tails are heavier than a bell's.
        (0.5 * (a * a - b * b)).clamp(-6.0, 6.0)
    };
    stances
        .iter()
        .map(|s| {
            let o = odds(s.ahead);
            (o > 0.0, 1.0 / (1.0 + (-o.abs()).exp()))
        })
        .collect()
}

/// Chance that each stance is of the near side.
fn near_chances(stances: &[Stance], fore: &[(bool, f64)], known: &[Option<bool>]) -> Vec<f64> {
    // A first guess from the rows about a smooth ground, then ground, distances and sides in turn.
    let mut chances = vec![0.5; stances.len()];
    let mut apart = [0.0; 2];
    let girdles = [false, true];
    let ons: Vec<f64> = stances.iter().map(|s| s.on).collect();
    let front: Vec<bool> = fore.iter().map(|f| f.0).collect();
    let are: Vec<f64> = stances.iter().map(|s| s.is_one).collect();
    for round in 0..ROUNDS {
        let side = |k: usize| 2.0 * chances[k] - 1.0;
        let levelled: Vec<f64> = stances
            .iter()
            .enumerate()
            .map(|(k, s)| s.row - side(k) * apart[usize::from(fore[k].0)])
            .collect();
        let rests: Vec<f64> = (0..stances.len())
            .map(|k| stances[k].row - ground(stances, fore, &levelled, k))
            .collect();
        let mut odds = vec![0.0; stances.len()];
        for (girdle, apart) in girdles.into_iter().zip(&mut apart) {
            let own: Vec<usize> = (0..stances.len()).filter(|k| fore[*k].0 == girdle).collect();
            let trusted: f64 = own.iter().map(|k| trust(&stances[*k])).sum();
            // Of one half alone it cannot be told how far it stands from the other.
            if trusted < MOST_TRUSTED * count(own.len()).max(1.0) {
                own.iter().for_each(|k| odds[*k] = stances[*k].nearer);
                *apart = 0.0;
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
                odds[k] = trust(&stances[k]) * by_row + stances[k].nearer;
            }
        }
        for (odds, known) in odds.iter_mut().zip(known) {
            if let Some(near) = known {
                *odds = if *near { SAID } else { -SAID };
            }
        }
        chances = taking_turns(&ons, &front, &odds, &are);
    }
    chances
}

/// How much a row weighs beside one of the usual error.
fn trust(stance: &Stance) -> f64 {
    1.0 / (1.0 + (stance.row_sd / USUAL_SD).powi(2))
}

/// Rows of a girdle say nothing unless this part of them is to be trusted.
const MOST_TRUSTED: f64 = 0.7;

/// Usual error of a row, pixels.
const USUAL_SD: f64 = 0.5;

/// Rounds in which ground and sides are found in turn.
const ROUNDS: usize = 12;

/// One row says no more than this, log odds.
const MOST_ODDS: f64 = 4.0;

/// A person's word says this much.
const SAID: f64 = 30.0;

/// The row on which a stance's hoof stands: a line over the column through the stances about it, and a
/// step between fore and hind, whose hooves do not look alike. By least squares, the near ones weighing
/// most, those far off the line hardly at all (Cleveland 1979, J Am Stat Assoc 74:829; value from memory).
fn ground(stances: &[Stance], fore: &[(bool, f64)], rows: &[f64], k: usize) -> f64 {
    let far = |s: &Stance| (s.x - stances[k].x).abs();
    let mut all: Vec<f64> = stances.iter().map(far).collect();
    all.sort_by(f64::total_cmp);
    let reach = all[ABOUT.min(all.len() - 1)].max(1.0) * 1.01;
    let terms = |s: &Stance, f: &(bool, f64)| {
        [1.0, (s.x - stances[k].x) / reach, if f.0 { 0.5 } else { -0.5 }]
    };
    let near: Vec<f64> = stances
        .iter()
        .map(|s| trust(s) * (1.0 - (far(s) / reach).min(1.0).powi(3)).powi(3))
        .collect();
    let mut weights = near.clone();
    let mut line = [0.0; 3];
    for _ in 0..ROBUST {
        let each = stances.iter().zip(fore).zip(rows).zip(&weights);
        line = fitted(each.map(|(((s, f), row), weight)| (terms(s, f), *row, *weight)));
        let off: Vec<f64> = stances
            .iter()
            .zip(fore)
            .zip(rows)
            .map(|((s, f), row)| {
                let own = terms(s, f);
                (row - own.iter().zip(&line).map(|(t, l)| t * l).sum::<f64>()).abs()
            })
            .collect();
        let mut about: Vec<f64> =
            off.iter().zip(&near).filter(|(_, w)| **w > 0.0).map(|(o, _)| *o).collect();
        about.sort_by(f64::total_cmp);
        let usual = about.get(about.len() / 2).copied().unwrap_or(0.0).max(ROW_SD);
        for ((weight, near), off) in weights.iter_mut().zip(&near).zip(&off) {
            *weight = near * (1.0 - (off / (6.0 * usual)).min(1.0).powi(2)).powi(2);
        }
    }
    line[0] + if fore[k].0 { 0.5 * line[2] } else { -0.5 * line[2] }
}

/// Fits of a ground, each without what lay far off the one before.
const ROBUST: usize = 3;

/// Three terms fitted to values with weights.
fn fitted(points: impl Iterator<Item = ([f64; 3], f64, f64)>) -> [f64; 3] {
    let (mut a, mut b) = ([[0.0f64; 3]; 3], [0.0f64; 3]);
    for (own, row, weight) in points {
        for (i, p) in own.iter().enumerate() {
            for (j, q) in own.iter().enumerate() {
                a[i][j] += weight * p * q;
            }
            b[i] += weight * p * row;
        }
    }
    for (i, row) in a.iter_mut().enumerate() {
        row[i] += 1e-6;
    }
    for i in 0..3 {
        for j in i + 1..3 {
            let by = a[j][i] / a[i][i];
            let above = a[i];
            a[j].iter_mut().zip(above).skip(i).for_each(|(x, y)| *x -= by * y);
            b[j] -= by * b[i];
        }
    }
    let step = b[2] / a[2][2];
    let slope = (b[1] - a[1][2] * step) / a[1][1];
    let level = (b[0] - a[0][1] * slope - a[0][2] * step) / a[0][0];
    [level, slope, step]
}

/// Stances about one that its ground is read from.
const ABOUT: usize = 16;
