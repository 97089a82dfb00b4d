//! Figures of the arena: drawn, measured, and what this horse makes of them.

use serde::{Deserialize, Serialize};
use umlauf_gait::base::gait::Gait;
use umlauf_gait::ground::arena::{Arena, Place, distance};
use umlauf_gait::ground::expected_strides;
use umlauf_gait::ground::school_figure::{self, SchoolFigure};
use umlauf_gait::season::metric::Metric;
use umlauf_gait::stats::descriptive;
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Side, words};
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::clip::calibration::Size;
use crate::digest;
use crate::document::estimate;
use crate::refused::Refused;

/// A figure to be drawn.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Asked {
    /// The arena.
    arena: Size,
    /// The figure.
    figure: FigureAsked,
    /// The horse whose strides are expected on it.
    #[serde(default)]
    horse: Option<i64>,
    /// Strides counted on it: gives the stride length.
    #[serde(default)]
    counted: Option<u32>,
    /// A row of changes on its line.
    #[serde(default)]
    row: Option<RowAsked>,
}

/// A row of changes: `count` changes every `every` strides.
#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct RowAsked {
    /// Strides from change to change.
    every: u32,
    /// Changes.
    count: u32,
    /// Stride length, m; nothing for this horse's own canter.
    #[serde(default)]
    stride_m: Option<f64>,
}

/// A figure: a line between letters or places, a circle on it, a serpentine, a spiral.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum FigureAsked {
    /// A straight line.
    Line {
        /// From.
        from: Spot,
        /// To.
        to: Spot,
    },
    /// A circle that touches a line.
    Circle {
        /// The line's start.
        from: Spot,
        /// Its end.
        to: Spot,
        /// Where it touches, m from the start.
        at_m: f64,
        /// `left` or `right`.
        side: String,
        /// Diameter, m.
        diameter_m: f64,
    },
    /// A serpentine from A to C.
    Serpentine {
        /// Loops.
        loops: u8,
        /// Side of the first loop, `left` or `right`.
        first: String,
    },
    /// A spiral.
    Spiral {
        /// Its middle.
        middle: Spot,
        /// First diameter, m.
        from_m: f64,
        /// Last diameter, m.
        to_m: f64,
        /// Rounds.
        rounds: f64,
        /// Rein.
        side: String,
    },
}

/// A letter, or a place.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(untagged)]
pub enum Spot {
    /// A letter's name.
    Letter(String),
    /// Metres across and along.
    Place([f64; 2]),
}

/// A figure, drawn and measured.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct FigureDrawn {
    /// In words.
    pub says: String,
    /// Whether it lies in the arena.
    pub fits: bool,
    /// Way, m.
    pub length_m: f64,
    /// Points of the way, m.
    pub path: Vec<[f64; 2]>,
    /// Its line, m.
    pub line: Option<[[f64; 2]; 2]>,
    /// Where on its line a circle of this size fits, places from and to.
    pub room: Option<[[f64; 2]; 2]>,
    /// Length of its line, m.
    pub line_m: Option<f64>,
    /// Letters of this arena.
    pub letters: Vec<Letter>,
    /// Strides expected, by gait.
    pub strides: Vec<StridesExpected>,
    /// Stride length of the strides counted.
    pub counted: Option<estimate::Estimate>,
    /// Whether the row of changes fits, in words.
    pub row_says: Option<String>,
}

/// A letter of the arena.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Letter {
    /// Name.
    pub name: String,
    /// Across, m.
    pub x_m: f64,
    /// Along, m.
    pub y_m: f64,
}

/// Strides expected on a figure.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct StridesExpected {
    /// Gait in words.
    pub gait: String,
    /// Strides.
    pub strides: estimate::Estimate,
    /// The stride length they rest on, m.
    pub stride_m: estimate::Estimate,
    /// Where that comes from.
    pub from: String,
}

/// Draws and measures a figure, with the strides that a horse is expected to take on it.
///
/// # Errors
/// [`Refused::Invalid`] for a figure that cannot be drawn, and what the store meets.
pub fn drawn(store: &Store, asked: &Asked) -> Result<FigureDrawn, Refused> {
    let size = |v: f64| (5.0..=200.0).contains(&v);
    if !size(asked.arena.width_m) || !size(asked.arena.length_m) {
        return Err(Refused::invalid("an arena is 5 to 200 m long and wide"));
    }
    let arena = Arena { width: asked.arena.width_m, length: asked.arena.length_m };
    let own = asked.figure.read(&arena)?;
    let drawn =
        school_figure::draw(&arena, &own).map_err(|why| Refused::invalid(why.to_string()))?;
    let lengths = match asked.horse {
        Some(horse) => stride_lengths(store, horse)?,
        None => Vec::new(),
    };
    let line = match own {
        SchoolFigure::Line { from, to } | SchoolFigure::Circle { from, to, .. } => Some((from, to)),
        _ => None,
    };
    let along = |at_m: f64| {
        line.map(|(from, to)| {
            let share = at_m / distance(from, to);
            [from.0 + (to.0 - from.0) * share, from.1 + (to.1 - from.1) * share]
        })
    };
    let expected = expected(&lengths);
    let strides = expected
        .iter()
        .map(|e| StridesExpected {
            gait: e.name.clone(),
            strides: estimate::estimate(&expected_strides::expected_strides(
                drawn.length_m,
                e.stride,
            )),
            stride_m: estimate::estimate(&e.stride),
            from: e.from.clone(),
        })
        .collect();
    let row_says = asked.row.zip(line).map(|(row, (from, to))| {
        let canter = expected.iter().find(|e| e.gait == Gait::Canter);
        let stride = row.stride_m.or(canter.map(|e| e.stride.value)).unwrap_or(2.7);
        let room = school_figure::room_for_row(
            distance(from, to),
            row.every.clamp(1, 8),
            row.count.clamp(1, 30),
            stride.clamp(0.5, 6.0),
            ROW_MARGIN_M,
        );
        words::arena::row(&arena, from, to, row.every.clamp(1, 8), row.count.clamp(1, 30), &room)
    });
    Ok(FigureDrawn {
        says: words::arena::figure(&arena, &own, &drawn),
        fits: drawn.fits,
        room: drawn.room.and_then(|(a, b)| Some([along(a)?, along(b)?])),
        line: line.map(|(from, to)| [[from.0, from.1], [to.0, to.1]]),
        line_m: drawn.line_m,
        letters: arena
            .letters()
            .into_iter()
            .map(|(name, (x_m, y_m))| Letter { name: name.to_owned(), x_m, y_m })
            .collect(),
        strides,
        counted: asked
            .counted
            .and_then(|n| expected_strides::length_of_count(drawn.length_m, n.min(10_000) as usize))
            .as_ref()
            .map(estimate::estimate),
        row_says,
        path: drawn.path.iter().map(|p| [p.0, p.1]).collect(),
        length_m: drawn.length_m,
    })
}

