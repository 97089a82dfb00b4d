//! Work that the coach plans or marks, ridden to the letter: pirouettes, rein-back, lateral work,
//! forward and back, drills, rising trot, aids, prints.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::{CANTER, Ride, TROT, WALK};
use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::Side::{self, Left, Right};
use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::schools::{MATTERS, Schools};
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::events::speed_change::{self, Manner};
use umlauf_gait::marks::footfall::GroundPoint;
use umlauf_gait::marks::{captions, marks_csv};
use umlauf_gait::stats::estimate::Estimate;
use umlauf_gait::{Footfall, Limb, Options, analyse, words};

fn codes(a: &Analysis) -> Vec<&'static str> {
    a.findings.iter().map(|f| words::finding::say(f, &a.schools).code).collect()
}

fn says(a: &Analysis, code: &str) -> String {
    let found =
        a.findings.iter().map(|f| words::finding::say(f, &a.schools)).find(|s| s.code == code);
    found.unwrap_or_else(|| panic!("no {code} in {:?}", codes(a))).says
}

/// A horse that goes along a line and leaves prints: body angle and shoulder angle to the way
/// (degrees, forehand to the left positive), width and length between its hooves.
struct Horse {
    body: f64,
    shoulder: f64,
    width: f64,
    base: f64,
}

impl Horse {
    /// Where a limb's hoof lands when the middle of the hinds is at `along` m.
    fn print(&self, limb: Limb, along: f64) -> GroundPoint {
        let rad = f64::to_radians;
        let left = if limb.side() == Left { 0.5 } else { -0.5 } * self.width;
        let (mut x, mut y) = (along, 0.0);
        let axis = if limb.is_hind() { 0.0 } else { rad(self.shoulder) };
        if !limb.is_hind() {
            x += self.base * rad(self.body).cos();
            y += self.base * rad(self.body).sin();
        }
        x -= left * axis.sin();
        y += left * axis.cos();
        GroundPoint { x: Metres(x), y: Metres(y) }
    }

    /// Trots `n` strides of `t` s and `length` m.
    fn trot(&self, start: (f64, f64), t: f64, length: f64, n: u32) -> Vec<Footfall> {
        let mut out = Vec::new();
        for k in 0..n {
            for (limb, phase) in
                [(Limb::LH, 0.0), (Limb::RF, 0.01), (Limb::RH, 0.5), (Limb::LF, 0.51)]
            {
                let strides = f64::from(k) + phase;
                let on = start.0 + strides * t;
                out.push(Footfall {
                    off: Some(Seconds(on + 0.42 * t)),
                    at: Some(self.print(limb, start.1 + strides * length)),
                    ..Footfall::new(limb, Seconds(on))
                });
            }
        }
        out
    }
}

const STRAIGHT: Horse = Horse { body: 0.0, shoulder: 0.0, width: 0.25, base: 1.24 };

fn read(marks: &[Footfall], table: &str) -> Analysis {
    let marks_table = format!("time_s,kind,detail\n{table}");
    let frame_rate = Some(FrameRate::new(120.0).unwrap());
    let ride = marks_csv::read(marks_table.as_bytes()).unwrap();
    analyse(marks, &Options { frame_rate, marks: ride, ..Options::default() })
}

#[test]
fn a_pirouette_counts_its_strides_and_those_that_lose_the_canter() {
    let mut ride = Ride::default().canter(Left, 8);
    let from = ride.now;
    let slow = 0.72;
    for k in 0..7 {
        // In the fourth and fifth the hinds alternate.
        let second = if k == 3 || k == 4 { 0.5 } else { 0.25 };
        let limbs = [(Limb::RH, 0.0), (Limb::LH, second), (Limb::RF, 0.33), (Limb::LF, 0.55)];
        for (limb, phase) in limbs {
            ride.put(limb, phase, slow, 0.5);
        }
        ride.now += slow;
    }
    let to = ride.now;
    let ride = ride.canter(Left, 6);
    let start = format!("{},start,pirouette-full left", from - 0.05);
    let a = read(&ride.marks, &format!("{start}\n{},end,pirouette-full left", to - 0.05));
    let p = &a.events.pirouettes[0];
    assert_eq!((p.strides, p.expected, p.lost_strides, p.best_run), (7, (6, 8), 2, 3));
    assert!((p.tempo_ratio.unwrap() - CANTER / slow).abs() < 0.01, "{:?}", p.tempo_ratio);
    assert!((p.dissociation_s.unwrap() - 0.08 * slow).abs() < 0.002);
    assert!(says(&a, "pirouette").starts_with("7 strides, as wanted"));
}

