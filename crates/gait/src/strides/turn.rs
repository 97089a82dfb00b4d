//! Where one gait turns into the next: the first footfall of the new one.
//!
//! Each gait is a clock, with a place for every limb, learned from strides that are surely its own.
//! The old clock is carried on past its last sure stride and the new one back before its first; every
//! footfall between fits one of them better. The turn is the footfall before which the old clock and
//! from which the new one explains best what was marked and what was not: a footfall that a clock
//! asks for in vain speaks against it. Whole strides are too coarse for this: a downward transition
//! cuts the last stride in two.

use crate::base::limb::Limb;
use crate::base::number::count;
use crate::base::phase;
use crate::marks::footfall::Footfall;
use crate::stats::descriptive::{mean, median};
use crate::strides::stride::Stride;

/// The first footfall of a gait.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Turn {
    /// When, s.
    pub time_s: f64,
    /// Whose.
    pub limb: Limb,
    /// What the footfalls between the sure strides speak against both clocks, in log-likelihood: a
    /// few for scatter, more than [`FOREIGN`] a footfall when they belong to neither.
    pub against: f64,
    /// Footfalls weighed.
    pub footfalls: usize,
}

impl Turn {
    /// Whether what lies between is the two gaits and nothing else.
    pub fn is_all(&self) -> bool {
        self.against < FOREIGN * (1.0 + 0.1 * count(self.footfalls))
    }
}

/// Log-likelihood lost by a footfall that fits no place, …
const FOREIGN: f64 = 7.0;

/// … and by a place without its footfall: as common as a mark that nobody made.
const MISSING: f64 = 3.0;

/// Scatter of a footfall about its clock from stride to stride, share of the stride: horses change
/// their tempo about a transition.
const SCATTER: f64 = 0.03;

/// Scatter of a stance about its gait's, share of the stride, …
const STANCE_SCATTER: f64 = 0.05;

/// … and the most that a stance speaks against a gait, in log-likelihood: the last stance of a gait
/// may be cut short, the first drawn out.
const OTHER_STANCE: f64 = 3.0;

/// Part of what a footfall is off by that its clock is set after.
const FOLLOWS: f64 = 0.5;

/// Footfalls of a pair land within this share of a stride.
const PAIR: f64 = 0.10;

/// Log-likelihood that two footfalls of a pair may cost for being of one gait.
const PAIR_TOGETHER: f64 = 1.5;

/// Strides that a clock is learned from, at most.
const LEARNED: usize = 4;

/// A gait as a clock.
struct Clock {
    start: f64,
    stride: f64,
    places: [Option<f64>; 4],
    /// Mean stance of each limb, s, where lift-offs are known.
    stances: [Option<f64>; 4],
    sd: f64,
}

/// A footfall: when, whose, and how long the hoof stands.
#[derive(Clone, Copy)]
struct Fall {
    time: f64,
    limb: Limb,
    stance: Option<f64>,
}

impl Clock {
    /// From strides in order of time, set to the stride that begins at `start`.
    fn of(strides: &[Stride], start: f64, mark_sd: f64) -> Option<Self> {
        let stride = median(strides.iter().map(Stride::duration).collect())?;
        let places = Limb::ALL.map(|limb| {
            let seen: Vec<f64> = strides
                .iter()
                .filter(|s| !s.inferred[limb.index()])
                .filter_map(|s| s.phase(limb))
                .collect();
            phase::mean(&seen)
        });
        let stances = Limb::ALL.map(|limb| {
            let seen: Vec<f64> = strides.iter().filter_map(|s| s.stance(limb)).collect();
            (!seen.is_empty()).then(|| mean(&seen))
        });
        let known = places.iter().flatten().count() == 4;
        known.then(|| Self {
            start,
            stride,
            places,
            stances,
            sd: (SCATTER * stride).hypot(mark_sd),
        })
    }

    /// The same clock with time running backwards.
    fn reversed(&self) -> Self {
        Self { start: -self.start, places: self.places.map(|p| p.map(|p| -p)), ..*self }
    }

