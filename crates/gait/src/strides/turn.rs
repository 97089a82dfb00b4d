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
use crate::strides::cut::ALTERNATING;
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
    /// Footfalls weighed, …
    pub footfalls: usize,
    /// … and those of them that do not fit their limb's next place: one may be marked wrong, more
    /// are another gait's.
    pub odd: usize,
}

impl Turn {
    /// Whether what lies between is the two gaits and nothing else.
    pub fn is_all(&self) -> bool {
        let wrong = if self.odd <= 1 { 2.5 } else { 1.0 };
        self.against < FOREIGN * (wrong + 0.1 * count(self.footfalls))
    }
}

/// Log-likelihood lost by a footfall that fits no place, …
const FOREIGN: f64 = 7.0;

/// … by one that fits the next place of another limb, …
const WRONG_LIMB: f64 = 6.0;

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

/// Log-likelihood that a canter loses when it begins with another limb than its first beat, the
/// trailing hind: one in fifty (project default).
const OTHER_LIMB: f64 = 4.0;

/// And any gait that begins with a fore: a stride begins at a hind. It decides where nothing else
/// does (project default).
const FORE_FIRST: f64 = 0.5;

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

    /// Whether a limb lands as one with its diagonal partner.
    fn is_pair(&self, limb: Limb) -> bool {
        let place = |l: Limb| self.places[l.index()].unwrap_or(0.0);
        phase::signed(place(limb.diagonal()) - place(limb)).abs() < PAIR
    }

    /// What footfalls in order of time from the clock's start speak against it, before each of them
    /// and after all.
    fn against(&self, footfalls: &[Fall]) -> Vec<Reckoning> {
        let mut out = Vec::with_capacity(footfalls.len() + 1);
        let due = self.places.map(|p| p.map(|p| phase::wrap(p + PAIR) - PAIR));
        let mut now = Reckoning { sum: 0.0, odd: 0, shift: 0.0, due };
        for Fall { time, limb, stance } in footfalls {
            out.push(now);
            now.sum += now.owed(self, *time, true);
            let Some(place) = &mut now.due[limb.index()] else { continue };
            let off = time - (self.start + now.shift + *place * self.stride);
            if off.abs() < 3.0 * self.sd {
                now.sum += 0.5 * (off / self.sd).powi(2);
                now.shift += FOLLOWS * off;
                *place += 1.0;
                if let (Some(own), Some(stance)) = (self.stances[limb.index()], stance) {
                    let sd = STANCE_SCATTER * self.stride;
                    now.sum += (0.5 * ((stance - own) / sd).powi(2)).min(OTHER_STANCE);
                }
            } else if let Some((other, off)) = now.fits(self, *time) {
                now.odd += 1;
                now.sum += WRONG_LIMB + 0.5 * (off / self.sd).powi(2);
                if let Some(place) = &mut now.due[other.index()] {
                    *place += 1.0;
                }
            } else {
                now.odd += 1;
                now.sum += FOREIGN;
            }
        }
        out.push(now);
        out
    }
}

/// What is known of a clock after some footfalls.
#[derive(Clone, Copy)]
struct Reckoning {
    /// What they speak against it, log-likelihood.
    sum: f64,
    /// Those that do not fit their limb's place.
    odd: usize,
    /// How far it was set after them, s.
    shift: f64,
    /// The next place of each limb that is not filled yet, in strides from the clock's start.
    due: [Option<f64>; 4],
}

impl Reckoning {
    /// What the places left empty up to a moment cost; `filed` ones are not asked for again. At a turn
    /// (not filed) a place is empty a little sooner than while footfalls of its gait go on.
    fn owed(&mut self, clock: &Clock, time: f64, filed: bool) -> f64 {
        let mut empty = 0.0;
        let zero = clock.start + self.shift;
        let late = if filed { 2.5 } else { 2.0 };
        for due in self.due.iter_mut().flatten() {
            let mut place = *due;
            while zero + place * clock.stride < time - late * clock.sd {
                place += 1.0;
                empty += MISSING;
            }
            if filed {
                *due = place;
            }
        }
        empty
    }

