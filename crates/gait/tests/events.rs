//! Changes, tempi, transitions and halts in rides drawn to the letter.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::FrameRate;
use umlauf_gait::bouts::lead_verdict::LeadVerdict;
use umlauf_gait::events::flying_change::Verdict;
use umlauf_gait::events::tempi::Fault;
use umlauf_gait::marks::aid::Aid;
use umlauf_gait::marks::marks_csv;
use umlauf_gait::marks::ride_mark::{MarkKind, RideMark};
use umlauf_gait::{Limb, Options, Side, analyse};

use Side::{Left, Right};
use common::{CANTER, Ride, TROT, WALK};

fn verdicts(a: &Analysis) -> Vec<(Verdict, usize)> {
    a.events.changes.iter().map(|(c, _)| (c.verdict, c.late_by_strides)).collect()
}

#[test]
fn clean_and_late_changes_are_told_with_their_stride() {
    for from in [Left, Right] {
        let clean = Ride::default().canter(from, 7).canter(from.opposite(), 7).read(&[]);
        assert_eq!(verdicts(&clean), [(Verdict::Clean, 0)]);
        let change = clean.events.changes[0].0;
        assert!((change.time_s - 7.0 * CANTER).abs() < 1e-9);
        assert_eq!((change.from, change.to), (from, from.opposite()));
        assert!((change.suspension_before_s.unwrap() - 0.10 * CANTER).abs() < 1e-9);
        assert!((change.tempo_before.unwrap() - 100.0).abs() < 1e-9);

        for n in [1, 2, 3] {
            let new = from.opposite();
            let behind =
                Ride::default().canter(from, 7).disunited(from, n).canter(new, 7).read(&[]);
            assert_eq!(verdicts(&behind), [(Verdict::LateBehind, n)]);
            // Trailing fore at 28 %, first hind n strides later at its start.
            let wanted = (n as f64 - 0.28) * CANTER;
            assert!((behind.events.changes[0].0.late_by_s.unwrap() - wanted).abs() < 1e-9);
            assert!((behind.events.changes[0].0.time_s - 7.0 * CANTER).abs() < 1e-9);
            let strides: usize =
                behind.bouts.iter().filter(|b| b.label.is_disunited()).map(|b| b.strides).sum();
            assert_eq!(strides, n);

            let front = Ride::default().canter(from, 7).disunited(new, n).canter(new, 7).read(&[]);
            assert_eq!(verdicts(&front), [(Verdict::LateInFront, n)]);
        }
    }
}

#[test]
fn changes_that_come_to_nothing_are_told_as_such() {
    let tried = Ride::default().canter(Left, 7).disunited(Left, 2).canter(Left, 7).read(&[]);
    assert_eq!(verdicts(&tried), [(Verdict::NotCompleted, 0)]);
    let back = Ride::default().canter(Left, 7).canter(Right, 2).canter(Left, 7).read(&[]);
    assert_eq!(verdicts(&back), [(Verdict::ChangedBack, 0)]);
    let mut together = Ride::default().canter(Left, 7);
    for (limb, phase) in [(Limb::RH, 0.10), (Limb::LH, 0.11), (Limb::LF, 0.28), (Limb::RF, 0.50)] {
        together.put(limb, phase, CANTER, 0.4);
    }
    together.now += CANTER;
    let together = together.canter(Right, 7).read(&[]);
    assert_eq!(together.events.changes.len(), 1, "{:?}", verdicts(&together));
    assert_eq!(together.events.changes[0].0.verdict, Verdict::HindsTogether);
}

#[test]
fn between_two_leads_trot_and_walk_are_counted_in_steps() {
    let trot = Ride::default().canter(Left, 7).trot(3).canter(Right, 7).read(&[]);
    assert_eq!(verdicts(&trot), [(Verdict::ThroughTrot, 0)]);
    assert_eq!(trot.events.changes[0].0.intermediate_steps, 6);
    assert!(trot.events.transitions.is_empty());
    let walk = Ride::default().canter(Left, 7).walk(2).canter(Right, 7).read(&[]);
    assert_eq!(walk.events.simple.len(), 1, "{:?}", walk.events);
    assert_eq!((walk.events.simple[0].walk_steps, walk.events.simple[0].to), (4, Right));
    assert!(walk.events.changes.is_empty() && walk.events.transitions.is_empty());
    let long = Ride::default().canter(Left, 7).trot(12).canter(Right, 7).read(&[]);
    assert_eq!(long.events.transitions.len(), 2);
    assert!(long.events.changes.is_empty());
}

