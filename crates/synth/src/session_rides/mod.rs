//! Sessions of the second horse: several bouts on both reins, as they are filmed, with one fault or
//! none.
//!
//! Reading order: [`fault`], [`horse`], [`clip`], [`pieces`], [`session`].

pub(crate) mod clip;
pub mod fault;
pub(crate) mod horse;
pub(crate) mod pieces;
pub mod session;
