//! The stride's duration nearby, from the marks alone.

/// Local stride duration: the median distance between successive footfalls of one limb nearby.
pub struct LocalDuration {
    middles: Vec<f64>,
    gaps: Vec<f64>,
}

impl LocalDuration {
    const NEIGHBOURS: usize = 9;

    /// From the sorted times of each limb's footfalls, s.
    pub fn new(by_limb: &[Vec<f64>; 4]) -> Self {
        let mut pairs: Vec<(f64, f64)> = Vec::new();
        for own in by_limb {
            pairs.extend(own.windows(2).map(|w| (f64::midpoint(w[0], w[1]), w[1] - w[0])));
        }
        pairs.sort_by(|a, b| a.0.total_cmp(&b.0));
        let (middles, gaps) = pairs.into_iter().unzip();
        Self { middles, gaps }
    }

    /// Reads durations at times that mostly grow, each step from where the last one was.
    pub fn walk(&self) -> Walk<'_> {
        Walk { local: self, place: 0 }
    }
}

/// A reader that goes through a [`LocalDuration`] in order of time.
pub struct Walk<'a> {
    local: &'a LocalDuration,
    place: usize,
}

impl Walk<'_> {
    /// Duration of a stride about `time`, s; `None` unless some limb was marked twice.
    pub fn at(&mut self, time: f64) -> Option<f64> {
        let LocalDuration { middles, gaps } = self.local;
        if gaps.is_empty() {
            return None;
        }
        self.place = first_at(middles, self.place, |&m| m >= time);
        let reach = LocalDuration::NEIGHBOURS.min(gaps.len());
        let from = self.place.saturating_sub(reach / 2).min(gaps.len() - reach);
        let mut window = [0.0; LocalDuration::NEIGHBOURS];
        let window = &mut window[..reach];
        window.copy_from_slice(&gaps[from..from + reach]);
        Some(*window.select_nth_unstable_by(reach / 2, f64::total_cmp).1)
    }
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
