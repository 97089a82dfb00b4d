//! Leg wraps, or boots, of colours that can be told apart: whose limb stands is told by what is worn above
//! its hoof.
//!
//! While a hoof stands, its own wrap stays above it and every other passes. So the colours above the hoof are
//! counted in several frames of the stance, those nearest to its limb most, and the middle count is taken; a limb
//! is told where one wrap is there as much as it usually is and no other is. What shows the same colour without
//! the horse is not counted.

use umlauf_gait::base::limb::Limb;

use crate::number::{count, place};
use crate::picture::going::Going;
use crate::picture::may::May;
use crate::picture::path::Path;
use crate::picture::seen::Seen;
use crate::picture::tint::{Colour, Tint};
use crate::picture::unrolled::Unrolled;

/// A wrap that a limb wears.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Wrap {
    /// The limb.
    pub limb: Limb,
    /// Its colour.
    pub colour: Colour,
}

/// The wraps of a horse, and the colours of a clip's frames.
#[derive(Clone, Debug, Default)]
pub struct Worn {
    /// Each colour, and the limbs that wear it.
    colours: Vec<(Colour, Vec<Limb>)>,
    /// Colours of each frame, as the film shows them.
    tints: Vec<Tint>,
}

/// What the wraps say of a stance.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Says {
    /// Whose it is, or whose not.
    Limb(May),
    /// Every limb wears a wrap, and none is here: no hoof.
    NoHoof,
    /// Nothing.
    Nothing,
}

/// Frames of a stance that are looked at, and how many of them must be in the picture.
const LOOKS: usize = 9;
const FEWEST: usize = 3;

/// A cannon leans by so much from landing to leaving, sideways by upwards: backwards first, then as much
/// forwards.
const LEANS: f64 = 1.0;

/// Part of the first half of a stance that lies before them, and part of the second half that lies behind.
const ENDS: (f64, f64) = (0.2, 0.4);

/// A wrap is looked for so far above the hoof, from and to, and so far to the sides, heights at the withers.
const ABOVE: (f64, f64) = (0.05, 0.22);
const ASIDE: f64 = 0.16;

/// What lies so far from the limb's middle counts 0.6 times as much.
const COLUMN: f64 = 0.045;

/// The fetlock is so far behind the middle of the hoof, and so far above the ground.
const FETLOCK: (f64, f64) = (0.03, 0.10);

/// How far a wrap's grey and its colours differ from what was shown: light, shade, and what a camera
/// makes of it.
const GREY_SD: f64 = 40.0;
const COLOUR_SD: f64 = 11.0;

/// What is no wrap and not grey: as likely as a wrap that is three deviations off.
const OTHER: f64 = 0.011;

/// A colour that was there without the horse, to so many deviations, is not worn.
const STAYS: f64 = 1.5;

/// The horse is gone when its middle is this far away, heights at the withers.
const GONE: f64 = 1.2;

/// A wrap covers at least so much where it is, squares of the height at the withers.
const SMALLEST: f64 = 0.0008;

/// Colours that differ by less than so many deviations are one.
const SAME: f64 = 1.5;

/// Present from this share of what is usual on, absent below that.
const PRESENT: f64 = 0.5;
const ABSENT: f64 = 0.2;

/// Of two that are present the lesser counts as well from this share of the greater on.
const ALSO: f64 = 0.4;

impl Worn {
    /// What limbs wear, and the colours of each frame of a clip. Wraps whose colours cannot be told apart are
    /// one: both hinds may wear the same.
    pub fn new(wraps: &[Wrap], tints: Vec<Tint>) -> Self {
        let mut colours: Vec<(Colour, Vec<Limb>)> = vec![];
        for wrap in wraps {
            match colours.iter_mut().find(|(c, _)| off(*c, wrap.colour) < SAME * SAME) {
                Some((_, limbs)) => limbs.push(wrap.limb),
                None => colours.push((wrap.colour, vec![wrap.limb])),
            }
        }
        Self { colours, tints }
    }

    /// Whether nothing is worn.
    pub const fn is_bare(&self) -> bool {
        self.colours.is_empty()
    }

    /// What the wraps say of stances, in their order.
    pub fn says(&self, seen: &[Seen], view: &View) -> Vec<Says> {
        let counted: Vec<Option<Vec<f64>>> = seen.iter().map(|s| self.counted(s, view)).collect();
        // What is usual with a wrap and without, of each colour.
        let usual: Vec<Option<(f64, f64)>> = (0..self.colours.len())
            .map(|w| {
                let mut all: Vec<f64> = counted.iter().flatten().map(|c| c[w]).collect();
                all.sort_by(f64::total_cmp);
                let at = |share: f64| all.get(place(share * count(all.len().max(1) - 1))).copied();
                let (without, with) = (at(0.4)?, at(0.9)?);
                (with - without > SMALLEST).then_some((without, with))
            })
            .collect();
        counted.iter().map(|c| c.as_ref().map_or(Says::Nothing, |c| self.told(c, &usual))).collect()
    }

