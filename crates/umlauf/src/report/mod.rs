//! Reports on paper.
//!
//! Reading order: [`paper`], [`drawing`], [`period`], [`session`].

pub mod drawing;
pub mod paper;
pub mod period;
pub mod session;
