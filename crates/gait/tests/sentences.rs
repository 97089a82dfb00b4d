//! What a coach reads first: sentences are whole, say the figures that were measured, and count in
//! good English, for rides of every kind and length.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride, TROT, WALK};
use proptest::prelude::*;
use umlauf_gait::Side::{self, Left, Right};
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::schools::Schools;
use umlauf_gait::base::units::Seconds;
use umlauf_gait::season::card_row::Row;
use umlauf_gait::season::metric::Metric;
use umlauf_gait::season::returning::{Returning, returning};
use umlauf_gait::season::session::{matters, ridden};
use umlauf_gait::season::tally::Tally;
use umlauf_gait::season::verdict::{Compared, Overall, Speed, Verdict};
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::stats::two_samples::Difference;
use umlauf_gait::words::{comparison, headline, names, returning as pauses, session};
use umlauf_gait::{Footfall, Limb, Options, analyse, words};

/// What is wrong with a sentence as it stands, if anything.
fn trouble(text: &str) -> Option<&'static str> {
    let words: Vec<&str> = text.split([' ', '(', ')', ',', ';', '.']).collect();
    let one_of_many = words.windows(2).any(|w| {
        let plural =
            ["days", "weeks", "strides", "steps", "changes", "clips", "footfalls", "points"];
        w[0] == "1" && plural.contains(&w[1])
    });
    let rules = [
        ("is empty", text.trim().is_empty()),
        ("holds two spaces", text.contains("  ")),
        ("has an open place", text.contains("{") || text.contains("}")),
        ("shows no number", ["NaN", "inf", "None", "Some("].iter().any(|w| text.contains(w))),
        ("counts one as many", one_of_many),
        ("has a lone sign", text.contains(" .") || text.contains(" ,") || text.contains("..")),
        ("takes nothing below nothing", text.contains("-0 ") || text.contains("-0.0 ")),
    ];
    rules.into_iter().find(|(_, wrong)| *wrong).map(|(says, _)| says)
}

#[track_caller]
fn whole(text: &str) {
    assert_eq!(trouble(text), None, "{text:?}");
    let first = text.chars().next().unwrap();
    assert!(first.is_uppercase() || first.is_numeric(), "{text:?}");
    assert!(text.ends_with(['.', '?']), "{text:?}");
}

fn read(marks: &[Footfall]) -> Analysis {
    analyse(marks, &Options { timing_sd: Some(Seconds(0.002)), ..Options::default() })
}

/// A part of a ride.
#[derive(Clone, Debug)]
enum Part {
    Walk(usize),
    Trot(usize),
    Canter(bool, usize),
    Disunited(bool, usize),
    Halt,
    Blank,
}

fn part() -> impl Strategy<Value = Part> {
    prop_oneof![
        (1..9usize).prop_map(Part::Walk),
        (1..14usize).prop_map(Part::Trot),
        (prop::bool::ANY, 1..14usize).prop_map(|(s, n)| Part::Canter(s, n)),
        (prop::bool::ANY, 1..5usize).prop_map(|(s, n)| Part::Disunited(s, n)),
        Just(Part::Halt),
        Just(Part::Blank),
    ]
}

fn side(left: bool) -> Side {
    if left { Left } else { Right }
}

