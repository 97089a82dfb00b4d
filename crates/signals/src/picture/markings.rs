//! Limbs of a girdle that do not look alike: a sock, a light hoof, the shade of the body. Each keeps its look from
//! stride to stride, so that it is known again, a change of lead included, though not whether it is the near one.

use crate::number::count;

/// Fewer stances of a girdle that are seen show no markings.
const FEWEST: usize = 8;

/// The lesser part of a girdle's stances is at least this share of them.
const LESSER: f64 = 0.25;

/// Two looks differ by this share of the ground's light at least, and by so many times as much as each scatters.
const APART: f64 = 0.05;
const CLEARLY: f64 = 4.0;

/// Least scatter of a look, a share of the ground's light.
const LEAST_SD: f64 = 0.015;

/// A limb does not land again within this share of a stride: of stances so near so many at least do not look alike.
const SOON: f64 = 0.65;
const TAKES_TURNS: f64 = 0.75;

/// One look says no more than this, log odds.
const MOST: f64 = 4.0;

/// What the limb of a stance looks like.
#[derive(Clone, Copy, Debug)]
pub struct Look {
    /// It is a fore.
    pub fore: bool,
    /// When the stance began.
    pub on: f64,
    /// Shares of the ground's light of its parts, where they are seen.
    pub tones: [Option<f32>; PARTS],
}

/// Log odds that each stance, in order of time, is of the lighter limb of its girdle, lighter in what tells its limbs
/// apart best; 0 where they look alike or are not seen. What its other parts say counts as much.
pub fn lighter(looks: &[Look]) -> Vec<f64> {
    let mut out = vec![0.0; looks.len()];
    for girdle in [false, true] {
        let mut told: Vec<(f64, Vec<f64>)> =
            (0..PARTS).filter_map(|part| by_part(looks, girdle, part)).collect();
        told.sort_by(|a, b| b.0.total_cmp(&a.0));
        let Some((_, best)) = told.first() else { continue };
        for (_, odds) in &told {
            // The limb with the lighter hoof may have the darker pastern.
            let alike: f64 = odds.iter().zip(best).map(|(a, b)| a * b).sum();
            out.iter_mut().zip(odds).for_each(|(out, odds)| *out += alike.signum() * odds);
        }
    }
    out.iter_mut().for_each(|odds| *odds = odds.clamp(-MOST, MOST));
    out
}

/// Parts of a limb that are looked at.
const PARTS: usize = 3;

/// How clearly a part of a girdle's limbs tells them apart, with its log odds; nothing where it does not.
fn by_part(looks: &[Look], girdle: bool, part: usize) -> Option<(f64, Vec<f64>)> {
    let own = looks.iter().enumerate().filter(|(_, l)| l.fore == girdle);
    let seen: Vec<(usize, f64)> =
        own.filter_map(|(k, l)| Some((k, f64::from(l.tones[part]?)))).collect();
    let tones: Vec<f64> = seen.iter().map(|s| s.1).collect();
    let at: Vec<(f64, f64)> = seen
        .iter()
        .enumerate()
        .map(|(k, s)| (looks[s.0].on, tones[k] - about(&tones, k)))
        .collect();
    let two = two_looks(&at)?;
    let mut odds = vec![0.0; looks.len()];
    seen.iter().zip(at).for_each(|((k, _), (_, tone))| odds[*k] = two.odds(tone));
    Some((two.clear(), odds))
}

/// What a tone and its neighbours are in the middle, of limbs that take turns: light changes along the way.
fn about(tones: &[f64], k: usize) -> f64 {
    let reach = 2.min(k).min(tones.len() - 1 - k);
    let weights: &[f64] = match reach {
        0 => &[2.0],
        1 => &[1.0, 2.0, 1.0],
        _ => &[1.0, 4.0, 6.0, 4.0, 1.0],
    };
    // The outermost has one neighbour.
    let (tones, weights): (&[f64], &[f64]) = match (reach, tones) {
        (0, [first, second, ..]) if k == 0 => (&[*first, *second], &[1.0, 1.0]),
        (0, [.., second, last]) => (&[*second, *last], &[1.0, 1.0]),
        _ => (&tones[k - reach..=k + reach], weights),
    };
    let sum: f64 = tones.iter().zip(weights).map(|(t, w)| t * w).sum();
    sum / weights.iter().sum::<f64>()
}

