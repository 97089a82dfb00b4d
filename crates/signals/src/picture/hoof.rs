//! A hoof as it stands in the middle of its stance, and how other frames differ from it.

use std::ops::Range;

use crate::number::{count, place, small};
use crate::picture::background::Background;
use crate::picture::grey::Grey;
use crate::picture::strokes::Stroke;
use crate::picture::turn::Turn;

/// What a hoof is looked for in.
pub struct Looks<'p, 'b> {
    /// Frames a second.
    pub rate: f64,
    /// From every frame to the ground picture.
    pub to_first: &'b [Turn],
    /// A frame's picture.
    pub picture: &'p dyn Fn(usize) -> &'p Grey,
    /// A frame's background.
    pub behind: &'b dyn Fn(usize) -> &'b Background,
    /// Height at the withers, pixels.
    pub height: f64,
    /// The horse goes to the right.
    pub rightward: bool,
}

/// A hoof's picture and what it stands before.
#[derive(Clone, Debug)]
pub struct Hoof {
    /// Frame in the middle of the stance.
    pub middle: usize,
    /// Row of the ground picture on which it stands, to a part of a pixel.
    pub row: f64,
    /// Grey values by which it differs from the ground.
    pub contrast: f32,
    columns: Vec<f64>,
    rows: Vec<f64>,
    template: Vec<f32>,
    behind: Vec<f32>,
    weight: Vec<f32>,
    /// Rows of the patch that lie on the ground, first and after the last.
    ground: (usize, usize),
    /// Darker than the ground, or lighter.
    sign: f32,
}

/// Columns aside, rows above and below of a patch, by the height at the withers.
const PATCH: (f64, f64, f64) = (0.095, 0.063, 0.015);

/// What is looked at first reaches so many times higher.
const TALL: f64 = 2.2;

/// What is hoof differs from the ground by this share of what differs most, and this much, grey values.
const CLEAR: f32 = 0.25;
const LEAST: f32 = 12.0;

/// The lowest row of a hoof has this share of its strongest row at least.
const SOLE: f32 = 0.35;

/// Fewer pixels of hoof than this are none.
const FEWEST: usize = 12;

/// Height of the strip on the ground in which a hoof touches it, by the height at the withers.
const STRIP: f64 = 0.022;

/// Length of a toe, by the height at the withers.
const TOE: f64 = 0.022;

/// A hoof that is not clear ends at most so much below what is, heights at the withers.
const LOW: f64 = 0.075;

/// A sole is looked for from so much above where it was seen, heights at the withers.
const RISES: f64 = 0.01;

/// Shares of the ground's light that differ by more are not the same.
const NEITHER: f32 = 0.045;

/// A hoof's lower part, heights at the withers.
const ABOVE_SOLE: f64 = 0.025;

/// Frames in which what passes is told from what moves by itself.
const SEEN_OFTEN: usize = 8;

/// Columns aside of a pastern, rows above the ground at its top and at its bottom, by the height at the withers.
const PASTERN: [f64; 3] = [0.08, 0.15, 0.03];

impl Hoof {
    /// How much of a column of `patch`, the rows on the ground, is hoof, 0 to 1; NaN where it is not seen.
    fn column(&self, patch: &[f32], column: usize) -> f32 {
        let across = self.columns.len();
        let (top, bottom) = self.ground;
        let rows = (0..bottom - top).map(|r| {
            let behind = self.behind[(top + r) * across + column];
            let share = self.sign * (patch[r * across + column] - behind) / self.contrast;
            ((share - 0.35) / 0.3).clamp(0.0, 1.0)
        });
        rows.sum::<f32>() / small(count(bottom - top))
    }
}

impl Looks<'_, '_> {
    /// The hoof of a stroke that stands on row `ground` of the ground picture, or so: its shadow may lie lower,
    /// and be taken for it where little of the hoof itself is looked at.
    pub fn hoof(&self, stroke: &Stroke, ground: f64) -> Option<Hoof> {
        let first = self.hoof_on(stroke, ground, TALL * PATCH.1, 0.2)?;
        let higher = ground - first.row;
        let on = if higher < PATCH.2 * self.height { ground } else { first.row.ceil() };
        self.hoof_on(stroke, on, PATCH.1, SOLE)
    }

