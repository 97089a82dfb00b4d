//! Verdicts over sessions and months, by seasons drawn with a truth of their own: how often a change
//! that is there is found, and one that is not is claimed.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::Side;
use umlauf_gait::base::gait::{Gait, Label};
use umlauf_gait::season::best::best;
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::card_row::Row;
use umlauf_gait::season::coach_agreement;
use umlauf_gait::season::metric::{Direction, Metric};
use umlauf_gait::season::progress::{Course, FEWEST, SessionValue, session_value, trend};
use umlauf_gait::season::tally::Tally;
use umlauf_gait::season::verdict::{self, Compared, Speed, Verdict};
use umlauf_gait::stats::estimate::Estimate;

/// Figures of a trot: usual value, and spread from bout to bout.
const TROT: [(Metric, f64, f64); 7] = [
    (Metric::Tempo, 79.0, 0.9),
    (Metric::Regularity, 2.2, 0.35),
    (Metric::StrideLength, 2.6, 0.05),
    (Metric::Suspension, 35.0, 5.0),
    (Metric::StepAsymmetry, 2.0, 0.6),
    (Metric::HindAsymmetry, 2.5, 0.8),
    (Metric::HindDuty, 44.0, 0.7),
];

struct Horse(ChaCha8Rng);

impl Horse {
    fn new(seed: u64) -> Self {
        Self(ChaCha8Rng::seed_from_u64(seed))
    }

    /// A normal value by Box and Muller's transform.
    fn normal(&mut self) -> f64 {
        let u: f64 = self.0.random_range(f64::MIN_POSITIVE..1.0);
        let v: f64 = self.0.random_range(0.0..1.0);
        (-2.0 * u.ln()).sqrt() * (std::f64::consts::TAU * v).cos()
    }

    /// A bout whose figures lie about the usual ones, moved by what a session has in common.
    fn bout(&mut self, moved: &dyn Fn(Metric) -> f64, speed: Option<f64>) -> BoutSummary {
        let values = TROT
            .iter()
            .map(|(m, value, spread)| {
                let value = value + moved(*m) + spread * self.normal();
                let ci95 = Some((value - 0.5 * spread, value + 0.5 * spread));
                (*m, Estimate { value, sd: None, ci95, n: 14 })
            })
            .collect();
        let label = Label { gait: Gait::Trot, hind_lead: None, fore_lead: None };
        let rein = Some(Side::Left);
        BoutSummary {
            start_s: 0.0,
            end_s: 12.0,
            strides: 15,
            label,
            rein,
            speed,
            session: None,
            values,
        }
    }

    fn session(&mut self, bouts: usize, moved: &dyn Fn(Metric) -> f64) -> Vec<BoutSummary> {
        (0..bouts).map(|_| self.bout(moved, None)).collect()
    }
}

fn refs(of: &[BoutSummary]) -> Vec<&BoutSummary> {
    of.iter().collect()
}

fn compared(a: &[BoutSummary], b: &[BoutSummary]) -> Vec<Compared> {
    let target = |m: Metric| m.own_target(Gait::Trot).or((m == Metric::Tempo).then_some(79.0));
    verdict::compare(&refs(a), &refs(b), target)
}

const SAME: &dyn Fn(Metric) -> f64 = &|_| 0.0;

#[test]
fn two_sessions_of_the_same_horse_are_seldom_told_apart() {
    let pairs = 600;
    for bouts in [3, 5, 8] {
        let (mut headed, mut claims, mut alike) = (0, 0, 0);
        for seed in 0..pairs {
            let mut horse = Horse::new(seed);
            let (a, b) = (horse.session(bouts, SAME), horse.session(bouts, SAME));
            let rows = compared(&a, &b);
            headed += u32::from(rows.iter().any(|c| c.headline));
            for c in &rows {
                claims += u32::from(matches!(
                    c.verdict,
                    Verdict::Better | Verdict::Worse | Verdict::Differs
                ));
                alike += u32::from(c.verdict == Verdict::NoRealDifference);
            }
        }
        // 5 % promised; 600 pairs know a share to 1.8 %.
        let share = |n: u32, of: f64| f64::from(n) / of;
        let headed = share(headed, pairs as f64);
        assert!(headed <= 0.068, "{bouts} bouts: {headed} of pairs headed by nothing");
        let claims = share(claims, pairs as f64 * 7.0);
        assert!(claims <= 0.055, "{bouts} bouts: {claims} of figures claimed");
        // More bouts can also say that nothing has changed.
        let alike = share(alike, pairs as f64 * 7.0);
        assert!(alike > if bouts == 8 { 0.25 } else { 0.02 }, "{bouts} bouts: {alike} alike");
    }
}

