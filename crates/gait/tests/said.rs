//! What the coach writes beside the footfalls: names that are read back as they were written, tables of
//! any content that never break, the coach's word on stretches, and where marks look wrong.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride, TROT, WALK};
use proptest::prelude::*;
use umlauf_gait::Side::{Left, Right};
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::marking::doubtful_marks::{Doubt, MOST};
use umlauf_gait::marking::next_stride::next_stride;
use umlauf_gait::marking::scatter;
use umlauf_gait::marks::aid::Aid;
use umlauf_gait::marks::captions::webvtt;
use umlauf_gait::marks::coach_word::{self, CoachWord};
use umlauf_gait::marks::marks_csv;
use umlauf_gait::marks::movement::{LateralMovement, Movement, MovementKind};
use umlauf_gait::marks::ride_mark::MarkKind;
use umlauf_gait::{Footfall, Limb, Options, analyse};

proptest! {
    #![proptest_config(ProptestConfig { cases: 400, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_bytes_are_a_marks_table_or_are_refused(bytes in prop::collection::vec(any::<u8>(), 0..300)) {
        if let Err(refused) = marks_csv::read(&bytes) {
            let says = refused.to_string();
            prop_assert!(says.len() > 10 && says.chars().count() < 300, "{}", says);
        }
    }

    #[test]
    fn any_rows_under_the_right_head_are_read_or_refused_by_their_line(
        rows in prop::collection::vec(("[ -~]{0,12}", "[a-z-]{0,12}", "[ -~]{0,20}"), 1..6),
    ) {
        let cell = |text: &str| format!("\"{}\"", text.replace('"', "\"\""));
        let table: String =
            rows.iter().map(|(t, k, d)| format!("{},{},{}\n", cell(t), cell(k), cell(d))).collect();
        match marks_csv::read(format!("time_s,kind,detail\n{table}").as_bytes()) {
            Ok(marks) => {
                prop_assert!(marks.len() <= rows.len());
                prop_assert!(marks.iter().all(|m| m.time.is_finite()));
            }
            Err(refused) => {
                let says = refused.to_string();
                let line: usize = says
                    .split("line ")
                    .nth(1)
                    .and_then(|rest| rest.split(|c: char| !c.is_ascii_digit()).next()?.parse().ok())
                    .unwrap();
                prop_assert!((2..=rows.len() + 1).contains(&line), "{}", says);
            }
        }
    }

    #[test]
    fn a_movements_name_is_read_back_as_it_was_written(
        every in 1..=8usize, count in prop::option::of(0..40usize), a in 1..=20usize, b in 1..=20usize,
        circle in 6..=30u8, other in "[a-z][a-z0-9-]{0,14}", left in prop::bool::ANY,
    ) {
        let side = if left { Left } else { Right };
        for kind in [
            MovementKind::Tempi { every, count },
            MovementKind::Drill(a, b),
            MovementKind::Circle(circle),
            MovementKind::named(&other),
        ] {
            prop_assert_eq!(&MovementKind::named(&kind.name()), &kind);
            let with_side = Movement::named(&format!("{} {}", kind.name(), side.word()));
            prop_assert_eq!(&with_side, &Movement { kind: kind.clone(), side: Some(side) });
            prop_assert_eq!(Movement::named(&kind.name()).side, None);
        }
        prop_assert_eq!(Aid::named(&other).name(), other);
    }

    #[test]
    fn captions_run_in_order_and_each_ends_after_it_begins(
        times in prop::collection::vec((0.0..9000.0f64, prop::option::of(0.0..2.0f64)), 0..12),
        slower in prop::sample::select(vec![1.0, 4.0, 8.0]),
    ) {
        let marks: Vec<Footfall> = times
            .iter()
            .zip(Limb::ALL.into_iter().cycle())
            .map(|((on, stance), limb)| Footfall {
                off: stance.map(|s| Seconds(on + s)),
                ..Footfall::new(limb, Seconds(*on))
            })
            .collect();
        let text = webvtt(&marks, |t| t * slower);
        let stamp = |s: &str| -> f64 {
            let parts: Vec<f64> = s.split(':').map(|p| p.parse().unwrap()).collect();
            3600.0 * parts[0] + 60.0 * parts[1] + parts[2]
        };
        let mut cues: Vec<(f64, f64)> = Vec::new();
        for line in text.lines().filter(|l| l.contains(" --> ")) {
            let words: Vec<&str> = line.split(' ').collect();
            cues.push((stamp(words[0]), stamp(words[2])));
        }
        prop_assert_eq!(cues.len(), marks.len());
        prop_assert!(cues.windows(2).all(|w| w[0].0 <= w[1].0));
        prop_assert!(cues.iter().all(|(a, b)| a < b));
        let mut wanted: Vec<f64> = times.iter().map(|(on, _)| on * slower).collect();
        wanted.sort_by(f64::total_cmp);
        for ((a, _), w) in cues.iter().zip(wanted) {
            prop_assert!((a - w).abs() < 0.000_51, "{} {}", a, w);
        }
    }
}

