//! Halts: all four limbs standing at once for longer than a moment.

use crate::base::limb::Limb;
use crate::base::thresholds::Thresholds;
use crate::marks::footfall::Footfall;
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

/// Strides without those that reach over a halt: a horse that stands does not stride.
pub fn without_halts(strides: Vec<Stride>, halts: &[Halt]) -> Vec<Stride> {
    let stands = |s: &Stride| {
        let k = halts.partition_point(|h| h.end_s <= s.start);
        halts.get(k).is_some_and(|h| h.lies_between(s.start, s.end))
    };
    strides.into_iter().filter(|s| !stands(s)).collect()
}

/// Halts in tidy marks (sorted by time): stretches in which all four limbs are known to stand for
/// longer than max(0.5 s, 0.5 T), `stride_s` being a typical T. Without off times there are none.
pub fn halts(marks: &[Footfall], stride_s: Option<f64>, limits: &Thresholds) -> Vec<Halt> {
    let least = limits.halt_s.max(limits.halt_strides * stride_s.unwrap_or(0.0));
    // Latest stance of each limb.
    let mut standing: [Option<&Footfall>; 4] = [None; 4];
    let mut out: Vec<Halt> = Vec::new();
    for mark in marks.iter().filter(|m| !m.inferred) {
        standing[mark.limb.index()] = Some(mark);
        let [Some(a), Some(b), Some(c), Some(d)] = standing else { continue };
        let four = [a, b, c, d];
        let [Some(a), Some(b), Some(c), Some(d)] = four.map(|m| m.off.map(|o| o.0)) else {
            continue;
        };
        let off = [a, b, c, d];
        let first = (0..4).min_by(|x, y| off[*x].total_cmp(&off[*y])).unwrap_or(0);
        let (start_s, end_s) = (mark.on.0, off[first]);
        if end_s - start_s > least {
            let (trailing, square) = stance(four, limits);
            out.push(Halt {
                start_s,
                end_s,
                last_on: mark.limb,
                first_off: Limb::ALL[first],
                trailing,
                square,
            });
        }
    }
    out
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
