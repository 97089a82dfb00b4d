//! The rules of a horse's record: cards, sides, movements, work and rest, coming back.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use proptest::prelude::*;
use umlauf_gait::base::gait::{Gait, Label};
use umlauf_gait::season::best::best;
use umlauf_gait::season::body_size::{COMMON_HEIGHT_M, at_common_height};
use umlauf_gait::season::bout_summary::BoutSummary;
use umlauf_gait::season::card_row::Row;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::progress::{Course, SessionValue, gap_over, gap_trend, side_gap};
use umlauf_gait::season::returning::returning;
use umlauf_gait::season::tally::Tally;
use umlauf_gait::season::verdict::{self, Overall, Verdict};
use umlauf_gait::season::workload::{LONGEST_SPELL_S, workload};
use umlauf_gait::season::{card, movement_holds};
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::stats::two_samples;
use umlauf_gait::{Side, words};

fn figure(value: f64) -> Estimate {
    Estimate { value, sd: None, ci95: Some((value - 0.1, value + 0.1)), n: 14 }
}

fn bout(gait: Gait, start_s: f64, end_s: f64, values: &[(Metric, f64)]) -> BoutSummary {
    BoutSummary {
        start_s,
        end_s,
        strides: ((end_s - start_s) / 0.75) as usize,
        label: Label { gait, hind_lead: None, fore_lead: None },
        rein: Some(Side::Left),
        speed: Some(3.5),
        session: None,
        values: values.iter().map(|(m, v)| (*m, figure(*v))).collect(),
    }
}

/// Bouts of a trot at these tempos and regularities.
fn trots(tempos: &[f64], regularity: f64) -> Vec<BoutSummary> {
    let one = |t: &f64| {
        let values = [(Metric::Tempo, *t), (Metric::Regularity, regularity + 0.01 * (t - 79.0))];
        bout(Gait::Trot, 0.0, 12.0, &values)
    };
    tempos.iter().map(one).collect()
}

fn refs(of: &[BoutSummary]) -> Vec<&BoutSummary> {
    of.iter().collect()
}

#[test]
fn a_gap_between_the_reins_has_welchs_interval() {
    let (left, right) = ([2.4, 2.9, 2.2, 2.6], [1.5, 1.8, 1.6]);
    let all = |of: &[f64]| of.iter().map(|v| figure(*v)).collect::<Vec<_>>();
    let gap = side_gap(&all(&left), &all(&right)).unwrap();
    let welch = two_samples::welch(&left, &right).unwrap();
    assert!((gap.value - welch.value).abs() < 1e-12);
    assert_eq!(gap.ci95, Some(welch.ci95));
    // One bout a side: the bouts' own errors, put together as independent ones are.
    let one = side_gap(&all(&left[..1]), &all(&right[..1])).unwrap();
    let half = one.half_width().unwrap();
    assert!((half - 0.1 * 2f64.sqrt()).abs() < 1e-12, "{half}");
    assert_eq!(side_gap(&[], &all(&right)), None);
}

#[test]
fn a_gap_closes_or_grows_whichever_side_is_the_longer() {
    let row = Row::Figure(Metric::StrideLength);
    let season = |from: f64, to: f64| -> Vec<SessionValue> {
        (0..10i64)
            .map(|k| {
                let share = k as f64 / 9.0;
                let wobble = if k % 2 == 0 { 0.004 } else { -0.004 };
                SessionValue { day: 7 * k, value: figure(from + (to - from) * share + wobble) }
            })
            .collect()
    };
    let course = |from, to| gap_trend(row, &season(from, to), 2.6).unwrap().course;
    assert_eq!(course(0.30, 0.02), Course::Better);
    assert_eq!(course(-0.30, -0.02), Course::Better);
    assert_eq!(course(-0.02, -0.30), Course::Worse);
    assert_eq!(course(0.05, 0.05), Course::Steady);
    assert!(gap_trend(row, &season(0.3, 0.0)[..3], 2.6).is_none());
    let says = |from, to| {
        let all = season(from, to);
        let trend = gap_trend(row, &all, 2.6);
        words::record::gap(row, gap_over(&all).unwrap(), trend.as_ref())
    };
    let closes = says(-0.30, -0.02);
    assert!(closes.starts_with("right 0.16 m less than left (0."), "{closes}");
    assert!(closes.ends_with("over 10 sessions; it closes"), "{closes}");
    assert_eq!(says(-0.02, 0.02), "no gap beyond the error");
}

