//! The Ground desk of a clip: ways to metres, hooves, stills.
//!
//! Reading order: [`view`], [`stills`], [`ways`], [`desk`].

pub mod desk;
pub mod stills;
pub mod view;
pub mod ways;
