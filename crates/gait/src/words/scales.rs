//! Ground planes, bars and heights in words: what they are worth, and why one is refused.

use std::error::Error;
use std::fmt;

use crate::ground::ground_plane::GroundPlane;
use crate::ground::plane_checks::{MOST, Refused, Warning};
use crate::ground::side_scale::NoScale;

/// Why points make no ground plane, and what to do.
pub fn refused(why: &Refused) -> String {
    match why {
        Refused::TooFew(0) => {
            "Click four points whose place you know: letters, poles or cones.".into()
        }
        Refused::TooFew(n) => format!("{n} of at least 4 points: click {} more.", 4 - n),
        Refused::TooMany(n) => format!("{n} points are more than {MOST}: the best {MOST} are enough."),
        Refused::Twice(a, b) => {
            format!("{a} and {b} are one point: click another, or give it another place.")
        }
        Refused::InLine(names) => format!(
            "{} lie in line, or nearly: a line gives no plane. Add a point well off it, such as a cone a few metres into the arena.",
            names.join(", ")
        ),
        Refused::Mirrored => "Left and right are changed: the picture is a mirror image, or the points have the names of the other side.".into(),
        Refused::Exchanged(a, b) => {
            format!("No camera sees the points like this, unless {a} and {b} are exchanged. Are they?")
        }
        Refused::Impossible => {
            "No camera sees the points like this: look at their names and places once more.".into()
        }
    }
}

/// What a ground plane leaves to wish for.
pub fn warning(warning: &Warning) -> String {
    match warning {
        Warning::NearlyInLine => "Three of the points lie nearly in line: lengths are less sure. A point further off the line helps.".into(),
        Warning::Misfit(name, px) => {
            format!("{name} is {px:.0} px from where the others put it: click it again, or check its place.")
        }
        Warning::Exchanged(a, b) => format!("{a} and {b} seem to be exchanged."),
    }
}

/// A ground plane in a sentence.
pub fn plane(plane: &GroundPlane) -> String {
    let fit = plane.rms_px.map_or_else(
        || "Four points fit always: a fifth would show whether they are right.".to_owned(),
        |rms| format!("The points fit to {rms:.1} px."),
    );
    let camera = plane.camera.map_or(String::new(), |c| {
        format!(
            " The camera stands {:.1} m high, {:.0} m beside the K side's line.",
            c.height_m,
            c.at.0.abs()
        )
    });
    format!("{fit}{camera}")
}

/// Why a bar or a height gives no scale.
pub const fn no_scale(why: NoScale) -> &'static str {
    match why {
        NoScale::TooFew => {
            "Click two points: both ends of the bar, or the ground and the withers above it."
        }
        NoScale::TooNear => "The points are too near to one another to measure by.",
        NoScale::OutOfOrder => {
            "The points' distances do not run in the order in which they are seen."
        }
        NoScale::NoHeight => {
            "The horse's height at the withers is not known: add it to the horse first."
        }
    }
}

impl fmt::Display for NoScale {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(no_scale(*self))
    }
}

impl Error for NoScale {}

impl fmt::Display for Refused {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&refused(self))
    }
}

impl Error for Refused {}
