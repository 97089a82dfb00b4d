//! What may be a hoof that stands: a stroke in the picture of place against time and what is seen there.

use crate::number::{count, place};
use crate::picture::contact::Contact;
use crate::picture::hoof::{Hoof, Looks};
use crate::picture::may::May;
use crate::picture::stance::Stance;
use crate::picture::strokes::Stroke;

/// A stroke and what was seen of its hoof.
#[derive(Clone, Debug)]
pub struct Candidate {
    /// The stroke.
    pub stroke: Stroke,
    /// The frame in its middle.
    pub middle: usize,
    /// Row of the ground picture on which it stands.
    pub row: f64,
    /// What was seen of the hoof.
    pub hoof: Option<Hoof>,
    /// Grey values by which the hoof differs from the ground; nothing where no hoof is seen.
    pub contrast: f32,
    /// How far ahead of the body's middle it stands, heights at the withers.
    pub ahead: f64,
    /// How much of it something passed before while it stood, where that is seen.
    pub hidden: Option<f64>,
    /// How little its row says, pixels.
    pub row_sd: f64,
    /// Log odds that it is the near one of its girdle, by how much others of it were hidden.
    pub nearer: f64,
    /// Log odds that it is near, by its light.
    pub lit: f64,
    /// When it took the ground and left it, where that is seen.
    pub contact: Option<Contact>,
    /// Whose it may be, by a person's word.
    pub may: May,
}

/// Two hooves do not stand this near to each other, heights at the withers, …
const NEAR: f64 = 0.16;

/// … for this share of the shorter one's time; and not twice as near for nearly all of it.
const MUCH: f64 = 0.4;
const NEARLY_ALL: f64 = 0.65;

/// But a hind may come down beside a fore that still stands: both are seen to land, so much farther back under the body.
const FORE_AND_HIND: f64 = 0.35;

/// Of strokes side by side at one time that which lasts as long as the others of the clip do, or else the lower:
/// the other is a shadow, a pastern, or a hoof that hovers.
pub fn one_a_place(found: Vec<Candidate>, height: f64) -> Vec<Candidate> {
    let long = |f: &Candidate| count(f.stroke.to - f.stroke.from);
    let mut lengths: Vec<f64> = found.iter().map(long).collect();
    lengths.sort_by(f64::total_cmp);
    let usual = lengths.get(lengths.len() / 2).copied().unwrap_or(0.0).max(1.0);
    // How little it is like the others: as they are, somewhat, not at all.
    let unlike = |f: &Candidate| {
        let times = (long(f) / usual).ln().abs();
        if times < 0.3 {
            0
        } else if times < 0.6 {
            1
        } else {
            2
        }
    };
    let beside = |a: &Candidate, b: &Candidate| {
        let share = shared(&a.stroke, &b.stroke);
        let far = (a.stroke.x - b.stroke.x).abs() / height;
        if a.lands() && b.lands() && (a.ahead - b.ahead).abs() > FORE_AND_HIND {
            return false;
        }
        (far < NEAR && share > MUCH) || (far < 2.0 * NEAR && share > NEARLY_ALL && !a.lands())
    };
    let better = |j: usize, k: usize| {
        let (a, b) = (&found[j], &found[k]);
        (unlike(b), a.row, j) > (unlike(a), b.row, k)
    };
    let keep: Vec<bool> = (0..found.len())
        .map(|k| (0..found.len()).all(|j| j == k || !beside(&found[k], &found[j]) || !better(j, k)))
        .collect();
    found.into_iter().zip(keep).filter(|(_, keep)| *keep).map(|(f, _)| f).collect()
}

