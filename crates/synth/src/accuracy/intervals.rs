//! Drift, beats, and how often intervals hold the truth.

use rand::Rng;
use umlauf_gait::Limb;
use umlauf_gait::analyse;
use umlauf_gait::base::limb::Side;
use umlauf_gait::base::thresholds::Thresholds;
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::figures::canter_beats::BeatClass;
use umlauf_gait::stats::estimate::Estimate;

use crate::accuracy::row::Row;
use crate::accuracy::row::longest;
use crate::accuracy::row::tally;
use crate::marking::Marking;
use crate::schooling::Schooling;
use crate::schooling::ride;
use crate::schooling::varied;
use crate::template::Template;

/// A drift of tempo over forty strides: found, or falsely found.
pub fn drifts(rate: f64, runs: u64, drift: f64) -> Row {
    let (what, aim) = if drift > 0.0 {
        ("a drift of 5 % over 40 strides is found", (0.95, false))
    } else {
        ("a drift is found where there is none", (0.02, true))
    };
    tally(what, rate, runs, aim, 4, |rng| {
        let mut marking = Marking::hard(rate, rng);
        marking.missing = 0.0;
        marking.mislabel = false;
        marking.stride_cv = rng.random_range(0.01..0.02);
        let up = if rng.random_bool(0.5) { 1.0 } else { -1.0 };
        // Two strides more are ridden than count.
        marking.drift = up * drift * 42.0 / 40.0;
        let school = ride(varied("trot", rng), &[(Side::Left, Side::Left); 42], &marking, rng);
        let found = analyse(&school.marks, &marking.options());
        Some(longest(&found.bouts)?.drift.is_some_and(|d| d.flagged))
    })
}

/// What an interval is of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Interval {
    /// Mean stride duration of this horse's gait.
    Tempo,
    /// Spread of stride durations.
    Regularity,
    /// Suspension.
    Suspension,
    /// Dissociation of a diagonal.
    Dissociation,
}

/// How marks are made where intervals are judged.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Marks {
    /// Scattered by half a frame to a frame.
    Scattered,
    /// Read to frames and nothing else.
    Grid,
}

/// How often 95 % intervals hold the truth, and how wide they are.
#[derive(Clone, Debug, PartialEq)]
pub struct Coverage {
    /// The row of the table.
    pub row: Row,
    /// Median width by that of an ideal interval: the one that the scatter of the estimates over
    /// all rides would give (2·1.96 times the standard deviation of their errors).
    pub width: f64,
}

/// Coverage of one figure's intervals.
pub fn coverage(of: Interval, marks: Marks, rate: f64, runs: u64) -> Coverage {
    let (what, row) = match of {
        Interval::Tempo => ("the interval of tempo holds the truth", 5),
        Interval::Regularity => ("the interval of regularity, where resolved", 6),
        Interval::Suspension => ("the interval of suspension", 7),
        Interval::Dissociation => ("the interval of a diagonal's dissociation", 8),
    };
    let what = match marks {
        Marks::Scattered => what.to_owned(),
        Marks::Grid => format!("{what}, on the bare frame grid"),
    };
    let (mut errors, mut widths) = (Vec::new(), Vec::new());
    let row = tally(&what, rate, runs, (0.93, false), row, |rng| {
        let mut marking = Marking::clean(rate, rng);
        if marks == Marks::Grid {
            marking.jitter = 0.0;
        }
        let n = rng.random_range(10..40);
        let school = ride(varied("trot", rng), &vec![(Side::Left, Side::Left); n], &marking, rng);
        let found = analyse(&school.marks, &marking.options());
        let (value, (lo, hi), truth) = interval(of, longest(&found.bouts)?, &school, &marking)?;
        errors.push(value - truth);
        widths.push(hi - lo);
        Some(lo <= truth && truth <= hi)
    });
    let spread = umlauf_gait::stats::descriptive::variance(&errors).sqrt();
    widths.sort_by(f64::total_cmp);
    let median = widths.get(widths.len() / 2).copied().unwrap_or(f64::NAN);
    Coverage { row, width: median / (2.0 * 1.96 * spread) }
}

/// An estimate with its interval and the truth.
pub(crate) fn interval(
    of: Interval,
    bout: &BoutFigures,
    school: &Schooling,
    marking: &Marking,
) -> Option<(f64, (f64, f64), f64)> {
    if of == Interval::Regularity {
        let r = bout.regularity?;
        return Some((r.value, r.ci95?, 100.0 * marking.stride_cv));
    }
    steady(of, bout, &school.template)
}

/// The same of what a template alone tells: all but regularity.
pub(crate) fn steady(
    of: Interval,
    bout: &BoutFigures,
    t: &Template,
) -> Option<(f64, (f64, f64), f64)> {
    let with = |e: Estimate, truth: f64| Some((e.value, e.ci95?, truth));
    match of {
        Interval::Regularity => None,
        Interval::Tempo => with(bout.tempo?.duration, t.stride_s),
        Interval::Suspension => {
            // First hoof of either pair down, last hoof of the other off; the mean of both.
            let on = |a: usize, b: usize| t.phases[a].min(t.phases[b]);
            let off = |a: usize, b: usize| t.phases[a].max(t.phases[b]) + t.duty;
            let one = on(0, 3) - off(1, 2);
            let two = 1.0 + on(1, 2) - off(0, 3);
            with(bout.suspension?.each, f64::midpoint(one, two) * t.stride_s)
        }
        Interval::Dissociation => {
            with(bout.dissociation[0]?, (t.phases[1] - t.phases[2]) * t.stride_s)
        }
    }
}

/// Verdicts of four beats whose interval crosses the limit, over canters with splits about it: a
/// count that must be none, of all bouts with a verdict.
pub fn four_beat_verdicts(rate: f64, runs: u64) -> Row {
    tally(
        "four-beat verdicts whose interval crosses the limit",
        rate,
        runs,
        (0.0, true),
        13,
        |rng| {
            let marking = Marking { mislabel: false, ..Marking::hard(rate, rng) };
            let mut template = varied("canter-four-beat", rng);
            // Splits from none to twice the limit.
            let split = rng.random_range(0.0..0.08) / template.stride_s;
            template.phases[Limb::RF.index()] = template.phases[Limb::LH.index()] + split;
            let n = rng.random_range(6..20);
            let school = ride(template, &vec![(Side::Left, Side::Left); n], &marking, rng);
            let found = analyse(&school.marks, &marking.options());
            let canter = longest(&found.bouts)?.canter?;
            let (lo, hi) = canter.dissociation.ci95?;
            let limit = Thresholds::default().four_beat_split_s;
            let four = canter.verdict == Some(BeatClass::Four);
            four.then_some(!(lo >= limit || hi <= -limit))
        },
    )
}
