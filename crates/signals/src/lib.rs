//! What sound (and later pictures and sensors) say about footfalls. Pure.

pub mod click;
pub mod envelope;
mod number;
pub mod sound;
