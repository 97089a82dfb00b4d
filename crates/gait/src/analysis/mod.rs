//! From marks to findings: puts everything together.
//!
//! Reading order: [`standing_stretches`], [`analyse`], [`kept`], [`about_change`].

pub mod about_change;
pub mod analyse;
pub mod kept;
pub mod standing_stretches;
