//! What must hold for any marks: mirrored footage gives mirrored figures, another zero of the
//! clock changes times only, another speed of the clock scales times only, rows may come in any
//! order.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(clippy::cast_precision_loss, reason = "small counts")]

use proptest::prelude::*;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::Seconds;
use umlauf_gait::{Analysis, Footfall, Kept, Limb, Options, analyse, words};

/// Duration, phases of LF RF LH RH, duty factor: templates that lie well inside their gait.
const GAITS: [(f64, [f64; 4], f64); 6] = [
    (1.08, [0.24, 0.74, 0.0, 0.5], 0.63),
    (0.756, [0.51, 0.01, 0.0, 0.5], 0.42),
    (0.60, [0.48, 0.26, 0.25, 0.0], 0.40),
    (0.60, [0.26, 0.48, 0.0, 0.25], 0.40),
    (0.612, [0.53, 0.31, 0.27, 0.0], 0.44),
    (0.48, [0.36, 0.54, 0.0, 0.16], 0.27),
];

/// Strides of one gait, each duration and mark a little off, some marks missing.
fn ride() -> impl Strategy<Value = Vec<Footfall>> {
    let wobble = prop::collection::vec((-0.01..0.01f64, 0..20u8), 4 * 24);
    (0..GAITS.len(), 6..24usize, wobble).prop_map(|(gait, strides, wobble)| {
        let (t, phases, duty) = GAITS[gait];
        let mut out = Vec::new();
        let mut start = 0.0;
        for k in 0..strides {
            let stride = t * (1.0 + wobble[k].0);
            for limb in Limb::ALL {
                let (shift, luck) = wobble[4 * k + limb.index()];
                let on = start + (phases[limb.index()] + 0.3 * shift) * stride;
                if luck > 0 {
                    let off = Some(Seconds(on + duty * stride));
                    out.push(Footfall { off, ..Footfall::new(limb, Seconds(on)) });
                }
            }
            start += stride;
        }
        out
    })
}

/// What a ride is made of: stretches of a gait, halts, holes, hooves that were not seen, and marks
/// that are plainly wrong.
#[derive(Clone, Debug)]
enum Part {
    Gait(usize, usize),
    Halt(f64),
    Hole(f64),
    Lost(u8, usize),
    Wild(f64, u8),
}

fn part() -> impl Strategy<Value = Part> {
    prop_oneof![
        5 => (0..GAITS.len(), 1..12usize).prop_map(|(g, n)| Part::Gait(g, n)),
        2 => (0.3..4.0f64).prop_map(Part::Halt),
        1 => (0.1..6.0f64).prop_map(Part::Hole),
        1 => (0..4u8, 1..20usize).prop_map(|(l, n)| Part::Lost(l, n)),
        1 => (0.0..1.0f64, 0..4u8).prop_map(|(at, l)| Part::Wild(at, l)),
    ]
}

/// A whole schooling: any parts in any order.
fn schooling() -> impl Strategy<Value = Vec<Part>> {
    prop::collection::vec(part(), 1..9)
}

fn marks_of(parts: &[Part]) -> Vec<Footfall> {
    let mut out: Vec<Footfall> = Vec::new();
    let mut now = 0.0;
    for part in parts.iter().cloned() {
        match part {
            Part::Gait(g, n) => {
                // Off any limit that a clean number might lie on.
                let (t, phases, duty) = (GAITS[g].0 * 1.003, GAITS[g].1, GAITS[g].2);
                for k in 0..n {
                    for limb in Limb::ALL {
                        // A hand's scatter: marks without any lie on limits and ties.
                        let hand = 0.002 * (7.3 * out.len() as f64 + now).sin();
                        let on = now + (k as f64 + phases[limb.index()]) * t + hand;
                        let off = Some(Seconds(on + duty * t));
                        out.push(Footfall { off, ..Footfall::new(limb, Seconds(on)) });
                    }
                }
                now += n as f64 * t;
            }
            Part::Halt(seconds) => {
                // No two hooves leave in the very same moment: a mirror could not tell which.
                for (k, limb) in Limb::ALL.into_iter().enumerate() {
                    if let Some(last) = out.iter_mut().rev().find(|m| m.limb == limb) {
                        last.off = Some(Seconds(now + seconds + 0.013 * k as f64));
                    }
                }
                now += seconds + 0.1;
            }
            Part::Hole(seconds) => now += seconds,
            Part::Lost(limb, n) => {
                let limb = Limb::ALL[usize::from(limb)];
                for _ in 0..n {
                    if let Some(k) = out.iter().rposition(|m| m.limb == limb) {
                        out.remove(k);
                    }
                }
            }
            Part::Wild(at, limb) => {
                // Never in the very same moment as another.
                let on = Seconds(now * at + 0.00317 * (1.0 + out.len() as f64));
                out.push(Footfall::new(Limb::ALL[usize::from(limb)], on));
            }
        }
    }
    out
}

