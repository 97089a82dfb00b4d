//! Halts: all four limbs standing at once for longer than a moment.

use crate::base::limb::Limb;
use crate::base::phase;
use crate::base::thresholds::Thresholds;
use crate::marks::footfall::Footfall;
use crate::stats::descriptive::mean;
use crate::strides::stride::Stride;

/// A halt.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Halt {
    /// The last hoof takes the ground, s.
    pub start_s: f64,
    /// The first hoof leaves it, s.
    pub end_s: f64,
    /// The limb that lands last.
    pub last_on: Limb,
    /// The limb that leaves first.
    pub first_off: Limb,
    /// The limb that stands behind its partner at the same end, when positions tell: hind or fore
    /// with the larger offset, and metres.
    pub trailing: Option<(Limb, f64)>,
    /// Whether both pairs stand within the limit, when positions tell.
    pub square: Option<bool>,
}

impl Halt {
    /// Whether the horse stands between two moments: the middle of the halt lies there.
    pub fn lies_between(&self, from_s: f64, to_s: f64) -> bool {
        (from_s..to_s).contains(&f64::midpoint(self.start_s, self.end_s))
    }
}

/// Shorter than any distance between footfalls, s.
const MOMENT: f64 = 1e-6;

/// Strides without those that reach into a halt: a horse that stands does not stride.
pub fn without_halts(strides: Vec<Stride>, halts: &[Halt]) -> Vec<Stride> {
    let stands = |s: &Stride| {
        let k = halts.partition_point(|h| h.end_s <= s.start);
        halts.get(k).is_some_and(|h| s.end > h.start_s + MOMENT)
    };
    strides.into_iter().filter(|s| !stands(s)).collect()
}

/// Halts in tidy marks (sorted by time): stretches in which all four limbs are known to stand for
/// longer than the thresholds' halt, in the typical T of `strides`. Without off times there are none.
///
/// A mark that nobody made hides no halt: three limbs never stand so long together while the fourth
/// swings, two never for most of a stride. Where such a limb landed and left is told from its
/// footfalls before and after.
pub fn halts(marks: &[Footfall], strides: &[Stride], limits: &Thresholds) -> Vec<Halt> {
    let stride = strides.get(strides.len() / 2).map_or(0.0, Stride::duration);
    let least = limits.halt_s.max(limits.halt_strides * stride);
    let marked: Vec<&Footfall> = marks.iter().filter(|m| !m.inferred).collect();
    // Latest stance of each limb.
    let mut standing: [Option<&Footfall>; 4] = [None; 4];
    let mut out: Vec<Halt> = Vec::new();
    for (k, mark) in marked.iter().enumerate() {
        standing[mark.limb.index()] = Some(mark);
        let known = standing.map(|m| m.filter(|m| m.off.is_some_and(|off| off.0 > mark.on.0)));
        let off = |m: &Footfall| m.off.map_or(f64::INFINITY, |off| off.0);
        let Some(first) = known.iter().flatten().min_by(|a, b| off(a).total_cmp(&off(b))) else {
            continue;
        };
        let mut halt = Halt {
            start_s: mark.on.0,
            end_s: off(first),
            last_on: mark.limb,
            first_off: first.limb,
            trailing: None,
            square: None,
        };
        let needed = match known.iter().flatten().count() {
            4 => least,
            3 if !strides.is_empty() => least,
            2 if !strides.is_empty() => least.max(MOST_OF_A_STRIDE * stride),
            _ => continue,
        };
        // Until the next footfall: it may be one of a limb whose mark at the halt is missing. Without
        // one nothing tells that the fourth limb stood.
        let next = marked.get(k + 1).map(|next| next.on.0);
        let quiet = match next {
            Some(next) => halt.end_s.min(next) - halt.start_s,
            None if known.iter().all(Option::is_some) => halt.end_s - halt.start_s,
            None => continue,
        };
        if quiet <= needed {
            continue;
        }
        if let [Some(a), Some(b), Some(c), Some(d)] = known {
            (halt.trailing, halt.square) = stance([a, b, c, d], limits);
        }
        for limb in Limb::ALL.into_iter().filter(|l| known[l.index()].is_none()) {
            // A hoof whose leaving was not marked has landed where it was marked.
            let last = standing[limb.index()].filter(|m| m.off.is_some());
            let landed = last_stride(strides, halt.start_s)
                .filter(|_| last.is_some() || standing[limb.index()].is_none())
                .and_then(|stride| landing(limb, &known, stride, last.map(|m| m.on.0)));
            if let Some(on) = landed.filter(|on| (halt.start_s..halt.end_s).contains(on)) {
                (halt.start_s, halt.last_on) = (on, limb);
            }
            let left = leaving(limb, &marked[k + 1..], strides, halt.start_s);
            if let Some(off) = left.filter(|off| (halt.start_s..halt.end_s).contains(off)) {
                (halt.end_s, halt.first_off) = (off, limb);
            }
        }
        // Who lands has left the ground.
        halt.end_s = halt.end_s.min(next.unwrap_or(f64::INFINITY));
        if halt.end_s - halt.start_s > 0.5 * least {
            // What is known after the last mark is the most.
            out.pop_if(|earlier| earlier.end_s > halt.start_s);
            out.push(halt);
        }
    }
    out
}

