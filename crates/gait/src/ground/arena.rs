//! The arena: letters, lines and circles, and where a circle fits beside a line.
//!
//! Metres from the corner at the A end on the K side: x across to F's side, y towards C. Letters
//! of 20×60 m and 20×40 m as in the FEI Dressage Rules (values from memory).

use crate::base::limb::Side;

/// An arena.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Arena {
    /// Along the short sides, m.
    pub width: f64,
    /// Along the long sides, m.
    pub length: f64,
}

/// A place on the ground, m.
pub type Place = (f64, f64);

/// Letters along the long sides from the A end: distance, the K side's, the F side's and the
/// centre line's.
const LARGE: [(f64, &str, &str, &str); 5] = [
    (6.0, "K", "F", "D"),
    (18.0, "V", "P", "L"),
    (30.0, "E", "B", "X"),
    (42.0, "S", "R", "I"),
    (54.0, "H", "M", "G"),
];

const SMALL: [(f64, &str, &str, &str); 3] =
    [(6.0, "K", "F", "D"), (20.0, "E", "B", "X"), (34.0, "H", "M", "G")];

impl Arena {
    /// 20×60 m.
    pub const LARGE: Self = Self { width: 20.0, length: 60.0 };
    /// 20×40 m.
    pub const SMALL: Self = Self { width: 20.0, length: 40.0 };

    /// All letters with their places. An arena of another size has A, C, and E, X, B at the
    /// middle of its long sides.
    pub fn letters(&self) -> Vec<(&'static str, Place)> {
        let middle = self.width / 2.0;
        let half = [(self.length / 2.0, "E", "B", "X")];
        let rows: &[(f64, &str, &str, &str)] = match *self {
            Self::LARGE => &LARGE,
            Self::SMALL => &SMALL,
            _ => &half,
        };
        let mut out = vec![("A", (middle, 0.0)), ("C", (middle, self.length))];
        for &(y, left, right, centre) in rows {
            out.extend([(left, (0.0, y)), (right, (self.width, y)), (centre, (middle, y))]);
        }
        out
    }

    /// The outer letters with the places where their posts stand, `out` m outside the rail.
    pub fn posts(&self, out: f64) -> Vec<(&'static str, Place)> {
        let outward = |(x, y): Place| {
            if x <= 0.0 {
                Some((-out, y))
            } else if x >= self.width {
                Some((x + out, y))
            } else if y <= 0.0 {
                Some((x, -out))
            } else if y >= self.length {
                Some((x, y + out))
            } else {
                None
            }
        };
        self.letters().into_iter().filter_map(|(name, p)| Some((name, outward(p)?))).collect()
    }

    /// The place of a letter, in any case.
    ///
    /// ```
    /// use umlauf_gait::ground::arena::Arena;
    /// assert_eq!(Arena::LARGE.letter("X"), Some((10.0, 30.0)));
    /// assert_eq!(Arena::LARGE.letter("Q"), None);
    /// ```
    pub fn letter(&self, name: &str) -> Option<Place> {
        self.letters().into_iter().find(|(l, _)| l.eq_ignore_ascii_case(name)).map(|(_, p)| p)
    }

    /// Where on the line from one place to another a circle of `diameter` (m) on its `side` (as
    /// seen riding along it) lies inside the arena, touching the line there: from and to, m along
    /// the line from its start, within the line. `None` where it fits nowhere.
    pub fn room_for_circle(
        &self,
        from: Place,
        to: Place,
        side: Side,
        diameter: f64,
    ) -> Option<(f64, f64)> {
        let (dx, dy) = (to.0 - from.0, to.1 - from.1);
        let length = dx.hypot(dy);
        if length <= 0.0 || diameter <= 0.0 {
            return None;
        }
        let (ux, uy) = (dx / length, dy / length);
        let radius = diameter / 2.0;
        // Left of the way is a quarter turn counter-clockwise.
        let turn = if side == Side::Left { 1.0 } else { -1.0 };
        let centre = (from.0 - turn * uy * radius, from.1 + turn * ux * radius);
        let (mut lo, mut hi) = (0.0f64, length);
        for (c, u, size) in [(centre.0, ux, self.width), (centre.1, uy, self.length)] {
            let (least, most) = (radius - c, size - radius - c);
            if least > most + 1e-9 {
                // Wider than the arena.
                return None;
            }
            if u.abs() < 1e-12 {
                if least > 1e-9 || most < -1e-9 {
                    return None;
                }
            } else {
                let (a, b) = (least / u, most / u);
                lo = lo.max(a.min(b));
                hi = hi.min(a.max(b));
            }
        }
        (lo <= hi + 1e-9).then_some((lo, hi.max(lo)))
    }
}

/// Distance of two places, m.
///
/// ```
/// use umlauf_gait::ground::arena::{Arena, distance};
/// let at = |name| Arena::LARGE.letter(name).expect("a letter");
/// // The diagonal from K to M.
/// assert!((distance(at("K"), at("M")) - 52.0).abs() < 0.01);
/// ```
pub fn distance(a: Place, b: Place) -> f64 {
    (b.0 - a.0).hypot(b.1 - a.1)
}

/// Way round a circle, m.
///
/// ```
/// use umlauf_gait::ground::arena::circumference;
/// assert!((circumference(20.0) - 62.83).abs() < 0.01);
/// ```
pub fn circumference(diameter: f64) -> f64 {
    std::f64::consts::PI * diameter
}
