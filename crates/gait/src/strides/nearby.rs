//! The stride's duration nearby, from the marks alone.

use rayon::iter::{IndexedParallelIterator, IntoParallelIterator, ParallelIterator};

use crate::marks::footfall::Footfall;

/// Local stride duration: the median distance between successive footfalls of one limb nearby.
#[derive(Clone, Debug, Default)]
pub struct NearbyDuration {
    /// Middles of the gaps between successive footfalls of one limb, in order of time.
    middles: Vec<f64>,
    /// The median of the gaps about each of them and after all.
    medians: Vec<f64>,
}

impl NearbyDuration {
    const NEIGHBOURS: usize = 9;

    /// From the sorted times of each limb's footfalls, s.
    pub fn new(by_limb: &[Vec<f64>; 4]) -> Self {
        let many = by_limb.iter().map(|own| own.len().saturating_sub(1)).sum();
        let (mut middles, mut gaps) = (Vec::with_capacity(many), Vec::with_capacity(many));
        // Each limb's gaps are in order: the four are merged.
        let mut places = [0; 4];
        for _ in 0..many {
            let next = (0..4)
                .filter_map(|limb| {
                    let own = by_limb[limb].get(places[limb]..places[limb] + 2)?;
                    Some((limb, f64::midpoint(own[0], own[1]), own[1] - own[0]))
                })
                .min_by(|a, b| a.1.total_cmp(&b.1));
            let Some((limb, middle, gap)) = next else { break };
            places[limb] += 1;
            middles.push(middle);
            gaps.push(gap);
        }
        let medians = (0..gaps.len() + usize::from(!gaps.is_empty()))
            .into_par_iter()
            .with_min_len(4096)
            .filter_map(|place| median_about(&gaps, place))
            .collect();
        Self { middles, medians }
    }

    /// From marks, and each limb's places among them.
    pub fn of(marks: &[Footfall], by_limb: &[Vec<usize>; 4]) -> Self {
        let times = by_limb.each_ref().map(|own| own.iter().map(|&k| marks[k].on.0).collect());
        Self::new(&times)
    }

    /// Reads durations at times that mostly grow, each step from where the last one was.
    pub fn walk(&self) -> Walk<'_> {
        Walk { nearby: self, place: 0 }
    }
}

/// A reader that goes through a [`NearbyDuration`] in order of time.
pub struct Walk<'a> {
    nearby: &'a NearbyDuration,
    place: usize,
}

impl Walk<'_> {
    /// Duration of a stride about `time`, s; `None` unless some limb was marked twice.
    pub fn at(&mut self, time: f64) -> Option<f64> {
        let NearbyDuration { middles, medians } = self.nearby;
        self.place = first_at(middles, self.place, |&m| m >= time);
        medians.get(self.place).copied()
    }
}

/// The median of the gaps about a place; `None` of none.
fn median_about(gaps: &[f64], place: usize) -> Option<f64> {
    let reach = NearbyDuration::NEIGHBOURS.min(gaps.len());
    let from = place.saturating_sub(reach / 2).min(gaps.len() - reach);
    let mut window = [0.0; NearbyDuration::NEIGHBOURS];
    let part = &mut window[..reach];
    part.copy_from_slice(&gaps[from..from + reach]);
    if reach == NearbyDuration::NEIGHBOURS {
        return Some(median_of_nine(window));
    }
    part.sort_by(f64::total_cmp);
    part.get(reach / 2).copied()
}

/// Median of nine without a branch: the network of Paeth (Graphics Gems, 1990, p. 171; value from
/// memory, checked against sorting below).
fn median_of_nine(mut v: [f64; 9]) -> f64 {
    const EXCHANGES: [(usize, usize); 19] = [
        (1, 2),
        (4, 5),
        (7, 8),
        (0, 1),
        (3, 4),
        (6, 7),
        (1, 2),
        (4, 5),
        (7, 8),
        (0, 3),
        (5, 8),
        (4, 7),
        (3, 6),
        (1, 4),
        (2, 5),
        (4, 7),
        (4, 2),
        (6, 4),
        (4, 2),
    ];
    for (a, b) in EXCHANGES {
        let (x, y) = (v[a], v[b]);
        // Times are numbers: a plain comparison is one instruction.
        (v[a], v[b]) = if x < y { (x, y) } else { (y, x) };
    }
    v[4]
}

/// The first place of a sorted list where `reached` holds, looked for from `near`: a few steps on
/// when the places asked for follow each other, a binary search when they do not.
pub(crate) fn first_at<T>(sorted: &[T], near: usize, reached: impl Fn(&T) -> bool) -> usize {
    const STEPS: usize = 16;
    let near = near.min(sorted.len());
    if near == 0 || !reached(&sorted[near - 1]) {
        let ahead = &sorted[near..(near + STEPS).min(sorted.len())];
        if let Some(k) = ahead.iter().position(&reached) {
            return near + k;
        }
    }
    sorted.partition_point(|x| !reached(x))
}

#[cfg(test)]
mod tests {
    use super::median_of_nine;

    #[test]
    fn the_network_finds_the_median_of_every_pattern() {
        // A network that is right for all lists of noughts and ones is right for all lists.
        for bits in 0u16..512 {
            let v: [f64; 9] = std::array::from_fn(|k| f64::from((bits >> k) & 1));
            let wanted = if bits.count_ones() >= 5 { 1.0 } else { 0.0 };
            assert!((median_of_nine(v) - wanted).abs() < f64::EPSILON, "{v:?}");
        }
    }
}
