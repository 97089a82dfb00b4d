//! Figures of the arena: their paths, their lengths, whether they fit, and from where to where.

use std::f64::consts::PI;

use crate::base::limb::Side;
use crate::ground::arena::{Arena, Place, circumference, distance};

/// A figure.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum SchoolFigure {
    /// A straight line: diagonal, centre line, quarter line, change or half-pass line.
    Line {
        /// From.
        from: Place,
        /// To.
        to: Place,
    },
    /// A circle of a diameter (m) that touches a line at a distance along it (m), on its side.
    Circle {
        /// The line's start.
        from: Place,
        /// The line's end.
        to: Place,
        /// Where it touches, m from the start.
        at_m: f64,
        /// To which side.
        side: Side,
        /// Diameter, m.
        diameter: f64,
    },
    /// A serpentine from A to C with loops from long side to long side.
    Serpentine {
        /// Loops.
        loops: u8,
        /// The first loop's side, seen from A.
        first: Side,
    },
    /// A spiral about a place, from one diameter (m) to another in a number of rounds.
    Spiral {
        /// Middle.
        middle: Place,
        /// First diameter, m.
        from: f64,
        /// Last diameter, m.
        to: f64,
        /// Rounds.
        rounds: f64,
        /// Rein.
        side: Side,
    },
}

/// A figure in its arena.
#[derive(Clone, Debug, PartialEq)]
pub struct Drawn {
    /// Points of the way, m.
    pub path: Vec<Place>,
    /// Way, m.
    pub length_m: f64,
    /// Whether it lies in the arena.
    pub fits: bool,
    /// Where along its line a circle of this size fits, m from the line's start.
    pub room: Option<(f64, f64)>,
    /// Length of its line, m.
    pub line_m: Option<f64>,
    /// Angle of a line to the long sides, degrees.
    pub angle_deg: Option<f64>,
}

/// Why there is no figure.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum NoFigure {
    /// A line needs two places.
    NoLine,
    /// A size that means nothing.
    Size,
}

/// Points of a full circle.
const STEPS: u32 = 96;

/// Draws and measures a figure.
///
/// # Errors
/// [`NoFigure`].
pub fn draw(arena: &Arena, figure: &SchoolFigure) -> Result<Drawn, NoFigure> {
    let inside = |path: &[Place]| path.iter().all(|p| within(arena, *p));
    let real = |v: f64| v.is_finite() && v > 0.0 && v <= 200.0;
    match *figure {
        SchoolFigure::Line { from, to } => {
            let length_m = distance(from, to);
            if !real(length_m) {
                return Err(NoFigure::NoLine);
            }
            let path = vec![from, to];
            let angle = (to.0 - from.0).abs().atan2((to.1 - from.1).abs()).to_degrees();
            Ok(Drawn {
                fits: inside(&path),
                path,
                length_m,
                room: None,
                line_m: Some(length_m),
                angle_deg: Some(angle),
            })
        }
        SchoolFigure::Circle { from, to, at_m, side, diameter } => {
            let line = distance(from, to);
            if !real(line) {
                return Err(NoFigure::NoLine);
            }
            if !real(diameter) || !at_m.is_finite() {
                return Err(NoFigure::Size);
            }
            let (ux, uy) = ((to.0 - from.0) / line, (to.1 - from.1) / line);
            let turn = if side == Side::Left { 1.0 } else { -1.0 };
            let (touch, r) = ((from.0 + ux * at_m, from.1 + uy * at_m), diameter / 2.0);
            let middle = (touch.0 - turn * uy * r, touch.1 + turn * ux * r);
            let start = (touch.1 - middle.1).atan2(touch.0 - middle.0);
            let path: Vec<Place> = (0..=STEPS)
                .map(|k| {
                    let a = start + turn * 2.0 * PI * f64::from(k) / f64::from(STEPS);
                    (middle.0 + r * a.cos(), middle.1 + r * a.sin())
                })
                .collect();
            let room = arena.room_for_circle(from, to, side, diameter);
            let fits = room.is_some_and(|(a, b)| (a - 1e-6..=b + 1e-6).contains(&at_m));
            Ok(Drawn {
                path,
                length_m: circumference(diameter),
                fits,
                room,
                line_m: Some(line),
                angle_deg: None,
            })
        }
        SchoolFigure::Serpentine { loops, first } => {
            if !(1..=12).contains(&loops) {
                return Err(NoFigure::Size);
            }
            Ok(serpentine(arena, loops, first))
        }
        SchoolFigure::Spiral { middle, from, to, rounds, side } => {
            if !real(from) || !real(to) || !(0.25..=20.0).contains(&rounds) {
                return Err(NoFigure::Size);
            }
            let turn = if side == Side::Left { 1.0 } else { -1.0 };
            #[expect(
                clippy::cast_possible_truncation,
                clippy::cast_sign_loss,
                reason = "few rounds"
            )]
            let n = (rounds * f64::from(STEPS)).ceil() as u32;
            let path: Vec<Place> = (0..=n)
                .map(|k| {
                    let share = f64::from(k) / f64::from(n);
                    let r = (from + (to - from) * share) / 2.0;
                    let a = -PI / 2.0 + turn * 2.0 * PI * rounds * share;
                    (middle.0 + r * a.cos(), middle.1 + r * a.sin())
                })
                .collect();
            Ok(Drawn {
                fits: inside(&path),
                length_m: spiral_length(from / 2.0, to / 2.0, 2.0 * PI * rounds),
                path,
                room: None,
                line_m: None,
                angle_deg: None,
            })
        }
    }
}

