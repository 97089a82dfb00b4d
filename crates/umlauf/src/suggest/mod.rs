//! Footfalls that a film tells of by itself: seen, heard, or both.
//!
//! Reading order: [`seen`], [`heard`], [`suggestion`], [`table`].

pub mod heard;
pub mod seen;
pub mod suggestion;
pub mod table;