#[test]
fn a_change_is_found_and_called_by_its_better_way() {
    // Three spreads up: which way is better differs from figure to figure.
    for (metric, _, spread) in TROT {
        let (mut up, mut down, pairs) = (Vec::new(), Vec::new(), 60);
        for seed in 0..pairs {
            let mut horse = Horse::new(1000 + seed);
            let moved = |m: Metric| if m == metric { 3.0 * spread } else { 0.0 };
            let (a, b) = (horse.session(6, SAME), horse.session(6, &moved));
            let of = |rows: Vec<Compared>| rows.into_iter().find(|c| c.metric == metric).unwrap();
            up.push(of(compared(&a, &b)).verdict);
            down.push(of(compared(&b, &a)).verdict);
        }
        let (there, back) = match metric.direction() {
            Direction::Higher => (Verdict::Better, Verdict::Worse),
            Direction::Lower => (Verdict::Worse, Verdict::Better),
            // From its own target away, and back to it.
            Direction::Target => (Verdict::Worse, Verdict::Better),
            Direction::None => (Verdict::Differs, Verdict::Differs),
        };
        let share =
            |of: &[Verdict], v| of.iter().filter(|f| **f == v).count() as f64 / pairs as f64;
        assert!(share(&up, there) > 0.9, "{metric:?} up: {up:?}");
        assert!(share(&down, back) > 0.9, "{metric:?} down: {down:?}");
    }
}

#[test]
fn the_smallest_change_that_would_have_shown_shows_in_four_of_five() {
    let spread = 0.05;
    let smallest = |seed| {
        let mut horse = Horse::new(seed);
        let (a, b) = (horse.session(6, SAME), horse.session(6, SAME));
        compared(&a, &b).into_iter().find(|c| c.metric == Metric::StrideLength).unwrap().smallest
    };
    // What a usual pair would have shown: the middle of many.
    let mut all: Vec<f64> = (0..201).map(smallest).collect();
    all.sort_by(f64::total_cmp);
    let change = all[100];
    assert!(change > spread && change < 4.0 * spread, "{change}");
    let shown = (0..400)
        .filter(|seed| {
            let mut horse = Horse::new(5000 + seed);
            let moved = |m: Metric| if m == Metric::StrideLength { change } else { 0.0 };
            let (a, b) = (horse.session(6, SAME), horse.session(6, &moved));
            let rows = compared(&a, &b);
            let of = rows.iter().find(|c| c.metric == Metric::StrideLength).unwrap();
            of.difference.ci95.0 > 0.0
        })
        .count();
    let share = shown as f64 / 400.0;
    assert!((0.72..0.88).contains(&share), "{share}");
}

