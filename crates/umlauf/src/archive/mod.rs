//! The whole yard as one ZIP, and back again.
//!
//! Reading order: [`export`], [`document`], [`films`], [`readable`], [`aside`], [`restore`].

pub mod aside;
mod document;
pub mod export;
mod films;
mod readable;
pub mod restore;
