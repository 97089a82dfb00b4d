//! Two sides compared: better, worse, no real difference, or cannot tell.
//!
//! Strides inside a bout resemble one another, so with three bouts a side or more the bouts' means
//! are what is compared (Welch). With fewer the strides' own errors stand in, and the answer is
//! provisional. Speed moves tempo, stance and air: where it is known it is taken out by a common
//! slope first, and it is said. A figure's own verdict rests on its interval;
//! what heads a page must stand after Holm's adjustment over all figures. A horse has better and worse
//! days: sides of different sessions also err by their days' forms.

use std::collections::BTreeSet;

use crate::base::number::count;
use crate::season::bout_summary::BoutSummary;
use crate::season::metric::{Direction, Metric};
use crate::season::progress;
use crate::stats::descriptive::{mean, variance};
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;
use crate::stats::two_samples::{self, Difference};

/// A verdict on one figure.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Verdict {
    /// The second is better.
    Better,
    /// The second is worse.
    Worse,
    /// It differs, and neither way is better.
    Differs,
    /// It lies inside what is worth speaking of, at 95 % ([`Difference::is_within`]).
    NoRealDifference,
    /// Anything else.
    CannotTell,
}

/// What was done about speed.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Speed {
    /// The figure does not move with it.
    NoMatter,
    /// The sides went at one speed, as near as this (share).
    Matched(f64),
    /// It was taken out; the sides' speeds differed by this (share).
    TakenOut(f64),
    /// The speeds differ by this (share) and there are too few bouts to take it out.
    Differs(f64),
    /// Left in: the speeds, which differ by this (share), belong to what is compared.
    AsRidden(f64),
    /// Not known.
    Unknown,
}

/// One figure of two sides.
#[derive(Clone, Debug, PartialEq)]
pub struct Compared {
    /// Which.
    pub metric: Metric,
    /// The first side: mean over bouts.
    pub first: Estimate,
    /// The second side.
    pub second: Estimate,
    /// Second less first.
    pub difference: Difference,
    /// The smallest true change that this pair would have shown in four of five cases.
    pub smallest: f64,
    /// The smallest change worth speaking of.
    pub worthwhile: f64,
    /// Probability after Holm's adjustment over all figures compared, for a horse whose form changes
    /// more than is usual.
    pub adjusted_p: f64,
    /// Whether it stands after that adjustment: only then it may head a page.
    pub headline: bool,
    /// Fewer than three bouts on a side.
    pub provisional: bool,
    /// What was done about speed.
    pub speed: Speed,
    /// Verdict.
    pub verdict: Verdict,
}

/// Speeds nearer than this are one (project default).
const ONE_SPEED: f64 = 0.03;

/// What heads a page must stand for a horse too whose days differ by so many times as much as is usual
/// (project default).
const CHANGEABLE: f64 = 2.0;

/// Bouts a side from which their means are compared.
pub const ENOUGH_BOUTS: usize = 3;

/// Compares two sides in every figure that both have. `target` gives a target for a figure, such as
/// the horse's own tempo.
pub fn compare(
    first: &[&BoutSummary],
    second: &[&BoutSummary],
    target: impl Fn(Metric) -> Option<f64>,
) -> Vec<Compared> {
    all(first, second, target, false)
}

/// As [`compare`], with speed left in: for a movement against straight work, where speed lost is
/// part of what the movement costs.
pub fn compare_as_ridden(
    first: &[&BoutSummary],
    second: &[&BoutSummary],
    target: impl Fn(Metric) -> Option<f64>,
) -> Vec<Compared> {
    all(first, second, target, true)
}

fn all(
    first: &[&BoutSummary],
    second: &[&BoutSummary],
    target: impl Fn(Metric) -> Option<f64>,
    as_ridden: bool,
) -> Vec<Compared> {
    let found = Metric::ALL.into_iter().filter_map(|m| one(m, first, second, as_ridden));
    let (mut out, chances): (Vec<Compared>, Vec<f64>) = found.unzip();
    let adjusted = two_samples::holm(&chances);
    for (c, p) in out.iter_mut().zip(adjusted) {
        c.adjusted_p = p;
        c.verdict = verdict(c, target(c.metric));
        c.headline = p < 0.05;
    }
    out
}

/// A figure's values on a side, with the speeds of the bouts that have both.
struct Values {
    all: Vec<Estimate>,
    with_speed: Vec<(f64, f64)>,
}

fn values(metric: Metric, side: &[&BoutSummary]) -> Values {
    let read = |d: &&BoutSummary| d.value(metric).map(|e| (e, d.speed));
    let both: Vec<(Estimate, Option<f64>)> = side.iter().filter_map(read).collect();
    Values {
        with_speed: both
            .iter()
            .filter_map(|(e, v)| Some((v.as_ref().copied()?, e.value)))
            .collect(),
        all: both.into_iter().map(|(e, _)| e).collect(),
    }
}

