//! The frame check: horse and rider on one still.
//!
//! Reading order: [`points`], [`frame_check`], [`working_frame`], [`nose`].

pub mod frame_check;
pub mod nose;
pub mod points;
pub mod working_frame;