#[test]
fn transitions_tell_what_lay_between_and_which_limb_began() {
    let direct = Ride::default().walk(6).canter(Left, 8).read(&[]);
    let (t, _) = direct.events.transitions[0];
    assert_eq!((t.from, t.to, t.intermediate, t.steps), (Gait::Walk, Gait::Canter, None, 0));
    // Left lead: the outside hind begins it.
    assert_eq!((t.first_limb, t.lead), (Limb::RH, Some(Left)));
    let progressive = Ride::default().walk(6).trot(3).canter(Right, 8).read(&[]);
    assert_eq!(progressive.events.transitions.len(), 1);
    let (t, _) = progressive.events.transitions[0];
    assert_eq!(
        (t.from, t.to, t.intermediate, t.steps),
        (Gait::Walk, Gait::Canter, Some(Gait::Trot), 6)
    );
    assert_eq!(t.first_limb, Limb::LH);
}

#[test]
fn a_trot_begins_with_its_first_diagonal_on_either_side() {
    const RIGHT_FIRST: [f64; 4] = [0.01, 0.51, 0.5, 0.0];
    for (skipped, walks) in [(0, 6), (2, 6), (0, 5)] {
        for right_first in [false, true] {
            // The marks may begin in the middle of a stride: which hind counts strides changes.
            let mut ride = Ride::default().walk(walks);
            ride.marks.drain(..skipped);
            let begins = ride.now;
            let ride =
                if right_first { ride.even(TROT, 0.42, RIGHT_FIRST, 9) } else { ride.trot(9) };
            let aid = (begins - 1.5 * WALK, "aid", "trot");
            let all = ride.read(&[aid]).measured.events.transitions;
            assert_eq!(all.len(), 1);
            let (t, answer) = all[0];
            assert!((t.time_s - begins).abs() < 1e-9, "{skipped} {right_first}: {}", t.time_s);
            assert_eq!(t.first_limb, if right_first { Limb::RH } else { Limb::LH });
            assert!((answer.unwrap().strides - 1.5).abs() < 1e-6);
        }
    }
    // The last footfalls of a walk that drifts are no diagonal of the trot.
    let drifting = Ride::default().even(WALK, 0.6, [0.19, 0.69, 0.0, 0.5], 8).trot(8).read(&[]);
    assert!((drifting.events.transitions[0].0.time_s - 8.0 * WALK).abs() < 1e-9);
}

#[test]
fn answers_run_from_the_aid_that_asked_for_it() {
    let ride = Ride::default().trot(8).canter(Left, 8);
    let depart = 8.0 * TROT;
    let aids = [
        (depart - 3.0, "aid", "half-halt"),
        (depart - 2.0 * TROT, "aid", "canter-left"),
        (depart - 0.1, "aid", "walk"),
    ];
    let (t, answer) = ride.read(&aids).events.transitions[0];
    assert_eq!(t.to, Gait::Canter);
    let answer = answer.unwrap();
    assert!((answer.seconds - 2.0 * TROT).abs() < 1e-9 && (answer.strides - 2.0).abs() < 1e-6);
    // Asked for the other lead: no answer to that, and the lead is wrong.
    let other = ride.read(&[(depart - TROT, "aid", "canter-right")]);
    assert_eq!(other.events.transitions[0].1, None);
    let canter = other.bouts.iter().find(|b| b.label.gait == Gait::Canter).unwrap();
    assert_eq!(canter.lead_verdict, Some(LeadVerdict::Wrong));
}

#[test]
fn changes_are_set_against_their_aids() {
    let ride = Ride::default().canter(Left, 8).canter(Right, 8).canter(Left, 8);
    let (one, two) = (8.0 * CANTER, 16.0 * CANTER);
    let asked = ride.read(&[(one - 1.5 * CANTER, "aid", "change"), (two + 3.0, "aid", "change")]);
    let changes = &asked.events.changes;
    assert!((changes[0].1.strides_from_aid.unwrap() - 1.5).abs() < 1e-6);
    assert!(!changes[0].1.offered_early && changes[1].1.offered_early);
    assert_eq!(changes[2].0.verdict, Verdict::Missed);
    assert!((changes[2].0.time_s - (two + 3.0)).abs() < 1e-9);
    // Without any aid marked nothing is called early.
    assert!(ride.read(&[]).events.changes.iter().all(|(_, a)| !a.offered_early));
}

#[test]
fn tempi_are_counted_and_their_faults_named() {
    let mut ride = Ride::default().canter(Left, 6);
    let mut lead = Left;
    for (k, gap) in [4, 4, 5, 4, 4].into_iter().enumerate() {
        lead = lead.opposite();
        ride = if k == 3 {
            ride.disunited(lead.opposite(), 1).canter(lead, gap - 1)
        } else {
            ride.canter(lead, gap)
        };
    }
    let found = ride.read(&[]);
    let line = &found.events.tempi[0];
    assert_eq!((line.every, line.changes, line.clean), (4, 5, 4));
    assert_eq!(line.gaps, [4, 4, 5, 4]);
    assert_eq!(
        line.faults,
        [
            (4, Fault::NotClean { verdict: Verdict::LateBehind, late_by_strides: 1 }),
            (4, Fault::OutOfCount { gap: 5 })
        ]
    );
    let planned = ride.read(&[(3.0, "start", "tempi-4x7"), (60.0, "end", "tempi-4x7")]);
    assert_eq!(planned.events.tempi[0].planned_count, Some(7));
    // Changes at every stride are real, and no change is taken back in them.
    let mut ones = Ride::default().canter(Left, 6);
    for k in 0..7 {
        ones = ones.canter(if k % 2 == 0 { Right } else { Left }, 1);
    }
    let ones = ones.canter(Right, 6).read(&[]);
    assert_eq!(ones.events.tempi[0].every, 1, "{:?}", verdicts(&ones));
    assert_eq!((ones.events.tempi[0].changes, ones.events.tempi[0].clean), (7, 7));
}