/// Changes of lead, halts and transitions: what mirrors and shifts must carry along.
fn happenings(a: &Analysis) -> Vec<(f64, String)> {
    let e = &a.events;
    let mut out: Vec<(f64, String)> = Vec::new();
    out.extend(e.changes.iter().map(|(c, _)| {
        (c.time_s, format!("change {:?}>{:?} {:?} {}", c.from, c.to, c.verdict, c.late_by_strides))
    }));
    out.extend(
        e.halts.iter().map(|h| (h.start_s, format!("halt {:?} {:?}", h.last_on, h.first_off))),
    );
    out.extend(e.transitions.iter().map(|(t, _)| {
        (t.time_s, format!("{:?}>{:?} {:?} {:?} {}", t.from, t.to, t.first_limb, t.lead, t.steps))
    }));
    out.extend(e.simple.iter().map(|s| (s.time_s, format!("simple {:?}>{:?}", s.from, s.to))));
    out
}

/// The same in a mirror.
fn other_side(text: &str) -> String {
    let pairs = [("Left", "Right"), ("LH", "RH"), ("LF", "RF")];
    pairs
        .iter()
        .fold(text.to_owned(), |t, (l, r)| t.replace(l, "\u{0}").replace(r, l).replace('\u{0}', r))
}

fn findings(a: &Analysis) -> Vec<(&'static str, String, bool)> {
    let said = |f: &umlauf_gait::findings::finding::Finding| {
        let s = words::finding::say(f, &a.schools);
        (s.code, s.figure, f.kind.is_fault())
    };
    a.findings.iter().map(said).collect()
}

fn with_sd(sd: f64) -> Options {
    Options { timing_sd: Some(Seconds(sd)), ..Options::default() }
}

fn mirrored(marks: &[Footfall]) -> Vec<Footfall> {
    marks.iter().map(|m| Footfall { limb: m.limb.opposite(), ..m.clone() }).collect()
}

fn on_clock(marks: &[Footfall], scale: f64, shift: f64) -> Vec<Footfall> {
    let time = |s: Seconds| Seconds(s.0 * scale + shift);
    marks.iter().map(|m| Footfall { on: time(m.on), off: m.off.map(time), ..m.clone() }).collect()
}

fn labels(a: &Analysis) -> Vec<(Gait, usize)> {
    a.bouts.iter().map(|b| (b.label.gait, b.strides)).collect()
}

fn tempos(a: &Analysis) -> Vec<f64> {
    a.bouts.iter().filter_map(|b| b.tempo).map(|t| t.tempo.value).collect()
}

