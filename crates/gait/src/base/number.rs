//! Counts as numbers to reckon with.

#[expect(clippy::cast_precision_loss, reason = "counts of strides are far below 2^52")]
pub(crate) fn count(n: usize) -> f64 {
    n as f64
}
