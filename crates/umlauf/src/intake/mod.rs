//! Footage comes in: a file is taken, a folder watched.
//!
//! Reading order: [`take`], [`watch`].

pub mod take;
pub mod watch;