#[test]
fn a_rein_back_is_known_by_its_mark_or_by_going_backwards() {
    let ride = Ride::default().trot(4);
    let a = read(&ride.marks[..8], "-0.1,start,rein-back\n5,end,rein-back");
    let r = a.events.rein_backs[0];
    assert_eq!((r.steps, r.diagonal, r.pairs), (4, 4, 4));
    let back = STRAIGHT.trot((0.0, 10.0), 1.1, -0.8, 8);
    let a = read(&back, "");
    assert_eq!(a.bouts[0].label.gait, Gait::ReinBack);
    let forward = read(&STRAIGHT.trot((0.0, 10.0), TROT, 2.7, 8), "");
    assert_eq!(forward.bouts[0].label.gait, Gait::Trot);
}

/// Twelve strides straight, twelve in a movement at another stride duration, twelve straight.
fn beside_straight(movement: &str, slower: f64) -> Analysis {
    let ride = Ride::default().trot(12);
    let from = ride.now;
    let ride = ride.even(TROT * slower, 0.42, [0.51, 0.01, 0.0, 0.5], 12);
    let to = ride.now;
    let ride = ride.trot(12);
    read(&ride.marks, &format!("{from},start,{movement}\n{to},end,{movement}"))
}

#[test]
fn lateral_work_is_set_against_the_straight_work_beside_it() {
    let slow = beside_straight("shoulder-in left", 1.06);
    let l = slow.events.lateral[0];
    assert!((l.tempo_change_pct.value - 100.0 * (1.0 / 1.06 - 1.0)).abs() < 0.3);
    assert_eq!(l.side, Some(Left));
    assert!(codes(&slow).contains(&"lateral-loses-tempo"));
    let held = beside_straight("half-pass right", 1.002);
    assert!(codes(&held).contains(&"lateral-tempo"));
    assert!(says(&held, "lateral-tempo").contains("held"));
}

#[test]
fn a_movement_that_is_weaker_on_one_side_is_named() {
    let mut ride = Ride::default();
    let mut table = String::new();
    for (name, slower) in [("", 1.0), ("left", 1.07), ("", 1.0), ("right", 1.01), ("", 1.0)] {
        let from = ride.now;
        ride = ride.even(TROT * slower, 0.42, [0.51, 0.01, 0.0, 0.5], 12);
        if !name.is_empty() {
            let to = ride.now;
            table += &format!("{from},start,renvers {name}\n{to},end,renvers {name}\n");
        }
    }
    let a = read(&ride.marks, &table);
    assert!(says(&a, "lateral-sides").contains("To the left"));
}

/// Published strides/min and m of trained horses (Clayton 1994, 1995; values from memory).
fn published(name: &str) -> (Estimate, Estimate) {
    let (tempo, length) = match name {
        "trot collected" => (76.8, 2.50),
        "trot working" => (79.3, 2.73),
        "trot extended" => (83.3, 3.55),
        "canter collected" => (98.1, 2.00),
        "canter extended" => (103.2, 3.47),
        "walk collected" => (52.4, 1.57),
        "walk medium" => (55.5, 1.87),
        _ => (56.6, 1.93),
    };
    let known = |v: f64| Estimate { value: v, sd: None, ci95: Some((0.995 * v, 1.005 * v)), n: 12 };
    (known(tempo), known(length))
}

