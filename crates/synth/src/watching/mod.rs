//! How many hooves are found in drawn films that nothing was tuned on, how well they are timed, and whether
//! what is told from them is true.
//!
//! Reading order: [`asked`], [`clicks`], [`compared`], [`heard`], [`verdict`], [`table`], [`page`].

pub mod asked;
pub mod clicks;
pub mod compared;
pub mod heard;
pub mod page;
pub mod table;
pub mod verdict;
