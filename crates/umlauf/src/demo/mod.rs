//! The demo yard and its season.
//!
//! Reading order: `clips`, `stories`, `cards`, [`season`], [`fill`].

mod cards;
mod clips;
pub mod fill;
pub mod season;
mod stories;
