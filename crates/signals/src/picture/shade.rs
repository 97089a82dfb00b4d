//! Near or far by light: a far limb goes in the shade of the trunk and of its neighbour. Above knee and hock a coat has
//! one tone, whatever socks and hooves it ends in, and no shadow on the ground lies there; where under a horse that
//! tone comes twice, a little apart, the darker one is a far limb's (common practice).

use crate::number::{count, place};
use crate::picture::candidate::Candidate;
use crate::picture::hoof::{Looks, middle_of, steps};

/// Heights above the ground that are looked at, heights at the withers: above the hock, and above the knee.
const BAND: [(f64, f64); 2] = [(0.38, 0.46), (0.33, 0.42)];

/// Height of the joint about which a limb swings, heights at the withers, …
const ROOT: f64 = 0.52;

/// … and how far behind the line from there to the hoof hock and knee are.
const BEHIND: [f64; 2] = [0.10, 0.01];

/// Half of what is looked at across a limb, heights at the withers.
const HALF: f64 = 0.035;

/// Grey values by which a limb differs from what lies behind it.
const OTHER: f32 = 12.0;

/// Frames of a stance that are looked at, about, and how many must show its limb.
const LOOKS: usize = 16;
const FEWEST: usize = 3;

/// In the shade a coat has this share of its tone, and is so much darker, grey values.
const SHADE: (f64, f64) = (0.74, 0.93);
const APART: f64 = 4.0;

/// Stances of a girdle that follow each other so soon, strides, are of two limbs; fewer tell nothing, …
const SOON: f64 = 0.85;
const FEWEST_TURNS: usize = 6;

/// … and so much more they differ in light than those of one limb, where that is seen and not chance: none of it is
/// believed at the first, all at the second.
const TAKES_TURNS: (f64, f64) = (0.0, 0.2);

/// How log odds of the near limb fall with the share of looks in which it is in the shade, beyond what is usual of its
/// girdle, the least and the most (by drawn films of seeds that are only used for this).
const FALL: f64 = 5.0;
const LEAST: f64 = -1.8;
const MOST: f64 = 1.6;

/// Log odds that each candidate's limb is near, by its light; 0 where that tells nothing. `body` is the column of the
/// horse's middle in every frame.
pub fn nearer_by_light(found: &[Candidate], looks: &Looks, body: &[f64]) -> Vec<f64> {
    let roots = [false, true].map(|fore| {
        let mut all: Vec<f64> =
            found.iter().filter(|f| (f.ahead > 0.0) == fore).map(|f| f.ahead).collect();
        all.sort_by(f64::total_cmp);
        all.get(all.len() / 2).copied().unwrap_or(0.0)
    });
    let tones: Vec<Vec<f64>> =
        found.iter().map(|f| upper(f, looks, body, roots[usize::from(f.ahead > 0.0)])).collect();
    let told = |far: f64, near: f64| {
        let shares: Vec<Option<f64>> = tones.iter().map(|own| share(own, far, near)).collect();
        (taking_turns(found, &shares), shares)
    };
    let all: Vec<f64> = tones.concat();
    let best = pairs(&all).into_iter().map(|(far, near)| told(far, near));
    let Some((turns, shares)) = best.max_by(|a, b| a.0.total_cmp(&b.0)) else {
        return vec![0.0; found.len()];
    };
    let weight = ((turns - TAKES_TURNS.0) / (TAKES_TURNS.1 - TAKES_TURNS.0)).clamp(0.0, 1.0);
    // Half of a girdle's stances are far: what is usual of them all is neither.
    let usual = [false, true].map(|fore| {
        let own = || {
            let own = found.iter().zip(&shares).filter(|(f, _)| (f.ahead > 0.0) == fore);
            own.filter(|(f, _)| f.contact.is_some()).filter_map(|(_, share)| *share)
        };
        own().sum::<f64>() / count(own().count().max(1))
    });
    let odds = |(f, share): (&Candidate, &Option<f64>)| {
        let above = |s: f64| s - usual[usize::from(f.ahead > 0.0)];
        weight * share.map_or(0.0, |s| (-FALL * above(s)).clamp(LEAST, MOST))
    };
    found.iter().zip(&shares).map(odds).collect()
}

/// In which share of looks at a limb its tone is nearer to that of the shade; nothing where few are like either.
fn share(tones: &[f64], far: f64, near: f64) -> Option<f64> {
    let half = 0.5 * (near - far);
    let like = |tone: f64| tones.iter().filter(|t| (**t - tone).abs() < half).count();
    let (shaded, lit) = (like(far), like(near));
    (shaded + lit >= FEWEST).then(|| count(shaded) / count(shaded + lit))
}

