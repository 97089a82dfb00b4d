//! Simulated sensors that the synthetic horse wears: acceleration of a hoof or of the trunk on a clock of its own.
//!
//! The hoof's way is differentiated twice, gravity added, all turned into the hoof's own axes; what it lands on rings.
//! Sensors average over a sample, clip, and are never quite still.

use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::Limb;

use crate::flat::limb::{Action, limb};
use crate::truth::{Truth, normal};

/// A sample: s of the sensor's clock, m/s² along three axes.
pub type Sample = (f64, [f64; 3]);

/// A sensor.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Sensor {
    /// Samples a second.
    pub rate: f64,
    /// Its clock shows so much more than the ride's, s.
    pub late_s: f64,
    /// Deviation of its noise, m/s².
    pub noise: f64,
    /// Most it can show, m/s².
    pub most: f64,
    /// Seed of its noise and of what rings.
    pub seed: u64,
}

impl Sensor {
    /// A usual one: 200 samples a second, up to 16 times the gravity.
    pub const fn usual(seed: u64) -> Self {
        Self { rate: 200.0, late_s: 0.0, noise: 0.3, most: 157.0, seed }
    }
}

const GRAVITY: f64 = 9.81;

/// Steps in which the way is differentiated, s.
const STEP: f64 = 0.0005;

/// How a sensor's horse lifts its hooves.
const ACTION: Action = Action { lift: 0.08, hoof: 0.085, leggy: 1.0 };

/// What the ground rings at, Hz, and how soon it is still, s.
const RINGS: f64 = 80.0;
const STILL: f64 = 0.006;

/// Acceleration of a hoof over a ride.
pub fn hoof(truth: &Truth, of: Limb, sensor: Sensor) -> Vec<Sample> {
    let mut rng = ChaCha8Rng::seed_from_u64(sensor.seed ^ (0xacce + of.index() as u64));
    let landings: Vec<(f64, [f64; 3])> = truth.stances[of.index()]
        .iter()
        .map(|s| {
            let hard = rng.random_range(30.0..90.0);
            let way = [normal(&mut rng), normal(&mut rng) + 2.0, normal(&mut rng)];
            (s.on, way.map(|w| hard * w / 2.5))
        })
        .collect();
    let place = |t: f64| {
        let j = limb(truth, of, t, ACTION);
        let turned = (j.heel.1 - j.toe.1).atan2(j.toe.0 - j.heel.0);
        (0.5 * (j.heel.0 + j.toe.0), 0.5 * (j.heel.1 + j.toe.1), turned)
    };
    sampled(truth, sensor, &mut rng, |t| {
        let (a, b, c) = (place(t - STEP), place(t), place(t + STEP));
        let along = (a.0 - 2.0 * b.0 + c.0) / (STEP * STEP);
        let up = (a.1 - 2.0 * b.1 + c.1) / (STEP * STEP) + GRAVITY;
        let (s, cos) = b.2.sin_cos();
        let mut out = [cos * along - s * up, s * along + cos * up, 0.0];
        for (on, hard) in landings.iter().filter(|l| (0.0..8.0 * STILL).contains(&(t - l.0))) {
            let rings =
                (-(t - on) / STILL).exp() * (std::f64::consts::TAU * RINGS * (t - on)).sin();
            out.iter_mut().zip(hard).for_each(|(o, h)| *o += h * rings);
        }
        out
    })
}

/// Acceleration of the trunk: it heaves twice a stride in walk and trot, once in canter, and sways once.
pub fn trunk(truth: &Truth, sensor: Sensor) -> Vec<Sample> {
    let mut rng = ChaCha8Rng::seed_from_u64(sensor.seed ^ 0x7246);
    let starts = &truth.starts;
    let phase = |t: f64| {
        let k = starts.partition_point(|s| *s <= t).clamp(1, starts.len() - 1);
        let (from, to) = (starts[k - 1], starts[k]);
        #[expect(clippy::cast_precision_loss, reason = "strides of a ride")]
        let whole = k as f64;
        std::f64::consts::TAU * (whole + (t - from) / (to - from))
    };
    let canters = truth.ride.template.name.contains("canter");
    let beats = if canters { 1.0 } else { 2.0 };
    let stride = truth.ride.template.stride_s;
    let size = |times: f64| (std::f64::consts::TAU * times / stride).powi(2);
    sampled(truth, sensor, &mut rng, |t| {
        let p = phase(t);
        [
            0.010 * size(beats) * (beats * p + 0.7).cos(),
            GRAVITY + 0.035 * size(beats) * (beats * p).cos() + 0.01 * size(1.0) * (p + 0.3).cos(),
            0.02 * size(1.0) * p.sin(),
        ]
    })
}

/// Steps that are averaged to a sample.
const AVERAGED: usize = 8;

fn sampled(
    truth: &Truth,
    sensor: Sensor,
    rng: &mut ChaCha8Rng,
    at: impl Fn(f64) -> [f64; 3],
) -> Vec<Sample> {
    let n = (truth.duration() * sensor.rate).floor();
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a short ride")]
    let n = n as u32;
    (0..n)
        .map(|k| {
            let t = f64::from(k) / sensor.rate;
            let mut sum = [0.0; 3];
            for part in 0..AVERAGED {
                // What it shows is the mean since the sample before.
                #[expect(clippy::cast_precision_loss, reason = "a few")]
                let back = part as f64 / AVERAGED as f64 / sensor.rate;
                let a = at(t - back);
                sum.iter_mut().zip(a).for_each(|(s, a)| *s += a);
            }
            #[expect(clippy::cast_precision_loss, reason = "a few")]
            let shown = sum.map(|s| {
                let own = s / AVERAGED as f64 + sensor.noise * normal(rng);
                own.clamp(-sensor.most, sensor.most)
            });
            (t + sensor.late_s, shown)
        })
        .collect()
}
