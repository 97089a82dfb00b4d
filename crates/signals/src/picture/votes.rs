//! Which whole shift the blocks of a small picture vote for, and the cheapest way through the votes of a
//! clip.

use crate::picture::grey::Grey;
use crate::picture::turn::Turn;

/// How much every whole shift of a small picture disagrees with what its blocks see, least where the
/// picture as a whole moved.
#[derive(Clone, Debug)]
pub struct Votes {
    /// Disagreement by shift to the right and down, rows of [`Votes::across`].
    pub against: Vec<f32>,
    /// Shifts to the right that are looked at, about none.
    pub across: usize,
    /// Shifts down that are looked at.
    pub down: usize,
    /// Pixels of the whole picture that one of the small picture stands for.
    pub pixel: f64,
}

/// Farthest shift that is looked at, as a share of the width.
const SEARCH: f32 = 0.1;

/// Differences of a block that rise by less than this, in grey values, say nothing.
const FLAT: f32 = 0.6;

/// What a shift by one small pixel costs beside none, in votes.
const STILL: f32 = 0.002;

/// What a change of the shift by one small pixel from one pair to the next costs, in votes.
const TURNING: f32 = 0.35;

/// Farthest change of the shift from one pair to the next, small pixels.
const FARTHEST: i32 = 4;

/// How much each shift of `from` disagrees with `to`; `whole` is the width of the picture they were made
/// of. A block votes by how its differences rise away from their least: sand, posts and horse have one
/// vote each, and the level rail, along which everything fits, none.
pub fn votes(from: &Grey, to: &Grey, whole: usize) -> Votes {
    const BLOCKS: (usize, usize) = (16, 9);
    const UP: i32 = 2;
    let reach = (SEARCH * from.width as f32).ceil() as i32;
    let (w, h) = (from.width as i32, from.height as i32);
    let across = usize::try_from(2 * reach + 1).unwrap_or(1);
    let down = usize::try_from(2 * UP + 1).unwrap_or(1);
    let mut against = vec![0.0f32; across * down];
    let mut curve = vec![0.0f32; across * down];
    let mut sorted = curve.clone();
    let (bw, bh) = (w / BLOCKS.0 as i32, h / BLOCKS.1 as i32);
    for by in 0..BLOCKS.1 as i32 {
        for bx in 0..BLOCKS.0 as i32 {
            let aside = ((bx as f32 + 0.5) / BLOCKS.0 as f32 - 0.5).abs();
            let low = (by as f32 + 0.5) / BLOCKS.1 as f32;
            let counts = counts(aside, low);
            for sy in 0..down {
                for sx in 0..across {
                    let (dx, dy) = (sx as i32 - reach, sy as i32 - UP);
                    // The part of the block that stays in the picture.
                    let (l, r) = ((bx * bw).max(-dx).max(0), ((bx + 1) * bw).min(w - dx));
                    let (t, b) = ((by * bh).max(-dy).max(0), ((by + 1) * bh).min(h - dy));
                    let pixels = (r - l).max(0) * (b - t).max(0);
                    let mut sum = 0u32;
                    if pixels > 0 {
                        for y in t..b {
                            let a = &from.row(y as usize)[l as usize..r as usize];
                            let c =
                                &to.row((y + dy) as usize)[(l + dx) as usize..(r + dx) as usize];
                            sum += a
                                .iter()
                                .zip(c)
                                .map(|(a, c)| u32::from(a.abs_diff(*c)))
                                .sum::<u32>();
                        }
                    }
                    curve[sy * across + sx] =
                        if 3 * pixels < bw * bh { f32::NAN } else { sum as f32 / pixels as f32 };
                }
            }
            sorted.clear();
            sorted.extend(curve.iter().filter(|v| !v.is_nan()));
            if sorted.len() < 8 {
                continue;
            }
            sorted.sort_by(f32::total_cmp);
            let (least, usual) = (sorted[0], sorted[sorted.len() / 2]);
            for (vote, v) in against.iter_mut().zip(&curve) {
                let rise = if v.is_nan() { 1.0 } else { (v - least) / (usual - least + FLAT) };
                *vote += counts * rise.min(1.0);
            }
        }
    }
    // Where nothing tells, a camera stands still.
    for (k, vote) in against.iter_mut().enumerate() {
        let far = (k % across).abs_diff(across / 2) + (k / across).abs_diff(down / 2);
        *vote += STILL * far as f32;
    }
    Votes { against, across, down, pixel: whole as f64 / from.width as f64 }
}

/// The shifts of a clip's pairs, in pixels of the whole picture: the cheapest way through all votes in
/// which a shift changes little by little (Viterbi 1967, IEEE Trans Inf Theory 13:260; value from memory).
pub fn cheapest(votes: &[Votes]) -> Vec<Turn> {
    let Some(first) = votes.first() else { return vec![] };
    let (across, down) = (first.across, first.down);
    let n = across * down;
    let mut cost = first.against.clone();
    let mut from: Vec<Vec<u32>> = vec![];
    for v in &votes[1..] {
        let mut next = vec![f32::INFINITY; n];
        let mut came = vec![0u32; n];
        for y in 0..down as i32 {
            for x in 0..across as i32 {
                let k = (y as usize) * across + x as usize;
                for dy in -1..=1 {
                    for dx in -FARTHEST..=FARTHEST {
                        let (px, py) = (x + dx, y + dy);
                        if px < 0 || py < 0 || px >= across as i32 || py >= down as i32 {
                            continue;
                        }
                        let p = py as usize * across + px as usize;
                        let c = cost[p] + TURNING * (dx.abs() + 2 * dy.abs()) as f32;
                        if c < next[k] {
                            next[k] = c;
                            came[k] = p as u32;
                        }
                    }
                }
                next[k] += v.against[k];
            }
        }
        cost = next;
        from.push(came);
    }
    let mut at = (0..n).min_by(|a, b| cost[*a].total_cmp(&cost[*b])).unwrap_or(0);
    let mut places = vec![at];
    for came in from.iter().rev() {
        at = came[at] as usize;
        places.push(at);
    }
    places.reverse();
    places
        .iter()
        .map(|at| Turn {
            dx: ((at % across) as f64 - (across / 2) as f64) * first.pixel,
            dy: ((at / across) as f64 - (down / 2) as f64) * first.pixel,
            ..Turn::NONE
        })
        .collect()
}

/// How much a place counts: the horse fills the middle, and the ground lies below.
pub fn counts(aside: f32, low: f32) -> f32 {
    ((aside - 0.2) / 0.2).max((low - 0.85) / 0.1).clamp(0.02, 1.0)
}