#[test]
fn what_only_speed_did_is_not_put_down_to_the_horse() {
    // Tempo rises by 6 strides/min for each m/s; the second session was ridden faster.
    let ride = |horse: &mut Horse, speed: f64, lazier: f64| -> Vec<BoutSummary> {
        (0..6)
            .map(|_| {
                let v = speed + 0.12 * horse.normal();
                let moved = move |m: Metric| {
                    if m == Metric::Tempo { 6.0 * (v - 3.5) - lazier } else { 0.0 }
                };
                horse.bout(&moved, Some(v))
            })
            .collect()
    };
    let of = |a: &[BoutSummary], b: &[BoutSummary]| {
        compared(a, b).into_iter().find(|c| c.metric == Metric::Tempo).unwrap()
    };
    let (mut claimed, mut found, pairs) = (0, 0, 200);
    for seed in 0..pairs {
        let mut horse = Horse::new(seed);
        let (a, b) = (ride(&mut horse, 3.4, 0.0), ride(&mut horse, 3.6, 0.0));
        let same = of(&a, &b);
        assert!(matches!(same.speed, Speed::TakenOut(_)), "{:?}", same.speed);
        claimed += u32::from(same.difference.ci95.0 > 0.0 || same.difference.ci95.1 < 0.0);
        let c = ride(&mut horse, 3.6, 4.0);
        found += u32::from(of(&a, &c).difference.ci95.1 < 0.0);
    }
    assert!(f64::from(claimed) / pairs as f64 <= 0.08, "{claimed} of {pairs}");
    assert!(f64::from(found) / pairs as f64 >= 0.85, "{found} of {pairs}");
    // Too few bouts to take it out: no verdict, and it says that the speeds differ.
    let mut horse = Horse::new(9);
    let (a, b) = (ride(&mut horse, 3.0, 0.0), ride(&mut horse, 4.0, 0.0));
    let few = of(&a[..2], &b[..2]);
    assert!(matches!(few.speed, Speed::Differs(d) if d > 0.2), "{:?}", few.speed);
    assert_eq!(few.verdict, Verdict::CannotTell);
    assert!(few.provisional && !same_speed_provisional(&a, &b));
}

fn same_speed_provisional(a: &[BoutSummary], b: &[BoutSummary]) -> bool {
    compared(a, b).iter().any(|c| c.provisional)
}

#[test]
fn one_bout_a_side_rests_on_its_own_error() {
    let mut horse = Horse::new(3);
    let (a, b) = (horse.session(1, SAME), horse.session(1, SAME));
    for c in compared(&a, &b) {
        assert!(c.provisional);
        let half = |e: Estimate| e.half_width().unwrap();
        let own = half(a[0].value(c.metric).unwrap()).hypot(half(b[0].value(c.metric).unwrap()));
        let found = (c.difference.ci95.1 - c.difference.ci95.0) / 2.0;
        assert!((found / own - 1.0).abs() < 0.1, "{:?}: {found} {own}", c.metric);
    }
    // A figure without any error cannot be compared, and one that a side lacks is left out.
    let mut bare = a[0].clone();
    bare.values = vec![(Metric::Unevenness, Estimate { value: 1.0, sd: None, ci95: None, n: 9 })];
    assert!(compared(&[bare.clone()], &[bare.clone()]).is_empty());
    assert!(compared(&a, &[bare]).is_empty());
}

/// A season of sessions a week apart: values about a line, each known as well as its bouts.
fn season(seed: u64, weeks: i64, from: f64, a_month: f64, spread: f64) -> Vec<SessionValue> {
    let mut horse = Horse::new(seed);
    (0..weeks)
        .map(|week| {
            let level = from + a_month * (7 * week) as f64 / 30.0;
            let bouts: Vec<Estimate> = (0..4)
                .map(|_| {
                    let value = level + spread * horse.normal();
                    Estimate { value, sd: None, ci95: Some((value - 1.0, value + 1.0)), n: 12 }
                })
                .collect();
            SessionValue { day: 7 * week, value: session_value(&bouts).unwrap() }
        })
        .collect()
}

#[test]
fn a_season_without_a_trend_is_seldom_given_one() {
    let air = Row::Figure(Metric::Suspension);
    let seasons = 400;
    for weeks in [4, 8, 16, 30] {
        let courses: Vec<Course> = (0..seasons)
            .filter_map(|seed| trend(air, &season(seed, weeks, 35.0, 0.0, 6.0), None))
            .map(|t| t.course)
            .collect();
        let told = courses.iter().filter(|c| matches!(c, Course::Better | Course::Worse)).count();
        let share = told as f64 / seasons as f64;
        assert!(share <= 0.07, "{weeks} weeks: {share}");
    }
    let short = season(1, 3, 35.0, 9.0, 1.0);
    assert!(short.len() < FEWEST && trend(air, &short, None).is_none());
}

