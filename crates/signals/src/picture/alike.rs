//! When a hoof left, by how long its limb stands before and after: an off that makes a stance unlike both is another's.

use crate::picture::seen::{Doubt, Seen};

/// Stances of a limb that are looked at on either side.
const BESIDE: usize = 3;

/// A stance is unlike those beside it that is longer or shorter by this share (three times the spread of a steady
/// horse's; project default), …
const UNLIKE: f64 = 0.12;

/// … and by so many frames.
const FRAMES: f64 = 1.2;

/// Forgets when hooves left whose stances are unlike those of their limb before and after. Footfalls are in order of
/// time.
pub fn forget_odd_offs(seen: &mut [Seen]) {
    let length = |s: &Seen| s.off.map(|off| off - s.on);
    let odd: Vec<bool> = (0..seen.len())
        .map(|k| {
            let Some(own) = length(&seen[k]) else { return false };
            let usual = |beside: &mut dyn Iterator<Item = &Seen>| {
                let same = beside.filter(|s| s.limb == seen[k].limb);
                let mut lengths: Vec<f64> = same.filter_map(length).take(BESIDE).collect();
                lengths.sort_by(f64::total_cmp);
                (lengths.len() > 1).then(|| lengths[lengths.len() / 2])
            };
            let before = usual(&mut seen[..k].iter().rev());
            let after = usual(&mut seen[k + 1..].iter());
            let unlike = |usual: f64| (own - usual).abs() > (UNLIKE * usual).max(FRAMES);
            let known: Vec<f64> = before.into_iter().chain(after).collect();
            !known.is_empty() && known.into_iter().all(unlike)
        })
        .collect();
    for (s, _) in seen.iter_mut().zip(odd).filter(|(_, odd)| *odd) {
        forget(s);
    }
    let girdles = [true, false].map(|hind| {
        let own = seen.iter().filter(|s| s.limb.is_hind() == hind);
        let mut lengths: Vec<f64> = own.filter_map(length).collect();
        lengths.sort_by(f64::total_cmp);
        lengths.get(lengths.len() / 2).copied()
    });
    let [Some(hind), Some(fore)] = girdles else { return };
    if hind.min(fore) < SHORTER * hind.max(fore) {
        seen.iter_mut()
            .filter(|s| s.off.is_some() && s.limb.is_hind() == (hind < fore))
            .for_each(forget);
    }
}

/// A girdle that stands for so much less than the other is not seen to leave (common practice: they are nearly alike).
const SHORTER: f64 = 0.75;

fn forget(s: &mut Seen) {
    (s.off, s.heel_off, s.off_sd) = (None, None, f64::INFINITY);
    s.why.push(Doubt::OffUnseen);
}
