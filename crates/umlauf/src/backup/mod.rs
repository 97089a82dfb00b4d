//! A second copy of the yard, in a folder of the coach's choice: each day's tables in a ZIP, every film once.
//!
//! Reading order: [`place`], [`kept`], [`films`], [`sealed`], [`make`], [`daily`], [`sound`], [`put_back`].

pub mod daily;
pub mod films;
pub mod kept;
pub mod make;
pub mod place;
pub mod put_back;
pub mod sealed;
pub mod sound;
