//! The server: listening, who may reach it, the page it serves.
//!
//! Reading order: [`fences`], [`page`], [`router`], [`serve`].

pub mod fences;
pub mod page;
pub mod router;
pub mod serve;
