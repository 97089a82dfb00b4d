//! Footfalls that are not seen well, against the others of their limb: a limb lands once a stride, and evenly.

use umlauf_gait::base::limb::Limb;

use crate::picture::seen::{Doubt, Seen};

/// A limb does not land again within this share of a stride.
const AGAIN: f64 = 0.4;

/// Strides about a footfall that differ from the usual one by less than this share are even.
const EVEN: f64 = 0.08;

/// An on that is not seen well and lies farther than this share of a stride, and so many frames, from where the limb
/// is due is another's.
const ASTRAY: f64 = 0.06;
const FRAMES: f64 = 2.0;

/// How well a limb's landing is known by those before and after, and by those of one side, shares of a stride
/// (project default: a steady horse's strides differ by two to three per cent).
const BETWEEN: f64 = 0.02;
const BESIDE: f64 = 0.04;

/// Leaves out what is not seen well where its limb has just landed, and times it by the limb's other footfalls where it
/// lies astray. Footfalls are in order of time, and stay so.
pub fn by_others(seen: &mut Vec<Seen>) {
    let faint = |s: &Seen| s.why.contains(&Doubt::NotSeenWell);
    let ons = Limb::ALL.map(|limb| -> Vec<f64> {
        seen.iter().filter(|s| s.limb == limb && !faint(s)).map(|s| s.on).collect()
    });
    let mut strides: Vec<f64> =
        ons.iter().flat_map(|own| own.windows(2).map(|w| w[1] - w[0])).collect();
    strides.sort_by(f64::total_cmp);
    let Some(stride) = strides.get(strides.len() / 2).copied() else { return };
    let even = |strides: f64, from: f64, to: f64| {
        (to - from - strides * stride).abs() < EVEN * strides * stride
    };
    let due = |s: &Seen| {
        let own = &ons[s.limb.index()];
        let next = own.partition_point(|on| *on < s.on);
        let at = |k: Option<usize>| k.and_then(|k| own.get(k)).copied();
        let (before, after) = (at(next.checked_sub(1)), at(Some(next)));
        if let (Some(a), Some(b)) = (before, after)
            && even(2.0, a, b)
        {
            return Some((0.5 * (a + b), BETWEEN * stride));
        }
        match (at(next.checked_sub(2)), before, after, at(Some(next + 1))) {
            (Some(a), Some(b), None, _) if even(1.0, a, b) => Some((b + stride, BESIDE * stride)),
            (_, None, Some(a), Some(b)) if even(1.0, a, b) => Some((a - stride, BESIDE * stride)),
            _ => None,
        }
    };
    let again = |s: &Seen| ons[s.limb.index()].iter().any(|on| (on - s.on).abs() < AGAIN * stride);
    let told: Vec<(bool, Option<(f64, f64)>)> =
        seen.iter().map(|s| if faint(s) { (again(s), due(s)) } else { (false, None) }).collect();
    let mut told = told.into_iter();
    seen.retain_mut(|s| {
        let Some((again, due)) = told.next() else { return true };
        if let Some((on, sd)) =
            due.filter(|(on, _)| (on - s.on).abs() > FRAMES.max(ASTRAY * stride))
        {
            (s.on, s.on_sd) = (on, sd.max(s.on_sd));
            s.off = s.off.filter(|off| *off > on);
        }
        !again
    });
    seen.sort_by(|a, b| a.on.total_cmp(&b.on));
}
