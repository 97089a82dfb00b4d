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

    /// Duration of a stride about `time`, s; `None` unless some limb was marked twice.
    pub fn at(&self, time: f64) -> Option<f64> {
        if self.gaps.is_empty() {
            return None;
        }
        let reach = Self::NEIGHBOURS.min(self.gaps.len());
        let after = self.middles.partition_point(|&m| m < time);
        let from = after.saturating_sub(reach / 2).min(self.gaps.len() - reach);
        let mut window = [0.0; Self::NEIGHBOURS];
        let window = &mut window[..reach];
        window.copy_from_slice(&self.gaps[from..from + reach]);
        window.sort_by(f64::total_cmp);
        Some(window[reach / 2])
    }
}