#[test]
fn trained_horses_lengthen_and_collect_and_a_rusher_rushes() {
    let limits = umlauf_gait::base::thresholds::Thresholds::default();
    let change = |gait, a: (Estimate, Estimate), b: (Estimate, Estimate)| {
        speed_change::speed_change(gait, (a.0, b.0), (a.1, b.1), &limits).unwrap()
    };
    // Shares of the stride: trot 81 %, canter 92 %, walk 73 %.
    let cases = [
        (Gait::Trot, "trot collected", "trot extended", 0.81),
        (Gait::Canter, "canter collected", "canter extended", 0.92),
        (Gait::Walk, "walk collected", "walk extended", 0.73),
    ];
    for (gait, a, b, stride_share) in cases {
        let up = change(gait, published(a), published(b));
        assert!((1.0 - up.tempo_share.value - stride_share).abs() < 0.006, "{up:?}");
        assert_eq!((up.manner, up.is_slower()), (Manner::ByStride, false));
        let down = change(gait, published(b), published(a));
        assert_eq!((down.manner, down.is_slower()), (Manner::ByStride, true));
    }
    let known = |v: f64| Estimate {
        ci95: Some((0.99 * v, 1.01 * v)),
        ..published("trot working").0.scaled(v / 79.3)
    };
    let rusher = change(Gait::Trot, published("trot working"), (known(92.0), known(2.95)));
    assert_eq!(rusher.manner, Manner::ByTempo);
    // Medium to extended walk is too small a change for a verdict.
    let small = change(Gait::Walk, published("walk medium"), published("walk extended"));
    assert_eq!(small.manner, Manner::CannotTell);
    // A wide interval takes the verdict away.
    let vague = |(t, l): (Estimate, Estimate)| {
        (Estimate { ci95: Some((0.9 * t.value, 1.1 * t.value)), ..t }, l)
    };
    let untold = change(Gait::Trot, vague(published("trot collected")), published("trot extended"));
    assert_eq!(untold.manner, Manner::CannotTell);
}

#[test]
fn positions_tell_longer_from_quicker_in_a_ride() {
    let mut marks = STRAIGHT.trot((0.0, 0.0), 0.78, 2.5, 12);
    marks.extend(STRAIGHT.trot((12.0 * 0.78, 30.0), 0.66, 2.6, 12));
    let cut = format!("{},start,straight", 12.0 * 0.78 - 0.01);
    let a = read(&marks, &cut);
    assert_eq!(a.events.speed_changes[0].1.manner, Manner::ByTempo);
    assert!(codes(&a).contains(&"rushes"));
}

#[test]
fn forward_and_back_gives_ratio_tempo_and_strides_to_change() {
    let mut marks = Vec::new();
    let (mut time, mut at) = (0.0, 0.0);
    for block in 0..5 {
        let length = if block % 2 == 0 { 2.4 } else { 3.1 };
        for _ in 0..6 {
            marks.extend(STRAIGHT.trot((time, at), TROT, length, 1));
            time += TROT;
            at += length;
        }
    }
    let a = read(&marks, "-1,start,forward-back\n99,end,forward-back");
    let f = a.events.forward_back[0];
    assert!((f.stride_ratio.unwrap() - 3.1 / 2.4).abs() < 0.03, "{f:?}");
    assert_eq!((f.breaks, f.changes), (0, 4));
    assert!(f.tempo_held_pct < 1.0 && f.tempo_change_pct.unwrap().abs() < 1.0);
}

#[test]
fn a_drill_is_counted_and_its_answers_timed() {
    let mut ride = Ride::default();
    let mut aids = String::new();
    // Two strides of each are planned; the third trot has three.
    for (k, n) in [2, 2, 2, 2, 3, 2, 2].into_iter().enumerate() {
        let asked = if k % 2 == 0 { "trot" } else { "walk" };
        // Each answer comes a little quicker than the one before.
        let lead = 0.8 - 0.08 * f64::from(u32::try_from(k).unwrap());
        aids += &format!("{},aid,{asked}\n", ride.now - lead);
        ride = if k % 2 == 0 { ride.trot(n) } else { ride.walk(n) };
    }
    let a = read(&ride.marks, &format!("{aids}-1,start,drill-2x2\n99,end,drill-2x2"));
    let d = &a.events.drills[0];
    assert_eq!(d.planned, (2, 2));
    let gaits: Vec<Gait> = d.runs.iter().map(|r| r.0).collect();
    let (t, w) = (Gait::Trot, Gait::Walk);
    assert_eq!(gaits, [t, w, t, w, t, w, t]);
    assert!((d.runs[4].1 - 3.0).abs() <= 0.5 && d.kept() == (4, 5), "{:?}", d.runs);
    assert!(d.answers_s.iter().flatten().count() >= 5, "{:?}", d.answers_s);
    assert!(d.trend_s.unwrap() < -0.03, "{:?}", d.answers_s);
}

