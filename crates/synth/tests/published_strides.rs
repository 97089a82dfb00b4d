//! The published stride table, read off pictures frame by frame.
//!
//! Stride durations of trained dressage horses: Clayton 1995, Am J Vet Res 56:849 (walk), 1994,
//! Equine Vet J 26:230 (trot), 1994, Equine Vet J Suppl 17:16 (canter); values from memory.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::base::units::{FrameRate, Seconds};
use umlauf_gait::{Footfall, Options, analyse};
use umlauf_synth::pose::Pose;
use umlauf_synth::template::Template;
use umlauf_synth::truth::{Ride, Truth};

/// Template, speed m/s, stride m, stride s, strides/min.
const TABLE: [(&str, Gait, f64, f64, f64, f64); 9] = [
    ("walk-collected", Gait::Walk, 1.37, 1.57, 1.146, 52.4),
    ("walk", Gait::Walk, 1.73, 1.87, 1.081, 55.5),
    ("walk-extended", Gait::Walk, 1.82, 1.93, 1.060, 56.6),
    ("trot-collected", Gait::Trot, 3.20, 2.50, 0.781, 76.8),
    ("trot", Gait::Trot, 3.61, 2.73, 0.756, 79.3),
    ("trot-medium", Gait::Trot, 4.47, 3.26, 0.729, 82.3),
    ("trot-extended", Gait::Trot, 4.93, 3.55, 0.720, 83.3),
    ("canter-collected", Gait::Canter, 3.27, 2.00, 0.612, 98.1),
    ("canter-extended", Gait::Canter, 5.97, 3.47, 0.581, 103.2),
];

fn ride(name: &str, strides: usize, seed: u64, stride_cv: f64) -> Truth {
    Truth::new(Ride {
        template: *Template::named(name).unwrap(),
        strides,
        seed,
        stride_cv,
        serial: 0.0,
        phase_sd: 0.003,
        duty_sd: 0.004,
        withers: 1.65,
        rein: Side::Left,
        from_y: 5.0,
        line_x: 18.6,
        changes: &[],
        then: None,
    })
}

/// Footfalls as the pictures show them: the first frame in which the drawn hoof stands on the
/// ground, and the first in which it is clear.
fn read_off_pictures(truth: &Truth, rate: f64) -> Vec<Footfall> {
    let frames = (truth.duration() * rate) as u32;
    let mut out = Vec::new();
    for limb in Limb::ALL {
        let mut on: Option<f64> = None;
        let mut before = true;
        for k in 0..frames {
            let t = f64::from(k) / rate;
            let hoof = Pose::at(truth, t).limbs[limb.index()];
            let down = hoof.toe.z <= 1e-9;
            assert_eq!(down, hoof.stance.is_some(), "{limb} at {t}");
            match (before, down) {
                (false, true) => on = Some(t),
                (true, false) => {
                    if let Some(on) = on.take() {
                        let off = Some(Seconds(t));
                        out.push(Footfall { off, ..Footfall::new(limb, Seconds(on)) });
                    }
                }
                _ => {}
            }
            before = down;
        }
    }
    out
}

#[test]
fn published_tempos_come_back_from_frames() {
    for (name, gait, speed, length, duration, tempo) in TABLE {
        assert!((length / speed - duration).abs() < 0.003, "{name}: the table itself");
        for rate in [60.0, 120.0] {
            let (mut inside, mut runs) = (0, 0);
            for seed in 0..12 {
                let truth = ride(name, 24, seed, 0.010);
                let marks = read_off_pictures(&truth, rate);
                let frame_rate = Some(FrameRate::new(rate).unwrap());
                let analysis = analyse(&marks, &Options { frame_rate, ..Options::default() });
                assert_eq!(analysis.bouts.len(), 1, "{name} at {rate}");
                let bout = &analysis.bouts[0];
                assert_eq!(bout.label.gait, gait, "{name} at {rate}");
                let found = bout.tempo.unwrap().tempo;
                assert!((found.value / tempo - 1.0).abs() < 0.01, "{name}: {}", found.value);
                let (lo, hi) = found.ci95.unwrap();
                inside += i32::from(lo <= 60.0 / duration && 60.0 / duration <= hi);
                runs += 1;
            }
            // A 95 % interval misses now and then: 9 of 12 has a chance of 0.2 %.
            assert!(inside >= 10, "{name} at {rate}: {inside} of {runs} intervals hold the truth");
        }
    }
}

#[test]
fn hooves_stand_still_while_they_are_down() {
    for (name, ..) in TABLE {
        let truth = ride(name, 4, 3, 0.012);
        let mut worst: f64 = 0.0;
        for limb in Limb::ALL {
            for stance in &truth.stances[limb.index()] {
                for share in [0.0, 0.25, 0.5, 0.75, 0.999] {
                    let t = stance.on + share * (stance.off - stance.on);
                    if t < 0.0 || t > truth.duration() {
                        continue;
                    }
                    let pose = Pose::at(&truth, t);
                    let hoof = pose.limbs[limb.index()];
                    assert!((pose.along + hoof.toe.x - stance.along).abs() < 1e-9, "{name} {limb}");
                    assert!(hoof.toe.z.abs() < 1e-9);
                    worst = worst.max(hoof.stretch);
                }
            }
        }
        // The carriage gives way a little where limbs reach; more would show as rubber legs.
        assert!(worst < 1.04, "{name}: bones stretched {worst}");
    }
}

#[test]
fn a_canter_on_either_lead_is_told_with_its_split() {
    for (name, mirrored, lead) in
        [("canter-collected", false, Side::Left), ("canter-collected", true, Side::Right)]
    {
        let mut ride = ride(name, 20, 5, 0.01).ride;
        if mirrored {
            ride.template = ride.template.mirrored();
        }
        let truth = Truth::new(ride);
        let marks = truth.read_off(120.0, 0.0);
        let frame_rate = Some(FrameRate::new(120.0).unwrap());
        let analysis = analyse(&marks, &Options { frame_rate, ..Options::default() });
        let bout = &analysis.bouts[0];
        assert_eq!((bout.label.hind_lead, bout.label.fore_lead), (Some(lead), Some(lead)));
        let (lo, hi) = bout.canter.unwrap().dissociation.ci95.unwrap();
        // The template's diagonal is 4 % of the stride apart.
        let split = 0.04 * 0.612;
        assert!(lo < split && split < hi, "{lo}–{hi}");
    }
}
