//! Near or far by whose turn it is: the sides of a girdle take turns, and a fore goes with the hinds in a way
//! that every gait keeps to.
//!
//! A model of hidden states, in which taking turns is free and repeating costs, so that a change of lead goes
//! through (Rabiner 1989, Proc IEEE 77:257; value from memory).

/// Chance that a girdle's stance is of the side that stood last: a change of lead, a halt.
const CHANGES: f64 = 0.03;

/// Chance that the other girdle follows at its next stance, where nothing else tells: a clean change, or one that is
/// late by a stride.
const FOLLOWED: f64 = 0.7;

/// A fore and a hind that land within this share of a stride of each other …
const TOGETHER: f64 = 0.07;

/// … are a diagonal, in trot and in canter, with this chance: those who pace do not.
const DIAGONAL: f64 = 0.9;

/// Stances of which it is to be told whose turn each was.
pub struct Turns<'a> {
    fore: &'a [bool],
    odds: &'a [f64],
    are: &'a [f64],
    turns: Vec<Turn>,
    diagonal: Vec<f64>,
}

impl<'a> Turns<'a> {
    /// Of stances that began at `ons`, in order, each with its own log odds `odds` of being near; `fore` tells which of
    /// them are fores', and `are` the chance that each is one at all.
    pub fn of(ons: &[f64], fore: &'a [bool], odds: &'a [f64], are: &'a [f64]) -> Self {
        let stride = stride(ons, fore);
        let (turns, diagonal) = (turns(ons, fore, stride), diagonals(ons, fore, stride));
        Self { fore, odds, are, turns, diagonal }
    }

    /// Bit of the girdle of a stance.
    fn own(&self, k: usize) -> usize {
        if self.fore[k] { FORE } else { HIND }
    }

    /// Chance of a stance, by whose turn it is and by what is seen of it.
    fn stood(&self, k: usize, from: usize, to: usize) -> f64 {
        let own = self.own(k);
        let other = FORE + HIND - own;
        if has(from, other) != has(to, other) {
            return 0.0;
        }
        let apart = has(to, own) != has(to, other);
        let repeated = has(from, own) == has(to, own);
        let near = 1.0 / (1.0 + (-self.odds[k]).exp());
        self.are[k]
            * self.turns[k].chance(repeated, own, from & OPEN, to & OPEN)
            * (if apart { self.diagonal[k] } else { 1.0 - self.diagonal[k] })
            * (if has(to, own) { near } else { 1.0 - near })
    }

    /// Chance of what is no stance: it changes nothing; either side of it is as likely, and either place beside the
    /// other girdle's.
    fn none(&self, k: usize, from: usize, to: usize) -> f64 {
        if from == to { (1.0 - self.are[k]) * 0.25 } else { 0.0 }
    }

    /// Chances of the near side: forward and backward over the sides on which fore and hind stood last, and whether one
    /// of them has begun a change that the other one has not followed.
    pub fn near(&self) -> Vec<f64> {
        let n = self.odds.len();
        let step =
            |k: usize, from: usize, to: usize| self.stood(k, from, to) + self.none(k, from, to);
        let mut before = vec![AT_FIRST; n + 1];
        for k in 0..n {
            let here = STATES.map(|to| STATES.map(|from| before[k][from] * step(k, from, to)));
            before[k + 1] = scaled(here.map(|come| come.iter().sum()));
        }
        let mut out = vec![0.5; n];
        let mut after = [1.0; 12];
        for k in (0..n).rev() {
            let own = STATES.map(|to| {
                let come = STATES.map(|from| before[k][from] * self.stood(k, from, to));
                come.iter().sum::<f64>() * after[to]
            });
            let own = scaled(own);
            out[k] = STATES.iter().filter(|s| has(**s, self.own(k))).map(|s| own[*s]).sum();
            let earlier = STATES.map(|from| STATES.map(|to| step(k, from, to) * after[to]));
            after = scaled(earlier.map(|go| go.iter().sum()));
        }
        out
    }