fn close(a: f64, b: f64) -> bool {
    (a - b).abs() <= 1e-9 * a.abs().max(1.0)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn mirrored_footage_gives_mirrored_figures(marks in ride()) {
        let options = with_sd(0.0024);
        let (a, b) = (analyse(&marks, &options), analyse(&mirrored(&marks), &options));
        prop_assert_eq!(labels(&a), labels(&b));
        for (x, y) in a.bouts.iter().zip(&b.bouts) {
            prop_assert_eq!(x.label.hind_lead.map(|s| s.opposite()), y.label.hind_lead);
            prop_assert_eq!(x.label.fore_lead.map(|s| s.opposite()), y.label.fore_lead);
            prop_assert_eq!(x.tempo, y.tempo);
            prop_assert_eq!(x.regularity, y.regularity);
            prop_assert_eq!(x.suspension, y.suspension);
            for limb in Limb::ALL {
                prop_assert_eq!(x.duty[limb.index()], y.duty[limb.opposite().index()]);
                prop_assert_eq!(x.phases[limb.index()], y.phases[limb.opposite().index()]);
            }
            if let (Some(l), Some(r)) = (x.stance_symmetry[0], y.stance_symmetry[0]) {
                prop_assert!(close(l.value, -r.value));
            }
        }
    }

    #[test]
    fn another_zero_of_the_clock_changes_times_only(marks in ride(), shift in -5000.0..5000.0f64) {
        let options = with_sd(0.0024);
        let (a, b) = (analyse(&marks, &options), analyse(&on_clock(&marks, 1.0, shift), &options));
        prop_assert_eq!(labels(&a), labels(&b));
        for (x, y) in a.bouts.iter().zip(&b.bouts) {
            prop_assert!((x.start_s + shift - y.start_s).abs() < 1e-9);
        }
        for (x, y) in tempos(&a).iter().zip(tempos(&b)) {
            prop_assert!((x - y).abs() < 1e-6);
        }
    }

    #[test]
    fn another_speed_of_the_clock_scales_tempo_only(marks in ride(), scale in 0.95..1.05f64) {
        let options = Options::default();
        let (a, b) = (analyse(&marks, &options), analyse(&on_clock(&marks, scale, 0.0), &options));
        prop_assert_eq!(labels(&a), labels(&b));
        for (x, y) in tempos(&a).iter().zip(tempos(&b)) {
            prop_assert!(close(*x, y * scale));
        }
    }

    #[test]
    fn rows_may_come_in_any_order(marks in ride(), seed in any::<u64>()) {
        let mut shuffled = marks.clone();
        let mut state = seed | 1;
        for k in (1..shuffled.len()).rev() {
            state ^= state << 13;
            state ^= state >> 7;
            state ^= state << 17;
            shuffled.swap(k, usize::try_from(state % (k as u64 + 1)).unwrap());
        }
        let options = with_sd(0.0024);
        let (a, b) = (analyse(&marks, &options), analyse(&shuffled, &options));
        prop_assert_eq!(&a.bouts, &b.bouts);
    }

    #[test]
    fn bouts_are_ordered_and_disjoint_and_every_place_is_valid(parts in schooling()) {
        let marks = marks_of(&parts);
        let a = analyse(&marks, &with_sd(0.0024));
        prop_assert_eq!(a.bouts.len(), a.bout_strides.len());
        for (b, r) in a.bouts.iter().zip(&a.bout_strides) {
            prop_assert!(b.start_s <= b.end_s, "{:?}", (b.start_s, b.end_s));
            prop_assert!(r.start <= r.end && r.end <= a.strides.len());
            prop_assert_eq!(r.len(), b.strides);
            if let (Some(first), Some(last)) = (a.strides.get(r.start), r.len().checked_sub(1)) {
                let last = &a.strides[r.start + last];
                // A gait may begin before its first whole stride: where marks of one limb are
                // missing none is cut.
                let before = first.start - b.start_s;
                prop_assert!(before > -1e-6 && before < 7.0 * first.duration(), "{before}");
                prop_assert!(close(last.end, b.end_s));
            }
        }
        for pair in a.bouts.windows(2) {
            prop_assert!(
                pair[0].end_s <= pair[1].start_s + 1e-6,
                "{:?} {}–{} before {:?} {}–{}",
                pair[0].label.gait, pair[0].start_s, pair[0].end_s,
                pair[1].label.gait, pair[1].start_s, pair[1].end_s
            );
        }
        for pair in a.bout_strides.windows(2) {
            prop_assert!(pair[0].end <= pair[1].start);
        }
        let e = &a.events;
        for k in e.changes.iter().map(|(c, _)| c.stride) {
            prop_assert!(k < a.strides.len());
        }
        let named = e.lateral.iter().map(|l| l.bout).chain(e.speed_changes.iter().map(|(k, _)| *k));
        for k in named {
            prop_assert!(a.bouts[k].strides > 0);
        }
        for f in &a.findings {
            prop_assert!(f.start_s.is_finite() && f.end_s.is_finite() && f.start_s <= f.end_s);
        }
    }

    #[test]
    fn a_mirror_and_another_zero_carry_events_and_findings_along(
        parts in schooling(),
        shift in -900.0..900.0f64,
    ) {
        let marks = marks_of(&parts);
        let options = with_sd(0.0024);
        let a = analyse(&marks, &options);
        let mirror = analyse(&mirrored(&marks), &options);
        let later = analyse(&on_clock(&marks, 1.0, shift), &options);
        let (own, other, moved) = (happenings(&a), happenings(&mirror), happenings(&later));
        prop_assert_eq!(own.len(), other.len());
        for ((t, says), (u, mirrored)) in own.iter().zip(&other) {
            prop_assert!((t - u).abs() < 1e-9);
            prop_assert_eq!(&other_side(says), mirrored, "{:?} / {:?}", &own, &other);
        }
        prop_assert_eq!(own.len(), moved.len());
        for ((t, says), (u, same)) in own.iter().zip(&moved) {
            prop_assert!((t + shift - u).abs() < 1e-6);
            prop_assert_eq!(says, same);
        }
        let faults = |a: &Analysis| findings(a).iter().filter(|f| f.2).count();
        prop_assert_eq!(faults(&a), faults(&mirror));
        let codes = |a: &Analysis| findings(a).into_iter().map(|f| f.0).collect::<Vec<_>>();
        prop_assert_eq!(codes(&a), codes(&mirror));
        prop_assert_eq!(findings(&a), findings(&later));
    }

    #[test]
    fn bouts_that_an_edit_leaves_alone_are_kept_and_nothing_else_is(
        parts in schooling(),
        edits in prop::collection::vec((0..9999usize, -0.3..0.3f64, 0..4u8), 1..8),
    ) {
        let mut marks = marks_of(&parts);
        let mut options = with_sd(0.0024);
        let kept = Kept::new();
        prop_assert_eq!(kept.analyse(&marks, &options), analyse(&marks, &options));
        for (place, by, what) in edits {
            let k = place % marks.len().max(1);
            match what {
                _ if marks.is_empty() => {}
                0 => drop(marks.remove(k)),
                1 => marks[k].limb = marks[k].limb.opposite(),
                2 => options.gaited = !options.gaited,
                _ => marks[k].on.0 += by,
            }
            prop_assert_eq!(kept.analyse(&marks, &options), analyse(&marks, &options));
        }
    }
}
