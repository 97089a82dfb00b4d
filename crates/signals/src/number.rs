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

/// The whole part of a number of pixels, none below zero: what is beyond 2³¹ is there.
#[inline]
pub(crate) fn whole(x: f64) -> usize {
    #[expect(
        clippy::cast_possible_truncation,
        clippy::cast_sign_loss,
        reason = "a processor converts to 32 bits with sign at once, to others in steps"
    )]
    let whole = x.max(0.0) as i32 as usize;
    whole
}

/// As [`whole`].
#[inline]
pub(crate) fn whole_of(x: f32) -> usize {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "as above")]
    let whole = x.max(0.0) as i32 as usize;
    whole
}

/// From here on numbers are whole, one apart, and their lowest bits count up: so several are rounded at once.
const WHOLE: f32 = 12_582_912.0;

/// The whole number nearest to one that is smaller than 2²², and larger than −2²².
#[inline]
pub(crate) fn nearest(x: f32) -> f32 {
    x + WHOLE - WHOLE
}

/// A whole number from zero to 2²² as a place.
#[inline]
pub(crate) fn place_of(x: f32) -> u32 {
    (x + WHOLE).to_bits() - WHOLE.to_bits()
}

/// A number from 0 to 255 as the nearest byte.
#[inline]
pub(crate) fn byte(x: f32) -> u8 {
    #[expect(clippy::cast_possible_truncation, reason = "the lowest byte counts up")]
    let byte = (x + WHOLE).to_bits() as u8;
    byte
}

/// A number in less memory.
pub(crate) fn small(x: f64) -> f32 {
    #[expect(clippy::cast_possible_truncation, reason = "seven digits are enough")]
    let small = x as f32;
    small
}

/// The value of a rank, from the least; nothing beyond the last.
pub(crate) fn of_rank(values: &[f32], rank: usize) -> Option<f32> {
    // Whole numbers in the same order are compared in one step.
    let mut order: Vec<i32> = values.iter().map(|v| in_order(v.to_bits().cast_signed())).collect();
    let at = order.get_mut(..).filter(|all| rank < all.len())?;
    let bits = in_order(*at.select_nth_unstable(rank).1);
    Some(f32::from_bits(bits.cast_unsigned()))
}

/// A number's bits as a whole number that lies where it does among others; and back.
fn in_order(bits: i32) -> i32 {
    bits ^ ((bits >> 31) & i32::MAX)
}
