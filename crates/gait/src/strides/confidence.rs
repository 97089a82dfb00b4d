//! How sure a bout's label is: the chance that the true mean stride lies on the label's side of
//! every border.
//!
//! The label is read from the mean of the bout's strides, and each number it is read from is known
//! with a standard error: the spread between strides over the effective number of them, and never
//! less than what the marks' own error leaves. Along each number, both ways, the nearest place at
//! which the label would be another is looked for with the rules themselves; the chance of lying
//! beyond it is Student's. The product over all of them is the confidence. `docs/accuracy.md`
//! shows how often labels of each confidence are right.

use statrs::distribution::{ContinuousCDF, StudentsT};

use crate::base::gait::Label;
use crate::base::number::count;
use crate::base::phase;
use crate::base::thresholds::Thresholds;
use crate::stats::descriptive::{effective_n, lag1_covariance, variance};
use crate::strides::classify::{self, Pattern};

/// Numbers of a pattern that a label is read from.
const NUMBERS: usize = 6;

/// Standard errors at which the label is tried.
const REACH: [f64; 9] = [0.25, 0.5, 0.75, 1.0, 1.5, 2.0, 2.5, 3.0, 4.0];

/// What remains of certainty when no border is near: marks may be wrong in ways that no spread
/// shows (project default, from the table in `docs/accuracy.md`).
const CEILING: f64 = 0.998;

/// A border in one place shows on several of the numbers (a pair's phases move the placement too)
/// and would be counted more than once: this share of the doubt is left (from the table, on other
/// rides than those shown there).
const DOUBT: f64 = 0.45;

fn numbers(p: &Pattern) -> [Option<f64>; NUMBERS] {
    [
        Some(p.duration),
        Some(p.hind_delta),
        Some(p.fore_delta),
        Some(p.lap),
        p.hind_duty,
        Some(p.dissociation),
    ]
}

fn moved(p: &Pattern, number: usize, by: f64) -> Pattern {
    let mut q = *p;
    match number {
        0 => q.duration += by,
        1 => q.hind_delta = phase::wrap(q.hind_delta + by),
        2 => q.fore_delta = phase::wrap(q.fore_delta + by),
        3 => q.lap = phase::wrap(q.lap + by),
        4 => q.hind_duty = q.hind_duty.map(|d| d + by),
        _ => q.dissociation += by,
    }
    q
}

/// Confidence (0 to 1) that the bout whose strides have these patterns and whose mean stride is
/// `mean` carries `label`. `mark_sd` is the error of a mark, s.
pub fn confidence(
    patterns: &[Pattern],
    mean: &Pattern,
    label: Label,
    mark_sd: Option<f64>,
    gaited: bool,
    limits: &Thresholds,
) -> f64 {
    let n = patterns.len();
    let dof = (count(n) - 1.0).max(1.0);
    let Ok(student) = StudentsT::new(0.0, 1.0, dof) else { return 0.5 };
    let mut sure = CEILING;
    for number in 0..NUMBERS {
        let Some(se) = standard_error(patterns, mean, number, mark_sd) else { continue };
        if se <= 0.0 {
            continue;
        }
        for way in [-1.0, 1.0] {
            let other = REACH.into_iter().find(|z| {
                let there = moved(mean, number, way * z * se);
                classify::label(&there, gaited, limits) != label
            });
            if let Some(z) = other {
                // The border lies between this try and the one before it.
                let before = REACH.into_iter().take_while(|r| *r < z).last().unwrap_or(0.0);
                sure *= 1.0 - student.sf(f64::midpoint(before, z));
            }
        }
    }
    1.0 - DOUBT * (1.0 - sure)
}

fn standard_error(
    patterns: &[Pattern],
    mean: &Pattern,
    number: usize,
    mark_sd: Option<f64>,
) -> Option<f64> {
    let centre = numbers(mean)[number]?;
    let circular = matches!(number, 1..=3);
    let apart: Vec<f64> = patterns
        .iter()
        .filter_map(|p| numbers(p)[number])
        .map(|v| if circular { phase::signed(v - centre) } else { v - centre })
        .collect();
    let n = apart.len();
    let s2 = variance(&apart);
    let r = if n >= 8 && s2 > 0.0 { (lag1_covariance(&apart) / s2).clamp(0.0, 0.8) } else { 0.0 };
    let spread = s2 / effective_n(n, r);
    // Marks weigh 2 in a difference of two; half of that where both sides are averaged.
    let weight = if matches!(number, 3 | 4) { 1.0 } else { 2.0 };
    let scale = if number == 0 { 1.0 } else { mean.duration };
    let marks = mark_sd.map_or(0.0, |sd| weight * sd * sd / (scale * scale * count(n.max(1))));
    Some(spread.max(marks).sqrt())
}
