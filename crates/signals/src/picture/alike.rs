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
    // Each fore by the hind that landed nearest to it: of one gait, where there are two.
    let hinds: Vec<(f64, f64)> =
        seen.iter().filter(|s| s.limb.is_hind()).filter_map(|s| Some((s.on, length(s)?))).collect();
    let by_hind = |s: &Seen| {
        let near = |h: &&(f64, f64)| (h.0 - s.on).abs();
        let hind = hinds.iter().min_by(|a, b| near(a).total_cmp(&near(b)))?;
        Some(length(s)? / hind.1)
    };
    let fores = seen.iter().filter(|s| !s.limb.is_hind());
    let mut shares: Vec<f64> = fores.filter_map(by_hind).collect();
    shares.sort_by(f64::total_cmp);
    let Some(share) = shares.get(shares.len() / 2).copied() else { return };
    if !(SHORTER..=1.0 / SHORTER).contains(&share) {
        let shorter = |s: &&mut Seen| s.limb.is_hind() == (share > 1.0) && s.off.is_some();
        seen.iter_mut().filter(shorter).for_each(forget);
    }
}

/// A girdle that stands for so much less than the other is not seen to leave (common practice: they are nearly alike).
const SHORTER: f64 = 0.75;

fn forget(s: &mut Seen) {
    (s.off, s.heel_off, s.off_sd) = (None, None, f64::INFINITY);
    s.why.push(Doubt::OffUnseen);
}
