//! The first footfall of a gait and the moments of a halt, against rides drawn to the letter: also
//! where the mark that would tell was not made or was given to a wrong limb.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride, TROT, WALK};
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::{Limb, Side};

/// The only transition: what it is, when, and with whom it begins.
fn only(a: &Analysis) -> (Gait, Gait, f64, Limb) {
    let [(t, _)] = &a.events.transitions[..] else { panic!("{:?}", a.events.transitions) };
    (t.from, t.to, t.time_s, t.first_limb)
}

/// A ride from one gait into another, the moment between, and the stride of the later one.
fn rides() -> [(Ride, Gait, Gait, f64, f64); 6] {
    let trot = 8.0 * TROT;
    let (walk, canter) = (6.0 * WALK, 9.0 * CANTER);
    let ride = Ride::default;
    [
        (ride().walk(6).trot(8), Gait::Walk, Gait::Trot, walk, TROT),
        (ride().trot(8).walk(6), Gait::Trot, Gait::Walk, trot, WALK),
        (ride().walk(6).canter(Side::Left, 9), Gait::Walk, Gait::Canter, walk, CANTER),
        (ride().canter(Side::Left, 9).walk(6), Gait::Canter, Gait::Walk, canter, WALK),
        (ride().trot(8).canter(Side::Right, 9), Gait::Trot, Gait::Canter, trot, CANTER),
        (ride().canter(Side::Right, 9).trot(8), Gait::Canter, Gait::Trot, canter, TROT),
    ]
}

/// Places of the marks of a limb that land within `within` of a moment.
fn near(ride: &Ride, moment: f64, within: f64) -> Vec<usize> {
    let there = |k: &usize| (ride.marks[*k].on.0 - moment).abs() < within;
    (0..ride.marks.len()).filter(there).collect()
}

#[test]
fn a_gait_begins_with_its_first_footfall_and_so_does_its_bout() {
    for (ride, from, to, moment, stride) in rides() {
        let a = ride.read(&[]);
        let (was, is, time, _) = only(&a);
        assert_eq!((was, is), (from, to));
        assert!((time - moment).abs() < 0.02, "{from:?} to {to:?}: {time} for {moment}");
        let bout = a.bouts.iter().find(|b| b.label.gait == to).unwrap();
        assert!((bout.start_s - moment).abs() < 0.05 * stride, "{to:?}: {}", bout.start_s);
    }
}

#[test]
fn a_first_footfall_that_nobody_marked_is_where_it_must_have_been() {
    for (mut ride, from, to, moment, stride) in rides() {
        // A trot still has the other hoof of its pair.
        for k in near(&ride, moment, 0.005).into_iter().rev().take(1) {
            ride.marks.remove(k);
        }
        let (was, is, time, limb) = only(&ride.read(&[]));
        assert_eq!((was, is), (from, to));
        assert!((time - moment).abs() < 0.1 * stride, "{from:?} to {to:?}: {time} for {moment}");
        if to != Gait::Trot {
            assert!(limb.is_hind(), "{from:?} to {to:?}: {limb:?}");
        }
    }
}

#[test]
fn one_mark_given_to_a_wrong_limb_about_a_turn_moves_it_by_less_than_a_quarter_stride() {
    let mut right = 0;
    let mut all = 0;
    for (ride, from, to, moment, stride) in rides() {
        for k in near(&ride, moment, 1.2) {
            for wrong in Limb::ALL.into_iter().filter(|l| *l != ride.marks[k].limb) {
                let mut marks = ride.marks.clone();
                marks[k].limb = wrong;
                let a = Ride { marks, now: ride.now }.read(&[]);
                let [(t, _)] = &a.events.transitions[..] else {
                    all += 1;
                    continue;
                };
                all += 1;
                let near = (t.time_s - moment).abs() < 0.25 * stride;
                right += usize::from((t.from, t.to) == (from, to) && near);
            }
        }
    }
    assert!(all > 150 && right * 100 >= 93 * all, "{right} of {all}");
}

#[test]
fn passing_strides_of_another_gait_are_not_explained_away() {
    for steps in 2..=4 {
        let a = Ride::default().walk(6).trot(steps).canter(Side::Left, 8).read(&[]);
        let (t, _) = &a.events.transitions[0];
        assert_eq!((t.from, t.to, t.intermediate), (Gait::Walk, Gait::Canter, Some(Gait::Trot)));
        assert_eq!(t.steps, 2 * steps);
    }
}

#[test]
fn half_a_second_of_standing_is_a_halt_and_less_than_a_stride_of_walk_is_none() {
    let halt = Ride::default().walk(6).halt(0.55, [0.0; 4]).walk(6).read(&[]);
    assert_eq!(halt.events.halts.len(), 1);
    let kinds: Vec<(Gait, Gait)> =
        halt.events.transitions.iter().map(|(t, _)| (t.from, t.to)).collect();
    assert_eq!(kinds, [(Gait::Walk, Gait::Halt), (Gait::Halt, Gait::Walk)]);
    // Out of a halt a gait begins with the first hoof put down, not with the first taken up.
    let (out, _) = &halt.events.transitions[1];
    assert!(out.time_s > halt.events.halts[0].end_s);
    assert!(Ride::default().walk(12).read(&[]).events.halts.is_empty());
}

