//! A hoof that was shown by a click, followed: its own stance, and all others of its girdle that look like it.
//!
//! While it stands, what differs from the ground at its place stays as it is. So the place of the click is watched
//! before and after, and then every place on the ground at which the body stood as it did: where the same look stays,
//! a hoof stands.

use umlauf_gait::base::limb::Limb;

use crate::number::{count, place};
use crate::picture::candidate::{Candidate, of_one_hoof};
use crate::picture::hoof::{Looks, middles};
use crate::picture::may::May;
use crate::picture::strokes::Stroke;

/// A hoof that stands, shown by a person.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Click {
    /// Whose it is.
    pub limb: Limb,
    /// The frame in which it was shown.
    pub frame: usize,
    /// Where, pixels of that frame: the hoof, or the ground under it.
    pub at: (f64, f64),
}

/// What is looked at reaches so far aside, up and down, heights at the withers.
const PATCH: (f64, f64, f64) = (0.09, 0.15, 0.03);

/// Pixels of it that are skipped, and places along the ground.
const STEP: f64 = 2.0;

/// It is looked at so often, 1/s.
const OFTEN: f64 = 60.0;

/// A hoof stands at most so far before and behind the place under the body at which it was shown, heights at the withers.
const SWINGS: f64 = 0.8;

/// As alike as this, of 0 to 1, it is the hoof; …
const ALIKE: f64 = 0.45;

/// … for as long as this, s, with a gap of so many looks between.
const STANDS_S: f64 = 0.07;
const GAP: usize = 2;

/// Two hooves of a girdle do not stand nearer, heights at the withers, at one time.
const APART: f64 = 0.16;

/// A stance is as like the one that was shown as this share of that one's own likeness at least.
const LIKE_IT: f64 = 0.6;

/// Differences from the ground as small as this, grey values, are noise.
const NOISE: f64 = 4.0;

/// A hoof that was shown, in the ground picture.
struct Shown {
    x: f64,
    row: f64,
    frame: usize,
    look: Vec<f32>,
}

/// What is watched of a clip.
pub struct Followed<'l, 'p, 'b> {
    /// What hooves are looked for in.
    pub looks: &'l Looks<'p, 'b>,
    /// The body's middle in every frame, column of the ground picture.
    pub body: &'l [f64],
    /// The row on which hooves stand in a column.
    pub ground: &'l dyn Fn(f64) -> f64,
}

/// A stance that was followed, and how like the one that was shown it is, summed over its looks.
#[derive(Clone, Copy)]
struct Stands {
    stroke: Stroke,
    row: f64,
    like: f64,
}

