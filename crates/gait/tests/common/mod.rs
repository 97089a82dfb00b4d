//! Rides drawn to the letter, stride by stride.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(dead_code, reason = "every test file uses a part of it")]

use umlauf_gait::analysis::analyse::Analysis;
use umlauf_gait::base::units::{FrameRate, Metres, Seconds};
use umlauf_gait::marks::footfall::GroundPoint;
use umlauf_gait::marks::marks_csv;
use umlauf_gait::{Footfall, Limb, Options, Side, analyse};

use Side::Left;

/// A ride, stride after stride.
#[derive(Default)]
pub struct Ride {
    pub marks: Vec<Footfall>,
    pub now: f64,
}

pub const CANTER: f64 = 0.6;
pub const TROT: f64 = 0.76;
pub const WALK: f64 = 1.08;

impl Ride {
    pub fn put(&mut self, limb: Limb, phase: f64, t: f64, duty: f64) {
        let on = self.now + phase * t;
        let line = self.marks.len() + 1;
        let off = Some(Seconds(on + duty * t));
        self.marks.push(Footfall { off, line, ..Footfall::new(limb, Seconds(on)) });
    }

    /// One stride of canter on a lead of the hinds and one of the fores.
    pub fn stride(&mut self, hind: Side, fore: Side) {
        let (first, second) =
            if hind == Left { (Limb::RH, Limb::LH) } else { (Limb::LH, Limb::RH) };
        let (trail, lead) = if fore == Left { (Limb::RF, Limb::LF) } else { (Limb::LF, Limb::RF) };
        for (limb, phase) in [(first, 0.0), (second, 0.26), (trail, 0.28), (lead, 0.50)] {
            self.put(limb, phase, CANTER, 0.40);
        }
        self.now += CANTER;
    }

    pub fn canter(mut self, lead: Side, n: usize) -> Self {
        for _ in 0..n {
            self.stride(lead, lead);
        }
        self
    }

    pub fn disunited(mut self, hind: Side, n: usize) -> Self {
        for _ in 0..n {
            self.stride(hind, hind.opposite());
        }
        self
    }

    pub fn even(mut self, t: f64, duty: f64, phases: [f64; 4], n: usize) -> Self {
        for _ in 0..n {
            for (limb, phase) in Limb::ALL.into_iter().zip(phases) {
                self.put(limb, phase, t, duty);
            }
            self.now += t;
        }
        self
    }

    pub fn trot(self, n: usize) -> Self {
        self.even(TROT, 0.42, [0.51, 0.01, 0.0, 0.5], n)
    }

    pub fn walk(self, n: usize) -> Self {
        self.even(WALK, 0.63, [0.24, 0.74, 0.0, 0.5], n)
    }

    /// The horse stands: the last stances last on, hooves where `at` says (LF RF LH RH).
    pub fn halt(mut self, seconds: f64, at: [f64; 4]) -> Self {
        let until = self.now + seconds;
        for limb in Limb::ALL {
            let last = self.marks.iter_mut().rev().find(|m| m.limb == limb).unwrap();
            // The hinds wait a moment longer than the left fore.
            last.off = Some(Seconds(until + if limb == Limb::LF { 0.0 } else { 0.05 }));
            let x = Metres(if limb.side() == Left { 0.0 } else { 0.25 });
            last.at = Some(GroundPoint { x, y: Metres(at[limb.index()]) });
        }
        self.now = until + 0.1;
        self
    }

    pub fn read(&self, marks: &[(f64, &str, &str)]) -> Analysis {
        let table: String = marks.iter().map(|(t, k, d)| format!("{t},{k},{d}\n")).collect();
        let marks = marks_csv::read(format!("time_s,kind,detail\n{table}").as_bytes()).unwrap();
        let frame_rate = Some(FrameRate::new(120.0).unwrap());
        analyse(&self.marks, &Options { frame_rate, marks, ..Options::default() })
    }
}
