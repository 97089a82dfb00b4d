//! Bouts of different gaits set apart at the first footfall of the later one.
//!
//! Strides that hold footfalls of both gaits belong to neither, and what they look like is no gait:
//! a stretch of a few strides between two bouts is given up when the two explain every footfall in it.

use crate::base::gait::{Gait, Label};
use crate::marks::footfall::Footfall;
use crate::strides::bout::{Bout, Reading, bout};
use crate::strides::classify::Pattern;
use crate::strides::halt::Halt;
use crate::strides::stride::Stride;
use crate::strides::tidy::Tidy;
use crate::strides::turn::{self, Turn};

/// A ride as far as it is cut.
pub(super) struct Ride<'a> {
    pub strides: &'a [Stride],
    /// Each stride's pattern, …
    pub patterns: &'a [Option<Pattern>],
    /// … and its own label.
    pub own: &'a [Option<Label>],
    pub tidy: &'a Tidy,
    pub halts: &'a [Halt],
    pub reading: Reading<'a>,
}

/// At most so many strides between two bouts may be of both.
const BETWEEN: usize = 3;

/// Longest time without a mark between two bouts that are told apart, strides.
const UNSEEN: f64 = 1.0;

/// Longest stretch of marks that no stride is cut from, strides: clocks lose count.
const UNCUT: f64 = 5.0;

/// Shorter than any distance between footfalls, s.
const MOMENT: f64 = 1e-6;

/// Sets bouts of different gaits next to one another apart at the first footfall of the later one.
pub(super) fn set_apart(bouts: Vec<Bout>, ride: &Ride) -> Vec<Bout> {
    let mut out: Vec<Bout> = Vec::with_capacity(bouts.len());
    for mut next in bouts {
        if let Some((k, turn)) = before(&out, &next, ride) {
            let last = ride.strides.partition_point(|s| s.end <= turn.time_s + MOMENT);
            let first = ride.strides.partition_point(|s| s.start < turn.time_s - MOMENT);
            let (from, to) = (out[k].strides.start, next.strides.end);
            if last > from && first < to {
                let Ride { patterns, own, reading, .. } = ride;
                out.truncate(k + 1);
                out[k] = Bout {
                    turn: out[k].turn,
                    ..bout(patterns, own, from..last, out[k].label, reading)
                };
                next = bout(patterns, own, first..to, next.label, reading);
                next.turn = Some(turn);
            }
        }
        out.push(next);
    }
    out
}

/// The bout that `next` follows directly, as far back as the two explain all that lies between.
fn before(out: &[Bout], next: &Bout, ride: &Ride) -> Option<(usize, Turn)> {
    if !is_solid(next) {
        return None;
    }
    let mut found = None;
    for (k, bout) in out.iter().enumerate().rev() {
        if next.strides.start - bout.strides.end > BETWEEN {
            break;
        }
        if is_solid(bout) {
            if bout.label.gait.is_one_with(next.label.gait) {
                continue;
            }
            let own = |b: &Bout| &ride.strides[b.strides.clone()];
            let marks = &ride.tidy.footfalls;
            let turn = turn::turn(own(bout), own(next), marks, ride.reading.mark_sd);
            if let Some(turn) = turn.filter(|t| t.is_all() && is_seen(bout, next, ride)) {
                found = Some((k, turn));
            }
        }
    }
    found
}

/// Long enough, and clear enough, to learn a gait's clock from.
fn is_solid(bout: &Bout) -> bool {
    bout.strides.len() >= 2 && bout.label.gait != Gait::Unclear
}

/// Whether footfalls are marked all the way from one bout to the next, without a halt.
fn is_seen(bout: &Bout, next: &Bout, ride: &Ride) -> bool {
    let (last, first) = (&ride.strides[bout.strides.end - 1], &ride.strides[next.strides.start]);
    if ride.halts.iter().any(|h| h.lies_between(last.end, first.start)) {
        return false;
    }
    let stride = f64::midpoint(last.duration(), first.duration());
    if first.start - last.end > UNCUT * stride {
        return false;
    }
    let longest = UNSEEN * stride;
    let marks: &[Footfall] = &ride.tidy.footfalls;
    let from = marks.partition_point(|m| m.on.0 < last.start - MOMENT);
    let own = marks[from..].iter().take_while(|m| m.on.0 < first.end + MOMENT);
    let times: Vec<f64> = own.filter(|m| !m.inferred).map(|m| m.on.0).collect();
    times.windows(2).all(|w| w[1] - w[0] <= longest)
}
