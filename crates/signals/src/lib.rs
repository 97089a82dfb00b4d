//! What pictures, sound and sensors say about footfalls. Pure.

pub mod click;
pub mod due;
pub mod envelope;
pub mod fusion;
pub mod least_squares;
mod number;
mod parallel;
pub mod picture;
pub mod sensor;
pub mod sound;
