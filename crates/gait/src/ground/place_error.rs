//! The error of a place on the ground, kept apart into the click's own and the scale's.

/// Error of a place, m.
#[derive(Clone, Debug, PartialEq)]
pub struct PlaceError {
    /// What the place moves by when its click moves by a standard deviation along each axis of
    /// the picture: a row each for x and y.
    pub own: [[f64; 2]; 2],
    /// What it moves by with each independent standard deviation of the scale itself.
    pub common: Vec<[f64; 2]>,
}
