//! From clicks on hooves to metres: the ways that need no more than clicks, best first, and the
//! error that each leaves.
//!
//! A place read from a click has an error of its own and one in common with all other places read
//! by the same scale. The second does not average out over strides; both are kept apart.

use crate::base::units::Metres;
use crate::ground::ground_plane::GroundPlane;
use crate::ground::homography::Pixel;
use crate::ground::place_error::PlaceError;
use crate::ground::side_scale::SideScale;
use crate::ground::source::Source;
use crate::marks::footfall::GroundPoint;

/// A scale for clicks on hooves.
#[derive(Clone, Debug, PartialEq)]
pub enum Scale {
    /// Known points on the ground.
    Ground(Box<GroundPlane>),
    /// A track bar, or the height at the withers.
    Side(SideScale),
}

impl Scale {
    /// Which way it is.
    pub fn source(&self) -> Source {
        match self {
            Self::Ground(_) => Source::Ground,
            Self::Side(side) => side.source,
        }
    }

    /// The place that a pixel shows; `None` off the ground.
    pub fn place(&self, pixel: Pixel) -> Option<GroundPoint> {
        let at = match self {
            Self::Ground(plane) => plane.place(pixel),
            Self::Side(side) => side.place(pixel),
        };
        at.map(|(x, y)| GroundPoint { x: Metres(x), y: Metres(y) })
    }

    /// Error of a place read by this scale.
    pub fn error(&self, at: GroundPoint) -> Option<PlaceError> {
        match self {
            Self::Ground(plane) => plane.error((at.x.0, at.y.0)),
            Self::Side(side) => side.error((at.x.0, at.y.0)),
        }
    }

    /// Whether places lie in the arena's own coordinates, with breadth as well as length.
    pub fn is_arena(&self) -> bool {
        matches!(self, Self::Ground(_))
    }
}
