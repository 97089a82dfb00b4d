//! Whether a yard is whole: its file, its marks, its films, its copies for stepping.
//!
//! Reading order: [`finding`], [`tables`], [`films`].

pub mod films;
pub mod finding;
pub mod tables;