#[test]
fn halts_are_square_or_not_and_never_made_of_missing_marks() {
    let square = Ride::default().walk(5).halt(4.0, [1.2, 1.2, 0.0, 0.02]).walk(5).read(&[]);
    assert_eq!(square.events.halts.len(), 1);
    let halt = square.events.halts[0];
    assert_eq!((halt.square, halt.first_off, halt.trailing), (Some(true), Limb::LF, None));
    assert!(halt.end_s - halt.start_s > 3.5);
    let trailing = Ride::default().walk(5).halt(4.0, [1.2, 1.2, 0.0, -0.25]).walk(5).read(&[]);
    let (limb, offset) = trailing.events.halts[0].trailing.unwrap();
    assert_eq!(limb, Limb::RH);
    assert!((offset - 0.25).abs() < 0.02);
    let mut gone = Ride::default().walk(5);
    gone.now += 6.0;
    assert!(gone.walk(5).read(&[]).events.halts.is_empty());
}

#[test]
fn a_mark_given_to_the_wrong_limb_is_put_right_and_named() {
    let ride = Ride::default().trot(12);
    let honest = ride.read(&[]);
    for k in [5, 14, 22, 30, 41] {
        let mut marks = ride.marks.clone();
        let truly = marks[k].limb;
        marks[k].limb = truly.opposite();
        let frame_rate = Some(FrameRate::new(120.0).unwrap());
        let found = analyse(&marks, &Options { frame_rate, ..Options::default() });
        assert_eq!(found.relabelled.len(), 1, "mark {k}");
        let moved = found.relabelled[0];
        assert_eq!((moved.line, moved.from, moved.to), (k + 1, truly.opposite(), truly));
        assert_eq!(found.bouts, honest.bouts);
    }
}

#[test]
fn missing_marks_cost_their_strides_and_nothing_else() {
    let ride = Ride::default().canter(Left, 20);
    let mut marks = ride.marks.clone();
    for k in [66, 45, 30, 13] {
        marks.remove(k);
    }
    let frame_rate = Some(FrameRate::new(120.0).unwrap());
    let found = analyse(&marks, &Options { frame_rate, ..Options::default() });
    assert_eq!(found.bouts.len(), 1);
    let bout = &found.bouts[0];
    assert_eq!((bout.label.gait, bout.strides), (Gait::Canter, 19));
    assert!((bout.tempo.unwrap().tempo.value - 100.0).abs() < 1e-9);
    assert!(bout.duty[0].unwrap().n < 17);
    assert!(found.events.changes.is_empty());
}

#[test]
fn marks_tables_are_read_or_refused_with_their_line() {
    let text = "# by hand\ntime_s,kind,detail\n3.5,aid,leg-LH\n1,start,shoulder-in left\n2,note,\"a, b\"\n";
    let marks = marks_csv::read(text.as_bytes()).unwrap();
    assert_eq!(marks[0], RideMark { time: 3.5, kind: MarkKind::Aid(Aid::Leg(Limb::LH)) });
    let MarkKind::Start(movement) = &marks[1].kind else { panic!("{marks:?}") };
    assert_eq!((movement.kind.name().as_str(), movement.side), ("shoulder-in", Some(Left)));
    assert_eq!(marks[2].kind, MarkKind::Note("a, b".into()));
    for (text, wanted) in [
        ("", "empty"),
        ("time_s,detail\n1,x\n", "line 1: no column `kind`"),
        ("time_s,kind,detail\nsoon,aid,walk\n", "line 2: a time must be"),
        ("time_s,kind,detail\n1,aid,\n", "line 2: an aid needs a detail"),
        ("time_s,kind,detail\n1,wave,\n", "found `wave`"),
    ] {
        let said = marks_csv::read(text.as_bytes()).unwrap_err().to_string();
        assert!(said.contains(wanted), "{said}");
    }
}

#[test]
fn movements_cut_bouts_and_are_named_in_them() {
    let ride = Ride::default().trot(20);
    let middle = 10.0 * TROT;
    let found = ride.read(&[(0.0, "start", "straight"), (middle, "start", "shoulder-in left")]);
    let names: Vec<String> =
        found.bouts.iter().map(|b| b.movement.as_ref().unwrap().kind.name()).collect();
    assert_eq!(names, ["straight", "shoulder-in"]);
    assert!(found.events.transitions.is_empty());
}
