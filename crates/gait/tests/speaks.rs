//! Every kind of finding speaks, and every fault is listed as one: by example, at and beside the
//! limits at which a kind becomes a fault.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::schools::{MATTERS, Schools};
use umlauf_gait::events::flying_change::Verdict;
use umlauf_gait::events::speed_change::{LogRatio, Manner, SpeedChange};
use umlauf_gait::events::tempi::Fault;
use umlauf_gait::figures::drift::Drift;
use umlauf_gait::figures::regularity::Regularity;
use umlauf_gait::findings::certainty::Certainty;
use umlauf_gait::findings::finding::Finding;
use umlauf_gait::findings::ground_kind::GroundKind;
use umlauf_gait::findings::kind::{Asked, FourBeatManner, Kind, RegularityBand};
use umlauf_gait::ground::lateral_seen::{Seen, Untold};
use umlauf_gait::ground::plausibility::Impossible;
use umlauf_gait::ground::source::Source;
use umlauf_gait::marks::movement::LateralMovement;
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Limb, Side, words};

const fn about(value: f64, half: f64) -> Estimate {
    Estimate { value, sd: None, ci95: Some((value - half, value + half)), n: 12 }
}

const fn bare(value: f64) -> Estimate {
    Estimate { value, sd: None, ci95: None, n: 1 }
}

fn change(verdict: Verdict, late_by_strides: usize, offered: bool) -> Kind {
    let (late_by_s, steps) = (Some(0.6).filter(|_| late_by_strides > 0), 3);
    Kind::Change { verdict, late_by_strides, late_by_s, steps, offered }
}

fn tempi(fault: Option<(usize, Fault)>, planned: Option<usize>) -> Kind {
    Kind::Tempi { every: 4, planned, changes: 5, clean: 4, fault }
}

fn speed(speed_ratio: f64, manner: Manner, walk: bool) -> Kind {
    let tempo_share = about(0.5, 0.2);
    let length_ratio = speed_ratio.sqrt();
    let half = |value: f64| LogRatio { value: 0.5 * value, half: Some(0.1) };
    let (tempo, length) = (half(speed_ratio.ln()), half(speed_ratio.ln()));
    let fine = if walk { 0.4 } else { 0.25 };
    let change =
        SpeedChange { speed_ratio, length_ratio, tempo_share, tempo, length, fine, manner };
    Kind::Speed { change, walk }
}

fn steadiness(band: Option<RegularityBand>) -> Kind {
    let unresolved = band.is_none();
    let ci95 = Some((1.1, 2.3)).filter(|_| !unresolved);
    let at_most = Some(1.4).filter(|_| unresolved);
    let regularity = Regularity { value: 1.6, likely: 1.6, ci95, at_most, resolved: !unresolved };
    Kind::Steadiness { regularity, band }
}

fn seen(movement: LateralMovement) -> Seen {
    Seen { movement, body_deg: 22.0, bend_deg: 14.0 }
}