    /// The likeliest sides, all taken together: where little is known of each, one at a time would change lead where
    /// none has. `None` for what is likelier no stance.
    pub fn likeliest(&self) -> Vec<Option<bool>> {
        let mut best = AT_FIRST;
        let mut ways = Vec::with_capacity(self.odds.len());
        for k in 0..self.odds.len() {
            let way = STATES.map(|to| {
                let chance =
                    |from: usize| best[from] * self.stood(k, from, to).max(self.none(k, from, to));
                STATES.into_iter().max_by(|a, b| chance(*a).total_cmp(&chance(*b))).unwrap_or(to)
            });
            let own = STATES.map(|to| {
                best[way[to]] * self.stood(k, way[to], to).max(self.none(k, way[to], to))
            });
            best = scaled(own);
            ways.push(way);
        }
        let last = STATES.into_iter().max_by(|a, b| best[*a].total_cmp(&best[*b]));
        let mut to = last.unwrap_or(0);
        let mut out: Vec<Option<bool>> = ways
            .iter()
            .enumerate()
            .rev()
            .map(|(k, way)| {
                let (from, side) = (way[to], has(to, self.own(k)));
                let is = self.stood(k, from, to) >= self.none(k, from, to);
                to = from;
                is.then_some(side)
            })
            .collect();
        out.reverse();
        out
    }
}

fn has(state: usize, bit: usize) -> bool {
    state & bit != 0
}

/// Either side may have stood last, and nothing changes yet.
const AT_FIRST: [f64; 12] = [0.25, 0.25, 0.25, 0.25, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];

const STATES: [usize; 12] = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11];

/// Of a state: the fore that stood last was near, …
const FORE: usize = 1;

/// … the hind was, …
const HIND: usize = 2;

/// … and one girdle alone has changed, its own bit twice shifted.
const OPEN: usize = (FORE + HIND) << 2;

fn scaled(v: [f64; 12]) -> [f64; 12] {
    let sum = v.iter().sum::<f64>().max(1e-300);
    v.map(|x| x / sum)
}

/// Whose turn it is in a girdle, by the time since it stood last.
#[derive(Clone, Copy)]
enum Turn {
    /// The other side's.
    Other,
    /// The other side's, and nothing else can be: a limb does not come round so soon.
    OtherSurely,
    /// The same side's: the other was not seen between.
    Same,
    /// Nobody knows.
    Unknown,
}

impl Turn {
    /// Chance that the side that stood last in girdle `own` stands again or not; `from` and `to` are which girdle has
    /// changed alone, before and after.
    fn chance(self, repeated: bool, own: usize, from: usize, to: usize) -> f64 {
        let (odd, usual) = match self {
            Self::Unknown => return if to == 0 || to == from { 0.25 } else { 0.0 },
            Self::Other => (repeated, CHANGES),
            Self::OtherSurely => (repeated, STUMBLES),
            Self::Same => (!repeated, MISSED),
        };
        let after = match (odd, from) {
            (false, _) => from,
            (true, 0) => own << 2,
            (true, _) => 0,
        };
        if to != after {
            return 0.0;
        }
        let follows = from != 0 && from != own << 2 && !matches!(self, Self::OtherSurely);
        let chance = if follows { FOLLOWED } else { usual };
        if odd { chance } else { 1.0 - chance }
    }
}

/// Whose turn it is at each stance.
fn turns(ons: &[f64], fore: &[bool], stride: f64) -> Vec<Turn> {
    let mut last = [None; 2];
    let own = ons.iter().zip(fore).map(|(on, front)| {
        let before = last[usize::from(*front)].replace(*on);
        match before.map(|before: f64| (on - before) / stride) {
            Some(gap) if WHOLE.0 <= gap && gap <= WHOLE.1 => Turn::Same,
            Some(gap) if gap > WHOLE.1 || gap < DOUBLE => Turn::Unknown,
            Some(gap) if gap <= HALF => Turn::OtherSurely,
            Some(_) => Turn::Other,
            None => Turn::Unknown,
        }
    });
    own.collect()
}

/// Up to half a stride after the last and a little more it is the other side's turn: no limb comes round so soon, not
/// even in a change of lead, …
const HALF: f64 = 0.6;

/// … but with this chance.
const STUMBLES: f64 = 0.004;

