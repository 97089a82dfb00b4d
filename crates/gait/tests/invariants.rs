//! What must hold for any marks: mirrored footage gives mirrored figures, another zero of the
//! clock changes times only, another speed of the clock scales times only, rows may come in any
//! order.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use proptest::prelude::*;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::units::Seconds;
use umlauf_gait::{Analysis, Footfall, Limb, Options, analyse};

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
}