/// Straight line before the first change and after the last, m (project default).
const ROW_MARGIN_M: f64 = 3.0;

impl FigureAsked {
    fn read(&self, arena: &Arena) -> Result<SchoolFigure, Refused> {
        let side = |word: &str| word.parse::<Side>().map_err(|e| Refused::invalid(e.to_string()));
        Ok(match self {
            Self::Line { from, to } => {
                SchoolFigure::Line { from: from.place(arena)?, to: to.place(arena)? }
            }
            Self::Circle { from, to, at_m, side: word, diameter_m } => SchoolFigure::Circle {
                from: from.place(arena)?,
                to: to.place(arena)?,
                at_m: *at_m,
                side: side(word)?,
                diameter: *diameter_m,
            },
            Self::Serpentine { loops, first } => {
                SchoolFigure::Serpentine { loops: *loops, first: side(first)? }
            }
            Self::Spiral { middle, from_m, to_m, rounds, side: word } => SchoolFigure::Spiral {
                middle: middle.place(arena)?,
                from: *from_m,
                to: *to_m,
                rounds: *rounds,
                side: side(word)?,
            },
        })
    }
}

impl Spot {
    fn place(&self, arena: &Arena) -> Result<Place, Refused> {
        match self {
            Self::Letter(name) => arena.letter(name).ok_or_else(|| {
                let name: String = name.chars().take(8).collect();
                Refused::invalid(format!("this arena has no letter {name}"))
            }),
            Self::Place([x, y]) => {
                let near = |v: f64| (-100.0..=300.0).contains(&v);
                (near(*x) && near(*y)).then_some((*x, *y)).ok_or_else(|| {
                    Refused::invalid("a place lies in the arena, metres across and along")
                })
            }
        }
    }
}

/// A stride length of a horse.
struct Length {
    gait: Gait,
    /// Gait and variant in words.
    name: String,
    metres: f64,
}

/// A horse's stride lengths: one a bout.
fn stride_lengths(store: &Store, horse: i64) -> Result<Vec<Length>, StoreError> {
    let (horse, sessions) = (store.horse(horse)?, store.sessions_of(horse)?);
    let ridden = digest::of_horse(store, &horse, &sessions)?;
    let one = |b: digest::RiddenBout| {
        let gait = b.digest.label.gait;
        let variant = b.variant.map(|v| format!(", {v}")).unwrap_or_default();
        let metres = b.digest.value(Metric::StrideLength)?.value;
        Some(Length { gait, name: words::names::gait_name(gait).to_owned() + &variant, metres })
    };
    Ok(ridden.bouts.into_iter().filter_map(one).collect())
}

/// A stride to expect: gait, name, length and where it comes from.
struct Expected {
    gait: Gait,
    name: String,
    stride: Estimate,
    from: String,
}

/// Strides of each gait and variant: the horse's own bouts, else trained horses' (Clayton 1994,
/// 1995; values from memory) with room for other horses.
fn expected(own: &[Length]) -> Vec<Expected> {
    let mut out = Vec::new();
    for (gait, usual) in [(Gait::Walk, 1.87), (Gait::Trot, 2.73), (Gait::Canter, 2.70)] {
        let mut names: Vec<&str> =
            own.iter().filter(|l| l.gait == gait).map(|l| l.name.as_str()).collect();
        names.sort_unstable();
        names.dedup();
        if names.is_empty() {
            let ci95 = Some((0.85 * usual, 1.15 * usual));
            out.push(Expected {
                gait,
                name: words::names::gait_name(gait).to_owned(),
                stride: Estimate { value: usual, sd: None, ci95, n: 0 },
                from: "trained horses, ± 15 %".to_owned(),
            });
        }
        for name in names {
            let lengths: Vec<f64> =
                own.iter().filter(|l| l.name == name).map(|l| l.metres).collect();
            let n = lengths.len();
            let value = descriptive::mean(&lengths);
            let spread = descriptive::variance(&lengths).sqrt().max(0.03 * value);
            let ci95 = Some((value - 1.96 * spread, value + 1.96 * spread));
            out.push(Expected {
                gait,
                name: name.to_owned(),
                stride: Estimate { value, sd: None, ci95, n },
                from: format!("{n} {} of this horse", if n == 1 { "bout" } else { "bouts" }),
            });
        }
    }
    out
}
