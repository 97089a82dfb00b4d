//! Flying changes and tempi by the table: every count, every place of a fault, either lead, several
//! frame rates. What was ridden is known to the stride, and so must be what is told.
#![allow(clippy::cast_precision_loss, reason = "counts are small")]
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride};
use umlauf_gait::Side::{self, Left, Right};
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::events::flying_change::Verdict;
use umlauf_gait::events::tempi::Fault;
use umlauf_gait::{Footfall, Options, analyse};

fn filmed(ride: &Ride, rate: f64) -> Analysis {
    let frame = |s: Seconds| Seconds((s.0 * rate - 1e-9).ceil() / rate);
    let marks: Vec<Footfall> = ride
        .marks
        .iter()
        .map(|m| Footfall { on: frame(m.on), off: m.off.map(frame), ..m.clone() })
        .collect();
    let frame_rate = Some(FrameRate::new(rate).unwrap());
    analyse(&marks, &Options { frame_rate, ..Options::default() })
}

/// Canter, then `count` changes every `every` strides; the change of this number (from 0) comes late
/// by strides, behind or in front.
fn line(begin: Side, every: usize, count: usize, late: Option<(usize, usize, bool)>) -> Ride {
    let mut ride = Ride::default().canter(begin, 6);
    let mut lead = begin;
    for k in 0..count {
        let last = lead;
        lead = lead.opposite();
        // The last lead goes on long enough to be sure of it.
        let strides = if k + 1 == count { every + 6 } else { every };
        ride = match late {
            Some((at, by, behind)) if at == k => {
                // Behind: the fores go ahead on the new lead, the hinds stay on the old one.
                let hinds = if behind { last } else { lead };
                ride.disunited(hinds, by).canter(lead, strides - by)
            }
            _ => ride.canter(lead, strides),
        };
    }
    ride
}

#[test]
fn clean_rows_are_counted_at_every_count() {
    for begin in [Left, Right] {
        for every in 1..=6 {
            for count in 3..=9 {
                for rate in [60.0, 240.0] {
                    let what = format!("{count} every {every} from {begin:?} at {rate}");
                    let a = filmed(&line(begin, every, count, None), rate);
                    let changes = &a.events.changes;
                    assert_eq!(changes.len(), count, "{what}");
                    for (k, (c, _)) in changes.iter().enumerate() {
                        assert_eq!(
                            (c.verdict, c.late_by_strides),
                            (Verdict::Clean, 0),
                            "{what}: {k}"
                        );
                        let before = if k.is_multiple_of(2) { begin } else { begin.opposite() };
                        assert_eq!((c.from, c.to), (before, before.opposite()), "{what}: {k}");
                        let due = (6 + k * every) as f64 * CANTER;
                        assert!(
                            (c.time_s - due).abs() < 1.01 / rate,
                            "{what}: {k} at {}",
                            c.time_s
                        );
                        assert_eq!(c.strides_since_last, (k > 0).then_some(every), "{what}: {k}");
                    }
                    let [row] = &a.events.tempi[..] else { panic!("{what}: {:?}", a.events.tempi) };
                    assert_eq!(
                        (row.every, row.changes, row.clean),
                        (every, count, count),
                        "{what}"
                    );
                    assert!(
                        row.faults.is_empty() && row.gaps.iter().all(|g| *g == every),
                        "{what}"
                    );
                }
            }
        }
    }
}

#[test]
fn a_late_change_is_named_with_its_place_its_pair_and_its_strides() {
    for begin in [Left, Right] {
        for every in 3..=5 {
            for at in 0..5 {
                for by in 1..=2 {
                    for behind in [true, false] {
                        let what =
                            format!("every {every}, change {at} late by {by}, behind {behind}");
                        let a = filmed(&line(begin, every, 5, Some((at, by, behind))), 120.0);
                        assert_eq!(a.events.changes.len(), 5, "{what}");
                        for (k, (c, _)) in a.events.changes.iter().enumerate() {
                            let wanted = match (k == at, behind) {
                                (false, _) => (Verdict::Clean, 0),
                                (true, true) => (Verdict::LateBehind, by),
                                (true, false) => (Verdict::LateInFront, by),
                            };
                            assert_eq!((c.verdict, c.late_by_strides), wanted, "{what}: {k}");
                            // From the swap of one pair to that of the other: about as many strides.
                            if let Some(s) = c.late_by_s {
                                let strides = s / CANTER;
                                assert!((strides - by as f64).abs() < 0.6, "{what}: {strides}");
                            }
                        }
                        let row = &a.events.tempi[0];
                        assert_eq!((row.every, row.clean), (every, 4), "{what}");
                        let (verdict, late_by_strides) =
                            (if behind { Verdict::LateBehind } else { Verdict::LateInFront }, by);
                        let named = (at + 1, Fault::NotClean { verdict, late_by_strides });
                        assert!(row.faults.contains(&named), "{what}: {:?}", row.faults);
                    }
                }
            }
        }
    }
}

#[test]
fn two_changes_are_no_row_and_far_ones_neither() {
    assert!(filmed(&line(Left, 4, 2, None), 120.0).events.tempi.is_empty());
    assert!(filmed(&line(Left, 8, 5, None), 120.0).events.tempi.is_empty());
    // Out of count by more than one stride: changes, each by itself.
    let ride = Ride::default().canter(Left, 6).canter(Right, 3).canter(Left, 6).canter(Right, 9);
    let a = filmed(&ride, 120.0);
    assert_eq!(a.events.changes.len(), 3);
    assert!(a.events.tempi.is_empty(), "{:?}", a.events.tempi);
}

#[test]
fn a_verdict_that_hangs_on_marks_is_withheld_and_names_one_but_never_wrong() {
    let (mut withheld, mut cases) = (0, 0);
    for (late, verdict, by) in [
        (None, Verdict::Clean, 0),
        (Some((0, 1, true)), Verdict::LateBehind, 1),
        (Some((0, 1, false)), Verdict::LateInFront, 1),
        (Some((0, 2, true)), Verdict::LateBehind, 2),
    ] {
        let ride = line(Left, 6, 1, late);
        let changing = 6.0 * CANTER;
        let about = |m: &Footfall| (m.on.0 - changing - 0.5 * CANTER).abs() < 1.6 * CANTER;
        let near: Vec<usize> = (0..ride.marks.len()).filter(|k| about(&ride.marks[*k])).collect();
        // Without any mark, and without any two.
        for (a, first) in near.iter().enumerate() {
            for second in &near[a..] {
                let mut with_gap = Ride { marks: ride.marks.clone(), ..Ride::default() };
                with_gap.marks.remove(*second);
                if second != first {
                    with_gap.marks.remove(*first);
                }
                let a = filmed(&with_gap, 120.0);
                let changes = &a.events.changes;
                assert_eq!(changes.len(), 1, "{first} {second} {late:?}");
                let c = changes[0].0;
                cases += 1;
                if let Some(open) = c.withheld {
                    withheld += 1;
                    assert_eq!(c.verdict, Verdict::Withheld);
                    let needs = open.needs.unwrap();
                    let is_gone = |k: &usize| {
                        let gone = &ride.marks[*k];
                        gone.limb == needs.limb && (gone.on.0 - needs.time_s).abs() < 0.6 * CANTER
                    };
                    assert!([first, second].into_iter().any(is_gone), "{needs:?}");
                } else {
                    let told = (c.verdict, c.late_by_strides);
                    assert_eq!(told, (verdict, by), "{first} {second} {late:?}");
                }
            }
        }
    }
    assert!(withheld > 0 && withheld < cases / 4, "{withheld} of {cases}");
}
