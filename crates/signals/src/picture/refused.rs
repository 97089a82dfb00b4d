//! How the camera moved, and why a clip tells nothing.

use std::fmt;

use crate::number::count;
use crate::picture::path::Path;

/// How the camera moved.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Camera {
    /// It stood still.
    Fixed,
    /// It turned smoothly after the horse.
    Panning,
    /// It was held in the hand.
    Handheld,
}

/// Why nothing is suggested, with what to film instead.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Refused {
    /// Less than a second.
    Short,
    /// Where the camera looks cannot be followed.
    CameraLost,
    /// Nothing that moves like a horse.
    NoHorse,
    /// What moves does not step as a horse does.
    NotAHorse,
    /// The horse fills the picture.
    TooClose,
    /// The horse is too small.
    TooSmall,
    /// Filmed from the front or from behind.
    AlongTheTrack,
    /// The horse does not come along.
    StandsStill,
    /// Half of the hooves are not seen.
    HalfUnseen,
    /// No hoof is seen to stand.
    NothingStands,
}

impl fmt::Display for Refused {
    fn fmt(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str(match self {
            Self::Short => "the clip is shorter than a second; film a whole long side",
            Self::CameraLost => {
                "where the camera looks cannot be followed; hold it steadier, or use a tripod, with \
                 posts or letters in view"
            }
            Self::NoHorse => "no horse is seen to move through the picture",
            Self::NotAHorse => {
                "what moves through the picture does not step as a horse does, or its shadow is \
                 taken for hooves; film one horse from the side, in even light, with nothing else as \
                 large that moves"
            }
            Self::TooClose => {
                "the horse fills the picture, or all of it shakes; film from farther away with a \
                 steady camera, so that the horse takes up a third to a half of the width"
            }
            Self::TooSmall => {
                "the horse is too small; film from nearer, or zoom in, so that it takes up a third to \
                 a half of the width"
            }
            Self::AlongTheTrack => {
                "the horse comes towards the camera or goes away from it: from here its sound tells the \
                 beats, and marks set by hand the limbs; film it from the side for the rest"
            }
            Self::StandsStill => "the horse does not move on; nothing tells a stance from standing",
            Self::HalfUnseen => {
                "half of the hooves are not seen against the ground; film on other ground or in other \
                 light, or put light boots on dark legs and dark ones on light legs"
            }
            Self::NothingStands => {
                "no hoof is seen to stand on the ground; film with the hooves in view, in better light"
            }
        })
    }
}

/// A camera turns less than this share of the picture when it stands still.
const STANDS: f64 = 0.01;

/// Error of a shift over 50 ms, share of the picture, beyond which it is lost, …
const LOST: f64 = 0.004;

/// … in this share of all frames.
const OFTEN: f64 = 0.25;

/// Change of the shift from one 50 ms to the next, share of the picture, of a camera in the hand.
const SHAKES: f64 = 0.003;

/// How the camera moved over a way through a picture of `size`.
///
/// # Errors
/// [`Refused::CameraLost`] when its way is not known in a quarter of all frames.
pub fn camera(way: &Path, size: (f64, f64)) -> Result<Camera, Refused> {
    let lost = way.sd.iter().filter(|sd| **sd > LOST * size.0).count();
    if count(lost) > OFTEN * count(way.sd.len()) {
        return Err(Refused::CameraLost);
    }
    let places: Vec<(f64, f64)> =
        way.to_first.iter().map(|t| t.of(0.5 * size.0, 0.5 * size.1)).collect();
    let span = |get: &dyn Fn(&(f64, f64)) -> f64| {
        let (lo, hi) = places
            .iter()
            .map(get)
            .fold((f64::INFINITY, f64::NEG_INFINITY), |s, v| (s.0.min(v), s.1.max(v)));
        hi - lo
    };
    if span(&|p| p.0).max(span(&|p| p.1)) < STANDS * size.0 {
        return Ok(Camera::Fixed);
    }
    let step = way.step.max(1);
    let mut changes: Vec<f64> = (2 * step..places.len())
        .step_by(step)
        .map(|k| {
            let [a, b, c] = [places[k - 2 * step], places[k - step], places[k]];
            (c.0 - 2.0 * b.0 + a.0).hypot(c.1 - 2.0 * b.1 + a.1)
        })
        .collect();
    changes.sort_by(f64::total_cmp);
    let usual = changes.get(changes.len() / 2).copied().unwrap_or(0.0);
    Ok(if usual > SHAKES * size.0 { Camera::Handheld } else { Camera::Panning })
}