#[test]
fn a_trend_is_found_by_its_slope_and_its_better_way() {
    let cases = [
        (Row::Figure(Metric::Suspension), 30.0, 4.0, Course::Better),
        (Row::Figure(Metric::Suspension), 60.0, -4.0, Course::Worse),
        (Row::Figure(Metric::Regularity), 5.0, -0.6, Course::Better),
        (Row::Figure(Metric::StrideLength), 2.4, 0.12, Course::Changes),
        (Row::Tally(Tally::Answer), 3.0, -0.4, Course::Better),
    ];
    for (row, from, a_month, course) in cases {
        let spread = f64::abs(a_month);
        let mut found = 0;
        for seed in 0..50 {
            let t = trend(row, &season(seed, 20, from, a_month, spread), None).unwrap();
            assert_eq!(t.days, 133);
            found += u32::from(
                t.course == course && t.per_month.lo <= a_month && a_month <= t.per_month.hi,
            );
        }
        // The slope's interval holds it in 95 of 100; the course is never in doubt.
        assert!(found >= 43, "{row:?} {a_month}: {found} of 50");
    }
    // A tempo on its way to the target is better, one on its way past it is not.
    let tempo = Row::Figure(Metric::Tempo);
    let towards = trend(tempo, &season(1, 20, 74.0, 1.0, 0.3), Some(79.0)).unwrap();
    let away = trend(tempo, &season(1, 20, 79.0, 1.0, 0.3), Some(79.0)).unwrap();
    assert_eq!((towards.course, away.course), (Course::Better, Course::Worse));
    let steady = trend(tempo, &season(1, 20, 79.0, 0.0, 0.3), Some(79.0)).unwrap();
    assert_eq!(steady.course, Course::Steady);
}

#[test]
fn one_bad_day_bends_no_trend() {
    let air = Row::Figure(Metric::Suspension);
    let mut values = season(4, 20, 30.0, 4.0, 1.0);
    let before = trend(air, &values, None).unwrap();
    values[17].value = Estimate { value: -80.0, ..values[17].value };
    let after = trend(air, &values, None).unwrap();
    assert_eq!(after.course, Course::Better);
    assert!((after.per_month.value - before.per_month.value).abs() < 0.6, "{after:?} {before:?}");
}

#[test]
fn the_coach_and_the_curve_are_set_against_each_other_from_three_pairs_on() {
    assert!(coach_agreement::agreement(&[(7.0, 6.0), (7.0, 6.0)]).is_none());
    let mut horse = Horse::new(8);
    let held = (0..400)
        .filter(|_| {
            let pairs: Vec<(f64, f64)> = (0..6)
                .map(|_| {
                    let curve = 7.0 + horse.normal();
                    (curve + 0.8 + 0.5 * horse.normal(), curve)
                })
                .collect();
            let e = coach_agreement::agreement(&pairs).unwrap();
            e.ci95.is_some_and(|(lo, hi)| lo <= 0.8 && 0.8 <= hi)
        })
        .count();
    assert!((370..=392).contains(&held), "{held} of 400");
}

#[test]
fn shares_of_deeds_never_leave_their_scale_and_narrow_as_they_grow() {
    for tally in [Tally::Lead, Tally::Changes, Tally::Direct] {
        assert!(tally.of(&[]).is_none());
        let width = |n: usize, so: usize| {
            let values: Vec<f64> = (0..n).map(|k| f64::from(u8::from(k < so))).collect();
            let e = tally.of(&values).unwrap();
            assert!((e.value - 100.0 * so as f64 / n as f64).abs() < 1e-9);
            let (lo, hi) = e.ci95.unwrap();
            assert!(lo >= -1e-9 && hi <= 100.0 + 1e-9 && lo <= e.value && e.value <= hi, "{e:?}");
            hi - lo
        };
        // Even three of three are no promise.
        assert!(width(3, 3) > 40.0);
        assert!(width(40, 20) < width(10, 5) && width(400, 200) < 0.4 * width(40, 20));
    }
    let answer = Tally::Answer.of(&[1.0, 2.0, 1.5]).unwrap();
    // SciPy, t.ppf(0.975, 2) = 4.302653: half width 4.302653 · 0.5/√3.
    assert!((answer.half_width().unwrap() - 4.302_653 * 0.5 / 3f64.sqrt()).abs() < 1e-5);
    assert!(Tally::Answer.of(&[1.0]).unwrap().ci95.is_none());
}