impl Followed<'_, '_, '_> {
    /// Adds to what may be hooves those that were shown and those that look like them.
    pub fn add(&self, found: &mut Vec<Candidate>, clicks: &[Click]) {
        for click in clicks.iter().filter(|c| c.frame < self.looks.to_first.len()) {
            let Some((own, others)) = self.of(click) else { continue };
            self.take(found, &own, May::only(click.limb));
            for other in &others {
                self.take(found, other, May::ANY);
            }
        }
    }

    /// Takes a stance: what was found there already is what it is, and the word for it holds.
    fn take(&self, found: &mut Vec<Candidate>, stands: &Stands, may: May) {
        let stroke = &stands.stroke;
        let height = self.looks.height;
        if let Some(same) = found.iter_mut().find(|f| of_one_hoof(&f.stroke, stroke, height)) {
            if may != May::ANY {
                same.may = may;
            }
            return;
        }
        let middle = usize::midpoint(stroke.from, stroke.to);
        let way = if self.looks.rightward { 1.0 } else { -1.0 };
        let ahead = way * (stroke.x - self.body[middle]) / height;
        found.push(Candidate { may, ..Candidate::of(self.looks, *stroke, stands.row, ahead) });
    }

    /// The stance that was shown, and the others that look like it; `None` where nothing stays.
    fn of(&self, click: &Click) -> Option<(Stands, Vec<Stands>)> {
        let height = self.looks.height;
        let (x, row) = self.looks.to_first[click.frame].of(click.at.0, click.at.1);
        let once = Shown { x, row, frame: click.frame, look: self.look(click.frame, x, row) };
        let first = self
            .stances(&once, x)
            .into_iter()
            .find(|s| (s.stroke.from..=s.stroke.to).contains(&click.frame))?;
        // What is the same in all its looks is the hoof: what passed by in the one that was clicked is not.
        let frames: Vec<usize> =
            (first.stroke.from..=first.stroke.to).step_by(self.step()).collect();
        let inner = &frames[frames.len() / 4..frames.len() - frames.len() / 4];
        let looks: Vec<Vec<f32>> = inner.iter().map(|f| self.look(*f, x, row)).collect();
        let look = middles(&looks);
        let middle = usize::midpoint(first.stroke.from, first.stroke.to);
        let shown = Shown { look, frame: middle, ..once };
        let own = self
            .stances(&shown, x)
            .into_iter()
            .find(|s| (s.stroke.from..=s.stroke.to).contains(&middle))?;
        let to_there = |f: usize| x + self.body[f] - self.body[middle];
        let ends = [to_there(0), to_there(self.body.len() - 1)];
        let (left, right) = (ends[0].min(ends[1]), ends[0].max(ends[1]));
        let mut all: Vec<Stands> = (0..=place((right - left) / STEP))
            .map(|k| left + STEP * count(k))
            .filter(|there| (there - x).abs() > APART * height)
            .flat_map(|there| self.stances(&shown, there))
            .filter(|s| s.like > LIKE_IT * own.like)
            .collect();
        all.sort_by(|a, b| b.like.total_cmp(&a.like));
        let mut others: Vec<Stands> = vec![];
        for s in all {
            let beside = |o: &Stands| {
                (o.stroke.x - s.stroke.x).abs() < APART * height
                    && o.stroke.from <= s.stroke.to
                    && s.stroke.from <= o.stroke.to
            };
            if !beside(&own) && !others.iter().any(beside) {
                others.push(s);
            }
        }
        Some((own, others))
    }

    /// Frames from one look to the next.
    fn step(&self) -> usize {
        place(self.looks.rate / OFTEN).max(1)
    }

    /// The stances at a place on the ground that look like the one that was shown.
    fn stances(&self, shown: &Shown, there: f64) -> Vec<Stands> {
        let step = self.step();
        let row = shown.row + (self.ground)(there) - (self.ground)(shown.x);
        let under = |f: usize| {
            let ahead = there - self.body[f] - (shown.x - self.body[shown.frame]);
            ahead.abs() < SWINGS * self.looks.height
        };
        let frames: Vec<usize> = (0..self.body.len()).step_by(step).filter(|f| under(*f)).collect();
        let alike: Vec<f64> =
            frames.iter().map(|f| alike(&self.look(*f, there, row), &shown.look)).collect();
        let least = place((STANDS_S * self.looks.rate / count(step)).round()).max(2);
        let mut out = vec![];
        let mut first: Option<usize> = None;
        let mut last = 0;
        for k in 0..=alike.len() {
            let is = alike.get(k).is_some_and(|a| *a > ALIKE);
            if is {
                first = first.or(Some(k));
                last = k;
            }
            let ends =
                k == alike.len() || k > last + GAP || frames[k] > frames[last] + (GAP + 1) * step;
            if let Some(from) = first.filter(|_| !is && ends) {
                // What stood there from the first has no on.
                if last + 1 - from >= least && from > GAP {
                    let like = alike[from..=last].iter().sum();
                    let (from, to) = (frames[from], frames[last]);
                    let stroke = Stroke { from, to, x: there, row: 0.0, strength: 0.0 };
                    out.push(Stands { stroke, row, like });
                }
                first = None;
            }
        }
        out
    }

    /// What differs from the ground about a place, in a frame.
    fn look(&self, frame: usize, x: f64, row: f64) -> Vec<f32> {
        let [aside, up, down] = [PATCH.0, PATCH.1, PATCH.2].map(|s| s * self.looks.height);
        let steps = |from: f64, to: f64| -> Vec<f64> {
            (0..=place((to - from) / STEP)).map(|k| from + STEP * count(k)).collect()
        };
        let (columns, rows) = (steps(x - aside, x + aside), steps(row - up, row + down));
        let own = self.looks.patch(frame, &columns, &rows);
        let behind = self.looks.behind(frame, &columns, &rows);
        own.iter().zip(behind).map(|(o, b)| o - b).collect()
    }
}

/// How alike two looks are, 0 to 1: nothing where either shows nothing but ground.
fn alike(a: &[f32], b: &[f32]) -> f64 {
    let (mut both, mut each) = (0.0, 0.0);
    for (a, b) in a.iter().zip(b) {
        let (a, b) = (f64::from(*a), f64::from(*b));
        if !a.is_nan() && !b.is_nan() {
            both += 2.0 * a * b;
            each += a * a + b * b + NOISE * NOISE;
        }
    }
    if each > 0.0 { (both / each).max(0.0) } else { 0.0 }
}