/// Two limbs stand together less than this share of a stride in any gait.
const MOST_OF_A_STRIDE: f64 = 0.8;

/// The last whole stride before a moment that shows all four limbs.
fn last_stride(strides: &[Stride], before_s: f64) -> Option<&Stride> {
    let k = strides.partition_point(|s| s.end <= before_s);
    strides[k.saturating_sub(3)..k].iter().rev().find(|s| s.on.iter().all(Option::is_some))
}

/// When a limb without its last mark must have landed, s: the first time in its rhythm after it was
/// `seen` to land. Where it lands in a stride, about the limbs that are `known` to stand, the mean over them.
fn landing(
    limb: Limb,
    known: &[Option<&Footfall>; 4],
    stride: &Stride,
    seen: Option<f64>,
) -> Option<f64> {
    let t = stride.duration();
    let at = place_in_time(limb, known, stride)?;
    // A mark that nobody made is rarer than one that was made: no landing is passed over.
    let steps = seen.map_or(0.0, |seen| ((seen + 0.5 * t - at) / t).ceil());
    Some(at + steps * t)
}

/// A moment at which a limb lands while the others land as they are known to, s; and so it does any
/// number of strides before and after.
fn place_in_time(limb: Limb, known: &[Option<&Footfall>; 4], stride: &Stride) -> Option<f64> {
    let (own, t) = (stride.phase(limb)?, stride.duration());
    let told: Vec<(f64, f64)> = known
        .iter()
        .flatten()
        .filter_map(|m| Some((m.on.0, phase::signed(own - stride.phase(m.limb)?) * t)))
        .collect();
    // The limb that lands most nearly with it tells it best; the others are read about that.
    let (on, to) = told.iter().min_by(|a, b| a.1.abs().total_cmp(&b.1.abs()))?;
    let about = on + to;
    let near = |(on, to): &(f64, f64)| on + to - t * ((on + to - about) / t).round();
    Some(mean(&told.iter().map(near).collect::<Vec<f64>>()))
}

/// When a limb whose mark is missing must have left the ground, s: as long before its next footfall
/// as it swings in the first whole stride after.
fn leaving(limb: Limb, after: &[&Footfall], strides: &[Stride], from_s: f64) -> Option<f64> {
    let k = strides.partition_point(|s| s.start <= from_s);
    let whole = |s: &&Stride| s.on.iter().all(Option::is_some) && s.stance(limb).is_some();
    let stride = strides[k..].iter().take(4).find(whole)?;
    let t = stride.duration();
    let first = after.first()?.on.0;
    let soon = after.iter().take_while(|m| m.on.0 < first + 0.9 * t);
    let mut landed: [Option<&Footfall>; 4] = [None; 4];
    for mark in soon {
        landed[mark.limb.index()].get_or_insert(mark);
    }
    let on = match landed[limb.index()] {
        Some(own) => own.on.0,
        None => {
            // The last time in its rhythm before it is seen to land.
            let at = place_in_time(limb, &landed, stride)?;
            let seen = after.iter().find(|m| m.limb == limb).map(|m| m.on.0);
            at - seen.map_or(0.0, |seen| ((at + 0.5 * t - seen) / t).ceil()) * t
        }
    };
    Some(on - (t - stride.stance(limb)?))
}

/// Which limb trails and whether the halt is square, from where the hooves stand: along the body's
/// line (hinds' middle to fores' middle), left against right of each pair.
fn stance(four: [&Footfall; 4], limits: &Thresholds) -> (Option<(Limb, f64)>, Option<bool>) {
    let [Some(lf), Some(rf), Some(lh), Some(rh)] = four.map(|m| m.at) else { return (None, None) };
    let middle = |a: crate::marks::footfall::GroundPoint,
                  b: crate::marks::footfall::GroundPoint| {
        (f64::midpoint(a.x.0, b.x.0), f64::midpoint(a.y.0, b.y.0))
    };
    let (fore, hind) = (middle(lf, rf), middle(lh, rh));
    let (dx, dy) = (fore.0 - hind.0, fore.1 - hind.1);
    let length = dx.hypot(dy);
    if length <= 0.0 {
        return (None, None);
    }
    let along = |p: crate::marks::footfall::GroundPoint| (p.x.0 * dx + p.y.0 * dy) / length;
    let hinds = along(lh) - along(rh);
    let fores = along(lf) - along(rf);
    let square = hinds.abs() <= limits.square_m && fores.abs() <= limits.square_m;
    // The hinds are what a halt is judged by first.
    let (offset, left) =
        if hinds.abs() >= fores.abs() { (hinds, Limb::LH) } else { (fores, Limb::LF) };
    let behind = if offset < 0.0 { left } else { left.opposite() };
    let trailing = (!square).then_some((behind, offset.abs()));
    (trailing, Some(square))
}