#[test]
fn a_halt_with_a_mark_missing_is_told_with_the_limb_that_nobody_marked() {
    let whole = Ride::default().trot(8).halt(1.4, [0.0; 4]).walk(6);
    let seen = whole.read(&[]).events.halts[0];
    for limb in Limb::ALL {
        let mut marks = whole.marks.clone();
        let standing = marks
            .iter()
            .rposition(|m| m.limb == limb && m.off.is_some_and(|off| off.0 - m.on.0 > 1.0));
        marks.remove(standing.unwrap());
        let found = Ride { marks, now: whole.now }.read(&[]).events.halts.clone();
        assert_eq!(found.len(), 1, "{limb:?}");
        assert!((found[0].start_s - seen.start_s).abs() < 0.15 * TROT, "{limb:?} {found:?}");
        // He goes off from here without a swing: that is not foreseen.
        assert!((found[0].end_s - seen.end_s).abs() < 0.4, "{limb:?} {found:?}");
        // Three hooves on the ground say nothing of how the fourth stands.
        assert_eq!(found[0].square, None, "{limb:?}");
    }
}

#[test]
fn a_few_steps_back_out_of_a_halt_are_told_as_marked_whatever_is_missing_of_them() {
    let halted = Ride::default().walk(6).halt(1.5, [0.0; 4]);
    let from = halted.now;
    // Diagonal pairs, left hind and right fore first.
    let whole = halted.even(1.2, 0.62, [0.5, 0.01, 0.0, 0.51], 3);
    let later = |k: &usize| whole.marks[*k].on.0 > from + 0.3;
    for gone in (0..whole.marks.len()).filter(later) {
        for wrong in (0..whole.marks.len()).filter(later) {
            let mut marks = whole.marks.clone();
            marks[wrong].limb = marks[wrong].limb.opposite();
            marks.remove(gone);
            let ride = Ride { marks, now: whole.now };
            let said = [(from - 0.05, "start", "rein-back"), (whole.now + 1.0, "end", "rein-back")];
            let a = ride.read(&said);
            let back: Vec<_> =
                a.events.transitions.iter().filter(|(t, _)| t.to == Gait::ReinBack).collect();
            let [(t, _)] = back[..] else { panic!("{gone} {wrong}: {:?}", a.events.transitions) };
            assert_eq!(t.from, Gait::Halt);
            assert!((t.time_s - from).abs() < 0.1, "{gone} {wrong}: {}", t.time_s);
            assert!(matches!(t.first_limb, Limb::LH | Limb::RF), "{gone} {wrong}");
        }
    }
}

#[test]
fn whichever_footfall_at_a_halt_nobody_marked_the_horse_stands_from_the_last_on() {
    // Half a stride more than whole ones: a horse stops on either diagonal.
    let half = |mut ride: Ride, stride: f64, fore: (Limb, f64), duty: f64| {
        ride.put(Limb::LH, 0.0, stride, duty);
        ride.put(fore.0, fore.1, stride, duty);
        ride.now += 0.5 * stride;
        ride
    };
    let rides: [(Ride, f64); 5] = [
        (Ride::default().walk(6), WALK),
        (half(Ride::default().walk(6), WALK, (Limb::LF, 0.24), 0.63), WALK),
        (Ride::default().trot(8), TROT),
        (half(Ride::default().trot(8), TROT, (Limb::RF, 0.01), 0.42), TROT),
        (Ride::default().canter(Side::Left, 9), CANTER),
    ];
    for (ride, stride) in rides {
        let last = ride.marks.iter().map(|m| m.on.0).fold(0.0, f64::max);
        let ride = ride.halt(2.5, [0.0; 4]).walk(6);
        // Each limb's footfall of the last stride before the halt, one at a time.
        let final_marks: Vec<usize> = (0..ride.marks.len())
            .filter(|k| ride.marks[*k].on.0 > last - 0.9 * stride && ride.marks[*k].on.0 <= last)
            .collect();
        assert!(final_marks.len() >= 4);
        for k in final_marks {
            let mut open = Ride { marks: ride.marks.clone(), now: ride.now };
            let gone = open.marks.remove(k);
            let a = open.read(&[]);
            let [halt] = &a.events.halts[..] else { panic!("{gone:?}: {:?}", a.events.halts) };
            let apart = (halt.start_s - last) / stride;
            assert!(apart.abs() < 0.1, "{:?} at {} missing: {apart} strides", gone.limb, gone.on.0);
        }
    }
}
