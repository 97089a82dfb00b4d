//! A mean with its error.

/// A mean over strides with its uncertainty.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Estimate {
    /// Mean.
    pub value: f64,
    /// Spread between strides with the timing error taken out; `None` for fewer than two strides
    /// or when the timing error is not known.
    pub sd: Option<f64>,
    /// 95 % interval of the mean; `None` under the same conditions.
    pub ci95: Option<(f64, f64)>,
    /// Strides it rests on.
    pub n: usize,
}

impl Estimate {
    /// Half the width of the interval.
    ///
    /// ```
    /// use umlauf_gait::stats::estimate::Estimate;
    /// let tempo = Estimate { value: 79.0, sd: None, ci95: Some((78.4, 79.6)), n: 12 };
    /// assert!((tempo.half_width().expect("an interval") - 0.6).abs() < 1e-9);
    /// ```
    pub fn half_width(&self) -> Option<f64> {
        self.ci95.map(|(lo, hi)| (hi - lo) / 2.0)
    }

    /// The same estimate in another unit.
    pub fn scaled(self, by: f64) -> Self {
        let ci95 = self.ci95.map(|(lo, hi)| {
            let (a, b) = (lo * by, hi * by);
            (a.min(b), a.max(b))
        });
        Self { value: self.value * by, sd: self.sd.map(|s| s * by.abs()), ci95, n: self.n }
    }
}