#[test]
fn plans_that_cannot_be_ridden_are_kept_as_words() {
    for name in [
        "tempi-0",
        "tempi-9",
        "tempi-4x",
        "drill-0x2",
        "drill-2x21",
        "drill-2",
        "circle-5",
        "circle-31",
        "circle-",
    ] {
        assert_eq!(MovementKind::named(name), MovementKind::Other(name.into()), "{name}");
    }
    for kind in MovementKind::offered() {
        assert!(!matches!(kind, MovementKind::Other(_)));
        assert!(!kind.is_exercise() || kind.lateral().is_none(), "{kind:?}");
    }
    assert_eq!(MovementKind::named("travers").lateral(), Some(LateralMovement::Travers));
    for aid in [
        "walk",
        "trot",
        "canter",
        "canter-left",
        "canter-right",
        "halt",
        "change",
        "half-halt",
        "leg-RF",
    ] {
        assert!(!matches!(Aid::named(aid), Aid::Other(_)), "{aid}");
        assert_eq!(Aid::named(aid).name(), aid);
    }
    assert_eq!(Aid::named("leg-XX"), Aid::Other("leg-XX".into()));
}

#[test]
fn long_words_are_cut_and_times_out_of_reach_refused() {
    let table = |row: &str| marks_csv::read(format!("time_s,kind,detail\n{row}\n").as_bytes());
    let long = "w".repeat(5000);
    let MarkKind::Note(kept) = &table(&format!("1,note,{long}")).unwrap()[0].kind else { panic!() };
    assert_eq!(kept.len(), 200);
    let MarkKind::Letter(letter) = &table("1,letter,ABCDEFGHIJ").unwrap()[0].kind else { panic!() };
    assert_eq!(letter, "ABCDEFGH");
    for time in ["604801", "-604801", "NaN", "inf", "1e99", "1,5", ""] {
        assert!(table(&format!("\"{time}\",aid,walk")).is_err(), "{time}");
    }
    assert_eq!(table("-3.25,aid,walk").unwrap()[0].time, -3.25);
}

#[test]
fn the_latest_word_on_a_moment_stands_for_what_it_says() {
    let word = |from_s, to_s, gait, rein| CoachWord { from_s, to_s, gait, rein, lead: None };
    let said = [
        word(0.0, 10.0, Some(Gait::Walk), Some(Left)),
        word(4.0, 8.0, None, Some(Right)),
        word(6.0, 7.0, Some(Gait::FlatWalk), None),
    ];
    let gait = |t| coach_word::at(&said, t, |w| w.gait);
    let rein = |t| coach_word::at(&said, t, |w| w.rein);
    assert_eq!(
        [gait(1.0), gait(5.0), gait(6.5)],
        [Some(Gait::Walk), Some(Gait::Walk), Some(Gait::FlatWalk)]
    );
    assert_eq!([rein(1.0), rein(5.0), rein(6.5), rein(8.0)], [Left, Right, Right, Left].map(Some));
    // The end of a stretch is no part of it.
    assert_eq!((gait(10.0), rein(-0.1)), (None, None));
}

fn read(marks: &[Footfall]) -> umlauf_gait::Analysis {
    analyse(marks, &Options { frame_rate: FrameRate::new(120.0).ok(), ..Options::default() })
}

#[test]
fn every_mark_left_out_is_asked_for_where_it_should_stand() {
    for (ride, t) in [
        (Ride::default().walk(10), WALK),
        (Ride::default().trot(10), TROT),
        (Ride::default().canter(Left, 10), CANTER),
    ] {
        assert!(read(&ride.marks).doubtful.is_empty());
        for k in 8..ride.marks.len() - 8 {
            let mut marks = ride.marks.clone();
            let gone = marks.remove(k);
            let doubtful = read(&marks).doubtful;
            let found = doubtful.iter().filter(|d| d.what == Doubt::Missing(gone.limb));
            let near = found.filter(|d| (d.from_s - gone.on.0).abs() < 0.05 * t).count();
            assert_eq!((near, doubtful.len()), (1, 1), "mark {k}: {doubtful:?}");
        }
    }
}