#[test]
fn rising_trot_names_the_diagonal_and_whether_the_horse_follows() {
    // The rider's tempo swings; the horse's strides follow two later.
    let rider = |k: f64| TROT * (1.0 + 0.05 * (k * 0.7).sin());
    let (mut marks, mut sits) = (Vec::new(), String::new());
    let (mut now, mut sit) = (0.0, 0.10 * TROT);
    for k in 0..40 {
        let t = rider(f64::from(k) - 2.0);
        for (limb, phase) in [(Limb::RH, 0.0), (Limb::LF, 0.01), (Limb::LH, 0.5), (Limb::RF, 0.51)]
        {
            let on = now + phase * t;
            let off = Some(Seconds(on + 0.42 * t));
            marks.push(Footfall { off, ..Footfall::new(limb, Seconds(on)) });
        }
        sits += &format!("{sit},aid,sit\n");
        now += t;
        sit += rider(f64::from(k));
    }
    let a = read(&marks, &sits);
    let p = a.events.posting[0];
    assert_eq!((p.diagonal, p.lag_strides), (Some(Left), Some(2)), "{p:?}");
    assert!(p.sits >= 38 && a.events.aids.is_empty());
}

#[test]
fn a_horse_is_not_said_to_follow_by_chance() {
    // Sits and strides that wander apart from each other, and sits that keep to the stride.
    let mut followed = [0, 0];
    for seed in 0..150 {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let mut noise = || rng.random_range(-1.0..1.0) + rng.random_range(-1.0..1.0);
        for (kind, followed) in followed.iter_mut().enumerate() {
            let (mut marks, mut sits) = (Vec::new(), String::new());
            let (mut now, mut sit, mut away) = (0.0, 0.25 * TROT, 0.0);
            for _ in 0..14 + seed % 20 {
                away = 0.3 * away + 0.02 * noise();
                let t = TROT * (1.0 + away);
                for (limb, phase) in
                    [(Limb::RH, 0.0), (Limb::LF, 0.01), (Limb::LH, 0.5), (Limb::RF, 0.51)]
                {
                    marks.push(Footfall::new(limb, Seconds(now + phase * t)));
                }
                sits += &format!("{sit},aid,sit\n");
                now += t;
                sit = if kind == 0 {
                    sit + TROT * (1.0 + 0.02 * noise())
                } else {
                    now + (0.25 + 0.02 * noise()) * TROT
                };
            }
            let a = read(&marks, &sits);
            *followed += i32::from(a.events.posting.iter().any(|p| p.lag_strides.is_some()));
        }
    }
    assert!(followed.iter().all(|n| *n <= 10), "{followed:?} of 150");
}

#[test]
fn aids_are_placed_in_the_stride_and_their_windows() {
    let ride = Ride::default().trot(12);
    // LH stands from 0 to 0.42 of the stride: inside at 0.40, too early at 0.10.
    let aid = |k: f64, phase: f64, what: &str| format!("{},aid,{what}\n", (k + phase) * TROT);
    let table: String = (2..8).map(|k| aid(f64::from(k), 0.40, "leg-LH")).collect();
    let a = read(&ride.marks, &(table + &aid(9.0, 0.10, "leg-LH")));
    let inside: Vec<Option<bool>> = a.events.aids.iter().map(|x| x.in_window).collect();
    assert_eq!(inside, [Some(true); 6].into_iter().chain([Some(false)]).collect::<Vec<_>>());
    assert!((a.events.aids[0].phase.unwrap() - 0.40).abs() < 1e-6);
    let s = &a.events.aid_summaries[0];
    assert_eq!((s.aids, s.judged, s.inside), (7, 7, 6));
    assert!(says(&a, "aid-timing").starts_with("6 of 7"));
    // The change acts from the leading fore's footfall to the end of the air.
    let canter = Ride::default().canter(Left, 8);
    let at = |phase: f64| format!("{},aid,change\n", (3.0 + phase) * CANTER);
    let in_time = read(&canter.marks, &at(0.7)).events.aids[0].in_window;
    let early = read(&canter.marks, &at(0.2)).events.aids[0].in_window;
    assert_eq!((in_time, early), (Some(true), Some(false)));
    // Half-halts need the rein to know the outside.
    assert_eq!(read(&canter.marks, "2,aid,half-halt").events.aids[0].in_window, None);
}

