//! The server: listening, who may reach it, the page it serves.
//!
//! Reading order: [`fences`], [`door`], [`lanes`], [`page`], [`router`], [`listen`], [`reached`], [`serve`].

mod door;
pub mod fences;
mod lanes;
mod listen;
pub mod page;
mod reached;
pub mod router;
pub mod serve;
