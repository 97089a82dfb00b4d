//! Figures of the arena in words.

use std::error::Error;
use std::fmt;

use crate::ground::arena::{Arena, Place};
use crate::ground::school_figure::{Drawn, NoFigure, Row, SchoolFigure};
use crate::stats::estimate::Estimate;

/// Where on a line: `1.0 m before X`, `at F`, `12.5 m after F`.
pub fn place_on_line(arena: &Arena, from: Place, to: Place, at_m: f64) -> String {
    let length = crate::ground::arena::distance(from, to);
    let (ux, uy) = ((to.0 - from.0) / length, (to.1 - from.1) / length);
    // The letter on the line that lies nearest to its middle: X on a diagonal or the centre line.
    let on_line = |p: Place| {
        let along = (p.0 - from.0) * ux + (p.1 - from.1) * uy;
        let off = ((p.0 - from.0) * uy - (p.1 - from.1) * ux).abs();
        (off < 0.05 && (-0.05..=length + 0.05).contains(&along)).then_some(along)
    };
    let letters = arena.letters();
    let middle = |along: f64| (along - length / 2.0).abs();
    let near = letters
        .iter()
        .filter_map(|(name, p)| on_line(*p).map(|along| (*name, along)))
        .min_by(|a, b| middle(a.1).total_cmp(&middle(b.1)));
    match near {
        Some((name, along)) if (at_m - along).abs() < 0.05 => format!("at {name}"),
        Some((name, along)) if at_m < along => format!("{:.1} m before {name}", along - at_m),
        Some((name, along)) => format!("{:.1} m past {name}", at_m - along),
        None => format!("{at_m:.1} m from its start"),
    }
}

/// A figure in a sentence: how long it is, and whether and where it fits.
pub fn figure(arena: &Arena, figure: &SchoolFigure, drawn: &Drawn) -> String {
    let way = format!("{:.2} m", drawn.length_m);
    match *figure {
        SchoolFigure::Line { .. } => {
            let angle = drawn.angle_deg.unwrap_or(0.0);
            let out = if drawn.fits { "" } else { " It leaves the arena." };
            format!("The line is {way} long, at {angle:.0}° to the long sides.{out}")
        }
        SchoolFigure::Circle { from, to, at_m, side, diameter } => {
            let hand = side.word();
            let Some((a, b)) = drawn.room else {
                return format!(
                    "A {diameter:.0} m circle on the {hand} of this line fits nowhere: it is {way} round."
                );
            };
            let (lo, hi) = (place_on_line(arena, from, to, a), place_on_line(arena, from, to, b));
            let here = if drawn.fits {
                "It fits here".to_owned()
            } else {
                format!("{} it does not fit", place_on_line(arena, from, to, at_m))
            };
            let here = here[..1].to_uppercase() + &here[1..];
            format!("{here}; on the {hand} of the line it fits from {lo} to {hi}. {way} round.")
        }
        SchoolFigure::Serpentine { loops, .. } => {
            let wide = arena.length / f64::from(loops);
            if drawn.fits {
                format!(
                    "A serpentine of {loops} loops is {way} long, each half circle {wide:.1} m across."
                )
            } else {
                format!(
                    "{loops} loops need half circles {wide:.1} m across: the arena is only {:.0} m wide.",
                    arena.width
                )
            }
        }
        SchoolFigure::Spiral { from, to, rounds, .. } => {
            let fits = if drawn.fits { "It fits" } else { "It leaves the arena" };
            format!(
                "A spiral from {from:.0} m to {to:.0} m in {rounds} rounds is {way} long. {fits}."
            )
        }
    }
}

/// Why there is no figure.
pub const fn no_figure(why: NoFigure) -> &'static str {
    match why {
        NoFigure::NoLine => "A line needs two places some way apart.",
        NoFigure::Size => "A figure of this size means nothing here.",
    }
}

/// A row of changes on a line in a sentence.
pub fn row(arena: &Arena, from: Place, to: Place, every: u32, count: u32, row: &Row) -> String {
    let name = format!("{count} changes every {every} strides take {:.1} m", row.needs_m);
    match row.begin {
        Some((a, b)) if b - a > 0.05 => format!(
            "{name}: they fit when the first falls between {} and {}.",
            place_on_line(arena, from, to, a),
            place_on_line(arena, from, to, b)
        ),
        Some((a, _)) => {
            format!("{name}: they fit just, the first {}.", place_on_line(arena, from, to, a))
        }
        None => format!(
            "{name}: too much for this line. With strides of {:.2} m at most they would fit.",
            row.longest_stride_m
        ),
    }
}

/// Strides expected on a way.
pub fn expected(name: &str, strides: Estimate) -> String {
    let range = strides.ci95.map_or(String::new(), |(lo, hi)| format!(" ({lo:.1} to {hi:.1})"));
    format!("{name}: {:.1} strides{range}", strides.value)
}

impl fmt::Display for NoFigure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(no_figure(*self))
    }
}

impl Error for NoFigure {}
