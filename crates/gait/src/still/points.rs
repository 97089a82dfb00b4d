//! Points that are clicked on a still.

use std::collections::BTreeMap;

use crate::ground::homography::Pixel;

/// A point that is clicked.
#[derive(Clone, Copy, Debug, Eq, Ord, PartialEq, PartialOrd)]
pub enum Point {
    /// Highest point of the neck, behind the ears.
    Poll,
    /// Forehead, on the front line of the face.
    Forehead,
    /// Nose, on the front line of the face.
    Nose,
    /// Highest point of the withers.
    Withers,
    /// Highest point of the croup.
    Croup,
    /// Left fore's hoof on the ground.
    Lf,
    /// Right fore's.
    Rf,
    /// Left hind's.
    Lh,
    /// Right hind's.
    Rh,
    /// Rider's ear.
    Ear,
    /// Rider's shoulder.
    Shoulder,
    /// Rider's hip.
    Hip,
    /// Rider's heel.
    Heel,
    /// Rider's elbow.
    Elbow,
    /// Rider's hand.
    Hand,
    /// The bit.
    Bit,
}

impl Point {
    /// All, in the order in which they are asked for.
    pub const ALL: [Self; 16] = [
        Self::Poll,
        Self::Forehead,
        Self::Nose,
        Self::Withers,
        Self::Croup,
        Self::Lf,
        Self::Rf,
        Self::Lh,
        Self::Rh,
        Self::Ear,
        Self::Shoulder,
        Self::Hip,
        Self::Heel,
        Self::Elbow,
        Self::Hand,
        Self::Bit,
    ];

    /// Its name in files.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Poll => "poll",
            Self::Forehead => "forehead",
            Self::Nose => "nose",
            Self::Withers => "withers",
            Self::Croup => "croup",
            Self::Lf => "LF",
            Self::Rf => "RF",
            Self::Lh => "LH",
            Self::Rh => "RH",
            Self::Ear => "ear",
            Self::Shoulder => "shoulder",
            Self::Hip => "hip",
            Self::Heel => "heel",
            Self::Elbow => "elbow",
            Self::Hand => "hand",
            Self::Bit => "bit",
        }
    }

    /// By its name in files.
    pub fn named(word: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|p| p.word() == word)
    }
}

/// Points of a still, px from its left and upper edges.
pub type Points = BTreeMap<Point, Pixel>;
