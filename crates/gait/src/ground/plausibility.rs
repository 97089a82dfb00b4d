//! Can a stride be this long? Lengths in withers heights that no horse of a gait has point to a
//! calibration that is wrong; beside them stands how long an animal of this size strides at this
//! speed.

use crate::base::gait::Gait;
use crate::ground::source::Source;
use crate::ground::travel::Travel;

/// Hip height in withers heights (Griffin et al. 2004, J Exp Biol 207:4215; value from memory).
pub const HIP: f64 = 0.78;

/// Relative stride length L/h expected at a Froude number: 2.3·Fr^0.3 (Alexander 1976, Nature
/// 261:129; value from memory). A line through many animals, no norm.
///
/// ```
/// use umlauf_gait::ground::plausibility::alexander;
/// // Faster for its size means longer strides for its size.
/// assert!(alexander(1.0) > alexander(0.5));
/// ```
pub fn alexander(froude: f64) -> f64 {
    2.3 * froude.max(0.0).powf(0.3)
}

/// Shortest and longest stride of a gait in withers heights (project default: trained horses'
/// published strides, 0.95 to 1.2 in walk, 1.5 to 2.2 in trot, 1.2 to 2.1 in canter, with room for
/// ponies, jogs and pirouettes).
pub const fn limits(gait: Gait) -> Option<(f64, f64)> {
    Some(match gait {
        Gait::Walk | Gait::FlatWalk => (0.5, 1.5),
        Gait::RunningWalk | Gait::SteppingPace | Gait::FoxTrot => (0.7, 2.1),
        Gait::Rack | Gait::Pace => (0.8, 3.4),
        Gait::Trot => (0.7, 3.0),
        Gait::Passage => (0.3, 1.7),
        Gait::Piaffe => (0.0, 0.7),
        Gait::Canter => (0.4, 3.0),
        Gait::Gallop => (1.3, 4.6),
        Gait::ReinBack => (0.2, 1.4),
        _ => return None,
    })
}

/// A length that cannot be.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Impossible {
    /// Withers heights.
    pub heights: f64,
    /// Longer than any, or shorter.
    pub too_long: bool,
    /// Which way it was found.
    pub source: Source,
}

/// Whether a length cannot be: its whole interval lies outside the gait's limits.
pub fn impossible(gait: Gait, travel: &Travel, withers_m: f64) -> Option<Impossible> {
    let (least, most) = limits(gait)?;
    let length = travel.stride_length;
    let (lo, hi) = length.ci95.unwrap_or((length.value, length.value));
    let too_long = lo / withers_m > most;
    let too_short = hi / withers_m < least;
    (too_long || too_short).then(|| Impossible {
        heights: length.value / withers_m,
        too_long,
        source: travel.source,
    })
}

/// Two ways that do not agree: neither interval reaches the other.
pub fn disagree(a: &Travel, b: &Travel) -> bool {
    let of = |t: &Travel| t.stride_length.ci95;
    of(a).zip(of(b)).is_some_and(|(x, y)| x.1 < y.0 || y.1 < x.0)
}
