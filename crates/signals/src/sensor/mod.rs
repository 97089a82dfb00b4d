//! Footfalls and tempo from sensors that a horse wears: what acceleration says of a hoof or of the trunk.
//!
//! Reading order: [`trace`], [`quiet`], [`hoof`], [`trunk`]; [`clocks`] lines them up.

pub mod clocks;
pub mod hoof;
pub mod quiet;
pub mod trace;
pub mod trunk;
