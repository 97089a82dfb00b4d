//! Hooves on a straight track: what is known across it steadies what is clicked along it.
//!
//! From a camera low over the ground a click is sharp across the line of sight and blurred along
//! it, by a metre and more far away. Where the track is not at right angles to the line of sight
//! the blur reaches into the stride's length. But each limb's hooves run along a line of their own,
//! so a print that lies off its line was clicked too near or too far, and moves back along the
//! line of sight: the conditional mean of two correlated normal errors.

use crate::base::number::count;
use crate::base::units::Metres;
use crate::ground::place_error;
use crate::ground::scale::Scale;
use crate::marks::footfall::GroundPoint;
use crate::strides::stride::Stride;

/// Prints moved onto their lines.
pub struct Steadied {
    /// The strides with their prints moved along the track.
    pub strides: Vec<Stride>,
    /// Left of the track, a unit vector.
    pub across: (f64, f64),
    /// By how much a print has moved along for each metre that it lay off its line, by stride and
    /// limb.
    pub share: Vec<[f64; 4]>,
}

/// How far a horse's hooves stray from their line, standard deviation, m (project default).
pub const STRAY_M: f64 = 0.04;

/// A line that prints miss by more than this many times what clicks explain is none.
const MISFIT: f64 = 2.5;

/// Fewest prints of which a line is made.
const FEWEST: usize = 6;

struct Print {
    stride: usize,
    limb: usize,
    /// Along and across, m.
    at: (f64, f64),
    own: place_error::PlaceError,
}

/// Moves the prints of a straight bout onto their lines; `None` when they do not run straight, or
/// are too few.
pub fn steadied(strides: &[Stride], scale: &Scale) -> Option<Steadied> {
    if !scale.is_arena() {
        return None;
    }
    let mut prints = Vec::new();
    for (k, stride) in strides.iter().enumerate() {
        for (limb, at) in stride.at.iter().enumerate() {
            let Some(at) = at else { continue };
            let own = scale.error(*at)?;
            prints.push(Print { stride: k, limb, at: (at.x.0, at.y.0), own });
        }
    }
    if prints.len() < FEWEST {
        return None;
    }
    let mut along = direction(&prints)?;
    // A second look from the direction that the first has found.
    for _ in 0..2 {
        let slope = fit(&prints, along)?.0;
        let length = 1f64.hypot(slope);
        let across = (-along.1, along.0);
        along = ((along.0 + slope * across.0) / length, (along.1 + slope * across.1) / length);
    }
    let (_, offsets) = fit(&prints, along)?;
    let across = (-along.1, along.0);
    let mut out =
        Steadied { strides: strides.to_vec(), across, share: vec![[0.0; 4]; strides.len()] };
    let mut misfit = 0.0;
    for p in &prints {
        let off = dot(p.at, across) - offsets[p.limb]?;
        let (covariance, variance) = errors(&p.own, along, across);
        misfit += off * off / variance;
        let share = covariance / variance;
        let by = -share * off;
        out.share[p.stride][p.limb] = share;
        out.strides[p.stride].at[p.limb] = Some(GroundPoint {
            x: Metres(p.at.0 + by * along.0),
            y: Metres(p.at.1 + by * along.1),
        });
    }
    let lines = offsets.iter().flatten().count();
    let free = count(prints.len().saturating_sub(lines + 1)).max(1.0);
    (misfit / free <= MISFIT).then_some(out)
}

fn dot(a: (f64, f64), b: (f64, f64)) -> f64 {
    a.0 * b.0 + a.1 * b.1
}

/// Covariance of a print's error along and across, and the variance of its place across, strays
/// of the horse among them, m².
fn errors(own: &place_error::PlaceError, along: (f64, f64), across: (f64, f64)) -> (f64, f64) {
    let part = |d: (f64, f64), k: usize| d.0 * own.own[0][k] + d.1 * own.own[1][k];
    let covariance = part(along, 0) * part(across, 0) + part(along, 1) * part(across, 1);
    let variance = part(across, 0).powi(2) + part(across, 1).powi(2);
    (covariance, variance + STRAY_M * STRAY_M)
}

/// From the first half of the prints to the second.
fn direction(prints: &[Print]) -> Option<(f64, f64)> {
    let middle = |part: &[Print]| {
        let n = count(part.len());
        part.iter().fold((0.0, 0.0), |s, p| (s.0 + p.at.0 / n, s.1 + p.at.1 / n))
    };
    let (a, b) = prints.split_at(prints.len() / 2);
    let (from, to) = (middle(a), middle(b));
    let (dx, dy) = (to.0 - from.0, to.1 - from.1);
    let length = dx.hypot(dy);
    (length > 0.3).then(|| (dx / length, dy / length))
}

/// Lines across = offset of the limb + slope · along, one slope for all, weighted least squares:
/// the slope and the offsets.
fn fit(prints: &[Print], along: (f64, f64)) -> Option<(f64, [Option<f64>; 4])> {
    let across = (-along.1, along.0);
    // Along, across, weight, of each limb's prints.
    let mut rows: [Vec<(f64, f64, f64)>; 4] = Default::default();
    for p in prints {
        let (_, variance) = errors(&p.own, along, across);
        rows[p.limb].push((dot(p.at, along), dot(p.at, across), 1.0 / variance));
    }
    let middles: [Option<(f64, f64)>; 4] = std::array::from_fn(|limb| {
        let own = &rows[limb];
        let weight: f64 = own.iter().map(|r| r.2).sum();
        let (a, c) = own.iter().fold((0.0, 0.0), |s, r| (s.0 + r.2 * r.0, s.1 + r.2 * r.1));
        (weight > 0.0).then(|| (a / weight, c / weight))
    });
    let (mut sxy, mut sxx) = (0.0, 0.0);
    for (own, middle) in rows.iter().zip(&middles) {
        let Some((a, c)) = middle else { continue };
        for r in own {
            sxy += r.2 * (r.0 - a) * (r.1 - c);
            sxx += r.2 * (r.0 - a) * (r.0 - a);
        }
    }
    if sxx <= 0.0 {
        return None;
    }
    let slope = sxy / sxx;
    Some((slope, middles.map(|m| m.map(|(a, c)| c - slope * a))))
}