#[test]
fn a_session_known_badly_is_no_best() {
    let row = Row::Figure(Metric::StepAsymmetry);
    let at = |day, value, half| SessionValue {
        day,
        value: Estimate { value, sd: None, ci95: Some((value - half, value + half)), n: 3 },
    };
    let season = [at(0, 1.4, 0.5), at(7, 0.1, 4.6), at(14, 0.9, 0.6), at(21, 1.1, 0.4)];
    let found = best(row, &season, Some(0.0)).unwrap();
    assert_eq!((found.place, found.of), (2, 4));
    assert_eq!(best(Row::Figure(Metric::StrideLength), &season, None), None);
    let tempo = Row::Figure(Metric::Tempo);
    assert_eq!(best(tempo, &season, Some(1.38)).unwrap().place, 0);
    // One session is not the best of any.
    assert_eq!(best(row, &season[..1], Some(0.0)), None);
}

#[test]
fn what_a_movement_may_cost() {
    let straight = trots(&[79.2, 79.6, 78.9, 79.4], 2.0);
    let says = |of: &[f64], regularity: f64| {
        let movement = trots(of, regularity);
        words::record::movement_holds(
            &movement_holds::movement_holds(&refs(&straight), &refs(&movement)).unwrap(),
        )
    };
    assert_eq!(says(&[78.6, 79.0, 78.8], 2.1), "tempo, rhythm and air hold: enough for it");
    let lost = says(&[74.1, 74.6, 74.9], 2.1);
    assert!(lost.starts_with("tempo 6.0 % less than straight: not enough"), "{lost}");
    // Hurrying is no better than losing it.
    assert!(says(&[83.9, 84.4, 84.1], 2.1).starts_with("tempo 6.1 % more"));
    let uneven = says(&[79.0, 79.2, 79.1], 4.6);
    assert!(uneven.starts_with("rhythm 2.6 % more than straight: not enough"), "{uneven}");
    // A steadier rhythm is no loss.
    assert_eq!(says(&[79.0, 79.2, 79.1], 0.8), "tempo, rhythm and air hold: enough for it");
    assert_eq!(says(&[70.0, 84.0], 2.0), "cannot tell yet whether the gait holds");
    // Nothing that is watched, nothing to say.
    let bare = bout(Gait::Trot, 0.0, 9.0, &[(Metric::StrideLength, 2.6)]);
    assert_eq!(movement_holds::movement_holds(&[&bare, &bare], &[&bare, &bare]), None);
    assert_eq!(movement_holds::in_a_row(&[0.1, 4.0, 3.5, 3.2], 3.0), 3);
    assert_eq!(movement_holds::in_a_row(&[4.0, 4.0, 1.0], 3.0), 0);
}

#[test]
fn speed_lost_in_a_movement_is_part_of_what_it_costs() {
    // Tempo and speed fall together; taken out by speed there would be nothing left.
    let at = |tempo: f64, speed: f64| BoutSummary {
        speed: Some(speed),
        ..bout(Gait::Trot, 0.0, 12.0, &[(Metric::Tempo, tempo)])
    };
    let straight = [at(80.0, 3.60), at(80.4, 3.63), at(79.7, 3.57)];
    let inside = [at(75.0, 3.12), at(75.5, 3.17), at(74.7, 3.09)];
    let (a, b) = (refs(&straight), refs(&inside));
    let as_ridden = verdict::compare_as_ridden(&a, &b, |_| None);
    assert!((as_ridden[0].difference.value + 4.97).abs() < 0.05);
    assert!(as_ridden[0].difference.ci95.1 < 0.0);
    let at_one_speed = verdict::compare(&a, &b, |_| None);
    assert!(at_one_speed[0].difference.value.abs() < 1.5, "{:?}", at_one_speed[0].difference);
}