/// Kinds of strides and gaits, each with whether it is a fault.
fn of_bouts() -> Vec<(Kind, bool)> {
    let dissociation = about(0.041, 0.009);
    let lap = about(0.17, 0.01);
    let drift = |per_min| Drift {
        per_min,
        ci95: (per_min - 0.5, per_min + 0.5),
        by_chance: 0.001,
        total_share: per_min / 80.0,
        in_ten_s: per_min / 480.0,
        flagged: true,
    };
    let mut all = vec![
        (Kind::SlowMotion { tempo: 20.1, factor: 4.0 }, true),
        (Kind::SlowMotion { tempo: 316.0, factor: 0.25 }, true),
        (Kind::Disunited { strides: 1 }, true),
        (Kind::Disunited { strides: 7 }, true),
        (Kind::WrongLead { got: Side::Left }, true),
        (Kind::SplitBeats { dissociation }, false),
        (Kind::ThreeBeats { dissociation: bare(0.004) }, false),
        (Kind::BeatsUntold { dissociation }, false),
        (Kind::LateralWalk { lap }, true),
        (Kind::DiagonalWalk { lap: about(0.33, 0.01) }, true),
        (Kind::Drift { drift: drift(2.0) }, true),
        (Kind::Drift { drift: drift(-2.0) }, true),
        (Kind::TempoChange { drift: drift(30.0) }, true),
        (Kind::EvenWalk { rms_pct: 1.1 }, false),
        (Kind::Diagonals { hind_first: [about(0.012, 0.004), about(-0.008, 0.004)] }, false),
        (Kind::UnevenStance { hind: true, index: about(7.0, 2.0) }, true),
        (Kind::UnevenStance { hind: false, index: about(-7.0, 2.0) }, true),
        (Kind::UnevenSteps { index: about(-11.0, 2.0) }, true),
        (Kind::Stepping { strides: 3, lap: None }, true),
        (Kind::Stepping { strides: 1, lap: Some(lap) }, true),
    ];
    for manner in [None, Some(FourBeatManner::Laboured), Some(FourBeatManner::Hurried)] {
        for no_air in [false, true] {
            all.push((Kind::FourBeats { dissociation, no_air, manner }, true));
        }
    }
    for (each, phases) in
        [(about(0.05, 0.01), Some(2)), (about(0.0, 0.02), None), (bare(-0.03), Some(0))]
    {
        all.push((Kind::Suspension { each, phases }, false));
    }
    all.extend([
        (steadiness(None), false),
        (steadiness(Some(RegularityBand::VeryRegular)), false),
        (steadiness(Some(RegularityBand::Regular)), false),
        (steadiness(Some(RegularityBand::Unsettled)), true),
        (steadiness(Some(RegularityBand::Irregular)), true),
    ]);
    all
}

/// Kinds of changes, transitions and work.
fn of_events() -> Vec<(Kind, bool)> {
    let mut all = vec![
        (Kind::CleanChange { suspension_before: None, to: Side::Right }, false),
        (Kind::CleanChange { suspension_before: Some(0.06), to: Side::Left }, false),
        (tempi(None, Some(5)), false),
        (tempi(None, None), false),
        (tempi(Some((2, Fault::OutOfCount { gap: 5 })), Some(5)), true),
        (Kind::NotSquare { trailing: Limb::LH, offset: 0.18 }, true),
        (Kind::ReinBack { steps: 6, diagonal: (5, 6) }, false),
        (Kind::Drill { planned: (2, 2), kept: (7, 9), trend_s: Some(-0.04) }, false),
        (Kind::Drill { planned: (2, 3), kept: (9, 9), trend_s: None }, false),
        (Kind::Unasked { from: Gait::Canter, to: Gait::Trot, counter: true }, true),
        (Kind::Unasked { from: Gait::Walk, to: Gait::Trot, counter: false }, true),
        (Kind::HaltLeft { first: Limb::RH, trailing: None }, false),
        (Kind::HaltLeft { first: Limb::LF, trailing: Some(Limb::LH) }, false),
        (Kind::HaltHeld { seconds: 2.9, square: None, least_s: 3.0 }, false),
        (Kind::HaltHeld { seconds: 4.0, square: Some(true), least_s: 3.0 }, false),
    ];
    for steps in 0..9 {
        all.push((Kind::SimpleChange { steps }, !(3..=5).contains(&steps)));
    }
    for (verdict, late) in [
        (Verdict::LateBehind, 1),
        (Verdict::LateInFront, 2),
        (Verdict::HindsTogether, 0),
        (Verdict::ThroughTrot, 0),
        (Verdict::Missed, 0),
        (Verdict::NotCompleted, 1),
        (Verdict::ChangedBack, 0),
    ] {
        all.push((change(verdict, late, false), true));
        let fault = Some((3, Fault::NotClean { verdict, late_by_strides: late }));
        all.push((tempi(fault, Some(5)), true));
    }
    all.push((change(Verdict::Clean, 0, true), true));
    for lost in [0, 2] {
        let (strides, expected, best_run) = (7, (6, 8), 5);
        let ridden =
            |tempo_ratio| Kind::Pirouette { strides, expected, lost, best_run, tempo_ratio };
        all.push((ridden(None), lost > 0));
        all.push((ridden(Some(0.9)), lost > 0));
    }
    for score in [0.0, 4.9, 5.0, 10.0] {
        let (from, to) = (Gait::Trot, Gait::Canter);
        all.push((Kind::Answer { from, to, strides: 1.5, score, steps: 0 }, score < 5.0));
    }
    for asked in [
        Asked::Leg(Limb::LH),
        Asked::Leg(Limb::RF),
        Asked::Canter(Side::Left),
        Asked::Change,
        Asked::HalfHalt,
        Asked::Turn(Side::Right),
    ] {
        all.push((Kind::Aids { asked, inside: (6, 7), mean_phase: 0.4, scatter: 0.06 }, false));
    }
    for (diagonal, lag) in [(Some(Side::Left), None), (None, Some(0)), (Some(Side::Right), Some(2))]
    {
        all.push((Kind::Posting { diagonal, scatter: 0.03, lag }, false));
    }
    for breaks in [0, 1] {
        for stride_ratio in [None, Some(1.12)] {
            let (held_pct, strides_to_change) = (1.8, Some(2.5));
            let ridden = Kind::ForwardBack { stride_ratio, held_pct, breaks, strides_to_change };
            all.push((ridden, breaks > 0));
        }
    }
    all
}

