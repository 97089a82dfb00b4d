//! Films for others: without what was said beside them, and without a face where that was asked for.
//!
//! Reading order: [`heads`], [`film`].

pub mod film;
pub mod heads;
