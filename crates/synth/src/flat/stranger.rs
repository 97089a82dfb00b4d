//! What may move through a film in which there is no horse.

use std::f64::consts::TAU;

use crate::flat::canvas::{Canvas, Paint};
use crate::flat::conditions::Shown;
use crate::flat::lens::Lens;

/// A painter of one frame of something that is no horse.
pub(crate) struct Painter<'a> {
    pub canvas: &'a mut Canvas,
    pub lens: Lens,
    /// Tone of most of it.
    pub tone: f64,
    /// How strong its shadow is, 0 to 1.
    pub shadow: f64,
    /// It goes to the right.
    pub rightward: bool,
    /// Its way, m from the camera.
    pub z: f64,
    /// How far it has come, m, from where its place 0 lies to the right of the camera.
    pub along: f64,
    pub origin: f64,
    /// Its speed, m/s.
    pub speed: f64,
}

impl Painter<'_> {
    fn spot(&self, (along, up): (f64, f64), thick: f64) -> (f64, f64, f64) {
        let x = self.origin + if self.rightward { along } else { -along };
        let spot = self.lens.see(x, up, self.z);
        (spot.x, spot.y, thick * spot.scale)
    }

    fn bar(&mut self, a: ((f64, f64), f64), b: ((f64, f64), f64), paint: Paint) {
        let (a, b) = (self.spot(a.0, a.1), self.spot(b.0, b.1));
        self.canvas.bar(a, b, paint);
    }

    /// What is shown at time `t`.
    pub fn paint(&mut self, shown: Shown, t: f64) {
        match shown {
            Shown::Horse | Shown::Nothing => {}
            Shown::Car => self.car(),
            Shown::Dog => self.dog(t),
            Shown::Walker => self.walker(t),
            Shown::Flag => self.flag(t),
        }
    }

    fn shade(&mut self, from: f64, to: f64) {
        let dark = Paint { tone: 20.0, cover: 0.65 * self.shadow, round: 0.0 };
        self.bar(((from, 0.0), 0.04), ((to, 0.0), 0.04), dark);
    }

    fn car(&mut self) {
        let at = |x: f64, up: f64| (self.along + x, up);
        let (rear, front, roof) = (at(-1.9, 0.62), at(1.9, 0.58), [at(-0.9, 1.1), at(0.7, 1.1)]);
        let wheels = [at(-1.25, 0.32), at(1.3, 0.32)];
        let (from, to) = (self.along - 2.0, self.along + 2.0);
        self.shade(from, to);
        self.bar((rear, 0.33), (front, 0.33), Paint::full(self.tone));
        self.bar((roof[0], 0.32), (roof[1], 0.3), Paint::full(60.0));
        for wheel in wheels {
            self.bar((wheel, 0.32), (wheel, 0.32), Paint { round: 0.0, ..Paint::full(30.0) });
            for k in 0..5 {
                // Wheels roll: their spokes turn backward at the bottom.
                let turn = TAU * f64::from(k) / 5.0 - self.along / 0.32;
                let rim = (wheel.0 + 0.22 * turn.cos(), wheel.1 + 0.22 * turn.sin());
                self.bar((wheel, 0.03), (rim, 0.03), Paint::full(190.0));
            }
        }
    }

    /// A foot of something that goes on legs: it stands for a share of its stride, then swings forward.
    fn foot(
        &self,
        t: f64,
        stride_s: f64,
        phase: f64,
        root: f64,
        duty: f64,
        lift: f64,
    ) -> (f64, f64) {
        let turns = t / stride_s + phase;
        let part = turns.rem_euclid(1.0);
        let long = self.speed * stride_s;
        // Where under the body it stands in the middle of its stance.
        let stands = |turn: f64| (turn + 0.5 * duty - phase - t / stride_s) * long;
        let here = stands(turns.floor());
        if part < duty {
            return (self.along + root + here, 0.0);
        }
        let swing = (part - duty) / (1.0 - duty);
        let next = stands(turns.floor() + 1.0);
        let share = swing * swing * (3.0 - 2.0 * swing);
        (self.along + root + here + share * (next - here), lift * (0.5 * TAU * swing).sin())
    }

    fn dog(&mut self, t: f64) {
        let stride_s = 0.42;
        let at = |x: f64, up: f64| (self.along + x, up);
        let (rear, front, head, tail) =
            (at(-0.28, 0.5), at(0.28, 0.52), at(0.48, 0.72), at(-0.55, 0.68));
        let (from, to) = (self.along - 0.4, self.along + 0.4);
        self.shade(from, to);
        let paint = Paint::full(self.tone);
        for (root, phase) in [(-0.28, 0.0), (-0.26, 0.5), (0.27, 0.5), (0.29, 0.0)] {
            let paw = self.foot(t, stride_s, phase, root, 0.4, 0.1);
            let hip = (self.along + root, 0.45);
            let knee = (0.5 * (hip.0 + paw.0) + 0.04, 0.5 * (hip.1 + paw.1));
            self.bar((hip, 0.05), (knee, 0.03), paint);
            self.bar((knee, 0.025), ((paw.0, paw.1 + 0.02), 0.02), paint);
        }
        self.bar((rear, 0.12), (front, 0.13), paint);
        self.bar((front, 0.09), (head, 0.07), paint);
        self.bar((head, 0.06), ((head.0 + 0.14, head.1 - 0.03), 0.035), paint);
        self.bar((rear, 0.03), (tail, 0.02), paint);
    }

    fn walker(&mut self, t: f64) {
        let stride_s = 1.4 / self.speed.max(1.2);
        let paint = Paint::full(self.tone);
        let (from, to) = (self.along - 0.3, self.along + 0.3);
        self.shade(from, to);
        for phase in [0.0, 0.5] {
            let sole = self.foot(t, stride_s, phase, 0.0, 0.6, 0.1);
            let hip = (self.along, 0.9);
            let knee = (0.5 * (hip.0 + sole.0) + 0.06, 0.5 * (hip.1 + sole.1));
            self.bar((hip, 0.09), (knee, 0.06), Paint::full(50.0));
            self.bar((knee, 0.055), ((sole.0, sole.1 + 0.06), 0.04), Paint::full(50.0));
            let heel = (sole.0 - 0.04, sole.1 + 0.035);
            self.bar((heel, 0.035), ((sole.0 + 0.18, sole.1 + 0.025), 0.025), Paint::full(35.0));
        }
        let at = |x: f64, up: f64| (self.along + x, up);
        let (hips, chest, head) = (at(0.0, 0.95), at(0.03, 1.4), at(0.05, 1.66));
        self.bar((hips, 0.14), (chest, 0.17), paint);
        self.bar((head, 0.1), (head, 0.1), Paint::full(170.0));
        let swing = 0.3 * (TAU * t / stride_s).sin();
        self.bar((chest, 0.05), ((chest.0 + swing, 0.9), 0.045), paint);
    }

    fn flag(&mut self, t: f64) {
        // It stands where it is, in the middle of what the camera sees of the track.
        let pole = |up: f64| (0.5 * self.along, up);
        let (foot, top) = (pole(0.0), pole(2.6));
        self.bar((foot, 0.03), (top, 0.03), Paint::full(220.0));
        for k in 0..12 {
            let out = 0.1 * f64::from(k);
            let wave = |far: f64| 0.1 * far * (7.0 * t - 5.0 * far).sin();
            for row in 0..7 {
                let up = 2.5 - 0.14 * f64::from(row);
                let from = (foot.0 + out, up + wave(out));
                let to = (foot.0 + out + 0.1, up + wave(out + 0.1));
                let tone = if (row / 2) % 2 == 0 { self.tone } else { 235.0 };
                self.bar((from, 0.08), (to, 0.08), Paint { round: 0.0, ..Paint::full(tone) });
            }
        }
    }
}
