//! Marks as people make them: one left out, made twice, given to the wrong limb, lifted too late. Each
//! slip at every place of every gait costs its own stride and nothing else, and is named.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride, TROT, WALK};
use umlauf_gait::Side::{Left, Right};
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::Seconds;
use umlauf_gait::strides::nearby::NearbyDuration;
use umlauf_gait::strides::tidy::DropReason;
use umlauf_gait::{Footfall, Limb, Options, analyse};

/// Rides of twelve strides that are cut into eleven, with their gaits and stride durations.
fn rides() -> Vec<(Gait, f64, Ride)> {
    vec![
        (Gait::Walk, WALK, Ride::default().walk(12)),
        (Gait::Trot, TROT, Ride::default().trot(12)),
        (Gait::Canter, CANTER, Ride::default().canter(Left, 12)),
        (Gait::Canter, CANTER, Ride::default().canter(Right, 12)),
    ]
}

fn read(marks: &[Footfall]) -> Analysis {
    analyse(marks, &Options { timing_sd: Some(Seconds(0.002)), ..Options::default() })
}

/// Marks well inside a ride: a slip at the very end may shorten it.
fn inner(ride: &Ride) -> std::ops::Range<usize> {
    8..ride.marks.len() - 8
}

#[test]
fn a_mark_left_out_costs_its_stride_and_no_figure_moves() {
    for (gait, t, ride) in rides() {
        for k in inner(&ride) {
            let mut marks = ride.marks.clone();
            let gone = marks.remove(k);
            let a = read(&marks);
            assert_eq!(a.bouts.len(), 1, "{gait:?} without mark {k}: {:?}", a.bouts);
            let b = &a.bouts[0];
            assert_eq!((b.label.gait, b.strides), (gait, 11), "without mark {k}");
            let tempo = b.tempo.unwrap();
            assert!((tempo.duration.value - t).abs() < 1e-9, "{gait:?} without mark {k}");
            // The stride's own figure is not used; a start that is missing costs two strides.
            let duty = b.duty[gone.limb.index()].unwrap();
            assert!((6..=8).contains(&duty.n), "{gait:?} without mark {k}: {duty:?}");
            assert!(a.events.changes.is_empty(), "{gait:?} without mark {k}");
        }
    }
}

#[test]
fn two_marks_in_a_row_of_one_limb_may_be_missing_and_three_break_the_ride() {
    let ride = Ride::default().trot(16);
    let without = |n: usize| {
        let mut seen = 0;
        let marks: Vec<Footfall> = ride
            .marks
            .iter()
            .filter(|m| {
                let this = m.limb == Limb::LH && m.on.0 > 4.0 * TROT;
                seen += usize::from(this);
                !(this && (1..=n).contains(&seen))
            })
            .cloned()
            .collect();
        assert_eq!(marks.len(), ride.marks.len() - n);
        read(&marks)
    };
    for n in [1, 2] {
        let a = without(n);
        assert_eq!((a.bouts.len(), a.bouts[0].strides), (1, 15), "{n} missing");
        assert!((a.bouts[0].tempo.unwrap().duration.value - TROT).abs() < 1e-9);
    }
    // Nothing is made up over more: the strides that are there keep their tempo.
    let a = without(4);
    assert!(a.bouts.iter().map(|b| b.strides).sum::<usize>() < 15, "{:?}", a.bouts);
    for b in &a.bouts {
        assert!((b.tempo.unwrap().duration.value - TROT).abs() < 1e-9, "{b:?}");
    }
}

#[test]
fn a_mark_made_twice_is_dropped_and_named() {
    for (gait, t, ride) in rides() {
        for k in inner(&ride) {
            let mut marks = ride.marks.clone();
            let Footfall { limb, on, .. } = marks[k];
            marks.push(Footfall { line: 777, ..Footfall::new(limb, Seconds(on.0 + 0.05)) });
            let a = read(&marks);
            let [dropped] = &a.dropped[..] else { panic!("{gait:?} {k}: {:?}", a.dropped) };
            assert_eq!(dropped.line, 777);
            let DropReason::Double { limb: of, apart_s } = dropped.reason else {
                panic!("{:?}", dropped.reason)
            };
            assert!(of == limb && (apart_s - 0.05).abs() < 1e-9);
            assert_eq!((a.bouts.len(), a.bouts[0].strides), (1, 11));
            assert!((a.bouts[0].tempo.unwrap().duration.value - t).abs() < 1e-9);
        }
    }
}