    fn hoof_on(&self, stroke: &Stroke, ground: f64, up: f64, sole: f32) -> Option<Hoof> {
        let [aside, up, down] = [PATCH.0, up, PATCH.2].map(|s| s * self.height);
        let columns = steps(stroke.x - aside, stroke.x + aside);
        let rows = steps(ground - up, ground + down);
        let middle = usize::midpoint(stroke.from, stroke.to);
        let template = self.template(stroke, &columns, &rows);
        let behind = self.behind(middle, &columns, &rows);
        let apart: Vec<f32> = template.iter().zip(&behind).map(|(t, b)| (t - b).abs()).collect();
        let mut known: Vec<f32> = apart.iter().copied().filter(|d| !d.is_nan()).collect();
        known.sort_by(f32::total_cmp);
        // A shadow goes with the horse: only what is well apart from the ground is hoof.
        let least = (CLEAR * known.get(known.len() * 9 / 10)?).max(LEAST);
        let weight: Vec<f32> = apart.iter().map(|d| if *d > least { *d } else { 0.0 }).collect();
        let mut strong: Vec<f32> = weight.iter().copied().filter(|w| *w > 0.0).collect();
        if strong.len() < FEWEST {
            return None;
        }
        let contrast = middle_of(&mut strong);
        let across = columns.len();
        let by_row: Vec<f32> = weight.chunks(across).map(|r| r.iter().sum()).collect();
        let most = by_row.iter().copied().fold(0.0, f32::max);
        let lowest = (0..rows.len()).rev().find(|r| by_row[*r] > sole * most)?;
        // Between rows the edge lies where the rest of it would be half.
        let below = by_row.get(lowest + 1).copied().unwrap_or(0.0);
        let (here, half) = (by_row[lowest], sole * most);
        let row = rows[lowest] + f64::from((here - half) / (here - below).max(1e-6));
        let strip = place((STRIP * self.height).round()).max(1);
        let ground = ((lowest + 1).saturating_sub(strip), lowest + 1);
        let sign: f32 = (ground.0 * across..ground.1 * across)
            .filter(|k| weight[*k] > 0.0)
            .map(|k| template[k] - behind[k])
            .sum();
        let sign = sign.signum();
        Some(Hoof { middle, row, contrast, columns, rows, template, behind, weight, ground, sign })
    }

    /// The row on which a stroke's hoof ends where it differs from the ground at all: that of its shadow, or its own
    /// where only what is above it is clear. With it the share of what lies beside that differs as well: most of it
    /// where it is a shadow.
    pub fn low(&self, hoof: &Hoof, stroke: &Stroke) -> (f64, f64) {
        let across = hoof.columns.len();
        let own = columns_of(&hoof.weight, across);
        let wide = place(0.5 * PATCH.0 * self.height);
        let columns = &hoof.columns[own.start.saturating_sub(wide)..(own.end + wide).min(across)];
        let rows = steps(hoof.row, hoof.row + LOW * self.height);
        let template = self.template(stroke, columns, &rows);
        let behind = self.behind(hoof.middle, columns, &rows);
        // A faint shadow differs less.
        let least = LEAST.max(CLEAR * hoof.contrast);
        let other = |r: usize| {
            (r * columns.len()..(r + 1) * columns.len())
                .filter(|k| (template[*k] - behind[*k]).abs() > least)
        };
        let low = (0..rows.len()).take_while(|r| 3 * other(*r).count() > own.len()).last();
        let low = low.unwrap_or(0);
        let (left, right) = (own.start.min(wide), own.start.min(wide) + own.len());
        let beside = |k: usize| !(left..right).contains(&(k % columns.len()));
        let aside = (0..=low).flat_map(other).filter(|k| beside(*k)).count();
        let all = (low + 1) * (columns.len() - own.len()).max(1);
        (hoof.row + count(low), count(aside) / count(all))
    }