    /// What footfalls in order of time from the clock's start speak against it, added up before each
    /// of them and after all: without and with the places left empty since the last.
    fn against(&self, footfalls: &[Fall]) -> Vec<(f64, f64)> {
        let mut out = Vec::with_capacity(footfalls.len() + 1);
        let (mut shift, mut sum) = (0.0, 0.0);
        // The next place of each limb that is not filled yet, in strides from the start.
        let mut due = self.places.map(|p| p.map(|p| phase::wrap(p + PAIR) - PAIR));
        for Fall { time, limb, stance } in footfalls {
            let mut empty = 0.0;
            for place in due.iter_mut().flatten() {
                while self.start + shift + *place * self.stride < time - 2.5 * self.sd {
                    *place += 1.0;
                    empty += MISSING;
                }
            }
            out.push((sum, sum + empty));
            sum += empty;
            let Some(place) = &mut due[limb.index()] else { continue };
            let off = time - (self.start + shift + *place * self.stride);
            if off.abs() < 3.0 * self.sd {
                sum += 0.5 * (off / self.sd).powi(2);
                shift += FOLLOWS * off;
                *place += 1.0;
                if let (Some(own), Some(stance)) = (self.stances[limb.index()], stance) {
                    let sd = STANCE_SCATTER * self.stride;
                    sum += (0.5 * ((stance - own) / sd).powi(2)).min(OTHER_STANCE);
                }
            } else {
                sum += FOREIGN;
            }
        }
        out.push((sum, sum));
        out
    }
}

/// How many strides next to the turn nothing is learned from.
const fn unsure(strides: usize) -> usize {
    if strides >= 4 { 2 } else { 1 }
}

/// The first footfall of the gait of `after` among `marks` (in order of time), `before` being
/// strides of the gait before it. `None` without two strides on either side that show all four
/// limbs.
pub fn turn(
    before: &[Stride],
    after: &[Stride],
    marks: &[Footfall],
    mark_sd: Option<f64>,
) -> Option<Turn> {
    if before.len() < 2 || after.len() < 2 {
        return None;
    }
    let mark_sd = mark_sd.unwrap_or(0.0);
    // The strides next to the turn may hold footfalls of both gaits.
    let sure = before.len() - unsure(before.len());
    let old = &before[sure.saturating_sub(LEARNED)..sure];
    let new = &after[unsure(after.len())..];
    let new = &new[..new.len().min(LEARNED)];
    let from = old[old.len() - 1].start;
    let to = new[0].start;
    let old = Clock::of(old, from, mark_sd)?;
    let new = Clock::of(new, to, mark_sd)?;
    let first = marks.partition_point(|m| m.on.0 < from - PAIR * old.stride);
    let own = marks[first..].iter().take_while(|m| m.on.0 < to + PAIR * new.stride);
    let falls: Vec<Fall> = own
        .filter(|m| !m.inferred)
        .map(|m| Fall { time: m.on.0, limb: m.limb, stance: m.off.map(|off| off.0 - m.on.0) })
        .collect();
    let forwards = old.against(&falls);
    let back: Vec<Fall> = falls.iter().rev().map(|f| Fall { time: -f.time, ..*f }).collect();
    let backwards = new.reversed().against(&back);
    // All before place k are of the old gait, the others of the new. The old one owes every footfall
    // up to then; the new one owes none before its first.
    let n = falls.len();
    let total = |k: usize| forwards[k].1 + backwards[n - k].0;
    let mut k = (1..n).min_by(|a, b| total(*a).total_cmp(&total(*b)))?;
    // Of a pair that lands as one, both begin the new gait, …
    let pair = |a: usize, b: usize| {
        falls[b].time - falls[a].time < PAIR * new.stride
            && falls[a].limb.diagonal() == falls[b].limb
    };
    if k > 1 && pair(k - 1, k) && total(k - 1) < total(k) + PAIR_TOGETHER {
        k -= 1;
    }
    let Fall { time: mut time_s, mut limb, .. } = falls[k];
    // … and which of them lands first the gait as a whole knows better than one stride.
    if k + 1 < n && pair(k, k + 1) {
        let place = |l: Limb| new.places[l.index()].unwrap_or(0.0);
        let Fall { time, limb: other, .. } = falls[k + 1];
        if phase::signed(place(other) - place(limb)) < 0.0 {
            (time_s, limb) = (time.min(time_s), other);
        }
    }
    Some(Turn { time_s, limb, against: total(k), footfalls: n })
}