/// Kinds of lateral work and of the ground.
fn of_ground() -> Vec<(Kind, bool)> {
    use LateralMovement::{HalfPass, LegYield, Renvers, ShoulderIn, Travers};
    let (length, speed_now) = (about(2.7, 0.05), about(3.6, 0.1));
    let mut all = vec![
        (speed(1.3, Manner::ByStride, false), false),
        (speed(1.3, Manner::Between, false), false),
        (speed(1.3, Manner::ByTempo, false), true),
        (speed(0.8, Manner::ByTempo, false), true),
        (speed(0.8, Manner::ByStride, true), false),
        (speed(0.8, Manner::CannotTell, false), false),
        (Kind::Tracks { tracks: 4, wanted: Some(3), shoulder: Some(about(30.0, 4.0)) }, false),
        (Kind::Tracks { tracks: 3, wanted: None, shoulder: None }, false),
        (Kind::Ground(GroundKind::MoveCamera { angle_deg: Some(12.0), share: 0.2 }), true),
        (Kind::Ground(GroundKind::MoveCamera { angle_deg: None, share: 0.2 }), true),
        (Kind::Ground(GroundKind::Crooked { beside: about(0.12, 0.04) }), true),
        (Kind::Ground(GroundKind::Crooked { beside: about(-0.12, 0.04) }), true),
    ];
    for why in [Untold::Vague, Untold::NoWall, Untold::NoName] {
        all.push((Kind::Ground(GroundKind::Untold { why }), false));
    }
    let ways = [Source::Ground, Source::Bar, Source::Letters, Source::Figure, Source::Withers];
    for source in ways {
        for size_free in [None, Some((1.6, 0.9))] {
            let speed = speed_now;
            all.push((
                Kind::Ground(GroundKind::Stride { length, speed, source, size_free }),
                false,
            ));
        }
        for too_long in [false, true] {
            let what = Impossible { heights: 3.4, too_long, source };
            all.push((Kind::Ground(GroundKind::Impossible { what, gait: Gait::Trot }), true));
        }
        let (used, other) = ((source, length), (Source::Bar, about(3.3, 0.1)));
        all.push((Kind::Ground(GroundKind::Disagree { used, other }), true));
    }
    for movement in [ShoulderIn, Travers, Renvers, HalfPass, LegYield] {
        for said in
            [None, Some(movement), Some(if movement == Travers { Renvers } else { Travers })]
        {
            let other = said.is_some_and(|s| s != movement);
            all.push((Kind::Ground(GroundKind::Lateral { seen: seen(movement), said }), other));
        }
        for loses in [false, true] {
            let (tempo_change, limit_pct) = (about(-4.0, 1.0), 3.0);
            for side in [None, Some(Side::Left)] {
                let ridden = Kind::Lateral { movement, side, tempo_change, loses, limit_pct };
                all.push((ridden, loses));
            }
        }
        for weaker in [None, Some(Side::Right)] {
            let difference = about(2.5, 1.0);
            all.push((Kind::BothSides { movement, difference, weaker }, weaker.is_some()));
        }
    }
    all
}

