//! Faults seen on the running program, each held shut: halts between two walks, the rein of a
//! stretch, what a rein-back is called, simple changes, words that counted wrong.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride, TROT, WALK};
use umlauf_gait::Side::{Left, Right};
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::FrameRate;
use umlauf_gait::marks::coach_word::CoachWord;
use umlauf_gait::marks::marks_csv;
use umlauf_gait::{Limb, Options, analyse, words};

fn read(ride: &Ride, marks: &str, options: Options) -> Analysis {
    let frame_rate = Some(FrameRate::new(120.0).unwrap());
    let marks = marks_csv::read(format!("time_s,kind,detail\n{marks}").as_bytes()).unwrap();
    analyse(&ride.marks, &Options { frame_rate, marks, ..options })
}

fn gaits(a: &Analysis) -> Vec<Gait> {
    a.bouts.iter().map(|b| b.label.gait).collect()
}

fn says(a: &Analysis, code: &str) -> Option<String> {
    let mut all = a.findings.iter().map(|f| words::finding::say(f, &a.schools));
    all.find(|s| s.code == code).map(|s| s.says)
}

#[test]
fn a_short_halt_between_two_walks_stands_between_them_with_both_answers() {
    for seconds in [0.7, 0.9, 1.2, 1.6, 2.4] {
        let ride = Ride::default().walk(8);
        let asked_halt = ride.now - 1.0;
        let ride = ride.halt(seconds, [0.0; 4]);
        let asked_walk = ride.now - 0.4;
        let ride = ride.walk(8);
        let aids = format!("{asked_halt},aid,halt\n{asked_walk},aid,walk\n");
        let a = read(&ride, &aids, Options::default());
        assert_eq!(gaits(&a), [Gait::Walk, Gait::Halt, Gait::Walk], "{seconds} s");
        for pair in a.bouts.windows(2) {
            assert!(pair[0].end_s <= pair[1].start_s + 1e-9, "{seconds} s: {pair:?}");
        }
        let answers: Vec<(Gait, Gait, bool)> = a
            .events
            .transitions
            .iter()
            .map(|(t, answer)| (t.from, t.to, answer.is_some()))
            .collect();
        let both = [(Gait::Walk, Gait::Halt, true), (Gait::Halt, Gait::Walk, true)];
        assert_eq!(answers, both, "{seconds} s");
        // The tempo is that of strides, not of standing.
        let tempo = a.bouts[0].tempo.unwrap().tempo.value;
        assert!((tempo - 60.0 / WALK).abs() < 0.1, "{seconds} s: {tempo}");
    }
}

#[test]
fn trot_to_walk_over_a_halt_is_no_transition_to_walk() {
    let ride = Ride::default().trot(8).halt(0.8, [0.0; 4]).walk(8);
    let a = read(&ride, "", Options::default());
    let ends: Vec<(Gait, Gait)> =
        a.events.transitions.iter().map(|(t, _)| (t.from, t.to)).collect();
    assert_eq!(ends, [(Gait::Trot, Gait::Halt), (Gait::Halt, Gait::Walk)]);
}

#[test]
fn a_transition_to_rein_back_is_called_by_its_name() {
    // Slow diagonal pairs with long stances: by their pattern alone a piaffe.
    let ride = Ride::default().walk(6).halt(2.0, [0.0; 4]);
    let from = ride.now;
    let ride = ride.even(1.1, 0.6, [0.5, 0.0, 0.0, 0.5], 6);
    let to = ride.now;
    let ride = ride.walk(6);
    let said = format!("{},start,rein-back\n{},end,rein-back", from - 0.2, to - 0.2);
    let a = read(&ride, &said, Options::default());
    let to: Vec<Gait> = a.events.transitions.iter().map(|(t, _)| t.to).collect();
    assert!(to.contains(&Gait::ReinBack) && !to.contains(&Gait::Piaffe), "{to:?}");
    let spoken: String =
        a.findings.iter().map(|f| words::finding::say(f, &a.schools).says).collect();
    assert!(!spoken.to_lowercase().contains("piaffe"), "{spoken}");
}

#[test]
fn a_half_halt_is_timed_by_the_rein_said_of_its_stretch() {
    let ride = Ride::default().canter(Left, 10);
    // On the left rein the outside hind is the right: in left canter it stands from 0 to 0.40.
    let aid = format!("{},aid,half-halt", 5.2 * CANTER);
    let on = |rein, said: Option<_>| {
        let said: Vec<CoachWord> = said
            .map(|rein| CoachWord {
                from_s: 0.0,
                to_s: 9.0,
                gait: None,
                rein: Some(rein),
                lead: None,
            })
            .into_iter()
            .collect();
        read(&ride, &aid, Options { rein, said, ..Options::default() }).events.aids[0].in_window
    };
    assert_eq!(on(Some(Left), None), Some(true));
    assert_eq!(on(Some(Right), None), Some(false));
    assert_eq!(on(Some(Right), Some(Left)), Some(true));
    assert_eq!(on(None, Some(Right)), Some(false));
    assert_eq!(on(None, None), None);
}