    /// The limb whose next place a moment fits, and how far it is off, s.
    fn fits(&self, clock: &Clock, time: f64) -> Option<(Limb, f64)> {
        let off = |l: Limb| {
            let place = self.due[l.index()]?;
            Some((l, time - (clock.start + self.shift + place * clock.stride)))
        };
        let near = Limb::ALL.into_iter().filter_map(off);
        let (limb, off) = near.min_by(|a, b| a.1.abs().total_cmp(&b.1.abs()))?;
        (off.abs() < 2.0 * clock.sd).then_some((limb, off))
    }

    /// The place that comes next, of all limbs: when and whose.
    fn next(&self, clock: &Clock) -> Option<(f64, Limb)> {
        let due = Limb::ALL.into_iter().filter_map(|l| Some((self.due[l.index()]?, l)));
        let (place, limb) = due.min_by(|a, b| a.0.total_cmp(&b.0))?;
        Some((clock.start + self.shift + place * clock.stride, limb))
    }
}

/// How many strides next to the turn nothing is learned from.
const fn unsure(strides: usize) -> usize {
    if strides >= 4 { 2 } else { 1 }
}

/// Without the last digits: what is equal is not told apart by rounding.
fn even(cost: f64) -> f64 {
    (1e6 * cost).round() / 1e6
}

/// The hind of a canter's first beat: a stride of it begins there.
fn trailing_hind(clock: &Clock) -> Option<Limb> {
    let place = |l: Limb| clock.places[l.index()];
    let apart = phase::signed(place(Limb::LH)? - place(Limb::RH)?);
    let hind = if apart > 0.0 { Limb::RH } else { Limb::LH };
    (apart.abs() < ALTERNATING).then_some(hind)
}

/// Whether a footfall that lands as one with its diagonal partner in this gait stands alone.
fn lacks_partner(falls: &[Fall], k: usize, clock: &Clock) -> bool {
    let Fall { time, limb, .. } = falls[k];
    let reach = PAIR * clock.stride;
    let near = |f: &Fall| f.limb == limb.diagonal() && (f.time - time).abs() < reach;
    clock.is_pair(limb) && !falls.iter().any(near)
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
    let mirror = new.reversed();
    let backwards = mirror.against(&back);
    let trailing = trailing_hind(&new);
    let begins = |limb: Limb| match trailing {
        Some(hind) if hind != limb => OTHER_LIMB,
        None if !limb.is_hind() && !new.is_pair(limb) => FORE_FIRST,
        _ => 0.0,
    };
    // All before place k are of the old gait, the others of the new. The old one owes every footfall
    // up to then; the new one owes none before its first.
    let n = falls.len();
    let total = |k: usize| {
        let owed = forwards[k].clone().owed(&old, falls[k].time, false);
        let alone = if lacks_partner(&falls, k, &new) { MISSING } else { 0.0 };
        even(forwards[k].sum + owed + backwards[n - k].sum + begins(falls[k].limb) + alone)
    };
    let mut k = (1..n).min_by(|a, b| total(*a).total_cmp(&total(*b)))?;
    let least = total(k);
    // The first footfall itself may be one that nobody marked: the place before the first marked.
    let unmarked = (1..n).filter_map(|k| {
        let (time, limb) = backwards[n - k].next(&mirror)?;
        let time = -time;
        let between = falls[k - 1].time < time && time < falls[k].time - PAIR * new.stride;
        let owed = forwards[k].clone().owed(&old, time, false);
        let cost = even(forwards[k].sum + owed + backwards[n - k].sum + begins(limb) + MISSING);
        between.then_some((cost, time, limb, k))
    });
    let odd = |k: usize| forwards[k].odd + backwards[n - k].odd;
    if let Some((cost, time_s, limb, k)) = unmarked.min_by(|a, b| a.0.total_cmp(&b.0))
        && cost < least
    {
        return Some(Turn { time_s, limb, against: cost, footfalls: n, odd: odd(k) });
    }
    let (against, odd) = (least, odd(k));
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
    Some(Turn { time_s, limb, against, footfalls: n, odd })
}
