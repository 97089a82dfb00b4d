//! Near or far by whose turn it is: the sides of a girdle take turns, and a fore goes with the hinds in a way
//! that every gait keeps to.
//!
//! A model of hidden states, in which taking turns is free and repeating costs, so that a change of lead goes
//! through (Rabiner 1989, Proc IEEE 77:257; value from memory).

/// Chance that a girdle's stance is of the side that stood last: a change of lead, a halt.
const REPEATS: f64 = 0.03;

/// A fore and a hind that land within this share of a stride of each other …
const TOGETHER: f64 = 0.07;

/// … are a diagonal, in trot and in canter, with this chance: those who pace do not.
const DIAGONAL: f64 = 0.9;

/// Chances of the near side from each stance's own log odds `odds`; `ons` are when the stances began, in order,
/// `fore` tells which of them are fores', and `are` the chance that each is one at all. Forward and backward over the
/// sides on which fore and hind stood last.
pub fn taking_turns(ons: &[f64], fore: &[bool], odds: &[f64], are: &[f64]) -> Vec<f64> {
    let n = ons.len();
    let stride = stride(ons, fore);
    let repeats = repeats(ons, fore, stride);
    let diagonal = diagonals(ons, fore, stride);
    // State: bit 0 for the fore's side, bit 1 for the hind's; set is near.
    let bit = |k: usize| if fore[k] { 0 } else { 1 };
    let is_near = |state: usize, bit: usize| (state >> bit) & 1 == 1;
    // A stance, by whose turn it is and by what is seen of it.
    let stood = |k: usize, from: usize, to: usize| {
        let (own, other) = (bit(k), 1 - bit(k));
        if is_near(from, other) != is_near(to, other) {
            return 0.0;
        }
        let apart = is_near(to, own) != is_near(to, other);
        let repeated = is_near(from, own) == is_near(to, own);
        let near = 1.0 / (1.0 + (-odds[k]).exp());
        are[k]
            * (if repeated { repeats[k] } else { 1.0 - repeats[k] })
            * (if apart { diagonal[k] } else { 1.0 - diagonal[k] })
            * (if is_near(to, own) { near } else { 1.0 - near })
    };
    // What is no stance changes nothing; either side of it is as likely, and either place beside the other girdle's.
    let step = |k: usize, from: usize, to: usize| {
        let none = if from == to { (1.0 - are[k]) * 0.25 } else { 0.0 };
        stood(k, from, to) + none
    };
    let mut before = vec![[0.25; 4]; n + 1];
    for k in 0..n {
        let here = STATES.map(|to| STATES.map(|from| before[k][from] * step(k, from, to)));
        before[k + 1] = scaled(here.map(|come| come.iter().sum()));
    }
    let mut out = vec![0.5; n];
    let mut after = [1.0; 4];
    for k in (0..n).rev() {
        let own = STATES.map(|to| {
            let come = STATES.map(|from| before[k][from] * stood(k, from, to));
            come.iter().sum::<f64>() * after[to]
        });
        let own = scaled(own);
        out[k] = STATES.iter().filter(|s| is_near(**s, bit(k))).map(|s| own[*s]).sum();
        let earlier = STATES.map(|from| STATES.map(|to| step(k, from, to) * after[to]));
        after = scaled(earlier.map(|go| go.iter().sum()));
    }
    out
}

const STATES: [usize; 4] = [0, 1, 2, 3];

fn scaled(v: [f64; 4]) -> [f64; 4] {
    let sum = v.iter().sum::<f64>().max(1e-300);
    v.map(|x| x / sum)
}

/// Chance that each stance is of the side on which its girdle stood last: a whole stride after that one it is, for the
/// other was not seen between them.
fn repeats(ons: &[f64], fore: &[bool], stride: f64) -> Vec<f64> {
    let mut last = [None; 2];
    let own = ons.iter().zip(fore).map(|(on, front)| {
        let before = last[usize::from(*front)].replace(*on);
        match before.map(|before: f64| (on - before) / stride) {
            Some(gap) if WHOLE.0 <= gap && gap <= WHOLE.1 => 1.0 - MISSED,
            Some(gap) if gap > WHOLE.1 => 0.5,
            Some(gap) if gap < DOUBLE => 0.5,
            Some(gap) if gap <= HALF => STUMBLES,
            _ => REPEATS,
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