#[test]
fn good_strides_are_counted_in_runs() {
    let ride = Ride::default().canter(Left, 7);
    let ride = ride.even(CANTER * 1.15, 0.4, [0.50, 0.28, 0.26, 0.0], 1).canter(Left, 5);
    let a = read(&ride.marks, "");
    let runs: Vec<usize> =
        a.bouts[0].good_runs.as_ref().unwrap().iter().map(|r| r.strides).collect();
    // The last stride has no end.
    assert_eq!(runs, [7, 4]);
    let first = a.bouts[0].good_runs.as_ref().unwrap()[1].first;
    assert_eq!(first, 8);
}

#[test]
fn a_gait_nobody_asked_for_is_told_and_counter_canter_is_no_crime() {
    let ride = Ride::default().trot(8).canter(Right, 8).trot(8);
    let asked = format!("{},aid,canter-right\n", 8.0 * TROT - 0.4);
    let frame_rate = Some(FrameRate::new(120.0).unwrap());
    let marks = marks_csv::read(format!("time_s,kind,detail\n{asked}").as_bytes()).unwrap();
    let rein = Some(Left);
    let a = analyse(&ride.marks, &Options { frame_rate, rein, marks, ..Options::default() });
    assert!(says(&a, "unasked-gait").contains("no crime"));
    assert!(codes(&a).contains(&"answer"));
    // Without any aid marked nothing is unasked.
    assert!(!codes(&read(&ride.marks, "")).contains(&"unasked-gait"));
}

#[test]
fn halts_stand_between_bouts_with_the_transitions_at_both_ends() {
    let ride = Ride::default().trot(8).halt(3.4, [1.0, 1.0, 0.0, 0.0]).walk(6);
    let a = read(&ride.marks, "");
    let gaits: Vec<Gait> = a.bouts.iter().map(|b| b.label.gait).collect();
    assert_eq!(gaits, [Gait::Trot, Gait::Halt, Gait::Walk]);
    let ends: Vec<(Gait, Gait)> =
        a.events.transitions.iter().map(|(t, _)| (t.from, t.to)).collect();
    assert_eq!(ends, [(Gait::Trot, Gait::Halt), (Gait::Halt, Gait::Walk)]);
    assert_eq!(a.events.transitions[1].0.first_limb, Limb::LF);
    assert!(says(&a, "halt-left").starts_with("A fore first; the aim is a hind."));
    // A stretch without marks is no halt, and is said to be what it is.
    let mut gap = Ride::default().trot(8);
    gap.now += 9.0;
    let a = read(&gap.trot(8).marks, "");
    let gaits: Vec<Gait> = a.bouts.iter().map(|b| b.label.gait).collect();
    assert_eq!(gaits, [Gait::Trot, Gait::Unclear, Gait::Trot]);
    assert!(a.events.halts.is_empty() && a.bouts[1].strides == 0);
}

#[test]
fn an_evenly_bent_horse_makes_three_tracks_and_four_when_it_turns_further() {
    let bent = |shoulder: f64| {
        let horse = Horse { body: shoulder / 2.0, shoulder, width: 0.15 * 1.65, base: 0.75 * 1.65 };
        read(&horse.trot((0.0, 0.0), TROT, 2.5, 12), "").bouts[0].prints
    };
    for shoulder in [25.0, 30.0] {
        let p = bent(shoulder);
        assert_eq!(p.tracks, Some(3), "{p:?}");
        assert!((p.shoulder_angle_deg.unwrap().value - shoulder).abs() < 0.1);
        assert!((p.body_angle_deg.unwrap().value - shoulder / 2.0).abs() < 0.1);
    }
    assert_eq!(bent(40.0).tracks, Some(4));
    assert_eq!(bent(0.0).tracks, Some(2));
    assert!((bent(-30.0).shoulder_angle_deg.unwrap().value + 30.0).abs() < 0.1);
    // A straight body at 17° already makes four.
    let straight = Horse { body: 17.5, shoulder: 17.5, width: 0.2, base: 1.3 };
    let hind_axis_turned = |limb: Limb, along: f64| {
        let mut p = straight.print(limb, along);
        if limb.is_hind() {
            let left = if limb.side() == Left { 0.1 } else { -0.1 };
            let a = f64::to_radians(17.5);
            p = GroundPoint { x: Metres(along - left * a.sin()), y: Metres(left * a.cos()) };
        }
        p
    };
    let mut marks = straight.trot((0.0, 0.0), TROT, 2.5, 10);
    for m in &mut marks {
        m.at = Some(hind_axis_turned(m.limb, m.on.0 / TROT * 2.5));
    }
    assert_eq!(read(&marks, "").bouts[0].prints.tracks, Some(4));
}