/// How much more stances that follow each other in a girdle differ in light than those of one limb, the next but one:
/// from -1, through 0 by chance, to 1.
fn taking_turns(found: &[Candidate], shares: &[Option<f64>]) -> f64 {
    let (mut turns, mut other, mut same) = (0usize, 0.0, 0.0);
    for fore in [false, true] {
        let mut own: Vec<(f64, f64)> = found
            .iter()
            .zip(shares)
            .filter(|(f, _)| (f.ahead > 0.0) == fore && f.contact.is_some())
            .filter_map(|(f, s)| Some((count(f.stroke.from), (*s)?)))
            .collect();
        own.sort_unstable_by(|a, b| a.0.total_cmp(&b.0));
        let mut strides: Vec<f64> = own.windows(3).map(|w| w[2].0 - w[0].0).collect();
        strides.sort_unstable_by(f64::total_cmp);
        let soon = SOON * strides.get(strides.len() / 2).copied().unwrap_or(0.0);
        for three in own.windows(3) {
            if three[1].0 - three[0].0 < soon && three[2].0 - three[1].0 < soon {
                let [a, b, c] = [three[0].1, three[1].1, three[2].1];
                turns += 1;
                other += 0.5 * ((a - b).abs() + (b - c).abs());
                same += (a - c).abs();
            }
        }
    }
    if turns < FEWEST_TURNS { 0.0 } else { (other - same) / (other + same).max(0.1) }
}

/// Pairs of frequent tones that may be a coat's in the shade and in the light.
fn pairs(tones: &[f64]) -> Vec<(f64, f64)> {
    let mut counts = [0.0f64; 256];
    for tone in tones {
        let middle = place(tone.round()).min(255);
        let near = counts.iter_mut().enumerate().skip(middle.saturating_sub(2)).take(5);
        near.for_each(|(at, c)| *c += (3.0 - count(at.abs_diff(middle))).max(0.0));
    }
    let most = counts.iter().copied().fold(0.0, f64::max);
    let higher = |k: usize, than: usize| counts.get(than).is_none_or(|c| counts[k] >= *c);
    let peaks: Vec<f64> = (0..counts.len())
        .filter(|k| counts[*k] > FREQUENT * most && higher(*k, k + 1))
        .filter(|k| k.checked_sub(1).is_none_or(|before| higher(*k, before)))
        .map(count)
        .collect();
    let of = |near: f64| {
        let darker =
            move |far: &f64| (SHADE.0..SHADE.1).contains(&(far / near)) && near - far >= APART;
        peaks.clone().into_iter().filter(darker).map(move |far| (far, near))
    };
    peaks.iter().flat_map(|near| of(*near).collect::<Vec<_>>()).collect()
}

/// A tone is frequent that is seen so often as this share of the most frequent one.
const FREQUENT: f64 = 0.05;

/// Tones of a standing limb above its knee or hock, one of each frame in which it is seen there.
fn upper(of: &Candidate, looks: &Looks, body: &[f64], root: f64) -> Vec<f64> {
    let h = looks.height;
    let fore = usize::from(of.ahead > 0.0);
    let way = if looks.rightward { 1.0 } else { -1.0 };
    let long = of.stroke.to - of.stroke.from;
    let last = (of.stroke.to - long / 12).min(body.len().saturating_sub(1));
    let rows: Vec<f64> = steps(of.row - BAND[fore].1 * h, of.row - BAND[fore].0 * h);
    let mut tones = vec![];
    for frame in (of.stroke.from + long / 12..=last).step_by((long / LOOKS).max(1)) {
        // It leans on with the body.
        let leans = body[frame] + way * root * h - of.stroke.x;
        let (mut seen, mut all) = (vec![], 0);
        for row in rows.iter().step_by(2) {
            let up = (of.row - row) / h;
            let x = of.stroke.x + leans * up / ROOT - way * BEHIND[fore] * h;
            let columns = steps(x - HALF * h, x + HALF * h);
            let own = looks.patch(frame, &columns, &[*row]);
            let behind = looks.behind(frame, &columns, &[*row]);
            all += own.len();
            let other = own.iter().zip(&behind).filter(|(o, b)| (**o - **b).abs() > OTHER);
            seen.extend(other.map(|(own, _)| *own));
        }
        if 2 * seen.len() >= all && !seen.is_empty() {
            tones.push(f64::from(middle_of(&mut seen)));
        }
    }
    tones
}