#[test]
fn a_simple_change_as_it_should_be_is_no_fault() {
    // Half a walk stride is a hind step: three to five of them are wanted.
    let through = |strides| {
        let ride = Ride::default().canter(Left, 8).walk(strides).canter(Right, 8);
        let a = read(&ride, "", Options::default());
        let steps = a.events.simple.first().map(|s| s.walk_steps);
        let fault = a.findings.iter().any(|f| {
            words::finding::say(f, &a.schools).code == "simple-change" && f.kind.is_fault()
        });
        (steps, fault)
    };
    let (steps, fault) = through(2);
    assert!((3..=5).contains(&steps.unwrap()), "{steps:?}");
    assert!(!fault);
    let (steps, fault) = through(5);
    assert!(steps.unwrap() > 5 && fault, "{steps:?}");
}

#[test]
fn a_change_two_strides_late_is_said_to_be_two_late() {
    let mut line = Ride::default().canter(Left, 6);
    // Every other change behind by two strides.
    for (k, lead) in [Right, Left, Right].into_iter().enumerate() {
        if k == 1 {
            line = line.disunited(lead, 2).canter(lead, 2);
        } else {
            line = line.canter(lead, 4);
        }
    }
    let from = 6.0 * CANTER - 0.2;
    let said = format!("{from},start,tempi-4\n{},end,tempi-4", line.now + 0.2);
    let a = read(&line, &said, Options::default());
    let late = a.events.changes.iter().map(|(c, _)| c.late_by_strides).max();
    assert_eq!(late, Some(2));
    let spoken: Vec<String> = a
        .findings
        .iter()
        .map(|f| words::finding::say(f, &a.schools))
        .map(|s| format!("{} {} {}", s.title, s.figure, s.says))
        .collect();
    assert!(spoken.iter().any(|s| s.contains("late in front by 2.")), "{spoken:?}");
    assert!(!spoken.iter().any(|s| s.contains("by 1")), "{spoken:?}");
}

#[test]
fn a_halt_held_too_short_names_the_limit_that_was_used() {
    let mut options = Options::default();
    options.thresholds.halt_held_s = 7.0;
    let ride = Ride::default().trot(8).halt(4.0, [0.0; 4]).trot(8);
    let held = says(&read(&ride, "", options), "halt").unwrap();
    assert!(held.contains("seven seconds"), "{held}");
    let usual = says(&read(&ride, "", Options::default()), "halt").unwrap();
    assert!(!usual.contains("seven") && usual != held, "{usual}");
}

#[test]
fn an_answer_never_scores_above_ten() {
    for late in [0.05, 0.2, 0.5, 1.0] {
        let ride = Ride::default().trot(8).canter(Left, 8);
        let aid = format!("{},aid,canter-left", 8.0 * TROT - late);
        for degree in [None, Some(1), Some(6), Some(12)] {
            let a = read(&ride, &aid, Options { degree, ..Options::default() });
            let answer = a.events.transitions[0].1.unwrap();
            assert!((0.0..=10.0).contains(&answer.score), "{answer:?}");
        }
    }
}

#[test]
fn a_pass_there_and_back_gives_the_speed_of_each_straight_way() {
    let v = 3.2;
    let ride = Ride::default().trot(90);
    let pass = |name: &str, t: f64| format!("{t},letter,{name}\n");
    // K to H, round the turn in no time at all, and back again: 48 m each way on the long side.
    let way = 48.0 / v;
    let there = pass("K", 2.0) + &pass("H", 2.0 + way);
    let speed = |table: &str| {
        let a = read(&ride, table, Options::default());
        a.bouts[0].travel.map(|t| t.speed.value)
    };
    let straight = speed(&there).unwrap();
    assert!((straight - v).abs() < 1e-6, "{straight}");
    // A slow walk round before K comes again: the way back is not H to K in a straight line.
    let back = there.clone() + &pass("K", 2.0 + 3.0 * way);
    assert_eq!(speed(&back), Some(straight));
    // Only the turn and what lies behind it: nothing is told.
    assert_eq!(speed(&(pass("H", 2.0) + &pass("H", 9.0))), None);
}

#[test]
fn limbs_of_a_halt_are_those_that_stand_last_and_leave_first() {
    let a = read(&Ride::default().walk(5).halt(0.9, [0.0; 4]).walk(5), "", Options::default());
    let halt = a.events.halts[0];
    assert_eq!(halt.first_off, Limb::LF);
    assert!(a.strides.iter().all(|s| !(s.start < halt.start_s && s.end > halt.end_s)));
}