fn found(kind: Kind) -> Finding {
    Finding { kind, bout: 0, start_s: 1.0, end_s: 2.0, sure: Certainty::Clear }
}

/// Both schools of every matter.
fn schools() -> [Schools; 2] {
    let mut other = Schools::default();
    for (matter, [_, second]) in MATTERS {
        assert!(other.choose(matter, second));
    }
    [Schools::default(), other]
}

#[test]
fn every_kind_speaks_in_whole_sentences_in_either_school() {
    for (kind, _) in of_bouts().into_iter().chain(of_events()).chain(of_ground()) {
        for schools in schools() {
            let s = words::finding::say(&found(kind), &schools);
            let all = format!("{} {} {}", s.title, s.says, s.figure);
            assert!(!s.code.is_empty() && !s.title.is_empty(), "{kind:?}");
            assert!(s.code.chars().all(|c| c.is_ascii_lowercase() || c == '-'), "{}", s.code);
            assert!(s.says.trim() == s.says && s.says.len() > 10, "{kind:?}: {:?}", s.says);
            assert!(s.says.ends_with(['.', '?', '!']), "{kind:?}: {:?}", s.says);
            assert!(
                s.says.starts_with(|c: char| c.is_uppercase() || c.is_numeric()),
                "{:?}",
                s.says
            );
            for slip in ["NaN", "inf", "  ", "Some(", "None", "..", " ,", " ."] {
                assert!(!all.contains(slip), "{kind:?}: {all:?}");
            }
            for advice in s.advice {
                assert!(advice.says.ends_with(['.', '?']), "{:?}", advice.says);
            }
        }
    }
}

#[test]
fn exactly_the_faults_are_listed_as_faults() {
    for (kind, fault) in of_bouts().into_iter().chain(of_events()).chain(of_ground()) {
        assert_eq!(kind.is_fault(), fault, "{kind:?}");
    }
}

#[test]
fn words_for_one_thing_are_not_those_for_another() {
    // Left and right, earlier and later, more and less must be told apart by what is read.
    let says = |kind| {
        let s = words::finding::say(&found(kind), &Schools::default());
        format!("{} {} {}", s.title, s.says, s.figure)
    };
    let pairs = [
        (Kind::WrongLead { got: Side::Left }, Kind::WrongLead { got: Side::Right }),
        (
            Kind::UnevenStance { hind: true, index: about(7.0, 2.0) },
            Kind::UnevenStance { hind: true, index: about(-7.0, 2.0) },
        ),
        (
            Kind::UnevenSteps { index: about(11.0, 2.0) },
            Kind::UnevenSteps { index: about(-11.0, 2.0) },
        ),
        (speed(1.3, Manner::ByTempo, false), speed(0.8, Manner::ByTempo, false)),
        (change(Verdict::LateBehind, 1, false), change(Verdict::LateInFront, 1, false)),
        (change(Verdict::LateBehind, 1, false), change(Verdict::LateBehind, 2, false)),
        (
            Kind::Ground(GroundKind::Crooked { beside: about(0.12, 0.04) }),
            Kind::Ground(GroundKind::Crooked { beside: about(-0.12, 0.04) }),
        ),
        (
            Kind::HaltHeld { seconds: 2.9, square: None, least_s: 3.0 },
            Kind::HaltHeld { seconds: 2.9, square: None, least_s: 2.0 },
        ),
    ];
    for (a, b) in pairs {
        assert_ne!(says(a), says(b), "{a:?} {b:?}");
    }
}

#[test]
fn what_can_hurt_carries_its_caution() {
    for kind in [
        Kind::UnevenStance { hind: true, index: about(9.0, 2.0) },
        Kind::UnevenStance { hind: false, index: about(-9.0, 2.0) },
        Kind::UnevenSteps { index: about(9.0, 2.0) },
    ] {
        let s = words::finding::say(&found(kind), &Schools::default());
        assert!(s.caution.is_some_and(|c| c.contains("vet")), "{s:?}");
        assert!(!s.says.to_lowercase().contains("lame"), "{s:?}");
    }
}
