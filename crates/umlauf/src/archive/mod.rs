//! The whole yard as one ZIP, and back again.
//!
//! Reading order: [`export`], [`document`], [`films`], [`readable`], [`aside`], [`restore`], [`one_horse`].

pub mod aside;
mod document;
pub mod export;
mod films;
pub mod one_horse;
mod readable;
pub mod restore;