/// One figure, and the chance that counts where it is to head a page.
fn one(
    metric: Metric,
    first: &[&BoutSummary],
    second: &[&BoutSummary],
    as_ridden: bool,
) -> Option<(Compared, f64)> {
    let (a, b) = (values(metric, first), values(metric, second));
    let (ma, mb) = (side_mean(&a.all)?, side_mean(&b.all)?);
    let by_bouts = a.all.len() >= ENOUGH_BOUTS && b.all.len() >= ENOUGH_BOUTS;
    let plain = || {
        if by_bouts {
            let of = |v: &Values| v.all.iter().map(|e| e.value).collect::<Vec<f64>>();
            let plain = two_samples::welch(&of(&a), &of(&b))?;
            let p = if metric == Metric::Regularity { ratio_p(&of(&a), &of(&b)) } else { None };
            Some(Difference { p: p.unwrap_or(plain.p), ..plain })
        } else {
            two_samples::from_errors(mb.estimate.value - ma.estimate.value, ma.error, mb.error)
        }
    };
    let days = days_apart(metric, first, second);
    let known = a.with_speed.len() == a.all.len() && b.with_speed.len() == b.all.len();
    let apart = if known { speed_apart(&a.with_speed, &b.with_speed) } else { None };
    let out = || {
        let found = two_samples::at_one_covariate(&a.with_speed, &b.with_speed);
        found.filter(|_| by_bouts)
    };
    let (difference, speed) = if metric == Metric::StrideLength {
        // How long the strides are is how fast he goes by how often he steps: of two days it is shown
        // as ridden, and news only where it is more than the speed makes it. Within a session a way of
        // going that is slower is so for a reason.
        let other_speed = apart.filter(|d| !as_ridden && days.none_shared && d.abs() > ONE_SPEED);
        match (other_speed, out()) {
            (Some(d), Some(at_one)) => (Difference { p: at_one.p, ..plain()? }, Speed::AsRidden(d)),
            (Some(d), None) => (plain()?, Speed::Differs(d)),
            (None, _) => (plain()?, Speed::NoMatter),
        }
    } else if metric.moves_with_speed() {
        match apart {
            None => (plain()?, Speed::Unknown),
            Some(d) if as_ridden => (plain()?, Speed::AsRidden(d)),
            // Also between sides of one speed the bouts' own speeds scatter.
            Some(d) => match out() {
                Some(difference) => (difference, Speed::TakenOut(d)),
                None if d.abs() <= ONE_SPEED => (plain()?, Speed::Matched(d)),
                None => (plain()?, Speed::Differs(d)),
            },
        }
    } else {
        (plain()?, Speed::NoMatter)
    };
    let worthwhile = metric.worthwhile(ma.estimate.value);
    // Of both sides, so that they can be exchanged.
    let day = metric.day_to_day(f64::midpoint(ma.estimate.value, mb.estimate.value));
    let form = days.variance * day * day;
    let chance = difference.widened(CHANGEABLE * CHANGEABLE * form).p;
    let difference = difference.widened(form);
    let compared = Compared {
        metric,
        first: ma.estimate,
        second: mb.estimate,
        smallest: two_samples::smallest_shown(&difference),
        difference,
        worthwhile,
        adjusted_p: 1.0,
        headline: false,
        provisional: !by_bouts,
        speed,
        verdict: Verdict::CannotTell,
    };
    Some((compared, chance))
}

/// The sessions of two sides.
#[derive(Clone, Copy, Debug, Default)]
struct Days {
    /// What the days' own forms leave in a difference, in variances of one day: every session counts by
    /// as much as it weighs more on one side than on the other.
    variance: f64,
    /// No session has bouts on both sides.
    none_shared: bool,
}

fn days_apart(metric: Metric, first: &[&BoutSummary], second: &[&BoutSummary]) -> Days {
    let of = |side: &[&BoutSummary]| -> Option<Vec<i64>> {
        side.iter().filter(|b| b.value(metric).is_some()).map(|b| b.session).collect()
    };
    let (Some(a), Some(b)) = (of(first), of(second)) else { return Days::default() };
    let share = |side: &[i64], s: i64| {
        count(side.iter().filter(|own| **own == s).count()) / count(side.len().max(1))
    };
    let sessions: BTreeSet<i64> = a.iter().chain(&b).copied().collect();
    Days {
        variance: sessions.iter().map(|s| (share(&a, *s) - share(&b, *s)).powi(2)).sum(),
        none_shared: !sessions.iter().any(|s| a.contains(s) && b.contains(s)),
    }
}