#[test]
fn a_mark_given_to_the_other_limb_of_its_pair_is_put_right_at_every_place() {
    for (gait, t, ride) in rides() {
        for k in inner(&ride) {
            let mut marks = ride.marks.clone();
            let (right, line) = (marks[k].limb, marks[k].line);
            let wrong = right.opposite();
            marks[k].limb = wrong;
            let a = read(&marks);
            let [moved] = &a.relabelled[..] else {
                panic!("{gait:?} {k}: {:?} {:?}", a.relabelled, a.dropped)
            };
            assert_eq!((moved.line, moved.from, moved.to), (line, wrong, right), "{gait:?} {k}");
            assert_eq!((a.bouts.len(), a.bouts[0].strides), (1, 11), "{gait:?} {k}");
            let b = &a.bouts[0];
            assert!((b.tempo.unwrap().duration.value - t).abs() < 1e-9, "{gait:?} {k}");
            assert!(a.dropped.is_empty(), "{gait:?} {k}: {:?}", a.dropped);
        }
    }
}

#[test]
fn a_stance_that_outlasts_the_next_footfall_is_not_believed() {
    for (gait, t, ride) in rides() {
        for k in inner(&ride) {
            let mut marks = ride.marks.clone();
            let Footfall { limb, on, line, .. } = marks[k];
            marks[k].off = Some(Seconds(on.0 + 1.02 * t));
            let a = read(&marks);
            let [dropped] = &a.dropped[..] else { panic!("{gait:?} {k}: {:?}", a.dropped) };
            assert_eq!(dropped.line, line);
            assert_eq!(dropped.reason, DropReason::OffAfterNext { limb });
            // The footfall itself stands.
            assert_eq!(a.bouts[0].strides, 11, "{gait:?} {k}");
            let duty = a.bouts[0].duty[limb.index()].unwrap();
            let drawn = if gait == Gait::Walk {
                0.63
            } else if gait == Gait::Trot {
                0.42
            } else {
                0.40
            };
            assert!((duty.value - drawn).abs() < 1e-9, "{gait:?} {k}: {duty:?}");
        }
    }
}

#[test]
fn a_change_of_lead_is_no_slip() {
    for lead in [Left, Right] {
        let ride = Ride::default().canter(lead, 6).canter(lead.opposite(), 6);
        let a = read(&ride.marks);
        assert!(a.relabelled.is_empty() && a.dropped.is_empty(), "{:?}", a.relabelled);
        assert_eq!(a.events.changes.len(), 1);
        assert_eq!(a.bouts.iter().map(|b| b.strides).sum::<usize>(), 11);
    }
}

#[test]
fn a_halt_is_not_filled_with_strides() {
    let ride = Ride::default().trot(8).halt(4.0, [0.0; 4]).trot(8);
    let a = read(&ride.marks);
    assert_eq!(a.events.halts.len(), 1);
    let strides: usize =
        a.bouts.iter().filter(|b| b.label.gait == Gait::Trot).map(|b| b.strides).sum();
    assert!((13..=15).contains(&strides), "{strides}");
    for b in a.bouts.iter().filter(|b| b.label.gait == Gait::Trot) {
        assert!((b.tempo.unwrap().duration.value - TROT).abs() < 1e-9);
    }
}

#[test]
fn marks_of_one_limb_or_two_are_no_gait_and_no_fault() {
    for keep in [vec![Limb::LH], vec![Limb::LF, Limb::RF], vec![Limb::LH, Limb::RH]] {
        let ride = Ride::default().trot(12);
        let marks: Vec<Footfall> =
            ride.marks.iter().filter(|m| keep.contains(&m.limb)).cloned().collect();
        let a = read(&marks);
        assert!(a.bouts.iter().all(|b| b.label.gait == Gait::Unclear), "{keep:?}: {:?}", a.bouts);
        assert!(a.findings.iter().all(|f| !f.kind.is_fault()), "{keep:?}");
        assert!(a.events.changes.is_empty() && a.events.transitions.is_empty());
    }
    assert!(read(&[]).bouts.is_empty());
    assert!(read(&[Footfall::new(Limb::LF, Seconds(3.0))]).bouts.is_empty());
}

#[test]
fn the_duration_nearby_is_that_of_the_strides_nearby() {
    // Walk, then trot: a reader that goes on meets one and then the other.
    let ride = Ride::default().walk(10).trot(10);
    let mut times: [Vec<f64>; 4] = Default::default();
    for m in &ride.marks {
        times[m.limb.index()].push(m.on.0);
    }
    let nearby = NearbyDuration::new(&times);
    let change = 10.0 * WALK;
    let mut going = nearby.walk();
    for k in 0..180 {
        let at = f64::from(k) * 0.1;
        let t = going.at(at).unwrap();
        // Read anew, not from where the last one was: the same answer.
        assert!((nearby.walk().at(at).unwrap() - t).abs() < 1e-12, "{at}");
        if at < change - 2.0 * WALK {
            assert!((t - WALK).abs() < 1e-9, "{at}: {t}");
        } else if at > change + 2.0 * TROT {
            assert!((t - TROT).abs() < 1e-9, "{at}: {t}");
        }
    }
    // And back again, as a reader whose times do not only grow.
    assert!((going.at(1.0).unwrap() - WALK).abs() < 1e-9);
    let once = NearbyDuration::new(&[vec![1.0], vec![2.0], vec![], vec![]]);
    assert_eq!(once.walk().at(1.5), None);
}