#[test]
fn two_days_differ_by_more_than_two_halves_of_one() {
    // The same figures, once as two sessions and once as halves of the same two.
    let (mut apart, mut within) = (0, 0);
    for seed in 0..200 {
        let mut horse = Horse::new(9000 + seed);
        // A day has half a standard deviation of its bouts in common.
        let day = |m: Metric, by: f64| by * TROT.iter().find(|t| t.0 == m).unwrap().2;
        let (one, other) = (0.4 * horse.normal(), 0.4 * horse.normal());
        let mut a = horse.session(5, &|m| day(m, one));
        let mut b = horse.session(5, &|m| day(m, other));
        let told = |a: &[BoutSummary], b: &[BoutSummary]| {
            usize::from(compared(a, b).iter().any(|c| c.headline))
        };
        let number = |side: &mut [BoutSummary], of: &dyn Fn(usize) -> i64| {
            side.iter_mut().enumerate().for_each(|(k, bout)| bout.session = Some(of(k)));
        };
        number(&mut a, &|k| (k % 2) as i64);
        number(&mut b, &|k| (k % 2) as i64);
        within += told(&a, &b);
        let widths = |a: &[BoutSummary], b: &[BoutSummary]| -> Vec<f64> {
            compared(a, b).iter().map(|c| c.difference.ci95.1 - c.difference.ci95.0).collect()
        };
        let same = widths(&a, &b);
        number(&mut a, &|_| 1);
        number(&mut b, &|_| 2);
        apart += told(&a, &b);
        assert!(widths(&a, &b).iter().zip(&same).all(|(d, s)| d >= s));
    }
    assert!(apart < within, "{apart} {within}");
}

#[test]
fn the_best_session_is_as_good_as_it_is_said_to_be() {
    let seasons = 1000;
    let mut horse = Horse::new(20_261_127);
    let mut all = 0.0;
    for (spread, climb) in [(0.0, 0.0), (0.1, 0.0), (0.2, 0.0), (0.4, 0.0), (0.8, 0.0), (0.1, 1.5)]
    {
        let (mut raw, mut corrected, mut held) = (0.0, 0.0, 0);
        for _ in 0..seasons {
            let truth = |k: i64| 4.0 - climb * k as f64 / 11.0 + spread * horse.normal();
            let truths: Vec<f64> = (0..12).map(truth).collect();
            let mut session = |k: usize| {
                let mut bout = |_| {
                    let value = truths[k] + 0.5 * horse.normal();
                    Estimate { value, sd: None, ci95: Some((value - 1.0, value + 1.0)), n: 14 }
                };
                let value = session_value(&[bout(0), bout(1), bout(2)]).unwrap();
                SessionValue { day: 7 * k as i64, value }
            };
            let season: Vec<SessionValue> = (0..12).map(&mut session).collect();
            let best = best(Row::Figure(Metric::Regularity), &season, None).unwrap();
            let measured = |k: &usize| season[*k].value.value;
            let least = (0..12).min_by(|a, b| measured(a).total_cmp(&measured(b))).unwrap();
            raw += (measured(&least) - truths[least]) / f64::from(seasons);
            let truth = truths[best.place];
            corrected += (best.value.value - truth) / f64::from(seasons);
            let (lo, hi) = best.value.ci95.unwrap();
            held += i32::from(lo <= truth && truth <= hi);
        }
        // What was measured flatters, by up to the 1.6 errors of a session that the least of twelve lies
        // below their middle.
        assert!(raw < -0.12, "{spread} {climb}: {raw}");
        assert!(corrected.abs() < 0.3 * raw.abs() + 0.02, "{spread} {climb}: {corrected} of {raw}");
        let share = f64::from(held) / f64::from(seasons);
        assert!(share >= 0.90, "{spread} {climb}: {share}");
        all += share / 6.0;
    }
    assert!(all >= 0.93, "{all}");
}