#[test]
fn two_horses_are_not_ranked() {
    let (steady, unsteady) = (trots(&[79.0, 79.4, 79.1], 1.6), trots(&[79.3, 79.1, 79.0], 4.0));
    let mut rows = verdict::compare(&refs(&unsteady), &refs(&steady), |_| None);
    assert_eq!(verdict::overall(&rows), Overall::Better);
    verdict::without_rank(&mut rows);
    assert_eq!(verdict::overall(&rows), Overall::Differs);
    assert!(rows.iter().all(|c| !matches!(c.verdict, Verdict::Better | Verdict::Worse)));
}

proptest! {
    /// What dynamic similarity keeps: the Froude number v²/(g·h), stride length in heights, and
    /// shares.
    #[test]
    fn at_a_common_height_froude_number_and_relative_length_stay(
        h in 0.9f64..1.9, v in 0.8f64..12.0, l in 0.8f64..6.5, t in 40.0f64..130.0,
    ) {
        let values = [(Metric::Tempo, t), (Metric::StrideLength, l), (Metric::HindDuty, 42.0)];
        let own = BoutSummary { speed: Some(v), ..bout(Gait::Trot, 0.0, 9.0, &values) };
        let scaled = at_common_height(&own, h);
        let of = |d: &BoutSummary, m| d.value(m).unwrap().value;
        let froude = |d: &BoutSummary, h: f64| d.speed.unwrap().powi(2) / (9.81 * h);
        let near = |a: f64, b: f64| (a / b - 1.0).abs() < 1e-9;
        prop_assert!(near(froude(&scaled, COMMON_HEIGHT_M), froude(&own, h)));
        prop_assert!(near(
            of(&scaled, Metric::StrideLength) / COMMON_HEIGHT_M,
            of(&own, Metric::StrideLength) / h
        ));
        // Tempo in the horse's own time, √(h/g).
        prop_assert!(near(
            of(&scaled, Metric::Tempo) * COMMON_HEIGHT_M.sqrt(),
            of(&own, Metric::Tempo) * h.sqrt()
        ));
        prop_assert_eq!(of(&scaled, Metric::HindDuty), 42.0);
    }

    /// A curve never marks the worse figure higher, and stays on the scale.
    #[test]
    fn marks_follow_their_figures(x in -80.0f64..160.0, more in 0.0f64..60.0) {
        for row in Metric::ALL.into_iter().map(Row::Figure).chain(Tally::ALL.map(Row::Tally)) {
            for gait in [Gait::Trot, Gait::Canter, Gait::Walk] {
                let Some((_, from_target)) = card::curve(row, gait) else { continue };
                let target = from_target.then_some(0.0f64);
                if from_target && row == Row::Figure(Metric::Tempo) {
                    continue;
                }
                let mark = |v: f64| card::mark(row, gait, v, target).unwrap();
                let (a, b) = (mark(x.max(0.0)), mark(x.max(0.0) + more));
                prop_assert!((0.0..=10.0).contains(&a) && (0.0..=10.0).contains(&b));
                let rising = row.direction() == umlauf_gait::season::metric::Direction::Higher;
                prop_assert!(if rising { a <= b } else { a >= b }, "{row:?} {a} {b}");
            }
        }
    }
}

