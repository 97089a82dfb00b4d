//! True values behind measured ones: each shrunk towards the course of all by as much as it errs.
//!
//! The value that is picked because it is the best has had luck on its side; the expectation of the true
//! one given all that was measured does not change because it was picked (Dawid 1994, Selection
//! paradoxes of Bayesian inference; Efron 2011, J Am Stat Assoc 106:1602; values from memory).

use crate::base::number::count;
use crate::stats::quantiles::normal_within;

/// A value measured at a time, with its standard error.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Measured {
    /// When, in any unit.
    pub at: f64,
    /// Value.
    pub value: f64,
    /// Standard error of the value, above 0.
    pub error: f64,
}

/// What is known of the true values.
#[derive(Clone, Debug, PartialEq)]
pub struct Truths(Vec<Case>);

/// At one spread about the course and one climb of it: how likely they are, and what they make of each
/// value, expectation and standard deviation.
#[derive(Clone, Debug, PartialEq)]
struct Case {
    weight: f64,
    values: Vec<(f64, f64)>,
}

/// Spreads and climbs that are weighed, evenly in their logarithms from `LEAST` to `MOST` usual ones.
const STEPS: usize = 21;
const LEAST: f64 = 0.02;
const MOST: f64 = 100.0;

/// Cases less likely than this, against the likeliest, change nothing that is shown.
const NEGLIGIBLE: f64 = 1e-5;

/// The true values: normal about a line over time, on any level; neither their spread about it nor how
/// far it climbs from the first to the last is known: the one is half-Cauchy, the other normal with a
/// spread that is half-Cauchy, about what is `usual` (Gelman 2006, Bayesian Analysis 1:515; value from
/// memory). Summed over a grid of both. `None` below two values or without a usable error.
///
/// ```
/// use umlauf_gait::stats::shrunk::{Measured, shrunk};
/// let of = |value| Measured { at: 0.0, value, error: 1.0 };
/// // Two that differ by less than they err are about the same.
/// let both = shrunk(&[of(1.0), of(2.0)], 0.1).expect("two values");
/// assert!(both.value(1) < 1.6 && both.value(1) > 1.5);
/// ```
pub fn shrunk(values: &[Measured], usual: f64) -> Option<Truths> {
    let fine = |m: &Measured| [m.at, m.value, m.error].iter().all(|x| x.is_finite());
    let usable = values.iter().all(|m| fine(m) && m.error > 0.0);
    if values.len() < 2 || !usable || !usual.is_finite() || usual <= 0.0 {
        return None;
    }
    let ends = values
        .iter()
        .fold((f64::INFINITY, f64::NEG_INFINITY), |(lo, hi), m| (lo.min(m.at), hi.max(m.at)));
    let scaled = |m: &Measured| {
        let at = if ends.1 > ends.0 { (m.at - ends.0) / (ends.1 - ends.0) } else { 0.0 };
        Measured { at, ..*m }
    };
    let values: Vec<Measured> = values.iter().map(scaled).collect();
    let step = (MOST / LEAST).powf(1.0 / (count(STEPS) - 1.0));
    let (mut climbs, mut cases) = (Vec::new(), Vec::new());
    for k in 0..STEPS {
        climbs.push(LEAST * step.powf(count(k)));
    }
    for spread in &climbs {
        let seen = Seen::at(&values, spread * usual);
        cases.extend(climbs.iter().map(|climb| {
            let log = seen.log(climb * usual) + half_cauchy(*spread) + half_cauchy(*climb);
            (log, spread * usual, climb * usual)
        }));
    }
    let most = cases.iter().map(|c| c.0).fold(f64::NEG_INFINITY, f64::max);
    let mut out = Vec::new();
    for (log, spread, climb) in cases {
        let weight = (log - most).exp();
        if weight > NEGLIGIBLE {
            out.push(Case { weight, values: Seen::at(&values, spread).truths(&values, climb) });
        }
    }
    let sum: f64 = out.iter().map(|c| c.weight).sum();
    out.iter_mut().for_each(|c| c.weight /= sum);
    Some(Truths(out))
}

/// Logarithm of a half-Cauchy density, on a grid that is even in the logarithm.
fn half_cauchy(x: f64) -> f64 {
    x.ln() - x.powi(2).ln_1p()
}

/// Sums over values that spread about their course by as much as `spread`.
struct Seen {
    spread: f64,
    weights: f64,
    logs: f64,
    middle: f64,
    level: f64,
    left: f64,
    /// Of distances from the middle squared, and of these with the values.
    steep: (f64, f64),
}

impl Seen {
    fn at(values: &[Measured], spread: f64) -> Self {
        let weight = |m: &Measured| 1.0 / (spread * spread + m.error * m.error);
        let sum =
            |of: &dyn Fn(&Measured) -> f64| values.iter().map(|m| weight(m) * of(m)).sum::<f64>();
        let weights = sum(&|_| 1.0);
        let middle = sum(&|m| m.at) / weights;
        let level = sum(&|m| m.value) / weights;
        Self {
            spread,
            weights,
            logs: values.iter().map(|m| weight(m).ln()).sum(),
            middle,
            level,
            left: sum(&|m| (m.value - level).powi(2)),
            steep: (
                sum(&|m| (m.at - middle).powi(2)),
                sum(&|m| (m.at - middle) * (m.value - level)),
            ),
        }
    }

    /// Logarithm of how likely the values are when the line climbs by about `climb`.
    fn log(&self, climb: f64) -> f64 {
        let known = self.steep.0 + climb.powi(-2);
        let left = self.left - self.steep.1.powi(2) / known;
        0.5 * (self.logs - self.weights.ln() - (climb * climb * self.steep.0).ln_1p() - left)
    }

    /// Expectation and standard deviation of each true value when the line climbs by about `climb`.
    fn truths(&self, values: &[Measured], climb: f64) -> Vec<(f64, f64)> {
        let known = self.steep.0 + climb.powi(-2);
        let slope = self.steep.1 / known;
        let one = |m: &Measured| {
            let from = m.at - self.middle;
            let course = self.level + slope * from;
            let variance = self.spread * self.spread;
            let own = variance / (variance + m.error * m.error);
            let course_error = 1.0 / self.weights + from * from / known;
            let rest = own * m.error * m.error + (1.0 - own).powi(2) * course_error;
            (own * m.value + (1.0 - own) * course, rest.sqrt())
        };
        values.iter().map(one).collect()
    }
}

impl Truths {
    /// Expectation of the k-th value.
    pub fn value(&self, k: usize) -> f64 {
        self.0.iter().map(|c| c.weight * c.values[k].0).sum()
    }

    /// 95 % interval of the k-th value.
    pub fn ci95(&self, k: usize) -> (f64, f64) {
        let value = self.value(k);
        let below = |x: f64| -> f64 {
            let share = |(v, sd): (f64, f64)| {
                let z = (x - v) / sd;
                0.5 * (1.0 + normal_within(z.abs()).copysign(z))
            };
            self.0.iter().map(|c| c.weight * share(c.values[k])).sum()
        };
        let reach = |c: &Case| (c.values[k].0 - value).abs() + 10.0 * c.values[k].1;
        let far = self.0.iter().map(reach).fold(0.0, f64::max);
        let end = |share: f64| {
            let (mut lo, mut hi) = (value - far, value + far);
            for _ in 0..30 {
                let x = f64::midpoint(lo, hi);
                *(if below(x) < share { &mut lo } else { &mut hi }) = x;
            }
            f64::midpoint(lo, hi)
        };
        (end(0.025), end(0.975))
    }
}
