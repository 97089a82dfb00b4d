//! The way of the camera over a clip: every frame laid over the first.
//!
//! Frames some 50 ms apart are laid over one another first. What their blocks vote for is added up along
//! the clip, for a camera turns smoothly and a horse fills the middle only: the cheapest way through all
//! votes in which the shift changes little by little (Viterbi 1967). From there least squares on the grey
//! values finds the rest, and the frames between.

use crate::number::{count, place};
use crate::parallel::mapped;
use crate::picture::area::Area;
use crate::picture::motion::{Layers, Moved};
use crate::picture::steady::steadied;
use crate::picture::turn::Turn;
use crate::picture::votes::{Votes, cheapest};

/// Time between frames that are laid over one another first, s.
const APART: f64 = 0.05;

/// The camera over a clip.
#[derive(Clone, Debug)]
pub struct Path {
    /// From every frame's pixels to the first frame's.
    pub to_first: Vec<Turn>,
    /// Error of every frame's shift to the right since the frame some 50 ms before, pixels.
    pub sd: Vec<f64>,
    /// Frames a second.
    pub rate: f64,
    /// Frames between those that were laid over one another first.
    pub step: usize,
}

/// Frames that are laid over one another first, and what the blocks of each vote for. They are equally far apart, or a
/// steady turn would seem unsteady; only the last may be nearer, and votes for nothing.
#[derive(Clone, Debug)]
pub struct Keys {
    at: Vec<usize>,
    votes: Vec<Votes>,
}

impl Keys {
    /// Of `frames`, `rate` a second: some 50 ms apart.
    pub fn of(frames: &[Layers], rate: f64) -> Self {
        let Some(last) = frames.len().checked_sub(1).filter(|last| *last > 0) else {
            return Self { at: vec![], votes: vec![] };
        };
        let step = place((APART * rate).round()).clamp(1, last);
        let mut at: Vec<usize> = (0..=last).step_by(step).collect();
        let votes = mapped(pairs_of(&at), |(from, to)| frames[from].votes(&frames[to]));
        if !last.is_multiple_of(step) {
            at.push(last);
        }
        Self { at, votes }
    }
}

/// The way of the camera through `frames`, `rate` a second. `horse` is where something moves by itself
/// in a frame, where that is known; without it the way is rough, straight between frames 50 ms apart.
pub fn path(frames: &[Layers], rate: f64, keys: &Keys, horse: Option<&[Option<Area>]>) -> Path {
    let mut out = Path {
        to_first: vec![Turn::NONE],
        sd: vec![0.0],
        rate,
        step: place((APART * rate).round()).max(1),
    };
    let Some(first) = frames.first().filter(|_| frames.len() > 1) else { return out };
    let Keys { at: keys, votes } = keys;
    let middle = (0.5 * count(first.picture().width), 0.5 * count(first.picture().height));
    let area = |f: usize| horse.and_then(|h| h[f]);
    // How long each pair is beside the first.
    let long = |(from, to): (usize, usize)| count(to - from) / count(keys[1] - keys[0]);
    let mut starts = cheapest(votes);
    let pairs = pairs_of(keys);
    if let (Some(before), Some(last)) = (starts.last(), pairs.get(starts.len())) {
        starts.push(before.share(long(*last)));
    }
    let starts = starts.into_iter().zip(pairs.iter().copied()).collect();
    let mut moved: Vec<Moved> = mapped(starts, |(start, (from, to))| match horse {
        Some(_) => frames[from].to(&frames[to], start, area(from).as_ref()),
        None => frames[from].to(&frames[to], start, None),
    });
    let shift = |t: &Turn| {
        let (x, y) = t.of(middle.0, middle.1);
        (x - middle.0, y - middle.1)
    };
    let stood = moved.iter().map(|m| shift(&m.turn)).filter(|(x, y)| x.hypot(*y) < STANDS).count();
    if count(stood) > MOSTLY * count(moved.len()) {
        // A tripod: what seems to turn it is the horse, or a gust.
        out.to_first = vec![Turn::NONE; frames.len()];
        out.sd = vec![0.0; frames.len()];
        return out;
    }
    // What little is seen is outvoted by the seconds about it: a camera has mass.
    let known = |of: &dyn Fn(&Moved) -> (f64, f64)| {
        let of = |(m, pair)| (of(m).0 / long(pair), of(m).1 / long(pair));
        steadied(&moved.iter().zip(pairs.iter().copied()).map(of).collect::<Vec<_>>())
    };
    let across = known(&|m| (shift(&m.turn).0, error(m.sd.0)));
    let down = known(&|m| (shift(&m.turn).1, error(m.sd.1)));
    for (((moved, x), y), pair) in moved.iter_mut().zip(across).zip(down).zip(pairs.iter().copied())
    {
        let own = shift(&moved.turn);
        moved.turn.dx += x * long(pair) - own.0;
        moved.turn.dy += y * long(pair) - own.1;
    }
    let between = |(key, (from, to)): (&Moved, (usize, usize))| -> Vec<(Turn, f64)> {
        let one = |f: usize| {
            if f == to {
                return (key.turn, error(key.sd.0));
            }
            let on_the_way = key.turn.share(count(f - from) / count(to - from));
            if horse.is_none() {
                return (on_the_way, error(key.sd.0));
            }
            let own = frames[from].to_nearby(&frames[f], on_the_way, area(from).as_ref());
            // A camera on a tripod stays on its way, one in the hand need not.
            let (seen, way) = (shift(&own.turn), shift(&on_the_way));
            let doubt = |sd: f64| {
                let e = error(sd).powi(2);
                e / (ON_THE_WAY.powi(2) + e)
            };
            let mut turn = own.turn;
            turn.dx -= doubt(own.sd.0) * (seen.0 - way.0);
            turn.dy -= doubt(own.sd.1) * (seen.1 - way.1);
            (turn, error(own.sd.0).min(ON_THE_WAY))
        };
        (from + 1..=to).map(one).collect()
    };
    let all = mapped(moved.iter().zip(pairs.iter().copied()).collect(), between);
    for (stretch, (from, _)) in all.into_iter().zip(pairs) {
        let base = out.to_first[from];
        for (turn, sd) in stretch {
            out.to_first.push(turn.back().then(&base));
            out.sd.push(sd);
        }
    }
    out
}

fn pairs_of(keys: &[usize]) -> Vec<(usize, usize)> {
    keys.windows(2).map(|k| (k[0], k[1])).collect()
}

/// A camera that moves less than this in 50 ms stands still, pixels, …
const STANDS: f64 = 0.12;

/// … when it does so most of the time.
const MOSTLY: f64 = 0.75;

/// How far a camera is from the straight way between two frames 50 ms apart, pixels.
const ON_THE_WAY: f64 = 0.3;

/// Error of a shift that least squares knows to ± `sd` pixels, pixels: sand that was packed by a codec
/// moves with whatever it was copied from, so what rests on weak edges is worth far less than it says.
fn error(sd: f64) -> f64 {
    (0.05 + 0.05 * (sd / 0.03).powi(3)).min(1e6)
}