fn ridden_of(parts: &[Part]) -> Ride {
    parts.iter().fold(Ride::default(), |mut ride, part| match part {
        Part::Walk(n) => ride.walk(*n),
        Part::Trot(n) => ride.trot(*n),
        Part::Canter(s, n) => ride.canter(side(*s), *n),
        Part::Disunited(s, n) => ride.disunited(side(*s), *n),
        Part::Halt if ride.marks.len() >= 8 => ride.halt(4.0, [0.0, 0.02, 0.0, 0.3]),
        Part::Halt | Part::Blank => {
            ride.now += 6.0;
            ride
        }
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 250, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn whatever_was_ridden_is_said_in_whole_sentences(parts in prop::collection::vec(part(), 0..6)) {
        let a = read(&ridden_of(&parts).marks);
        let line = headline::of_clip(&a);
        prop_assert_eq!(trouble(&line), None, "{:?}", line);
        prop_assert!(line.ends_with(['.', '?']), "{:?}", line);
        for f in &a.findings {
            let said = words::finding::say(f, &a.schools);
            for text in [&said.says, &said.figure, &said.title] {
                prop_assert!(trouble(text).is_none_or(|t| t == "is empty"), "{:?}: {:?}", trouble(text), text);
            }
        }
        let clips = [a];
        let line = session::of_session(&ridden(&clips), &matters(&clips), &clips, parts.len());
        prop_assert_eq!(trouble(&line), None, "{:?}", line);
        let mentioned = matters(&clips);
        prop_assert!(mentioned.len() <= 3);
    }

    #[test]
    fn the_way_back_is_counted_in_days_and_weeks(off in 28..400i64, back in 0..60i64) {
        let days: Vec<i64> = if back == 0 { vec![0] } else { vec![0, off] };
        let today = off + back;
        if let Some(r) = returning(&days, today) {
            for text in [pauses::returning(&r), pauses::coming_back(&r)] {
                prop_assert_eq!(trouble(&text), None, "{:?}", text);
            }
        }
    }
}

#[test]
fn a_clip_with_nothing_yet_says_what_to_do() {
    for n in [0_usize, 1, 2, 3] {
        let marks: Vec<Footfall> = (0..n)
            .map(|k| {
                Footfall::new(Limb::ALL[k], Seconds(0.3 * f64::from(u32::try_from(k).unwrap())))
            })
            .collect();
        let line = headline::of_clip(&read(&marks));
        whole(&line);
        let wanted = if n == 0 { "press its key" } else { "each hind twice" };
        assert!(line.contains(wanted), "{line}");
    }
}

#[test]
fn the_first_line_says_the_gait_and_its_tempo_with_unit_and_error() {
    for (ride, name, t) in [
        (Ride::default().walk(12), "Walk at ", WALK),
        (Ride::default().trot(12), "Trot at ", TROT),
        (Ride::default().canter(Left, 12), "Canter on the left lead at ", CANTER),
        (Ride::default().canter(Right, 12), "Canter on the right lead at ", CANTER),
        (Ride::default().disunited(Left, 12), "Canter, disunited at ", CANTER),
    ] {
        let a = read(&ride.marks);
        let line = headline::of_clip(&a);
        whole(&line);
        let rest = line.strip_prefix(name).unwrap_or_else(|| panic!("{line}"));
        assert!(rest.starts_with(&format!("{:.1} ± ", 60.0 / t)), "{line}");
        assert!(rest.contains(" strides/min over 9 steady strides"), "{line}");
    }
}

#[test]
fn changes_come_before_all_else_and_the_bad_ones_are_named_by_their_place() {
    let clean = |n: usize| {
        let lead = |k: usize| if k.is_multiple_of(2) { Left } else { Right };
        (0..=n).fold(Ride::default(), |ride, k| ride.canter(lead(k), 7))
    };
    let line = |ride: &Ride| headline::of_clip(&read(&ride.marks));
    assert!(line(&clean(1)).starts_with("One clean flying change; canter at 100.0"));
    assert!(line(&clean(3)).starts_with("3 clean flying changes; canter at 100.0"));
    // The second one comes late behind: the fores a stride before the hinds.
    let mut ride = Ride::default().canter(Left, 7).canter(Right, 7);
    ride.stride(Right, Left);
    let ride = ride.canter(Left, 7).canter(Right, 7);
    let said = line(&ride);
    assert!(said.starts_with("3 flying changes, the second late behind by 1; canter"), "{said}");
    whole(&said);
}

#[test]
fn a_tempo_that_no_horse_has_asks_for_the_cameras_setting() {
    let slow: Vec<Footfall> = Ride::default()
        .trot(10)
        .marks
        .iter()
        .map(|m| Footfall {
            on: Seconds(4.0 * m.on.0),
            off: m.off.map(|o| Seconds(4.0 * o.0)),
            ..m.clone()
        })
        .collect();
    let line = headline::of_clip(&read(&slow));
    whole(&line);
    assert!(line.starts_with("20 strides/min is no horse's tempo"), "{line}");
    assert!(line.contains("was this filmed in slow motion, "), "{line}");
}

#[test]
fn a_session_names_what_was_ridden_most_and_how_much_waits() {
    let clips = [read(&Ride::default().trot(20).marks), read(&Ride::default().walk(6).marks)];
    let all = ridden(&clips);
    assert_eq!(all.iter().map(|r| r.strides).sum::<usize>(), 19 + 5);
    assert_eq!(all[0].label.gait, Gait::Trot);
    let line = |untimed| session::of_session(&all, &matters(&clips), &clips, untimed);
    assert!(line(0).starts_with("Mostly trot; "), "{}", line(0));
    assert!(line(1).ends_with("One clip waits to be timed."));
    assert!(line(3).ends_with("3 clips wait to be timed."));
    for text in [line(0), line(1), line(3)] {
        whole(&text);
    }
    whole(&session::of_session(&[], &[], &[], 0));
    whole(&session::of_session(&[], &[], &[read(&[])], 1));
}

fn row(metric: Metric, difference: f64, verdict: Verdict, headline: bool) -> Compared {
    let estimate = |value: f64| Estimate { value, sd: None, ci95: Some((value, value)), n: 5 };
    let ci95 = (difference - 0.4, difference + 0.4);
    Compared {
        metric,
        first: estimate(10.0),
        second: estimate(10.0 + difference),
        difference: Difference { value: difference, se: 0.2, dof: 8.0, p: 0.01, ci95 },
        smallest: 0.75,
        worthwhile: 0.5,
        adjusted_p: 0.02,
        headline,
        provisional: false,
        speed: Speed::NoMatter,
        verdict,
    }
}

#[test]
fn a_comparison_names_only_what_stands_and_says_it_in_its_unit() {
    let rows = [
        row(Metric::Regularity, -1.2, Verdict::Better, true),
        row(Metric::StrideLength, 0.3, Verdict::Differs, true),
        row(Metric::Tempo, 2.0, Verdict::Worse, false),
    ];
    let says = |whole| comparison::overall(&rows, whole, "the left rein", "the right rein");
    let better = says(Overall::Better);
    assert_eq!(better, "the right rein is better than the left rein in rhythm (1.2 % less).");
    let differs = says(Overall::Differs);
    assert!(differs.contains("stride length (0.30 m more)"), "{differs}");
    for (text, absent) in [(&better, "tempo"), (&differs, "rhythm")] {
        assert!(!text.contains(absent), "{text}");
        assert_eq!(trouble(text), None);
    }
    let line = comparison::compared(&rows[0]);
    assert!(line.contains("-1.2 % (-1.6 to -0.8): better."), "{line}");
    let unsure = comparison::compared(&row(Metric::Tempo, 0.2, Verdict::CannotTell, false));
    assert!(unsure.contains("this pair would have shown 0.8 strides/min"), "{unsure}");
    let mut few = row(Metric::Tempo, 2.0, Verdict::Worse, true);
    few.provisional = true;
    assert!(comparison::compared(&few).ends_with("worse, provisional."));
    let said = comparison::overall(&[few], Overall::Worse, "March", "today");
    assert!(said.starts_with("Provisionally, today is worse than March in tempo"), "{said}");
    assert!(
        comparison::overall(&[], Overall::CannotTell, "A", "B").contains("no figure in common")
    );
}

#[test]
fn every_row_of_a_card_has_its_own_name_and_a_unit() {
    let rows: Vec<Row> =
        Metric::ALL.into_iter().map(Row::Figure).chain(Tally::ALL.map(Row::Tally)).collect();
    for (k, a) in rows.iter().enumerate() {
        assert!(!a.unit().is_empty() && a.digits() <= 2, "{}", a.name());
        assert_eq!(trouble(a.name()), None);
        for b in &rows[..k] {
            assert!(a.name() != b.name() && a.word() != b.word(), "{} {}", a.name(), b.name());
        }
    }
    let gaits: Vec<&str> = Gait::ALL.into_iter().map(names::gait_name).collect();
    for (k, a) in gaits.iter().enumerate() {
        assert!(!gaits[..k].contains(a), "{a}");
    }
}

#[test]
fn the_other_school_counts_beats_where_a_gait_has_them() {
    let beats =
        Schools { counting: umlauf_gait::base::schools::Counting::Beats, ..Schools::default() };
    for (ride, per_min) in [
        (Ride::default().trot(12), 2.0 * 60.0 / TROT),
        (Ride::default().walk(12), 4.0 * 60.0 / WALK),
        (Ride::default().canter(Left, 12), 3.0 * 60.0 / CANTER),
    ] {
        let options =
            Options { timing_sd: Some(Seconds(0.002)), schools: beats, ..Options::default() };
        let line = headline::of_clip(&analyse(&ride.marks, &options));
        assert!(line.contains(&format!("{per_min:.0} ± ")), "{line}");
        assert!(line.contains("beats/min") && !line.contains("strides/min"), "{line}");
    }
}

#[test]
fn one_day_back_is_one_day() {
    let r = Returning { days_off: 40, days_back: 1, share: 0.5, days_to_go: 6 };
    let said = pauses::returning(&r);
    assert!(said.starts_with("Back for 1 day after 40 days off"), "{said}");
    assert!(said.contains("in about 1 week."), "{said}");
}