#[test]
fn progressive_transitions_cap_at_six_once_direct_ones_are_expected() {
    let row = Row::Tally(Tally::Direct);
    assert_eq!(card::mark(row, Gait::Canter, 0.0, None), Some(6.0));
    assert_eq!(card::mark(row, Gait::Canter, 100.0, None), Some(10.0));
    assert!(Tally::Direct.belongs_to(Gait::Canter, Some(2)));
    // At the first degree progressive ones are right: no row that would mark them down.
    assert!(!Tally::Direct.belongs_to(Gait::Canter, Some(1)));
    assert!(!Tally::Direct.belongs_to(Gait::Canter, None));
    assert!(!Tally::Changes.belongs_to(Gait::Trot, Some(4)));
    for row in Metric::ALL.into_iter().map(Row::Figure).chain(Tally::ALL.map(Row::Tally)) {
        assert_eq!(Row::named(row.word()), Some(row));
    }
}

#[test]
fn coming_back_grows_by_an_eighth_a_week() {
    let days = [0, 7, 14, 63, 66, 80, 94];
    // 49 days off; on the first day back half of the former work.
    let on = |today: i64| {
        let ridden: Vec<i64> = days.iter().copied().filter(|d| *d <= today).collect();
        returning(&ridden, today)
    };
    let first = on(63).unwrap();
    assert_eq!((first.days_off, first.days_back), (49, 0));
    assert!((first.share - 0.5).abs() < 1e-12 && first.days_to_go == 42);
    // 0.5 · 1.125³ after three weeks; the whole after six (0.5 · 1.125⁶ = 1.01).
    assert!((on(84).unwrap().share - 0.711_914).abs() < 1e-5);
    assert!(on(63 + 41).is_some() && on(63 + 42).is_none());
    // Not ridden for four weeks: the pause counts before anyone rides again.
    let off = returning(&[0, 3], 31).unwrap();
    assert_eq!((off.days_off, off.days_back), (28, 0));
    assert!(words::returning::returning(&off).starts_with("28 days off: ride about 50 %"));
    assert!(returning(&[0, 3], 30).is_none() && returning(&[], 30).is_none());
    let says = words::returning::returning(&on(84).unwrap());
    assert!(says.contains("71 %") && says.contains("vet decides first"), "{says}");
}

#[test]
fn a_spell_ends_with_a_walk_or_with_nobody_knowing() {
    let ride = [
        bout(Gait::Walk, 0.0, 60.0, &[]),
        bout(Gait::Trot, 60.0, 200.0, &[]),
        bout(Gait::Canter, 210.0, 400.0, &[]),
        bout(Gait::Walk, 400.0, 460.0, &[]),
        bout(Gait::Trot, 460.0, 500.0, &[]),
        bout(Gait::Trot, 540.0, 700.0, &[]),
    ];
    let load = workload([refs(&ride)]);
    // 60 s to 400 s, the 10 s between that nobody marked counted; the later trots are 40 s apart.
    assert!((load.longest_spell_s - 340.0).abs() < 1e-9 && load.longest_spell_s < LONGEST_SPELL_S);
    let seconds: Vec<(Gait, f64)> = load.gaits.iter().map(|g| (g.gait, g.seconds)).collect();
    assert_eq!(seconds, [(Gait::Walk, 120.0), (Gait::Trot, 340.0), (Gait::Canter, 190.0)]);
    // What lies in another clip is another spell.
    let apart = workload([refs(&ride[..2]), refs(&ride[2..3])]);
    assert!((apart.longest_spell_s - 190.0).abs() < 1e-9);
    assert!(workload([]).gaits.is_empty());
}

#[test]
fn words_for_numbers() {
    let all: Vec<String> = [1, 8, 12, 13, 21, 22, 23, 111].map(words::numbers::ordinal).to_vec();
    assert_eq!(all, ["first", "eighth", "twelfth", "13th", "21st", "22nd", "23rd", "111th"]);
    assert_eq!(words::returning::days_ago(0), "today");
    assert_eq!(words::returning::days_ago(1), "yesterday");
    assert_eq!(words::returning::days_ago(9), "9 days ago");
    let says = words::record::loses_tempo("left", "shoulder-in", 3);
    assert_eq!(says, "The left rein loses the tempo in shoulder-in, three sessions running");
}
