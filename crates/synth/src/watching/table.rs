//! Films drawn, watched and compared, row by row.

use std::num::NonZero;
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::thread::{available_parallelism, scope};

use umlauf_signals::picture::grey::Grey;
use umlauf_signals::picture::refused::Refused;
use umlauf_signals::picture::tint::Tint;
use umlauf_signals::picture::watch::{Shown, Watched, layers, watch, watch_shown};
use umlauf_signals::picture::wraps::Worn;

use crate::flat::conditions::Handling;
use crate::flat::film::FlatFilm;
use crate::watching::asked::{Asked, HARD, RIDDEN};
use crate::watching::clicks::shown;
use crate::watching::compared::Compared;
use crate::watching::heard::with_sound;
use crate::watching::verdict::{Told, told};

/// What came of a film.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Outcome {
    /// What was found; where nothing was, what was in view.
    pub compared: Compared,
    /// The same with the film's sound, where something was seen.
    pub with_sound: Compared,
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
            for _ in 0..films {
                // Row by row another one first: of few films a row no camera goes short.
                let handling = HANDLINGS[usize::try_from((seed - from) % 3).unwrap_or(0)];
                out.push(Asked { ridden, rate, handling, seed, hard: None, wraps: 0 });
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
            Asked { ridden, rate, handling, seed, hard: Some(hard), wraps: 0 }
        })
        .collect()
}

/// Films of horses that wear wraps on four limbs, or on two: every way of going at 60 frames a second, `films` of
/// each; seeds from `from` on.
pub fn wrapped(films: u64, from: u64) -> Vec<Asked> {
    let all = RIDDEN.iter().flat_map(|r| (0..films).map(move |_| *r));
    let both = all.flat_map(|own| [4, 2].map(|wraps| (own, wraps)));
    both.zip(from..)
        .map(|((ridden, wraps), seed)| {
            let handling = HANDLINGS[usize::try_from((seed - from) % 3).unwrap_or(0)];
            Asked { ridden, rate: 60.0, handling, seed, hard: None, wraps }
        })
        .collect()
}

/// Watches a film as it is asked: its pictures, and the wraps that one click each has shown.
pub fn watched(asked: &Asked, film: &FlatFilm) -> Result<Watched, Refused> {
    let (width, height) = film.made.size;
    if asked.wraps == 0 {
        let pictures =
            (0..film.frames()).filter_map(|frame| Grey::new(width, height, film.draw(frame)));
        return watch(layers(pictures), asked.rate, None);
    }
    let mut tints = Vec::new();
    let mut pictures = Vec::new();
    for frame in 0..film.frames() {
        let (grey, blue, red) = film.draw_coloured(frame);
        let Some(grey) = Grey::new(width, height, grey) else { continue };
        tints.extend(Tint::new(&grey, &blue, &red));
        pictures.push(grey);
    }
    let worn = Worn::new(&shown(film, &tints), tints);
    let shown = Shown { worn, ..Shown::default() };
    watch_shown(layers(pictures), asked.rate, &shown, &|_| ())
}

/// Draws a film, watches it, compares.
pub fn outcome(asked: &Asked) -> Outcome {
    let film = asked.film();
    match watched(asked, &film) {
        Ok(watched) => Outcome {
            compared: Compared::of(&film, &watched.footfalls),
            with_sound: Compared::of(&film, &with_sound(&film, &watched.footfalls)),
            refused: None,
            told: Some(told(asked, &film, &watched.footfalls)),
        },
        Err(why) => Outcome {
            compared: Compared::of(&film, &[]),
            with_sound: Compared::of(&film, &[]),
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
    /// The same with their sound.
    pub with_sound: Compared,
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
            out.with_sound.add(&one.with_sound);
            out.told.extend(one.told);
        }
        out
    }
}