fn within(arena: &Arena, (x, y): Place) -> bool {
    let edge = 1e-6;
    (-edge..=arena.width + edge).contains(&x) && (-edge..=arena.length + edge).contains(&y)
}

/// Half circles of length/(2·loops) touching alternate long sides, joined by straight lines across:
/// loops·(width + (π − 2)·r) long in all.
fn serpentine(arena: &Arena, loops: u8, first: Side) -> Drawn {
    let n = f64::from(loops);
    let (w, r) = (arena.width, arena.length / (2.0 * n));
    let mut path = vec![(w / 2.0, 0.0)];
    for k in 0..loops {
        // Seen from A the F side is on the right.
        let right = (first == Side::Right) == (k % 2 == 0);
        let side = if right { 1.0 } else { -1.0 };
        let middle = (w / 2.0 + side * (w / 2.0 - r), r * (2.0 * f64::from(k) + 1.0));
        for j in 0..=STEPS / 2 {
            let a = -PI / 2.0 + PI * f64::from(j) / f64::from(STEPS / 2);
            path.push((middle.0 + side * r * a.cos(), middle.1 + r * a.sin()));
        }
    }
    path.push((w / 2.0, arena.length));
    Drawn {
        path,
        length_m: n * (w + (PI - 2.0) * r),
        fits: r <= w / 2.0 + 1e-9,
        room: None,
        line_m: None,
        angle_deg: None,
    }
}

/// ∫ √(r² + r′²) dθ of a spiral of Archimedes over an angle.
fn spiral_length(from: f64, to: f64, angle: f64) -> f64 {
    let b = (to - from) / angle;
    if b.abs() < 1e-12 {
        return from * angle;
    }
    let part = |r: f64| {
        let root = r.hypot(b);
        (r * root / b + b * ((r + root) / b.abs()).ln()) / 2.0
    };
    part(to) - part(from)
}

/// Room for a row of changes, or anything counted in strides, on a line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Row {
    /// Metres that the row takes from its first change to its last.
    pub needs_m: f64,
    /// Whether it fits, with `margin` m of straight line before and after.
    pub fits: bool,
    /// The first change may fall from here to there, m from the line's start.
    pub begin: Option<(f64, f64)>,
    /// Longest stride with which it fits, m.
    pub longest_stride_m: f64,
}

/// Whether `count` changes every `every` strides of `stride_m` fit on a line of `line_m` with
/// `margin_m` straight before the first and after the last: `count − 1` gaps.
///
/// ```
/// use umlauf_gait::ground::school_figure::room_for_row;
/// let row = room_for_row(52.0, 4, 5, 3.0, 6.0);
/// assert!(row.needs_m > 0.0);
/// ```
pub fn room_for_row(line_m: f64, every: u32, count: u32, stride_m: f64, margin_m: f64) -> Row {
    let strides = f64::from(every) * f64::from(count.saturating_sub(1));
    let needs_m = strides * stride_m;
    let free = line_m - 2.0 * margin_m;
    let fits = needs_m <= free + 1e-9 && free >= 0.0;
    Row {
        needs_m,
        fits,
        begin: fits.then(|| (margin_m, (line_m - margin_m - needs_m).max(margin_m))),
        longest_stride_m: if strides > 0.0 { (free / strides).max(0.0) } else { f64::INFINITY },
    }
}
