//! Phases: places on the stride's circle, 0 to 1, and their circular statistics.
//!
//! A phase is averaged as a unit vector, never as a plain number: 0.98 and 0.02 average to 0.00
//! (Mardia and Jupp, Directional Statistics, 2000).

use std::f64::consts::TAU;

use crate::base::number::count;

/// `x` brought into [0, 1).
///
/// ```
/// use umlauf_gait::base::phase::wrap;
/// assert!((wrap(1.25) - 0.25).abs() < 1e-12);
/// assert!((wrap(-0.1) - 0.9).abs() < 1e-12);
/// ```
pub fn wrap(x: f64) -> f64 {
    // Quicker than the remainder of a division.
    let w = x - x.floor();
    if w >= 1.0 { 0.0 } else { w }
}

/// `x` brought into [−½, ½): the short way round.
///
/// ```
/// use umlauf_gait::base::phase::signed;
/// assert!((signed(0.9) + 0.1).abs() < 1e-12);
/// ```
pub fn signed(x: f64) -> f64 {
    let w = wrap(x + 0.5) - 0.5;
    if w >= 0.5 { -0.5 } else { w }
}

/// Mean direction of phases in [0, 1), `None` when there are none or they cancel.
///
/// ```
/// use umlauf_gait::base::phase::{mean, signed};
/// // Just before and just after the beat: the mean is the beat, not half a stride off.
/// let m = mean(&[0.98, 0.02]).expect("they agree");
/// assert!(signed(m).abs() < 1e-12);
/// assert_eq!(mean(&[]), None);
/// ```
pub fn mean(phases: &[f64]) -> Option<f64> {
    let (mut s, mut c) = (0.0, 0.0);
    for p in phases {
        let (ps, pc) = (TAU * p).sin_cos();
        s += ps;
        c += pc;
    }
    if phases.is_empty() || s.hypot(c) < 1e-9 * count(phases.len()) {
        return None;
    }
    Some(wrap(s.atan2(c) / TAU))
}

/// Mean resultant length, 0 (scattered) to 1 (all alike).
///
/// ```
/// use umlauf_gait::base::phase::resultant;
/// assert!((resultant(&[0.3, 0.3, 0.3]) - 1.0).abs() < 1e-12);
/// assert!(resultant(&[0.0, 0.5]).abs() < 1e-12);
/// ```
pub fn resultant(phases: &[f64]) -> f64 {
    let (mut s, mut c) = (0.0, 0.0);
    for p in phases {
        let (ps, pc) = (TAU * p).sin_cos();
        s += ps;
        c += pc;
    }
    if phases.is_empty() { 0.0 } else { s.hypot(c) / count(phases.len()) }
}

/// Phases unrolled about their circular mean, so that linear statistics may be used on them:
/// each lies within ½ of the mean, which itself lies in [0, 1).
pub fn unrolled(phases: &[f64]) -> Option<Vec<f64>> {
    let centre = mean(phases)?;
    Some(phases.iter().map(|p| centre + signed(p - centre)).collect())
}
