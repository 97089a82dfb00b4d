//! When a hoof left, by how long its limb stands before and after: an off that makes a stance unlike both is another's.

use umlauf_gait::base::limb::Limb;

use crate::picture::seen::Seen;

/// Stances of a limb that are looked at on either side.
const BESIDE: usize = 3;

/// A stance is unlike those beside it that is longer or shorter by this share (three times the spread of a steady
/// horse's; project default), …
const UNLIKE: f64 = 0.12;

/// … and by so many frames.
const FRAMES: f64 = 1.2;

/// The usual length of the `take` stances nearest before the `k`-th, and of those after it, frames as `lengths` are; nothing
/// of a side on which fewer than two are known.
pub fn usual_beside(lengths: &[Option<f64>], k: usize, take: usize) -> Vec<f64> {
    let usual = |beside: &mut dyn Iterator<Item = &f64>| {
        let mut beside: Vec<f64> = beside.take(take).copied().collect();
        beside.sort_by(f64::total_cmp);
        (beside.len() > 1).then(|| beside[beside.len() / 2])
    };
    let before = usual(&mut lengths[..k].iter().rev().flatten());
    let after = usual(&mut lengths[k + 1..].iter().flatten());
    before.into_iter().chain(after).collect()
}

/// Forgets when hooves left whose stances are unlike those of their limb before and after. Footfalls are in order of
/// time.
pub fn forget_odd_offs(seen: &mut [Seen]) {
    let length = |s: &Seen| s.off.map(|off| off - s.on);
    let of_limb = |limb: Limb| -> Vec<Option<f64>> {
        seen.iter().map(|s| length(s).filter(|_| s.limb == limb)).collect()
    };
    let by_limb = Limb::ALL.map(of_limb);
    let odd: Vec<bool> = (0..seen.len())
        .map(|k| {
            let Some(own) = length(&seen[k]) else { return false };
            let known = usual_beside(&by_limb[seen[k].limb.index()], k, BESIDE);
            let unlike = |usual: f64| (own - usual).abs() > (UNLIKE * usual).max(FRAMES);
            !known.is_empty() && known.into_iter().all(unlike)
        })
        .collect();
    for (s, _) in seen.iter_mut().zip(odd).filter(|(_, odd)| *odd) {
        s.without_off();
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
        seen.iter_mut().filter(shorter).for_each(Seen::without_off);
    }
}

/// A girdle that stands for so much less than the other is not seen to leave (common practice: they are nearly alike).
const SHORTER: f64 = 0.75;
