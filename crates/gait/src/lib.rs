//! The rules of timing a horse: from the marks of footfalls to strides, gaits and figures with
//! their errors.
//!
//! The crate is pure: no files, no clock, no randomness. Times are true seconds
//! ([`base::units::Seconds`]), phases lie on a circle ([`base::phase`]), and every figure carries
//! its uncertainty or says why it has none ([`stats::timing_error`], [`bouts::missing`]).
//!
//! The folders stand in reading order: each uses only those above it, which
//! `tests/architecture.rs` holds. A rule is found by its path: a figure under [`figures`] or
//! [`ground`], an event or kind of work under [`events`], what is worth saying of it under
//! [`findings`], the sentence under [`words`], and what is compared over months under [`season`].

pub mod base;

pub mod stats;

pub mod marks;

pub mod strides;

pub mod figures;

pub mod ground;

pub mod bouts;

pub mod events;

pub mod findings;

pub mod marking;

pub mod analysis;

pub mod still;

pub mod season;

pub mod words;

pub use analysis::analyse::{Analysis, analyse};
pub use analysis::kept::Kept;
pub use base::limb::{Limb, Side};
pub use bouts::options::Options;
pub use marks::footfall::Footfall;