    /// The row on which a stroke's hoof ends in pictures with their shadow, which leaves the ground mostly the share
    /// `shade` of its light: the lowest that is neither ground nor shadow. What a hoof and a shadow have of the
    /// same tone is lifted with it, and told apart only in all pictures of a stance together.
    pub fn sole(&self, hoof: &Hoof, stroke: &Stroke, shade: f32) -> f64 {
        let across = hoof.columns.len();
        let columns = &hoof.columns[columns_of(&hoof.weight, across)];
        let above = RISES * self.height;
        let rows = steps(hoof.row - above, hoof.row + LOW * self.height);
        let template = self.template(stroke, columns, &rows);
        let behind = self.behind(hoof.middle, columns, &rows);
        let shares: Vec<f32> = template
            .chunks(columns.len())
            .zip(behind.chunks(columns.len()))
            .map(|(own, ground)| {
                let mut all: Vec<f32> = own
                    .iter()
                    .zip(ground)
                    .map(|(t, b)| t / b.max(1.0))
                    .filter(|s| !s.is_nan())
                    .collect();
                middle_of(&mut all)
            })
            .collect();
        let is_hoof = |s: &f32| (s - 1.0).abs() > NEITHER && (s - shade).abs() > NEITHER;
        let first = place(above.round());
        let down = shares[first.min(shares.len())..].iter().take_while(|s| is_hoof(s)).count();
        if down > 1 { rows[first] + count(down) - 0.5 } else { hoof.row }
    }

    /// The share of the ground's light that a stroke's limb has above the row on which it ends, where its hoof should be.
    pub fn above_sole(&self, hoof: &Hoof, stroke: &Stroke, row: f64) -> f32 {
        let across = hoof.columns.len();
        let own = columns_of(&hoof.weight, across);
        let edge = own.len() / 4;
        let columns = &hoof.columns[own.start + edge..own.end - edge];
        let rows = steps(row - ABOVE_SOLE * self.height, row - 0.5);
        let template = self.template(stroke, columns, &rows);
        let behind = self.behind(hoof.middle, columns, &rows);
        let shares = template.iter().zip(&behind).map(|(t, b)| t / b.max(1.0));
        middle_of(&mut shares.filter(|s| !s.is_nan()).collect::<Vec<_>>())
    }

    /// The middle half of a stance's pictures.
    fn template(&self, stroke: &Stroke, columns: &[f64], rows: &[f64]) -> Vec<f32> {
        let middle = usize::midpoint(stroke.from, stroke.to);
        let quarter = ((stroke.to - stroke.from) / 4).max(1);
        let looks: Vec<Vec<f32>> = (middle.saturating_sub(quarter)..=middle + quarter)
            .map(|f| self.patch(f, columns, rows))
            .collect();
        middles(&looks)
    }

    /// How much of the hoof is not as it stands in a frame, 0 to 1; NaN where it cannot be seen.
    pub fn differs(&self, hoof: &Hoof, frame: usize) -> f64 {
        let patch = self.patch(frame, &hoof.columns, &hoof.rows);
        let (mut apart, mut all) = (0.0, 0.0);
        for ((p, t), w) in patch.iter().zip(&hoof.template).zip(&hoof.weight) {
            if *w > 0.0 && !p.is_nan() {
                apart += (p - t).abs().min(*w);
                all += w;
            }
        }
        if all > 0.0 { f64::from(apart / all) } else { f64::NAN }
    }

    /// How many columns of hoof touch the ground in a frame; NaN where it cannot be seen.
    pub fn touching(&self, hoof: &Hoof, frame: usize) -> f64 {
        self.touching_in(hoof, 0..hoof.columns.len(), frame)
    }

    /// The columns of a hoof's toe: the foremost of what touches the ground in the middle of its stance, and one before
    /// them. `None` where nothing touches it.
    pub fn toe(&self, hoof: &Hoof) -> Option<Range<usize>> {
        let across = hoof.columns.len();
        let (top, bottom) = hoof.ground;
        let standing = &hoof.template[top * across..bottom * across];
        let touches = |c: &usize| hoof.column(standing, *c) > 0.5;
        let (first, last) = ((0..across).find(touches)?, (0..across).rev().find(touches)?);
        let wide = place((TOE * self.height).round()).max(2);
        Some(if self.rightward {
            (last + 1).saturating_sub(wide)..(last + 2).min(across)
        } else {
            first.saturating_sub(1)..(first + wide).min(across)
        })
    }

    /// How many of some columns of a hoof touch the ground in a frame; NaN where they cannot be seen.
    pub fn touching_in(&self, hoof: &Hoof, columns: Range<usize>, frame: usize) -> f64 {
        let (top, bottom) = hoof.ground;
        let patch = self.patch(frame, &hoof.columns, &hoof.rows[top..bottom]);
        f64::from(columns.map(|c| hoof.column(&patch, c)).sum::<f32>())
    }

