//! When a hoof took the ground and when it left, to a part of a frame.
//!
//! The hoof as it stands in the middle of its stance is laid over the frames before: it came down where
//! the difference begins to grow. It left when its toe, which touches less and less, made half of its last step to
//! nothing: toe-off. The heel leaves earlier, when the shape begins to change for good.

use crate::number::{count, place};
use crate::picture::hoof::{Hoof, Looks};
use crate::picture::knee::{Knee, STAYS, falls, knee, rest};
use crate::picture::strokes::Stroke;

/// On and off of a stance, in frames.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Contact {
    /// When it took the ground.
    pub on: f64,
    /// Its standard deviation.
    pub on_sd: f64,
    /// When another look at it says that it did, where the two do not agree.
    pub or_on: Option<f64>,
    /// When the heel left, when that is told apart.
    pub heel_off: Option<f64>,
    /// When the toe left; `None` when that is not seen.
    pub off: Option<f64>,
    /// Its standard deviation.
    pub off_sd: f64,
    /// When nothing touches the ground there any more: the toe, its shadow and what it threw up.
    pub gone: Option<f64>,
}

/// A hoof's difference from itself beyond which it is not there.
const GONE: f64 = 0.38;

/// Share of a hoof's columns that do not touch beyond which it is up.
const UP: f64 = 0.5;

/// So much of a hoof that comes down differs from it more in each second before, and so much of its sole is up
/// (project default).
const DIFFERS: f64 = 16.0;
const LIFTED: f64 = 36.0;

/// Share of the columns that touch at most when a hoof has left, and how long that is looked at, s.
const TOUCHES: f64 = 0.08;
const AHEAD: f64 = 0.1;

/// Before and after its stroke a hoof is looked for so long, s; and so long where it did not come down then: beside
/// another that still stands its stroke begins when the other leaves (project default).
const REACH: f64 = 0.12;
const BESIDE: f64 = 0.3;

/// A hoof is away for so long, s, before it lands in another's print, and does so within so many frames of its stroke's
/// first one (project default).
const MOMENT_S: f64 = 0.05;
const AS_IT_BEGAN: f64 = 2.0;

/// Beside the noise: causes that are not seen, frames, and what is not seen between frames, frames by how many there
/// are a second (project default, by the errors in drawn films).
const UNSEEN: f64 = 0.055;
const BETWEEN: f64 = 3.7;

/// How well it is known when a toe leaves: frames, and s by how fast it is lifted (project default).
const LEAVES: f64 = 0.27;
const LIFTS: f64 = 0.0015;

impl Looks<'_, '_> {
    /// On and off of a stroke's hoof; `None` when its on cannot be seen.
    pub fn contact(&self, hoof: &Hoof, stroke: &Stroke) -> Option<Contact> {
        let usually = || self.within(hoof, stroke, REACH, STAYS);
        let beside = || self.within(hoof, stroke, BESIDE, STAYS);
        // In the print of another that has just left it is away for a moment only.
        let began = |c: &Contact| (c.on - count(stroke.from)).abs() < AS_IT_BEGAN;
        let moment = place((MOMENT_S * self.rate).round()).max(2);
        let in_print = || self.within(hoof, stroke, REACH, moment).filter(began);
        usually().or_else(beside).or_else(in_print)
    }

    /// The same; `reach` is how long it is looked for before and after its stroke, s, and `stays` for how many frames it
    /// was away before it came down.
    fn within(&self, hoof: &Hoof, stroke: &Stroke, reach: f64, stays: usize) -> Option<Contact> {
        let reach = place((reach * self.rate).ceil()).max(5);
        let first = stroke.from.saturating_sub(reach);
        let last = (stroke.to + reach).min(self.to_first.len().saturating_sub(1));
        let before: Vec<f64> = (first..=hoof.middle).rev().map(|f| self.differs(hoof, f)).collect();
        let after: Vec<f64> = (hoof.middle..=last).map(|f| self.differs(hoof, f)).collect();
        let leaving: Vec<f64> = (hoof.middle..=last).map(|f| self.touching(hoof, f)).collect();
        let mut near: Vec<f64> = leaving.iter().copied().take(8).collect();
        near.sort_by(f64::total_cmp);
        let full = near.get(near.len() / 2).copied().filter(|f| *f > 0.0)?;
        let middle = count(hoof.middle);
        let landing: Vec<f64> =
            (first..=hoof.middle).rev().map(|f| 1.0 - self.touching(hoof, f) / full).collect();
        let (on, or) = agreed(
            knee(&before, GONE, DIFFERS / self.rate, stays),
            knee(&landing, UP, LIFTED / self.rate, stays),
        )?;
        let heel = knee(&after, GONE, DIFFERS / self.rate, STAYS);
        let unseen = UNSEEN.hypot(BETWEEN / self.rate);
        let sd = |k: &Knee| k.sd.hypot(unseen);
        // A hoof turns over its toe first, and then goes.
        let toe = self.toe(hoof).and_then(|columns| {
            let touch = |f| self.touching_in(hoof, columns.clone(), f);
            falls(&(hoof.middle..=last).map(touch).collect::<Vec<f64>>(), self.rate)
        });
        Some(Contact {
            on: middle - on.at,
            on_sd: sd(&on),
            or_on: or.map(|o| middle - o),
            heel_off: heel.map(|k| middle + k.at),
            off: toe.map(|k| middle + k),
            off_sd: toe.map_or(f64::INFINITY, |_| LEAVES.hypot(LIFTS * self.rate)),
            gone: rest(&leaving, full, TOUCHES, AHEAD * self.rate).map(|k| middle + k),
        })
    }
}

/// What two ways of telling the same moment agree on; where they do not, the first, and the other beside it.
fn agreed(whole: Option<Knee>, below: Option<Knee>) -> Option<(Knee, Option<f64>)> {
    let (Some(a), Some(b)) = (whole, below) else {
        let one = whole.or(below)?;
        return Some((Knee { sd: one.sd + 1.0, ..one }, None));
    };
    if (a.at - b.at).abs() > ANOTHER {
        return Some((Knee { sd: a.sd.hypot(0.4), ..a }, Some(b.at)));
    }
    let (wa, wb) = (1.0 / (a.sd * a.sd + NEITHER), 1.0 / (b.sd * b.sd + NEITHER));
    let at = (wa * a.at + wb * b.at) / (wa + wb);
    let both = a.sd * b.sd / a.sd.hypot(b.sd).max(1e-9);
    Some((Knee { at, sd: both.hypot(0.4 * (a.at - b.at)) }, None))
}

/// Two moments that are farther apart than this, frames, are not the same one.
const ANOTHER: f64 = 1.6;

/// However well each is known, neither alone is believed: frames, squared.
const NEITHER: f64 = 0.04;
