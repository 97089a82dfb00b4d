//! Where the nose is, against the vertical.

use crate::stats::estimate::Estimate;

/// Where the nose is, against the vertical.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Nose {
    /// In front of it.
    InFront,
    /// On it, within its own limit.
    On,
    /// Behind it.
    Behind,
    /// The clicks leave it open.
    CannotTell,
}

/// Within this the nose is on the vertical, degrees (project default).
const ON_DEG: f64 = 3.0;

/// Where the nose is: the whole interval must lie on one side.
pub fn nose(angle: Estimate) -> Nose {
    let (lo, hi) = angle.ci95.unwrap_or((angle.value, angle.value));
    if lo > 0.0 && angle.value > ON_DEG {
        Nose::InFront
    } else if hi < 0.0 && angle.value < -ON_DEG {
        Nose::Behind
    } else if lo >= -2.0 * ON_DEG && hi <= 2.0 * ON_DEG {
        Nose::On
    } else {
        Nose::CannotTell
    }
}
