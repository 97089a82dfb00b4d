//! What limbs are told from: when and where each stance was, and what is seen of it.

use crate::number::count;
use crate::picture::may::May;

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
    /// Log odds that it is near, by its light; 0 where that is not seen.
    pub lit: f64,
    /// Whose it may be, by what its limb wears.
    pub may: May,
    /// Chance that it is a footfall at all.
    pub is_one: f64,
}

/// Fewest stances whose sides can be told.
pub const FEWEST: usize = 6;

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
