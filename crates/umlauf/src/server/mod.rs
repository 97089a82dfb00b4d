//! The server: listening, who may reach it, the page it serves.
//!
//! Reading order: [`fences`], [`lanes`], [`page`], [`router`], [`listen`], [`serve`].

pub mod fences;
mod lanes;
mod listen;
pub mod page;
pub mod router;
pub mod serve;
