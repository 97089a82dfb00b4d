//! Every transition between walk, trot and canter on either lead, at several frame rates and after
//! rides of many lengths: its kind, its moment, the limb that begins it, and the answer to its aid.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride, TROT, WALK};
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::bouts::missing::Missing;
use umlauf_gait::events::answer::answer_score;
use umlauf_gait::marks::marks_csv;
use umlauf_gait::{Footfall, Limb, Options, Side, analyse};

/// A way of going: how its strides are added to a ride, and the limb that begins each.
#[derive(Clone, Copy, Debug)]
struct Going {
    gait: Gait,
    lead: Option<Side>,
    stride_s: f64,
    first: Limb,
    aid: &'static str,
    add: fn(Ride, usize) -> Ride,
}

const WAYS: [Going; 4] = [
    Going {
        gait: Gait::Walk,
        lead: None,
        stride_s: WALK,
        first: Limb::LH,
        aid: "walk",
        add: Ride::walk,
    },
    Going {
        gait: Gait::Trot,
        lead: None,
        stride_s: TROT,
        first: Limb::LH,
        aid: "trot",
        add: Ride::trot,
    },
    Going {
        gait: Gait::Canter,
        lead: Some(Side::Left),
        stride_s: CANTER,
        first: Limb::RH,
        aid: "canter-left",
        add: |ride, n| ride.canter(Side::Left, n),
    },
    Going {
        gait: Gait::Canter,
        lead: Some(Side::Right),
        stride_s: CANTER,
        first: Limb::LH,
        aid: "canter-right",
        add: |ride, n| ride.canter(Side::Right, n),
    },
];

/// The marks as footage at this rate shows them, with an aid.
fn filmed(ride: &Ride, rate: f64, aid: (f64, &str)) -> Analysis {
    let frame = |s: Seconds| Seconds((s.0 * rate - 1e-9).ceil() / rate);
    let marks: Vec<Footfall> = ride
        .marks
        .iter()
        .map(|m| Footfall { on: frame(m.on), off: m.off.map(frame), ..m.clone() })
        .collect();
    let table = format!("time_s,kind,detail\n{},aid,{}\n", aid.0, aid.1);
    let said = marks_csv::read(table.as_bytes()).unwrap();
    let frame_rate = Some(FrameRate::new(rate).unwrap());
    analyse(&marks, &Options { frame_rate, marks: said, ..Options::default() })
}

#[test]
fn every_pair_of_gaits_is_told_with_its_moment_and_its_first_limb() {
    let mut seen = 0;
    for from in WAYS {
        for to in WAYS.iter().filter(|t| t.gait != from.gait) {
            for rate in [60.0, 120.0, 240.0] {
                for strides in 5..12 {
                    let ride = (from.add)(Ride::default(), strides);
                    let begins = ride.now;
                    let ride = (to.add)(ride, 9);
                    let asked = begins - 1.3 * from.stride_s;
                    let a = filmed(&ride, rate, (asked, to.aid));
                    let what =
                        format!("{:?} to {:?} at {rate}, {strides} strides", from.gait, to.gait);
                    let [(t, answer)] = &a.events.transitions[..] else {
                        panic!("{what}: {:?}", a.events.transitions)
                    };
                    assert_eq!((t.from, t.to, t.lead), (from.gait, to.gait, to.lead), "{what}");
                    assert_eq!((t.intermediate, t.steps), (None, 0), "{what}");
                    let off = (t.time_s - begins).abs();
                    assert!(off <= 1.01 / rate, "{what}: {off} s from {begins}");
                    assert_eq!(t.first_limb, to.first, "{what}");
                    let answer = answer.unwrap_or_else(|| panic!("{what}: not answered"));
                    let late = answer.seconds - 1.3 * from.stride_s;
                    assert!((late - (t.time_s - begins)).abs() < 0.02, "{what}: {answer:?}");
                    let strides = answer.seconds / from.stride_s;
                    assert!((answer.strides - strides).abs() < 0.04, "{what}: {answer:?}");
                    assert!((answer.score - answer_score(answer.strides)).abs() < 1e-9, "{what}");
                    assert!(a.events.changes.is_empty() && a.events.halts.is_empty(), "{what}");
                    seen += 1;
                }
            }
        }
    }
    // Ten ordered pairs, three rates, seven lengths.
    assert_eq!(seen, 10 * 3 * 7);
}

