//! Wraps as a coach shows them to the program: one click on each, in a picture in which it is plainly seen.

use umlauf_gait::base::limb::Limb;
use umlauf_signals::picture::tint::{Colour, Tint};
use umlauf_signals::picture::wraps::Wrap;

use crate::flat::conditions::Tone;
use crate::flat::film::FlatFilm;

/// A click shows the colour of so many pixels about it.
const ABOUT: usize = 2;

/// A wrap is plainly seen where its colour is no farther off than this, though shade darkens it.
const PLAIN: f64 = 30.0;

/// The wraps of a film, each by the first picture of a stance in which it is plainly seen.
pub fn shown(film: &FlatFilm, tints: &[Tint]) -> Vec<Wrap> {
    Limb::ALL
        .into_iter()
        .filter_map(|limb| {
            let worn = film.made.wraps[limb.index()]?;
            let colour = (0..film.frames()).find_map(|frame| {
                let (x, y) = film.wrap(frame, limb)?;
                tints.get(frame)?.about(x, y, ABOUT).filter(|c| plain(*c, worn, film.made.light))
            })?;
            Some(Wrap { limb, colour })
        })
        .collect()
}

fn plain(seen: Colour, worn: Tone, light: f64) -> bool {
    let off = [
        0.5 * (seen.grey - light * worn.grey),
        seen.blue - 128.0 - light * worn.blue,
        seen.red - 128.0 - light * worn.red,
    ];
    off.iter().map(|o| o * o).sum::<f64>().sqrt() < PLAIN
}
