//! The ground in even light: the horse's shadow is taken off it, and its feet are where they are.

use crate::number::{count, place, small};
use crate::parallel::mapped;
use crate::picture::background::Background;
use crate::picture::going::Going;
use crate::picture::grey::Grey;
use crate::picture::motion::Layers;
use crate::picture::path::Path;
use crate::picture::shadow::{Shadow, Shares, share};
use crate::picture::turn::Turn;

/// Shadows are looked for under the horse this often, s, …
const OFTEN: f64 = 0.1;

/// … in these rows above the ground and below it, and so far to the sides, heights at the withers.
const UNDER: (f64, f64) = (0.10, 0.04);
const ASIDE: f64 = 0.8;

/// The ground of frames as it was before a shadow was lifted: first row and pixels of each.
pub struct Before(Vec<(usize, Vec<u8>)>);

impl Before {
    /// Puts it back.
    pub fn restore(self, frames: &mut [Layers]) {
        for (frame, (row, pixels)) in frames.iter_mut().zip(self.0) {
            let picture = frame.picture_mut();
            let from = row * picture.width;
            picture.pixels[from..from + pixels.len()].copy_from_slice(&pixels);
        }
    }
}

/// What is dark for so long along the ground, heights at the withers, is no limb.
const LONG: f64 = 0.2;

/// Takes the horse's shadow off the ground of every frame, where it has one; the shadow, and what was there
/// before.
pub fn lift_shadows<'a>(
    frames: &mut [Layers],
    way: &Path,
    horse: &mut Going,
    rate: f64,
    behind: impl Fn(usize) -> &'a Background + Sync,
) -> Option<(Shadow, Before)> {
    let mut shares = Shares::default();
    let to_behind = |f: usize| way.to_first[f].then(&way.to_first[behind(f).frame].back());
    let often = place(OFTEN * rate).max(1);
    for f in (0..frames.len()).step_by(often) {
        let (into, picture) = (way.to_first[f].back(), frames[f].picture());
        let (own, turn) = (behind(f), to_behind(f));
        for down in 0..place((UNDER.0 + UNDER.1) * horse.height) {
            let row = (0..place(2.0 * ASIDE * horse.height)).map(|across| {
                let x = horse.body[f] + count(across) - ASIDE * horse.height;
                let (px, py) = into.of(x, horse.row(x) - UNDER.0 * horse.height + count(down));
                let (bx, by) = turn.of(px, py);
                let value = picture.at(small(px), small(py)).unwrap_or(f32::NAN);
                share(value, own.at(bx, by))
            });
            shares.take(&row.collect::<Vec<_>>(), place(LONG * horse.height));
        }
    }
    let shadow = shares.shadow()?;
    let before = mapped(frames.iter_mut().enumerate().collect(), |(f, frame)| {
        let picture = frame.picture_mut();
        let rows = horse.rows(way, f, picture);
        let was = picture.pixels[rows.start * picture.width..rows.end * picture.width].to_vec();
        let first = rows.start;
        shadow.lift(picture, rows, behind(f), &to_behind(f));
        (first, was)
    });
    // Its feet were thought to be where its shadow ended.
    let mut lowest: Vec<f64> = (0..frames.len())
        .step_by(often)
        .filter_map(|f| lowest_row(frames[f].picture(), way, horse, f, behind(f), &to_behind(f)))
        .collect();
    if !lowest.is_empty() {
        lowest.sort_by(f64::total_cmp);
        horse.lower(lowest[place(SOLES * count(lowest.len() - 1))]);
    }
    Some((shadow, Before(before)))
}

/// Which of the lowest rows, from the highest: one near hoof stands most of the time.
const SOLES: f64 = 0.7;

/// Grey values by which a hoof differs from the ground at least, and pixels of a row that do.
const OTHER: f32 = 14.0;
const A_HOOF: usize = 4;

/// The lowest row in which something is not ground, below the ground.
fn lowest_row(
    picture: &Grey,
    way: &Path,
    horse: &Going,
    frame: usize,
    behind: &Background,
    to_behind: &Turn,
) -> Option<f64> {
    let into = way.to_first[frame].back();
    let wide = place(2.0 * ASIDE * horse.height);
    let from = -0.2 * horse.height;
    (0..place(0.28 * horse.height)).rev().map(|r| from + count(r)).find(|below| {
        let other = (0..wide).filter(|across| {
            let x = horse.body[frame] + count(*across) - ASIDE * horse.height;
            let (px, py) = into.of(x, horse.row(x) + below);
            let (bx, by) = to_behind.of(px, py);
            let value = picture.at(small(px), small(py));
            value.is_some_and(|v| (v - behind.at(bx, by)).abs() > OTHER)
        });
        other.count() >= A_HOOF
    })
}