#[test]
fn a_mark_far_from_its_place_is_pointed_at_and_a_small_slip_is_not() {
    let ride = Ride::default().trot(12);
    for (share, asked) in [(0.04, false), (0.10, false), (0.20, true), (0.30, true)] {
        let mut marks = ride.marks.clone();
        // A fore in the sixth stride: hinds would move the stride itself.
        let k = marks.iter().position(|m| m.limb == Limb::RF && m.on.0 > 5.0 * TROT).unwrap();
        marks[k].on = Seconds(marks[k].on.0 + share * TROT);
        marks[k].off = None;
        let at = marks[k].on.0;
        let doubtful = read(&marks).doubtful;
        let found = doubtful
            .iter()
            .any(|d| d.what == Doubt::OutOfPlace(Limb::RF) && (d.from_s - at).abs() < 1e-9);
        assert_eq!(found, asked, "{share}: {doubtful:?}");
    }
    // So early that it stands in the stride before: missed where it is due.
    let mut early = ride.marks.clone();
    let k = early.iter().position(|m| m.limb == Limb::RF && m.on.0 > 5.0 * TROT).unwrap();
    let due = early[k].on.0;
    early[k].on = Seconds(due - 0.2 * TROT);
    let doubtful = read(&early).doubtful;
    let missed = doubtful.iter().find(|d| d.what == Doubt::Missing(Limb::RF)).unwrap();
    assert!((missed.from_s - due).abs() < 0.05 * TROT, "{missed:?}");
    // A table in the wrong order is not a list of slips.
    let mut wild = Ride::default().trot(900).marks;
    for (k, m) in wild.iter_mut().enumerate() {
        if k % 3 == 0 {
            m.limb = Limb::ALL[(k / 3) % 4];
        }
    }
    assert!(read(&wild).doubtful.len() <= MOST);
}

#[test]
fn the_next_stride_stands_where_a_steady_horse_puts_it_from_any_moment() {
    for (ride, t) in [(Ride::default().walk(8), WALK), (Ride::default().canter(Right, 8), CANTER)] {
        let mut sorted = ride.marks.clone();
        sorted.sort_by(|a, b| a.on.0.total_cmp(&b.on.0));
        for known in 12..sorted.len() - 5 {
            let until = sorted[known - 1].on;
            let next = next_stride(&sorted[..known], until);
            assert_eq!(next.len(), 4, "after {known} marks");
            for f in &next {
                let true_one = sorted[known..].iter().find(|m| m.limb == f.limb).unwrap();
                assert!((f.on.0 - true_one.on.0).abs() < 1e-9, "{} after {known}", f.limb);
                let off = f.off.unwrap().0 - true_one.off.unwrap().0;
                assert!(off.abs() < 1e-9);
                assert!(f.on.0 > until.0 - 0.3 * t && f.on.0 <= until.0 + 1.01 * t);
            }
            assert!(next.windows(2).all(|w| w[0].on.0 <= w[1].on.0));
        }
    }
    assert!(next_stride(&[], Seconds(0.0)).is_empty());
}

#[test]
fn a_hand_is_as_rough_as_its_two_timings_differ() {
    let first = Ride::default().trot(10).marks;
    // Alternately 4 ms early and late: the differences' standard deviation over √2.
    let second: Vec<Footfall> = first
        .iter()
        .enumerate()
        .map(|(k, m)| {
            let off = if k % 2 == 0 { 0.004 } else { -0.004 };
            Footfall::new(m.limb, Seconds(m.on.0 + off + 0.010))
        })
        .collect();
    let found = scatter::scatter(&first, &second).unwrap();
    let n = 40.0_f64;
    let sd = 0.004 * (n / (n - 1.0)).sqrt() / 2f64.sqrt();
    assert_eq!(found.pairs, 40);
    assert!((found.sd_s - sd).abs() < 1e-9 && (found.shift_s - 0.010).abs() < 1e-9);
    // SciPy, chi2.ppf([0.975, 0.025], 39): 58.120 06 and 23.654 32.
    for (end, quantile) in [(found.ci95.0, 58.120_06_f64), (found.ci95.1, 23.654_32)] {
        assert!((end / (sd * (39.0 / quantile).sqrt()) - 1.0).abs() < 1e-4, "{found:?}");
    }
}