/// Chance of so unlike spreads: a spread scatters in proportion to itself, so their logarithms are what
/// is compared.
fn ratio_p(a: &[f64], b: &[f64]) -> Option<f64> {
    const LEAST_PCT: f64 = 0.1;
    let ln = |of: &[f64]| of.iter().map(|v| v.max(LEAST_PCT).ln()).collect::<Vec<f64>>();
    two_samples::welch(&ln(a), &ln(b)).map(|d| d.p)
}

fn speed_apart(a: &[(f64, f64)], b: &[(f64, f64)]) -> Option<f64> {
    let of = |side: &[(f64, f64)]| mean(&side.iter().map(|(v, _)| *v).collect::<Vec<f64>>());
    let apart = of(b) / of(a) - 1.0;
    apart.is_finite().then_some(apart)
}

/// Mean of a side with its squared standard error and degrees of freedom.
struct SideMean {
    estimate: Estimate,
    error: (f64, f64),
}

fn side_mean(values: &[Estimate]) -> Option<SideMean> {
    let n = values.len();
    if n == 0 {
        return None;
    }
    let means: Vec<f64> = values.iter().map(|e| e.value).collect();
    let value = mean(&means);
    let strides: usize = values.iter().map(|e| e.n).sum();
    // A bout's own interval is about two standard errors; with its strides it has degrees enough.
    let own = |e: &Estimate| {
        let dof = count(e.n.saturating_sub(1)).max(1.0);
        e.half_width().map(|h| (h / t95(dof)).powi(2))
    };
    let within: Option<f64> =
        values.iter().map(own).sum::<Option<f64>>().map(|s| s / count(n).powi(2));
    let between = if n >= 2 { Some(variance(&means) / count(n)) } else { None };
    let error = match (between, within) {
        (Some(b), _) if n >= ENOUGH_BOUTS => (b, count(n - 1)),
        (Some(b), Some(w)) if w > b => (w, count(strides.saturating_sub(n)).max(1.0)),
        (Some(b), _) => (b, count(n - 1)),
        (None, Some(w)) => (w, count(strides.saturating_sub(1)).max(1.0)),
        (None, None) => return None,
    };
    let half = t95(error.1) * error.0.sqrt();
    let sd = (n >= 2).then(|| variance(&means).sqrt());
    let ci95 = Some((value - half, value + half));
    Some(SideMean { estimate: Estimate { value, sd, ci95, n }, error })
}

fn verdict(c: &Compared, target: Option<f64>) -> Verdict {
    let (lo, hi) = c.difference.ci95;
    if c.difference.is_within(c.worthwhile) {
        return Verdict::NoRealDifference;
    }
    if (lo <= 0.0 && hi >= 0.0) || matches!(c.speed, Speed::Differs(_)) {
        return Verdict::CannotTell;
    }
    // Longer strides at another speed, and no longer than the speed makes them.
    if matches!(c.speed, Speed::AsRidden(_))
        && c.metric == Metric::StrideLength
        && c.difference.p >= 0.05
    {
        return Verdict::Differs;
    }
    let better = match c.metric.direction() {
        Direction::Higher => lo > 0.0,
        Direction::Lower => hi < 0.0,
        Direction::None => return Verdict::Differs,
        Direction::Target => {
            // Both means err, and so does how far each lies from the target.
            let (a, b) = (c.first.value, c.second.value);
            let told =
                target.and_then(|t| progress::nearer(a, b, t, c.worthwhile, 0.5 * (hi - lo)));
            let Some(nearer) = told else { return Verdict::Differs };
            nearer
        }
    };
    if better { Verdict::Better } else { Verdict::Worse }
}

/// Verdicts on two horses: a horse is measured against itself first, so between horses figures
/// differ, and neither is the better for it.
pub fn without_rank(compared: &mut [Compared]) {
    for c in compared {
        if matches!(c.verdict, Verdict::Better | Verdict::Worse) {
            c.verdict = Verdict::Differs;
        }
    }
}

/// The verdict on the whole, from those on its figures.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Overall {
    /// Some are better, none worse.
    Better,
    /// Some are worse, none better.
    Worse,
    /// Both.
    Mixed,
    /// Something differs without being better or worse.
    Differs,
    /// All that could be told does not differ.
    Alike,
    /// Nothing can be told.
    CannotTell,
}

/// One verdict over all figures: differences count when they stand after Holm's adjustment, and
/// "alike" needs every figure to be so.
pub fn overall(compared: &[Compared]) -> Overall {
    let any = |v: Verdict| compared.iter().any(|c| c.verdict == v && c.headline);
    match (any(Verdict::Better), any(Verdict::Worse)) {
        (true, true) => Overall::Mixed,
        (true, false) => Overall::Better,
        (false, true) => Overall::Worse,
        (false, false) if any(Verdict::Differs) => Overall::Differs,
        (false, false)
            if !compared.is_empty()
                && compared.iter().all(|c| c.verdict == Verdict::NoRealDifference) =>
        {
            Overall::Alike
        }
        (false, false) => Overall::CannotTell,
    }
}