/// What follows so soon may be one hoof seen twice.
const DOUBLE: f64 = 0.1;

/// Stances of a girdle that are so many strides apart are a whole one apart …
const WHOLE: (f64, f64) = (0.86, 1.14);

/// … but for a change of lead, or a pace that was lost, with this chance.
const MISSED: f64 = 0.1;

/// Chance that each stance is of the other side than the one of the other girdle that stood last; a half where
/// nothing tells.
fn diagonals(ons: &[f64], fore: &[bool], stride: f64) -> Vec<f64> {
    let hinds: Vec<f64> = ons.iter().zip(fore).filter(|(_, f)| !**f).map(|(on, _)| *on).collect();
    let mut hind = 0usize;
    let own = ons.iter().zip(fore).enumerate().map(|(k, (on, front))| {
        if !front {
            hind += 1;
        }
        if k > 0 && fore[k - 1] != *front && on - ons[k - 1] < TOGETHER * stride {
            return DIAGONAL;
        }
        let (true, Some(last)) = (*front, hind.checked_sub(1)) else { return 0.5 };
        let late = (on - hinds[last]) / stride;
        let uneven = uneven(&hinds, last, stride);
        if FOLLOWS.0 <= late && late <= FOLLOWS.1 && uneven.is_some_and(|u| u < EVEN) {
            return 1.0 - LATERAL;
        }
        // The hind that leads is the second of its couplet.
        let leads = last > 0 && hinds[last] - hinds[last - 1] < COUPLET * stride;
        if leads && late < SPLIT && uneven.is_some_and(|u| u > UNEVEN) {
            return PARTED;
        }
        0.5
    });
    own.collect()
}

/// A fore that lands so many strides after a hind, where hinds land evenly, …
const FOLLOWS: (f64, f64) = (0.08, 0.42);

/// … is of that hind's side with this chance: in walk, in the gaits between walk and pace, and in a fox-trot
/// (Hildebrand 1965, Science 150:701).
const LATERAL: f64 = 0.93;

/// Hinds land evenly when their halves of a stride differ by less than this share of it; walk and trot do …
const EVEN: f64 = 0.15;

/// … and unevenly beyond this one: a canter's differ by a half.
const UNEVEN: f64 = 0.25;

/// Hinds of a couplet land within this share of a stride.
const COUPLET: f64 = 0.42;

/// A diagonal of a canter may be parted by this share of a stride, …
const SPLIT: f64 = 0.17;

/// … and is one with this chance.
const PARTED: f64 = 0.85;

/// By how much the halves of strides differ about a hind, as a share of a stride; nothing where too few are seen.
fn uneven(hinds: &[f64], about: usize, stride: f64) -> Option<f64> {
    let from = about.saturating_sub(ABOUT);
    let near = &hinds[from..(about + ABOUT + 1).min(hinds.len())];
    let halves = near.windows(3).map(|w| (w[1] - w[0], w[2] - w[1]));
    // Where one of a pair is not seen, a gap is a whole stride.
    let both = halves.filter(|(a, b)| a.max(*b) < WHOLE.0 * stride);
    let mut all: Vec<f64> = both.map(|(a, b)| (a - b).abs() / (a + b)).collect();
    all.sort_by(f64::total_cmp);
    if all.len() < 2 { None } else { Some(all[all.len() / 2]) }
}

/// Hinds before and after one that tell how even they land.
const ABOUT: usize = 4;

/// Stride, in the unit of `ons`: the usual time from a stance of a girdle to the next but one. Never 0.
fn stride(ons: &[f64], fore: &[bool]) -> f64 {
    let mut all: Vec<f64> = [false, true]
        .into_iter()
        .flat_map(|girdle| {
            let own: Vec<f64> =
                ons.iter().zip(fore).filter(|(_, f)| **f == girdle).map(|(on, _)| *on).collect();
            own.windows(3).map(|w| w[2] - w[0]).collect::<Vec<_>>()
        })
        .collect();
    all.sort_by(f64::total_cmp);
    all.get(all.len() / 2).copied().unwrap_or(0.0).max(1e-9)
}