    /// How much of a standing limb's pastern something passes before, 0 to 1: the other limb of its girdle swings by in
    /// the middle of a stance, before a far limb, behind a near one. `None` where too little of it is seen.
    pub fn hidden(&self, stroke: &Stroke, ground: f64) -> Option<f64> {
        let [aside, top, bottom] = PASTERN.map(|s| s * self.height);
        let columns = steps(stroke.x - aside, stroke.x + aside);
        let rows = steps(ground - top, ground - bottom);
        let long = stroke.to - stroke.from;
        let frames = stroke.from + long / 5..=stroke.to - long / 5;
        let looks: Vec<Vec<f32>> = frames.map(|f| self.patch(f, &columns, &rows)).collect();
        // In few frames a pastern moves by itself as much as what passes it.
        if looks.len() < SEEN_OFTEN {
            return None;
        }
        let middle = usize::midpoint(stroke.from, stroke.to);
        let behind = self.behind(middle, &columns, &rows);
        let template = middles(&looks);
        // What differs from the ground and stays so for most of the stance is the limb.
        let still = |k: usize| {
            let near = looks.iter().filter(|l| (l[k] - template[k]).abs() < LEAST).count();
            3 * near > 2 * looks.len()
        };
        let limb: Vec<usize> = (0..behind.len())
            .filter(|k| (template[*k] - behind[*k]).abs() > 2.0 * LEAST && still(*k))
            .collect();
        if limb.len() < FEWEST {
            return None;
        }
        let other = |l: &Vec<f32>| {
            let passed = limb.iter().filter(|k| (l[**k] - template[**k]).abs() > LEAST).count();
            count(passed) / count(limb.len())
        };
        Some(looks.iter().map(other).fold(0.0, f64::max))
    }

    /// Values of a frame at columns and rows of the ground picture, row by row; NaN outside it.
    pub fn patch(&self, frame: usize, columns: &[f64], rows: &[f64]) -> Vec<f32> {
        let Some(turn) = self.to_first.get(frame) else {
            return vec![f32::NAN; columns.len() * rows.len()];
        };
        let (into, picture) = (turn.back(), (self.picture)(frame));
        places(columns, rows, |x, y| {
            let (x, y) = into.of(x, y);
            picture.at(small(x), small(y)).unwrap_or(f32::NAN)
        })
    }

    /// The same of its background; NaN where that is not known.
    pub fn behind(&self, frame: usize, columns: &[f64], rows: &[f64]) -> Vec<f32> {
        let behind = (self.behind)(frame);
        let into = self.to_first[behind.frame].back();
        places(columns, rows, |x, y| {
            let (x, y) = into.of(x, y);
            behind.at(x, y)
        })
    }
}

/// The columns in which a weight lies, all but the outermost tenths of it.
fn columns_of(weight: &[f32], across: usize) -> Range<usize> {
    let mut sums = vec![0.0f32; across];
    for row in weight.chunks(across) {
        sums.iter_mut().zip(row).for_each(|(s, w)| *s += w);
    }
    let tenth = 0.1 * sums.iter().sum::<f32>();
    let reaches = |s: &mut f32, w: &f32| {
        *s += w;
        Some(*s)
    };
    let from = sums.iter().scan(0.0, reaches).take_while(|s| *s < tenth).count();
    let to = across - sums.iter().rev().scan(0.0, reaches).take_while(|s| *s < tenth).count();
    from..to.max(from + 1).min(across)
}

fn places(columns: &[f64], rows: &[f64], value: impl Fn(f64, f64) -> f32) -> Vec<f32> {
    rows.iter().flat_map(|y| columns.iter().map(|x| value(*x, *y)).collect::<Vec<_>>()).collect()
}

pub(super) fn steps(from: f64, to: f64) -> Vec<f64> {
    (0..=place((to - from).round().max(1.0))).map(|k| from + count(k)).collect()
}

/// Medians of looks at the same places.
pub(super) fn middles(looks: &[Vec<f32>]) -> Vec<f32> {
    let mut seen = Vec::with_capacity(looks.len());
    (0..looks.first().map_or(0, Vec::len))
        .map(|k| {
            seen.clear();
            seen.extend(looks.iter().map(|l| l[k]).filter(|v| !v.is_nan()));
            middle_of(&mut seen)
        })
        .collect()
}

/// Median; NaN of nothing.
pub(super) fn middle_of(values: &mut [f32]) -> f32 {
    let middle = values.len() / 2;
    if values.is_empty() {
        return f32::NAN;
    }
    *values.select_nth_unstable_by(middle, f32::total_cmp).1
}
