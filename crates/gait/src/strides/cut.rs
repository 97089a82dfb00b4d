//! Strides: whole cycles of the four limbs, cut at the first hind.
//!
//! In canter and gallop a stride begins at the first hind of each hind couplet; in symmetrical
//! gaits at the hind that is marked first, never at a fixed side, so that mirrored footage gives
//! mirrored figures. The first-hind clock keeps its beat through a flying change, when a single
//! limb's clock does not (1.25 T for one hind, 0.75 T for the other).

use crate::base::limb::Limb;
use crate::base::thresholds::Thresholds;
use crate::marks::footfall::Footfall;
use crate::strides::nearby::{NearbyDuration, first_at};
use crate::strides::seldom::Seldom;
use crate::strides::stride::Stride;
use crate::strides::tidy::Tidy;

/// A fore that lands this share of a stride before the first hind still belongs to the stride:
/// a diagonal may land fore first.
const FORE_LEAD_IN: f64 = 0.10;

/// Cuts tidy marks into strides. Strides that lack an end (the last one, or one before a hole in
/// the marks) are left out. O(n log n).
pub fn cut(tidy: &Tidy, limits: &Thresholds) -> Vec<Stride> {
    let nearby = &tidy.nearby;
    let marks = &tidy.footfalls;
    let hinds: Vec<&Footfall> = marks.iter().filter(|m| m.limb.is_hind()).collect();
    let starts = starts(&hinds, nearby, limits);

    let mut strides = Vec::with_capacity(starts.len());
    let mut near = nearby.walk();
    let mut places = [0; 4];
    for pair in starts.windows(2) {
        let (start, end) = (pair[0], pair[1]);
        let t = end.time - start.time;
        let Some(expected) = near.at(start.time) else { continue };
        if !(0.6..=1.5).contains(&(t / expected)) {
            continue;
        }
        let mut stride = Stride {
            start: start.time,
            end: end.time,
            first_hind: start.limb,
            on: [None; 4],
            off: [None; 4],
            at: Seldom::default(),
            sd: Seldom::default(),
            inferred: [false; 4],
            end_inferred: end.inferred,
        };
        for limb in Limb::ALL {
            let lead_in = if limb.is_hind() { 0.0 } else { FORE_LEAD_IN * t };
            let (from, to) = (start.time - lead_in, end.time - lead_in);
            let own = &tidy.by_limb[limb.index()];
            let k = limb.index();
            places[k] = first_at(own, places[k], |&i| marks[i].on.0 >= from);
            if let Some(&i) = own.get(places[k]).filter(|&&i| marks[i].on.0 < to) {
                stride.on[k] = Some(marks[i].on.0);
                stride.off[k] = marks[i].off.map(|o| o.0);
                if marks[i].at.is_some() {
                    stride.at[k] = marks[i].at;
                }
                if let Some(sd) = marks[i].sd {
                    stride.sd[k] = Some(sd.0);
                }
                stride.inferred[k] = marks[i].inferred;
            }
        }
        strides.push(stride);
    }
    strides
}

#[derive(Clone, Copy)]
struct Start {
    time: f64,
    limb: Limb,
    inferred: bool,
}

/// What noisy marks may add to the distance of two hinds, share of a stride.
const NOISE: f64 = 0.14;

/// Between a couplet (about a quarter of the stride apart) and alternating hinds (a half).
pub(crate) const ALTERNATING: f64 = 0.385;

/// Whether the hinds about each of them alternate evenly, as in symmetrical gaits, or land in
/// couplets: by the median of five neighbours' distance to the nearer hind of the other side, so
/// that one noisy mark does not turn a trot into a canter.
fn alternating(hinds: &[&Footfall], nearby: &NearbyDuration) -> Vec<bool> {
    let mut near = nearby.walk();
    let nearer: Vec<Option<f64>> = (0..hinds.len())
        .map(|i| {
            let here = hinds[i];
            let t = near.at(here.on.0)?;
            let other = |k: Option<usize>| {
                let next = hinds.get(k?)?;
                (next.limb != here.limb).then(|| (next.on.0 - here.on.0).abs() / t)
            };
            match (other(i.checked_sub(1)), other(Some(i + 1))) {
                (Some(a), Some(b)) => Some(a.min(b)),
                (a, b) => a.or(b),
            }
        })
        .collect();
    (0..hinds.len())
        .map(|i| {
            let from = i.saturating_sub(2);
            // The median lies above the limit when more than half of them do (or half, of an even
            // number: the upper of the two middle ones counts).
            let window = nearer[from..(i + 3).min(hinds.len())].iter().flatten();
            let (n, above) =
                window.fold((0, 0), |(n, above), d| (n + 1, above + usize::from(*d > ALTERNATING)));
            n > 0 && above >= n - n / 2
        })
        .collect()
}

/// The hinds that begin strides.
fn starts(hinds: &[&Footfall], nearby: &NearbyDuration, limits: &Thresholds) -> Vec<Start> {
    let mut out: Vec<Start> = Vec::with_capacity(hinds.len() / 2 + 1);
    // In a symmetrical gait: the hind that began the stretch.
    let mut symmetrical: Option<Limb> = None;
    let alternating = alternating(hinds, nearby);
    let mut near = nearby.walk();
    // The second hind follows the first by less than this share of a stride in either kind.
    let reach = 1.0 - limits.couplet_max + NOISE;
    let mut i = 0;
    while i < hinds.len() {
        let here = Start { time: hinds[i].on.0, limb: hinds[i].limb, inferred: hinds[i].inferred };
        let Some(t) = near.at(here.time) else { break };
        let to_next = hinds.get(i + 1).map(|next| ((next.on.0 - here.time) / t, next.limb));
        match to_next {
            Some((gap, limb)) if limb != here.limb && !alternating[i] && gap < 0.5 => {
                out.push(here);
                symmetrical = None;
                i += 2;
            }
            Some((gap, limb)) if limb != here.limb && alternating[i] && gap <= reach => {
                match symmetrical {
                    // A hole shifted the count: wait for the limb that began the stretch.
                    Some(first) if first != here.limb => i += 1,
                    _ => {
                        out.push(here);
                        symmetrical = Some(here.limb);
                        i += 2;
                    }
                }
            }
            _ => {
                // A hind without its partner. It begins a stride when it stands where the next
                // start is due.
                let due = out.last().is_some_and(|last| {
                    last.limb == here.limb && (0.7..1.3).contains(&((here.time - last.time) / t))
                });
                if due {
                    out.push(here);
                }
                i += 1;
            }
        }
    }
    out
}
