//! Colours of a horse and its rider.

use crate::mesh::Colour;

/// A horse's colours and markings.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Coat {
    /// Body.
    pub body: Colour,
    /// Belly, flank and the inside of limbs.
    pub pale: Colour,
    /// Lower limbs.
    pub points: Colour,
    /// Mane and tail.
    pub hair: Colour,
    /// Hooves.
    pub hoof: Colour,
    /// White socks on LF, RF, LH, RH.
    pub socks: [bool; 4],
    /// Saddle cloth.
    pub cloth: Colour,
    /// Rider's jacket.
    pub jacket: Colour,
}

/// White hair.
pub const WHITE: Colour = [0.82, 0.80, 0.76];

/// Bay: brown with black points.
pub const BAY: Coat = Coat {
    body: [0.33, 0.165, 0.075],
    pale: [0.40, 0.22, 0.11],
    points: [0.055, 0.042, 0.036],
    hair: [0.045, 0.036, 0.032],
    hoof: [0.10, 0.085, 0.075],
    socks: [false, false, true, false],
    cloth: [0.80, 0.78, 0.72],
    jacket: [0.09, 0.19, 0.16],
};

/// Chestnut with a flaxen mane.
pub const CHESTNUT: Coat = Coat {
    body: [0.42, 0.185, 0.06],
    pale: [0.50, 0.27, 0.11],
    points: [0.36, 0.16, 0.055],
    hair: [0.55, 0.36, 0.17],
    hoof: [0.30, 0.24, 0.17],
    socks: [false, true, true, true],
    cloth: [0.12, 0.20, 0.24],
    jacket: [0.20, 0.09, 0.08],
};

/// Grey, dark below.
pub const GREY: Coat = Coat {
    body: [0.52, 0.52, 0.51],
    pale: [0.60, 0.60, 0.58],
    points: [0.20, 0.20, 0.205],
    hair: [0.62, 0.61, 0.59],
    hoof: [0.12, 0.115, 0.11],
    socks: [false; 4],
    cloth: [0.16, 0.24, 0.19],
    jacket: [0.13, 0.14, 0.20],
};

impl Coat {
    /// A coat by name.
    pub fn named(name: &str) -> Option<Self> {
        match name {
            "bay" => Some(BAY),
            "chestnut" => Some(CHESTNUT),
            "grey" => Some(GREY),
            _ => None,
        }
    }
}
