//! The whole yard as one ZIP, and back again.
//!
//! Reading order: [`copied`], [`export`], [`document`], [`films`], [`readable`], [`aside`], [`restore`].

pub mod aside;
pub mod copied;
mod document;
pub mod export;
mod films;
mod readable;
pub mod restore;
