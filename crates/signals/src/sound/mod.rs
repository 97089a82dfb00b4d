//! Hoofbeats in sound: when each begins, how surely, and in which rhythm.
//!
//! Reading order: [`bands`], [`loudness`], [`novelty`], [`onset`], [`rhythm`], [`tempo`], [`beats`].

pub mod bands;
pub mod beats;
pub mod loudness;
pub mod novelty;
pub mod onset;
pub mod pattern;
pub mod rhythm;
pub mod tempo;
