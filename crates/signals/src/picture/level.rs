//! The ground under hooves: on which row of the picture each should stand, and how much higher or lower it does.

use crate::least_squares::fitted;
use crate::picture::stance::{FEWEST, Stance, fores};

/// Least error of a row, pixels.
pub const ROW_SD: f64 = 0.25;

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

/// How much a row weighs beside one of the usual error.
pub fn trust(stance: &Stance) -> f64 {
    1.0 / (1.0 + (stance.row_sd / USUAL_SD).powi(2))
}

/// Usual error of a row, pixels.
const USUAL_SD: f64 = 0.5;

/// The row on which a stance's hoof stands: a line over the column through the stances about it, and a
/// step between fore and hind, whose hooves do not look alike. By least squares, the near ones weighing
/// most, those far off the line hardly at all (Cleveland 1979, J Am Stat Assoc 74:829; value from memory).
pub fn ground(stances: &[Stance], fore: &[(bool, f64)], rows: &[f64], k: usize) -> f64 {
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
        let points = each.map(|(((s, f), row), weight)| (terms(s, f), *row, *weight));
        line = fitted(points, LEAST);
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

/// Added to each square, so that a term that nothing tells of stays near 0.
const LEAST: f64 = 1e-6;

/// Fits of a ground, each without what lay far off the one before.
const ROBUST: usize = 3;

/// Stances about one that its ground is read from.
const ABOUT: usize = 16;
