//! Points and directions in three dimensions.

use std::ops::{Add, Mul, Neg, Sub};

/// A point or direction; in the horse's own frame x is forward, y left, z up.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct V3 {
    /// First coordinate.
    pub x: f64,
    /// Second coordinate.
    pub y: f64,
    /// Third coordinate.
    pub z: f64,
}

/// Shorthand for a [`V3`].
pub const fn v3(x: f64, y: f64, z: f64) -> V3 {
    V3 { x, y, z }
}

impl V3 {
    /// Scalar product.
    pub fn dot(self, o: Self) -> f64 {
        self.x * o.x + self.y * o.y + self.z * o.z
    }

    /// Vector product.
    pub fn cross(self, o: Self) -> Self {
        v3(self.y * o.z - self.z * o.y, self.z * o.x - self.x * o.z, self.x * o.y - self.y * o.x)
    }

    /// Length.
    pub fn length(self) -> f64 {
        self.dot(self).sqrt()
    }

    /// The same direction, of length 1; a zero vector stays one.
    pub fn unit(self) -> Self {
        let l = self.length();
        if l > 0.0 { self * (1.0 / l) } else { self }
    }

    /// The point a share `t` of the way to `o`.
    pub fn lerp(self, o: Self, t: f64) -> Self {
        self + (o - self) * t
    }
}

impl Add for V3 {
    type Output = Self;
    fn add(self, o: Self) -> Self {
        v3(self.x + o.x, self.y + o.y, self.z + o.z)
    }
}

impl Sub for V3 {
    type Output = Self;
    fn sub(self, o: Self) -> Self {
        v3(self.x - o.x, self.y - o.y, self.z - o.z)
    }
}

impl Mul<f64> for V3 {
    type Output = Self;
    fn mul(self, k: f64) -> Self {
        v3(self.x * k, self.y * k, self.z * k)
    }
}

impl Neg for V3 {
    type Output = Self;
    fn neg(self) -> Self {
        self * -1.0
    }
}
