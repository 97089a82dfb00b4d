//! What sound (and later pictures and sensors) say about footfalls. Pure.

pub mod envelope;
