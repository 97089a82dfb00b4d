//! A clip that is being ridden: bouts, as they are marked, one after the other.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::base::units::{Metres, Seconds};
use umlauf_gait::marks::footfall::GroundPoint;
use umlauf_gait::marks::movement::{Movement, MovementKind};
use umlauf_gait::marks::ride_mark::{MarkKind, RideMark};
use umlauf_gait::{Footfall, Options};

use crate::second_horse::{Pace, Seen, Straying, marks};
use crate::session_rides::fault::Planted;
use crate::truth::normal;

/// Spread of stride durations in a bout, from and to.
pub(crate) const SPREAD: (f64, f64) = (0.01, 0.04);

/// A clip that is being ridden.
pub(crate) struct Clip {
    pub(crate) marks: Vec<Footfall>,
    pub(crate) options: Options,
    pub(crate) seen: Seen,
    pub(crate) rein: Side,
    pub(crate) place: usize,
    pub(crate) now: f64,
    pub(crate) planted: Option<Planted>,
}

impl Clip {
    pub(crate) fn of(seen: &Seen, gaited: bool, rein: Side, place: usize) -> Self {
        let own = Pace { stride_s: 1.0, places: [0.0; 4], duty: [0.5; 4], length: 1.0, gaited };
        let options = Options { rein: Some(rein), ..seen.options(&own) };
        Self { marks: Vec::new(), options, seen: *seen, rein, place, now: 1.0, planted: None }
    }

    /// What is ridden here is the fault.
    pub(crate) fn planting(&mut self, wrong: bool, ride: impl FnOnce(&mut Self)) {
        let from_s = self.now;
        ride(self);
        if wrong {
            let from_s = self.planted.map_or(from_s, |p| p.from_s);
            let (clip, side) = (self.place, self.rein);
            self.planted = Some(Planted { clip, from_s, to_s: self.now, side, both: false });
        }
    }

    /// A bout of 8 to 20 strides: today and here a little quicker and longer than on average.
    pub(crate) fn bout(&mut self, pace: &Pace, rng: &mut ChaCha8Rng) {
        let today = Pace {
            stride_s: pace.stride_s * (1.0 + 0.010 * normal(rng)),
            length: pace.length * (1.0 + 0.010 * normal(rng)),
            ..*pace
        };
        let strides = rng.random_range(8..=20);
        let straying = Straying::drawn(SPREAD, rng);
        let (now, ridden) = (self.now, marks(&today, &straying, strides, &self.seen, rng));
        let first = ridden.iter().map(|m| m.on.0).fold(f64::INFINITY, f64::min);
        let later = |s: Seconds| Seconds(s.0 - first + now);
        let moved = ridden.into_iter().map(|m| Footfall {
            on: later(m.on),
            off: m.off.map(later),
            at: m.at.map(|p| GroundPoint { x: p.x, y: Metres(p.y.0 + 5.0 * now) }),
            ..m
        });
        self.marks.extend(moved);
        self.pause();
    }

    /// Stances as they are marked.
    pub(crate) fn put(&mut self, stances: Vec<(Limb, f64, f64)>, rng: &mut ChaCha8Rng) {
        let seen = self.seen;
        let mut read = |s: f64| ((s + seen.scatter * normal(rng)) * seen.rate).ceil() / seen.rate;
        for (limb, on, off) in stances {
            let (on, off) = (read(on), read(off));
            let off = Some(Seconds(off.max(on)));
            self.marks.push(Footfall { off, ..Footfall::new(limb, Seconds(on)) });
        }
        self.pause();
    }

    pub(crate) fn pause(&mut self) {
        let last = self.marks.iter().filter_map(|m| m.off).map(|o| o.0).fold(self.now, f64::max);
        self.now = last + 6.0;
    }

    pub(crate) fn movement(&mut self, from: f64, kind: MovementKind) {
        let movement = Movement { kind, side: Some(self.rein) };
        let (start, end) = (MarkKind::Start(movement.clone()), MarkKind::End(movement));
        self.options.marks.push(RideMark { time: from, kind: start });
        self.options.marks.push(RideMark { time: self.now - 5.0, kind: end });
    }
}
