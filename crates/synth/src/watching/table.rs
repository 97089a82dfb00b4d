//! Films drawn, watched and compared, row by row.

use std::num::NonZero;
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::thread::{available_parallelism, scope};

use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::watch::{layers, watch};

use crate::flat::conditions::Handling;
use crate::watching::asked::{Asked, HARD, RIDDEN};
use crate::watching::compared::Compared;
use crate::watching::verdict::{Told, told};

/// What came of a film.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Outcome {
    /// What was found; where nothing was, what was in view.
    pub compared: Compared,
    /// Why nothing was told.
    pub refused: Option<String>,
    /// What was told.
    pub told: Option<Told>,
}

/// Frame rates of the table.
pub const RATES: [f64; 4] = [30.0, 60.0, 120.0, 240.0];

/// Ways of holding the camera.
pub const HANDLINGS: [Handling; 3] = [Handling::Fixed, Handling::Panning, Handling::Handheld];

/// All films of a table: every way of going at every frame rate, `films` of each, the camera handled in turn;
/// no seed twice, from `from` on.
pub fn asked(films: u64, from: u64) -> Vec<Asked> {
    let mut out = Vec::new();
    let mut seed = from;
    for ridden in RIDDEN {
        for rate in RATES {
            for k in 0..films {
                let handling = HANDLINGS[usize::try_from(k % 3).unwrap_or(0)];
                out.push(Asked { ridden, rate, handling, seed, hard: None });
                seed += 1;
            }
        }
    }
    out
}

/// Films that are hard, `films` of each kind, at all speeds, the camera handled in turn; seeds from `from` on.
pub fn hard(films: u64, from: u64) -> Vec<Asked> {
    let kinds = HARD.iter().flat_map(|(_, hard)| (0..films).map(|k| (*hard, k)));
    kinds
        .zip(from..)
        .map(|((hard, k), seed)| {
            let at = |of: usize| usize::try_from(k).unwrap_or(0) % of;
            let (ridden, handling) = (RIDDEN[at(3)], HANDLINGS[at(7) % 3]);
            let rate = [60.0, 30.0, 120.0][at(5) % 3];
            Asked { ridden, rate, handling, seed, hard: Some(hard) }
        })
        .collect()
}

/// Draws a film, watches it, compares.
pub fn outcome(asked: &Asked) -> Outcome {
    let film = asked.film();
    let (width, height) = film.made.size;
    let pictures =
        (0..film.frames()).filter_map(|frame| Grey::new(width, height, film.draw(frame)));
    match watch(layers(pictures), asked.rate, None) {
        Ok(watched) => Outcome {
            compared: Compared::of(&film, &watched.footfalls),
            refused: None,
            told: Some(told(asked, &film, &watched.footfalls)),
        },
        Err(why) => Outcome {
            compared: Compared::of(&film, &[]),
            refused: Some(why.to_string()),
            told: None,
        },
    }
}

/// All outcomes in order; `done` hears of each.
pub fn outcomes(all: &[Asked], done: impl Fn(&Asked, &Outcome) + Sync) -> Vec<Outcome> {
    let next = AtomicUsize::new(0);
    let out = Mutex::new(vec![Outcome::default(); all.len()]);
    scope(|scope| {
        for _ in 0..available_parallelism().map_or(1, NonZero::get) {
            scope.spawn(|| {
                while let Some((k, asked)) = {
                    let k = next.fetch_add(1, Ordering::Relaxed);
                    all.get(k).map(|a| (k, a))
                } {
                    let own = outcome(asked);
                    done(asked, &own);
                    if let Ok(mut out) = out.lock() {
                        out[k] = own;
                    }
                }
            });
        }
    });
    out.into_inner().unwrap_or_default()
}

/// A row: what was found in some of the films.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Row {
    /// Films.
    pub films: usize,
    /// Of which nothing was told.
    pub refused: usize,
    /// All of them together.
    pub compared: Compared,
    /// What was told of each of the others.
    pub told: Vec<Told>,
}

impl Row {
    /// The films that are `meant`.
    pub fn of(asked: &[Asked], outcomes: &[Outcome], meant: impl Fn(&Asked) -> bool) -> Self {
        let mut out = Self::default();
        for (_, one) in asked.iter().zip(outcomes).filter(|(a, _)| meant(a)) {
            out.films += 1;
            out.refused += usize::from(one.refused.is_some());
            out.compared.add(&one.compared);
            out.told.extend(one.told);
        }
        out
    }
}