/// Two tones and the scatter about them.
#[derive(Clone, Copy, Debug)]
struct Two {
    dark: f64,
    light: f64,
    sd: f64,
}

impl Two {
    fn clear(&self) -> f64 {
        (self.light - self.dark) / self.sd
    }

    fn border(&self) -> f64 {
        f64::midpoint(self.dark, self.light)
    }

    fn odds(&self, tone: f64) -> f64 {
        ((tone - self.border()) * self.clear() / self.sd).clamp(-MOST, MOST)
    }
}

/// The two looks of a girdle's stances, by their time and tone; nothing where there is but one.
fn two_looks(seen: &[(f64, f64)]) -> Option<Two> {
    let mut sorted: Vec<f64> = seen.iter().map(|s| s.1).collect();
    sorted.sort_by(f64::total_cmp);
    let n = sorted.len();
    if n < FEWEST {
        return None;
    }
    let middle = |v: &[f64]| v[v.len() / 2];
    let (mut dark, mut light) = (sorted[n / 5], sorted[4 * n / 5]);
    let mut split = n / 2;
    for _ in 0..10 {
        let border = f64::midpoint(dark, light);
        split = sorted.partition_point(|t| *t < border).clamp(1, n - 1);
        (dark, light) = (middle(&sorted[..split]), middle(&sorted[split..]));
    }
    let mut off: Vec<f64> = sorted[..split]
        .iter()
        .map(|t| (t - dark).abs())
        .chain(sorted[split..].iter().map(|t| (t - light).abs()))
        .collect();
    off.sort_by(f64::total_cmp);
    let two = Two { dark, light, sd: (1.48 * middle(&off)).max(LEAST_SD) };
    let border = two.border();
    let mut strides: Vec<f64> = seen.windows(3).map(|w| w[2].0 - w[0].0).collect();
    strides.sort_by(f64::total_cmp);
    let stride = middle(&strides);
    let soon: Vec<bool> = seen
        .windows(2)
        .filter(|w| w[1].0 - w[0].0 < SOON * stride)
        .map(|w| (w[0].1 < border) != (w[1].1 < border))
        .collect();
    let turns = soon.iter().filter(|turns| **turns).count();
    let lesser = split.min(n - split);
    let told = light - dark > APART
        && two.clear() > CLEARLY
        && count(lesser) >= LESSER * count(n)
        && 3 * soon.len() >= n
        && count(turns) >= TAKES_TURNS * count(soon.len())
        && !by_turn(seen, border, stride);
    told.then_some(two)
}

/// Whether it is the first of each couplet of a canter that is lighter, or the second, whichever limb that is: the shade of
/// the trunk falls on hooves so. Of a limb itself that says nothing, for it is so as well where the lead never changes.
fn by_turn(seen: &[(f64, f64)], border: f64, stride: f64) -> bool {
    let of = |w: &[(f64, f64)]| {
        let gap = (w[1].0 - w[0].0) / stride;
        let first = if gap < 1.0 - COUPLET { (gap < COUPLET).then_some(false) } else { Some(true) };
        first.map(|first| first == (w[1].1 < border))
    };
    let told: Vec<bool> = seen.windows(2).filter_map(of).collect();
    let dark_first = told.iter().filter(|dark_first| **dark_first).count();
    let one_way = dark_first.max(told.len() - dark_first);
    2 * told.len() > seen.len() && count(one_way) > ONE_WAY * count(told.len())
}

/// Two of a couplet land within this share of a stride.
const COUPLET: f64 = 0.42;

/// What is so in more than this part of all couplets goes with their turns.
const ONE_WAY: f64 = 0.85;
