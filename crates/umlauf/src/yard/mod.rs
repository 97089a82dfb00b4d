//! The yard and a session at a glance.
//!
//! Reading order: [`list`], [`session`].

pub mod list;
pub mod session;
