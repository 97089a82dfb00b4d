//! A clip: its marks, tags, settings, scale and clock, and how the core reads it.
//!
//! Reading order: [`impossible`], [`picture`], [`mark`], [`tag`], [`settings`], [`clock`], [`calibration`], [`reading`], [`click_track`].

pub mod calibration;
pub mod click_track;
pub mod clock;
pub mod impossible;
pub mod mark;
pub mod picture;
pub mod reading;
pub mod settings;
pub mod tag;
