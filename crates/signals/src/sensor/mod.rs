//! Footfalls and tempo from sensors that a horse wears: what acceleration says of a hoof or of the trunk.
//!
//! Reading order: [`trace`], [`quiet`], [`worn`] on a hoof, [`trunk`]; [`knock`] lines clocks up.

pub mod knock;
pub mod quiet;
pub mod trace;
pub mod trunk;
pub mod worn;
