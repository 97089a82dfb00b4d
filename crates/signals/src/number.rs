//! Between counts and numbers.

/// A count as a number.
pub(crate) fn count(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(u32::MAX))
}

/// The place at or before a number; 0 for one below or none at all.
pub(crate) fn place(x: f64) -> usize {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "kept in range")]
    let at = x.clamp(0.0, f64::from(u32::MAX)) as usize;
    at
}

/// A number in less memory.
pub(crate) fn small(x: f64) -> f32 {
    #[expect(clippy::cast_possible_truncation, reason = "seven digits are enough")]
    let small = x as f32;
    small
}

/// The value of a rank, from the least; nothing beyond the last.
pub(crate) fn of_rank(values: &[f32], rank: usize) -> Option<f32> {
    let mut values = values.to_vec();
    (rank < values.len()).then(|| *values.select_nth_unstable_by(rank, f32::total_cmp).1)
}
