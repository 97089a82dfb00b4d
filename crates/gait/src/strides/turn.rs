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
    sd: f64,
}

impl Clock {
    /// From strides in order of time, set to the stride that begins at `start`.
    fn of(strides: &[Stride], start: f64, mark_sd: f64) -> Option<Self> {
        let stride = strides.iter().map(Stride::duration).sum::<f64>() / count(strides.len());
        let places = Limb::ALL.map(|limb| {
            let seen: Vec<f64> = strides
                .iter()
                .filter(|s| !s.inferred[limb.index()])
                .filter_map(|s| s.phase(limb))
                .collect();
            phase::mean(&seen)
        });
        let known = places.iter().flatten().count() == 4;
        known.then(|| Self { start, stride, places, sd: (SCATTER * stride).hypot(mark_sd) })
    }

    /// The same clock with time running backwards.
    fn reversed(&self) -> Self {
        Self { start: -self.start, places: self.places.map(|p| p.map(|p| -p)), ..*self }
    }

    /// What footfalls in order of time from the clock's start speak against it, added up before each
    /// of them and after all: without and with the places left empty since the last.
    fn against(&self, footfalls: &[(f64, Limb)]) -> Vec<(f64, f64)> {
        let mut out = Vec::with_capacity(footfalls.len() + 1);
        let (mut shift, mut sum) = (0.0, 0.0);
        // The next place of each limb that is not filled yet, in strides from the start.
        let mut due = self.places.map(|p| p.map(|p| phase::wrap(p + PAIR) - PAIR));
        for (time, limb) in footfalls {
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
            } else {
                sum += FOREIGN;
            }
        }
        out.push((sum, sum));
        out
    }
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
    let old = &before[before.len().saturating_sub(LEARNED + 1)..before.len() - 1];
    let new = &after[1..after.len().min(LEARNED + 1)];
    let from = old[old.len() - 1].start;
    let to = new[0].start;
    let old = Clock::of(old, from, mark_sd)?;
    let new = Clock::of(new, to, mark_sd)?;
    let first = marks.partition_point(|m| m.on.0 < from - PAIR * old.stride);
    let own = marks[first..].iter().take_while(|m| m.on.0 < to + PAIR * new.stride);
    let falls: Vec<(f64, Limb)> = own.filter(|m| !m.inferred).map(|m| (m.on.0, m.limb)).collect();
    let forwards = old.against(&falls);
    let back: Vec<(f64, Limb)> = falls.iter().rev().map(|(t, l)| (-t, *l)).collect();
    let backwards = new.reversed().against(&back);
    // All before place k are of the old gait, the others of the new. The old one owes every footfall
    // up to then; the new one owes none before its first.
    let n = falls.len();
    let total = |k: usize| forwards[k].1 + backwards[n - k].0;
    let mut k = (1..n).min_by(|a, b| total(*a).total_cmp(&total(*b)))?;
    // Of a pair that lands as one, both begin the new gait, …
    let pair = |a: usize, b: usize| {
        falls[b].0 - falls[a].0 < PAIR * new.stride && falls[a].1.diagonal() == falls[b].1
    };
    if k > 1 && pair(k - 1, k) && total(k - 1) < total(k) + PAIR_TOGETHER {
        k -= 1;
    }
    let (mut time_s, mut limb) = falls[k];
    // … and which of them lands first the gait as a whole knows better than one stride.
    if k + 1 < n && pair(k, k + 1) {
        let place = |l: Limb| new.places[l.index()].unwrap_or(0.0);
        let (time, other) = falls[k + 1];
        if phase::signed(place(other) - place(limb)) < 0.0 {
            (time_s, limb) = (time.min(time_s), other);
        }
    }
    Some(Turn { time_s, limb, against: total(k), footfalls: n })
}
