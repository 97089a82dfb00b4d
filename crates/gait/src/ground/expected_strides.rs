//! Strides to expect on a way, and the stride length of a count.

use crate::base::number::count;
use crate::stats::estimate::Estimate;

/// Strides that a way of `length` m takes at a stride of `stride_m`, with the interval that the
/// stride's leaves; also the way back: the stride length of a count.
pub fn expected_strides(length: f64, stride_m: Estimate) -> Estimate {
    let value = length / stride_m.value;
    let ci95 = stride_m.ci95.map(|(lo, hi)| (length / hi, length / lo.max(0.05)));
    Estimate { value, sd: None, ci95, n: stride_m.n }
}

/// Stride length of `strides` counted over `length` m, counted to half a stride at either end.
///
/// ```
/// use umlauf_gait::ground::expected_strides::length_of_count;
/// let stride = length_of_count(31.4, 12).expect("strides");
/// assert!((stride.value - 31.4 / 12.0).abs() < 1e-9);
/// assert_eq!(length_of_count(31.4, 0), None);
/// ```
pub fn length_of_count(length: f64, strides: usize) -> Option<Estimate> {
    let n = count(strides);
    (strides > 0).then(|| Estimate {
        value: length / n,
        sd: None,
        ci95: Some((length / (n + 0.5), length / (n - 0.5))),
        n: strides,
    })
}