/// Strokes one after the other at one place that took the ground at the same moment are one hoof, which something passed
/// before: `of` looks at it anew. `height` is that at the withers, pixels.
pub fn whole(
    mut found: Vec<Candidate>,
    height: f64,
    of: impl Fn(Stroke) -> Candidate,
) -> Vec<Candidate> {
    let same = |a: &Candidate, b: &Candidate| {
        let ons = a.contact.zip(b.contact).map(|(a, b)| (a.on - b.on).abs());
        a.stroke.to <= b.stroke.from
            && (a.stroke.x - b.stroke.x).abs() < NEAR * height
            && ons.is_some_and(|off| off < SAME_ON)
    };
    let mut k = 0;
    while k < found.len() {
        let Some(later) = (0..found.len()).find(|j| same(&found[k], &found[*j])) else {
            k += 1;
            continue;
        };
        let (a, b) = (found[k].stroke, found[later].stroke);
        let [first, second] = [a, b].map(|s| s.strength * count(s.to + 1 - s.from));
        let mean = |of: fn(&Stroke) -> f64| (first * of(&a) + second * of(&b)) / (first + second);
        let stroke =
            Stroke { to: b.to, x: mean(|s| s.x), row: a.row, strength: mean(|s| s.strength), ..a };
        found[k] = of(stroke);
        found.remove(later);
        k -= usize::from(later < k);
    }
    found
}

/// Moments at which a hoof took the ground that differ by less, frames, are one (project default).
const SAME_ON: f64 = 1.5;

/// The share of the shorter one's time in which two strokes stood both; below nothing where they did not.
fn shared(a: &Stroke, b: &Stroke) -> f64 {
    let both = count(a.to.min(b.to)) - count(a.from.max(b.from));
    both / count((a.to - a.from).min(b.to - b.from)).max(1.0)
}

/// Whether two strokes are of one hoof, of a horse of `height` pixels at the withers: at one place, and at one time.
pub fn of_one_hoof(a: &Stroke, b: &Stroke, height: f64) -> bool {
    (a.x - b.x).abs() < NEAR * height && shared(a, b) > MUCH
}

/// Weighs how much was hidden of each against the others of its girdle.
pub fn weigh_hidden(found: &mut [Candidate]) {
    for fore in [false, true] {
        let own = |f: &&mut Candidate| (f.ahead > 0.0) == fore;
        let mut all: Vec<f64> = found.iter_mut().filter(own).filter_map(|f| f.hidden).collect();
        if all.len() < FEWEST {
            continue;
        }
        all.sort_by(f64::total_cmp);
        let at = |share: f64| all[place(share * count(all.len() - 1))];
        let (usual, spread) = (at(0.5), (at(0.84) - at(0.16)).max(0.1));
        for f in found.iter_mut().filter(own) {
            let hidden = f.hidden.unwrap_or(usual);
            f.nearer = (HIDES * (usual - hidden) / spread).clamp(-MOST, MOST);
        }
    }
}

/// Fewer than this of a girdle tell nothing.
const FEWEST: usize = 5;

/// Log odds of one that is hidden by as much more than usual as they scatter, and at most (project default).
const HIDES: f64 = 1.0;
const MOST: f64 = 1.0;

impl Candidate {
    /// What is seen of a stroke that ends on a row, so far ahead of the body.
    pub fn of(looks: &Looks, stroke: Stroke, row: f64, ahead: f64) -> Self {
        let hoof = looks.hoof(&stroke, row);
        Self {
            middle: usize::midpoint(stroke.from, stroke.to),
            row: hoof.as_ref().map_or(row, |h| h.row),
            contrast: hoof.as_ref().map_or(0.0, |h| h.contrast),
            hidden: looks.hidden(&stroke, row),
            contact: hoof.as_ref().and_then(|h| looks.contact(h, &stroke)),
            row_sd: 0.0,
            nearer: 0.0,
            lit: 0.0,
            stroke,
            ahead,
            hoof,
            may: May::ANY,
        }
    }

    /// Whether it is seen to land, by two looks that agree.
    fn lands(&self) -> bool {
        self.contact.is_some_and(|c| c.or_on.is_none())
    }

    /// What its limb is told from, as far as it is known yet.
    pub fn stance(&self) -> Stance {
        Stance {
            on: count(self.stroke.from),
            ahead: self.ahead,
            x: self.stroke.x,
            row: self.row,
            row_sd: self.row_sd,
            nearer: self.nearer,
            lit: self.lit,
            may: self.may,
            is_one: 1.0,
        }
    }
}
