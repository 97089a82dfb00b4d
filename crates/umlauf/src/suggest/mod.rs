//! Footfalls that a film tells of by itself: seen, heard, or both.
//!
//! Reading order: [`seen`], [`heard`], [`suggestion`], [`search`], [`table`]; in the yard [`found`], [`marks`],
//! [`again`].

pub mod again;
pub mod found;
pub mod heard;
pub mod marks;
pub mod search;
pub mod seen;
pub mod suggestion;
pub mod table;