#[test]
fn overtrack_is_the_hind_print_against_the_last_fore_print_of_its_side() {
    // The hind lands 0.49 strides after the fore of its side, base behind it.
    let p = read(&STRAIGHT.trot((0.0, 0.0), TROT, 2.7, 12), "").bouts[0].prints;
    let over = p.overtrack_m.unwrap();
    assert!((over.value - (0.49 * 2.7 - 1.24)).abs() < 1e-6, "{over:?}");
}

#[test]
fn schools_change_words_and_never_figures() {
    let ride = Ride::default().canter(Left, 7).disunited(Left, 1).canter(Right, 7);
    let walk = Ride::default().walk(8).halt(2.0, [1.0, 1.0, 0.0, 0.0]).walk(6);
    for ride in [ride, walk] {
        let mut other = Schools::default();
        for (matter, [_, second]) in MATTERS {
            assert!(other.choose(matter, second));
        }
        assert!(!other.choose("counting", "hoofprints") && !other.choose("weather", "sun"));
        assert_eq!(other.chosen(), [1; 9]);
        let frame_rate = Some(FrameRate::new(120.0).unwrap());
        let with =
            |schools| analyse(&ride.marks, &Options { frame_rate, schools, ..Options::default() });
        let (a, b) = (with(Schools::default()), with(other));
        assert_eq!((&a.bouts, &a.events), (&b.bouts, &b.events));
        let text = |x: &Analysis| -> Vec<(String, String)> {
            x.findings
                .iter()
                .map(|f| words::finding::say(f, &x.schools))
                .map(|s| (s.figure, s.says + &s.advice.iter().map(|a| a.says).collect::<String>()))
                .collect()
        };
        let (x, y) = (text(&a), text(&b));
        assert!(x.iter().zip(&y).all(|(p, q)| p.0 == q.0), "a figure changed");
        assert_ne!(x, y);
        assert_ne!(words::headline::of_clip(&a), words::headline::of_clip(&b));
    }
}

#[test]
fn captions_name_every_footfall_at_its_time_on_the_film() {
    let marks = Ride::default().walk(2).marks;
    // A film eight times slower than the world.
    let text = captions::webvtt(&marks, |s| 8.0 * s);
    assert!(text.starts_with("WEBVTT\n\n00:00:00.000 --> "));
    let second = format!("{:.3}", 8.0 * 0.24 * WALK);
    assert!(text.contains(&format!("00:00:0{second} --> ")), "{text}");
    assert_eq!(text.matches(" --> ").count(), marks.len());
    let side =
        |s: Side| text.lines().filter(move |l| l.starts_with(if s == Left { 'L' } else { 'R' }));
    assert_eq!(side(Left).count(), side(Right).count());
}

#[test]
fn hildebrands_bands_have_their_gaits() {
    // Lateral advanced placement at the middle of each band of an eighth, hind duty factor and
    // stride duration in the gait's range (Hildebrand 1965, Science 150:701; value from memory).
    let cases = [
        (0.00, 0.42, 0.70, false, Gait::Pace),
        (0.125, 0.52, 0.80, true, Gait::SteppingPace),
        (0.25, 0.63, 1.08, false, Gait::Walk),
        (0.25, 0.60, 0.98, true, Gait::FlatWalk),
        (0.25, 0.55, 0.78, true, Gait::RunningWalk),
        (0.25, 0.44, 0.56, true, Gait::Rack),
        (0.375, 0.55, 0.80, true, Gait::FoxTrot),
        (0.50, 0.42, 0.756, false, Gait::Trot),
        (0.52, 0.45, 1.09, false, Gait::Passage),
        (0.52, 0.53, 1.08, false, Gait::Piaffe),
        (0.75, 0.55, 0.90, false, Gait::Unclear),
    ];
    for (lap, duty, t, gaited, gait) in cases {
        let phases = [lap, (lap + 0.5) % 1.0, 0.0, 0.5];
        let ride = Ride::default().even(t, duty, phases, 10);
        let frame_rate = Some(FrameRate::new(240.0).unwrap());
        let a = analyse(&ride.marks, &Options { frame_rate, gaited, ..Options::default() });
        assert_eq!(a.bouts[0].label.gait, gait, "LAP {lap}");
    }
}
