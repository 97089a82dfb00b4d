//! What is ridden in a clip beside plain bouts: a transition, a strike-off, a line of changes.

use rand::Rng;
use rand_chacha::ChaCha8Rng;
use umlauf_gait::marks::aid::Aid;
use umlauf_gait::marks::ride_mark::{MarkKind, RideMark};

use crate::second_horse::{Pace, Straying, stances, stances_of};
use crate::session_rides::clip::{Clip, SPREAD};
use crate::session_rides::fault::Planted;
use crate::session_rides::horse::{Horse, crossed, on_lead};

impl Clip {
    /// From walk to trot, so many strides after the aid.
    pub(crate) fn transition(&mut self, horse: &Horse, answer: f64, rng: &mut ChaCha8Rng) {
        let straying = Straying::drawn(SPREAD, rng);
        let (mut all, turn) = stances(&horse.walk, &straying, 9, self.now, rng);
        let (trot, _) = stances(&horse.trot, &straying, 10, turn, rng);
        let first = trot.iter().map(|s| s.1).fold(f64::INFINITY, f64::min);
        all.retain(|s| s.1 < first - 0.02);
        for stance in &mut all {
            let own = trot.iter().filter(|s| s.0 == stance.0).map(|s| s.1);
            stance.2 = stance.2.min(own.fold(f64::INFINITY, f64::min) - 0.05);
        }
        all.extend(trot);
        let time = first - answer * horse.walk.stride_s;
        self.options.marks.push(RideMark { time, kind: MarkKind::Aid(Aid::Trot) });
        self.put(all, rng);
    }

    /// A canter whose fores go on the other lead for some strides at first.
    pub(crate) fn strike_off(&mut self, canter: Pace, disunited: usize, rng: &mut ChaCha8Rng) {
        let right = on_lead(canter, self.rein);
        let wrong = crossed(&right, &on_lead(canter, self.rein.opposite()));
        let strides = rng.random_range(12..18);
        let paces = (0..strides).map(|k| if k < disunited { &wrong } else { &right });
        let straying = Straying::drawn(SPREAD, rng);
        let (all, _) = stances_of(paces, &straying, self.now, rng);
        self.put(all, rng);
    }

    /// Three to five changes, every third to fifth stride; one of them may come late by a stride.
    pub(crate) fn line(&mut self, horse: &Horse, late: bool, rng: &mut ChaCha8Rng) {
        let (changes, every) = (rng.random_range(3..=5), rng.random_range(3..=5));
        let late = late.then(|| (rng.random_range(1..=changes), rng.random_bool(0.5)));
        let leads = [self.rein, self.rein.opposite()].map(|l| on_lead(horse.canter, l));
        let mut paces = Vec::new();
        let mut at = None;
        for part in 0..=changes {
            let (new, old) = (leads[part % 2], leads[(part + 1) % 2]);
            for stride in 0..every {
                let delayed = late.filter(|(k, _)| *k == part && stride == 0);
                if delayed.is_some() {
                    at = Some(paces.len());
                }
                // The hinds, or the fores, stay on the old lead for a stride.
                paces.push(match delayed {
                    Some((_, true)) => crossed(&old, &new),
                    Some((_, false)) => crossed(&new, &old),
                    None => new,
                });
            }
        }
        let straying = Straying::drawn(SPREAD, rng);
        let from = self.now;
        let (all, _) = stances_of(paces.iter(), &straying, from, rng);
        self.put(all, rng);
        if let Some(k) = at {
            #[expect(clippy::cast_precision_loss, reason = "a few strides")]
            let from_s = from + (k as f64 - 1.0) * horse.canter.stride_s;
            let to_s = from_s + 3.0 * horse.canter.stride_s;
            let (clip, side) = (self.place, self.rein);
            self.planted = Some(Planted { clip, from_s, to_s, side, both: false });
        }
    }
}
