//! Footfalls that are not seen well, against the others of their limb: a limb lands once a stride, and evenly.

use umlauf_gait::base::limb::Limb;

use crate::due::Due;
use crate::picture::seen::{Doubt, Seen};

/// An on that is not seen well and lies farther than this share of a stride, and so many frames, from where the limb
/// is due is another's.
const ASTRAY: f64 = 0.06;
const FRAMES: f64 = 2.0;

/// Leaves out what is not seen well where its limb has just landed, and times it by the limb's other footfalls where it
/// lies astray. Footfalls are in order of time, and stay so.
pub fn by_others(seen: &mut Vec<Seen>) {
    let faint = |s: &Seen| s.why.contains(&Doubt::NotSeenWell);
    let ons = Limb::ALL.map(|limb| -> Vec<f64> {
        seen.iter().filter(|s| s.limb == limb && !faint(s)).map(|s| s.on).collect()
    });
    let Some(due) = Due::of(ons) else { return };
    let of = |s: &Seen| (due.again(s.limb, s.on), due.at(s.limb, s.on));
    let told: Vec<(bool, Option<(f64, f64)>)> =
        seen.iter().map(|s| if faint(s) { of(s) } else { (false, None) }).collect();
    let mut told = told.into_iter();
    seen.retain_mut(|s| {
        let Some((again, own)) = told.next() else { return true };
        if let Some((on, sd)) =
            own.filter(|(on, _)| (on - s.on).abs() > FRAMES.max(ASTRAY * due.stride))
        {
            (s.on, s.on_sd) = (on, sd.max(s.on_sd));
            s.off = s.off.filter(|off| *off > on);
        }
        !again
    });
    seen.sort_by(|a, b| a.on.total_cmp(&b.on));
}
