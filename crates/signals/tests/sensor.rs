//! Sensors on the simulated horse: what they say beside its own truth.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_gait::base::limb::{Limb, Side};
use umlauf_signals::sensor::clocks::{Told, alone, late};
use umlauf_signals::sensor::hoof::stances;
use umlauf_signals::sensor::trace::{Sample, Trace, Unfit};
use umlauf_signals::sensor::trunk::rhythm;
use umlauf_synth::sensors::{self, Sensor, hoof, trunk};
use umlauf_synth::template::Template;
use umlauf_synth::truth::{Ride, Truth};

fn ride(gait: &str, strides: usize, seed: u64, stride_cv: f64) -> Truth {
    Truth::new(Ride {
        template: *Template::named(gait).unwrap(),
        strides,
        seed,
        stride_cv,
        serial: 0.3,
        phase_sd: 0.008,
        duty_sd: 0.01,
        withers: 1.62,
        rein: Side::Left,
        from_y: 0.0,
        line_x: 0.0,
        changes: &[],
        then: None,
    })
}

fn trace(samples: &[sensors::Sample]) -> Trace {
    Trace::of(samples.iter().map(|(at, a)| Sample { at: *at, a: *a }).collect()).unwrap()
}

#[test]
fn a_hoofs_landings_are_felt_to_three_milliseconds_at_200_a_second() {
    let (mut all, mut found, mut made_up) = (0, 0, 0);
    let (mut errors, mut offs) = (vec![], vec![]);
    for gait in ["walk", "trot", "canter"] {
        for seed in 1..6 {
            let truth = ride(gait, 12, seed, 0.02);
            for limb in Limb::ALL {
                let sensor = Sensor { late_s: 0.7, ..Sensor::usual(seed) };
                let felt = stances(&trace(&hoof(&truth, limb, sensor)));
                let last = truth.duration() - 0.3;
                let own: Vec<_> = truth.stances[limb.index()]
                    .iter()
                    .filter(|s| s.on > 0.3 && s.off < last)
                    .collect();
                all += own.len();
                for f in &felt {
                    let on = f.on - 0.7;
                    match own.iter().find(|s| (s.on - on).abs() < 0.015) {
                        Some(s) => {
                            found += 1;
                            errors.push(on - s.on);
                            offs.extend(f.off.map(|off| off - 0.7 - s.off));
                        }
                        None => made_up += usize::from(on > 0.4 && on < last - 0.4),
                    }
                }
            }
        }
    }
    let mean = |v: &[f64]| v.iter().sum::<f64>() / v.len() as f64;
    let rms = |v: &[f64]| mean(&v.iter().map(|e| e * e).collect::<Vec<_>>()).sqrt();
    let told = format!(
        "{found} of {all}, {made_up} made up, on {:.4} s RMS, {:+.4} bias; off {} {:.4}",
        rms(&errors),
        mean(&errors),
        offs.len(),
        rms(&offs)
    );
    assert!(100 * found >= 98 * all && 100 * made_up <= all, "{told}");
    assert!(rms(&errors) < 0.003 && mean(&errors).abs() < 0.001, "{told}");
    assert!(10 * offs.len() >= 9 * found && rms(&offs) < 0.015, "{told}");
}

#[test]
fn a_trunk_tells_tempo_within_half_a_percent_and_which_ride_is_less_regular() {
    for gait in ["walk", "trot", "canter"] {
        let told = |cv: f64| {
            let truth = ride(gait, 20, 9, cv);
            let told = rhythm(&trace(&trunk(&truth, Sensor::usual(4)))).unwrap();
            // Of the strides that it looked at, from the first on.
            let n = told.strides;
            let stride = (truth.starts[n] - truth.starts[0]) / n as f64;
            assert!((told.stride_s / stride - 1.0).abs() < 0.005, "{gait} {told:?} {stride}");
            told.cv_pct
        };
        let (even, uneven) = (told(0.005), told(0.05));
        assert!(uneven > 2.0 * even, "{gait} {even} {uneven}");
    }
}

#[test]
fn a_clock_that_jumps_costs_no_more_than_what_was_felt() {
    // A logger that begins at nought and then shows the years since 1970.
    let mut samples = trunk(&ride("trot", 20, 9, 0.02), Sensor::usual(4));
    let whole = rhythm(&trace(&samples)).unwrap();
    let part = samples.len() / 4;
    samples[part..].iter_mut().for_each(|(at, _)| *at += 1.7e9);
    let told = rhythm(&trace(&samples)).unwrap();
    assert!(told.strides < whole.strides && told.strides > whole.strides / 2, "{told:?} {whole:?}");
    assert!((told.stride_s / whole.stride_s - 1.0).abs() < 0.01, "{told:?} {whole:?}");
    // In other units than seconds they are too far apart, or too near.
    let scaled =
        |by: f64| Trace::of(samples.iter().map(|(at, a)| Sample { at: at * by, a: *a }).collect());
    assert!(matches!(scaled(1000.0), Err(Unfit::Slow(_))));
    assert!(matches!(scaled(0.001), Err(Unfit::Fast(_))));
}

#[test]
fn clocks_are_lined_up_by_footfalls_of_one_limb_and_not_by_a_stride_too_many() {
    let truth = ride("trot", 14, 3, 0.03);
    let seen: Vec<Told> = Limb::ALL
        .into_iter()
        .flat_map(|limb| truth.stances[limb.index()].iter().map(move |s| Told { limb, on: s.on }))
        .filter(|t| t.on > 2.0 && t.on < 7.0)
        .collect();
    let felt = |by: f64| -> Vec<Told> {
        let own = |limb: Limb| truth.stances[limb.index()].iter().map(move |s| (limb, s.on));
        Limb::ALL.into_iter().flat_map(own).map(|(limb, on)| Told { limb, on: on + by }).collect()
    };
    let told = late(&felt(0.183), &seen, 0.3).unwrap();
    assert!((told.by - 0.183).abs() < 0.001, "{told:?}");
    // A horse as even as a clock fits a stride later as well.
    let even: Vec<Told> =
        (0..20).map(|k| Told { limb: Limb::LF, on: 0.7 * f64::from(k) }).collect();
    assert_eq!(late(&even, &even[5..15], 2.0), None);
    assert_eq!(late(&felt(0.1)[..4], &seen, 0.3), None);
}

#[test]
fn a_clap_stands_alone_and_what_is_no_trace_says_so() {
    assert_eq!(alone(&[1.0, 3.2, 3.5, 3.9, 6.0]), vec![1.0, 6.0]);
    let still = |rate: f64, n: u32| {
        (0..n).map(|k| Sample { at: f64::from(k) / rate, a: [0.0, 0.0, 9.81] }).collect::<Vec<_>>()
    };
    assert_eq!(Trace::of(vec![]), Err(Unfit::Short));
    assert_eq!(Trace::of(still(200.0, 100)), Err(Unfit::Short));
    assert!(matches!(Trace::of(still(20.0, 200)), Err(Unfit::Slow(_))));
    let mut broken = still(200.0, 1000);
    broken[7].a[1] = f64::NAN;
    broken[9].at = f64::INFINITY;
    broken.swap(20, 400);
    let trace = Trace::of(broken).unwrap();
    assert_eq!(trace.samples.len(), 998);
    // A sensor that lies in a drawer has no footfalls and no rhythm.
    assert_eq!(stances(&trace), vec![]);
    assert_eq!(rhythm(&trace), None);
}