    fn told(&self, counted: &[f64], usual: &[Option<(f64, f64)>]) -> Says {
        let shares: Vec<(f64, &[Limb])> = counted
            .iter()
            .zip(usual)
            .zip(&self.colours)
            .filter_map(|((c, u), (_, limbs))| {
                u.map(|(out, with)| ((c - out) / (with - out), limbs.as_slice()))
            })
            .collect();
        let Some(most) = shares.iter().map(|s| s.0).max_by(f64::total_cmp) else {
            return Says::Nothing;
        };
        let limbs = |told: &dyn Fn(f64) -> bool| -> Vec<Limb> {
            shares.iter().filter(|s| told(s.0)).flat_map(|s| s.1).copied().collect()
        };
        if most > PRESENT {
            return Says::Limb(May::one_of(&limbs(&|share| share > ALSO * most)));
        }
        if most < ABSENT {
            let all = limbs(&|_| true);
            if Limb::ALL.iter().all(|l| all.contains(l)) {
                return Says::NoHoof;
            }
            return Says::Limb(May::but(&all));
        }
        Says::Nothing
    }

    /// How much of each wrap lies above a hoof while it stands, squares of the height at the withers; `None`
    /// where that is not in the picture.
    fn counted(&self, seen: &Seen, view: &View) -> Option<Vec<f64>> {
        let height = view.horse.height;
        let middle = count(seen.frame);
        let half = (middle - seen.on).max(1.0);
        let (from, to) = (middle - half * (1.0 - ENDS.0), middle + half * (1.0 - ENDS.1));
        let pixel = 2.0;
        let (down, across) =
            (place((ABOVE.1 - ABOVE.0) * height / pixel), place(2.0 * ASIDE * height / pixel));
        let without: Vec<(&Tint, (f64, f64))> = view
            .without(seen)
            .into_iter()
            .flatten()
            .filter_map(|f| Some((self.tints.get(f)?, view.of(seen, f)?)))
            .collect();
        let way = if view.horse.rightward { 1.0 } else { -1.0 };
        let mut looks: Vec<Vec<f64>> = vec![];
        for look in 0..LOOKS {
            let frame = place(from + (to - from) * (count(look) + 0.5) / count(LOOKS) + 0.5);
            let (Some(tint), Some((x, y))) = (self.tints.get(frame), view.of(seen, frame)) else {
                continue;
            };
            if tint.at(x, y).is_none() {
                continue;
            }
            let leans = LEANS * way * ((count(frame) - seen.on) / (2.0 * half) - 0.5);
            let mut sums = vec![0.0; self.colours.len()];
            for row in 0..down {
                let up = ABOVE.0 * height + pixel * count(row);
                for column in 0..across {
                    let aside = pixel * count(column) - ASIDE * height;
                    let Some(colour) = tint.at(x + aside, y - up) else { continue };
                    let stays = |(other, at): &(&Tint, (f64, f64))| {
                        let there = other.at(at.0 + aside, at.1 - up);
                        there.is_some_and(|c| off(c, colour) < STAYS * STAYS)
                    };
                    if without.iter().any(stays) {
                        continue;
                    }
                    let limb = leans * (up - FETLOCK.1 * height) - way * FETLOCK.0 * height;
                    let near = ((aside - limb) / (COLUMN * height)).powi(2);
                    let near = (-0.5 * near).exp();
                    for (sum, share) in sums.iter_mut().zip(self.shares(colour)) {
                        *sum += near * share;
                    }
                }
            }
            looks.push(sums);
        }
        let by = (pixel / height).powi(2);
        // What passes by is there in a few of the looks, and may hide what stands in as many.
        let middle = |wrap: usize| {
            let mut all: Vec<f64> = looks.iter().map(|l| by * l[wrap]).collect();
            all.sort_by(f64::total_cmp);
            all[all.len() / 2]
        };
        (looks.len() >= FEWEST).then(|| (0..self.colours.len()).map(middle).collect())
    }

    /// How likely each wrap has a colour that is seen; grey of any light, as of hair and horn, is none of
    /// them.
    fn shares(&self, colour: Colour) -> impl Iterator<Item = f64> {
        let like = move |(worn, _): &(Colour, Vec<Limb>)| (-0.5 * off(*worn, colour)).exp();
        let grey = Colour { blue: 128.0, red: 128.0, ..colour };
        let all =
            self.colours.iter().map(like).sum::<f64>() + (-0.5 * off(grey, colour)).exp() + OTHER;
        self.colours.iter().map(move |w| like(w) / all)
    }
}

/// How far two colours are from each other, squares of standard deviations.
fn off(a: Colour, b: Colour) -> f64 {
    ((a.grey - b.grey) / GREY_SD).powi(2)
        + ((a.blue - b.blue) / COLOUR_SD).powi(2)
        + ((a.red - b.red) / COLOUR_SD).powi(2)
}

/// Where and when a clip's stances are seen.
pub struct View<'a> {
    /// The camera's way.
    pub way: &'a Path,
    /// The cylinder its pictures were unrolled from.
    pub unrolled: Option<&'a Unrolled>,
    /// The horse.
    pub horse: &'a Going,
}

impl View<'_> {
    /// Where in a frame of the film a hoof's place is.
    fn of(&self, seen: &Seen, frame: usize) -> Option<(f64, f64)> {
        let at = self.way.to_first.get(frame)?.back().of(seen.stance.x, seen.stance.row);
        Some(self.unrolled.map_or(at, |u| u.back(at)))
    }

    /// The last frame before a stance and the first one after it in which the horse is not there.
    fn without(&self, seen: &Seen) -> [Option<usize>; 2] {
        let gone =
            |f: &usize| (self.horse.body[*f] - seen.stance.x).abs() > GONE * self.horse.height;
        [(0..seen.frame).rev().find(gone), (seen.frame..self.horse.body.len()).find(gone)]
    }
}
