//! How one picture lies over another: shifted, turned and enlarged.

/// A similarity from one picture's pixels to another's: (x, y) ↦ (a·x − b·y + dx, b·x + a·y + dy).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Turn {
    /// Enlargement times cosine of the turn.
    pub a: f64,
    /// Enlargement times sine of the turn.
    pub b: f64,
    /// Shift to the right, pixels.
    pub dx: f64,
    /// Shift downwards, pixels.
    pub dy: f64,
}

impl Turn {
    /// Nothing moved.
    pub const NONE: Self = Self { a: 1.0, b: 0.0, dx: 0.0, dy: 0.0 };

    /// Where a pixel of the first picture lies in the second.
    pub fn of(&self, x: f64, y: f64) -> (f64, f64) {
        (self.a * x - self.b * y + self.dx, self.b * x + self.a * y + self.dy)
    }

    /// First this, then `next`.
    ///
    /// ```
    /// use umlauf_signals::picture::turn::Turn;
    /// let turn = Turn { a: 0.0, b: 1.0, dx: 3.0, dy: 0.0 };
    /// assert_eq!(turn.then(&turn.back()).of(4.0, 7.0), (4.0, 7.0));
    /// ```
    #[must_use]
    pub fn then(&self, next: &Self) -> Self {
        let (dx, dy) = next.of(self.dx, self.dy);
        Self { a: next.a * self.a - next.b * self.b, b: next.b * self.a + next.a * self.b, dx, dy }
    }

    /// From the second picture to the first.
    #[must_use]
    pub fn back(&self) -> Self {
        let size = self.a * self.a + self.b * self.b;
        let (a, b) = (self.a / size, -self.b / size);
        Self { a, b, dx: -a * self.dx + b * self.dy, dy: -b * self.dx - a * self.dy }
    }

    /// A part of the way there.
    #[must_use]
    pub fn share(&self, part: f64) -> Self {
        Self {
            a: 1.0 + part * (self.a - 1.0),
            b: part * self.b,
            dx: part * self.dx,
            dy: part * self.dy,
        }
    }

    /// The same between pictures `by` times as large.
    #[must_use]
    pub fn scaled(&self, by: f64) -> Self {
        // Pixels' middles stay middles: half a pixel is another length in the larger picture.
        let half = |v: f64| v - 0.5;
        let (cx, cy) = self.of(-0.5 + 0.5 / by, -0.5 + 0.5 / by);
        let (x, y) = (by * (cx + 0.5), by * (cy + 0.5));
        Self { dx: half(x), dy: half(y), ..*self }
    }
}