#[test]
fn an_aid_for_something_else_is_not_answered_by_it() {
    for from in WAYS {
        for to in WAYS.iter().filter(|t| t.gait != from.gait) {
            let ride = (from.add)(Ride::default(), 8);
            let begins = ride.now;
            let ride = (to.add)(ride, 9);
            for other in WAYS.iter().filter(|o| o.aid != to.aid) {
                let a = filmed(&ride, 120.0, (begins - 0.8, other.aid));
                assert_eq!(a.events.transitions.len(), 1);
                assert_eq!(a.events.transitions[0].1, None, "{} for {}", other.aid, to.aid);
            }
            // An aid after the transition, or more than ten seconds before it, was for something else.
            let ride = (from.add)(Ride::default(), 20);
            let begins = ride.now;
            let ride = (to.add)(ride, 9);
            for at in [begins + 1.2, begins - 11.5] {
                assert!(at > 0.0);
                let a = filmed(&ride, 120.0, (at, to.aid));
                assert_eq!(a.events.transitions[0].1, None, "{} at {at} of {begins}", to.aid);
            }
        }
    }
}

#[test]
fn scores_fall_evenly_with_the_strides_it_takes() {
    for (strides, score) in
        [(0.0, 10.0), (1.0, 10.0), (2.0, 7.5), (3.0, 5.0), (5.5, 2.5), (8.0, 0.0), (40.0, 0.0)]
    {
        assert!((answer_score(strides) - score).abs() < 1e-9, "{strides}");
    }
    let steps: Vec<f64> = (0..100).map(|k| answer_score(f64::from(k) * 0.1)).collect();
    assert!(steps.windows(2).all(|w| w[1] <= w[0] && w[0] - w[1] < 0.26));
}

#[test]
fn three_gaits_in_a_row_are_two_transitions_and_a_short_one_is_passed_through() {
    // Walk, so many strides of trot, canter.
    for trot in 1..16 {
        let ride = Ride::default().walk(6).trot(trot).canter(Side::Left, 8);
        let canter_begins = 6.0 * WALK + f64::from(u32::try_from(trot).unwrap()) * TROT;
        let a = filmed(&ride, 120.0, (0.0, "half-halt"));
        let all: Vec<(Gait, Gait, Option<Gait>)> =
            a.events.transitions.iter().map(|(t, _)| (t.from, t.to, t.intermediate)).collect();
        if trot <= 8 {
            assert_eq!(all, [(Gait::Walk, Gait::Canter, Some(Gait::Trot))], "{trot} of trot");
            let (t, _) = a.events.transitions[0];
            // Each hind's footfall in the trot is a step.
            assert!(t.steps.abs_diff(2 * trot) <= 1, "{trot} of trot: {} steps", t.steps);
            assert!((t.time_s - canter_begins).abs() < 0.02, "{trot}: {}", t.time_s);
        } else {
            let two = [(Gait::Walk, Gait::Trot, None), (Gait::Trot, Gait::Canter, None)];
            assert_eq!(all, two, "{trot} of trot");
        }
    }
}

#[test]
fn a_hole_in_the_marks_hides_what_happened_there() {
    for from in WAYS {
        for to in WAYS.iter().filter(|t| t.gait != from.gait) {
            let mut ride = (from.add)(Ride::default(), 8);
            // Ten seconds in which nobody marked anything.
            ride.now += 10.0;
            let ride = (to.add)(ride, 8);
            let a = filmed(&ride, 120.0, (0.0, "half-halt"));
            assert!(a.events.transitions.is_empty(), "{:?}", a.events.transitions);
            let ridden: Vec<Gait> =
                a.bouts.iter().filter(|b| b.strides > 0).map(|b| b.label.gait).collect();
            assert_eq!(ridden, [from.gait, to.gait]);
            // The stretch between is there, and says why it has no gait.
            let blank = a.bouts.iter().find(|b| b.strides == 0).unwrap();
            assert!(blank.why.contains(&("strides", Missing::NoMarks)), "{:?}", blank.why);
        }
    }
}
