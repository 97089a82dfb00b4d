//! Hooves in pictures: where the camera looks, what moves before it, and what stands still while the
//! horse goes on.
//!
//! Reading order: [`grey`], [`turn`], [`area`]; the camera: [`votes`], [`motion`], [`steady`], [`path`], [`unrolled`];
//! the horse: [`background`], [`horse`]; its hooves: [`still`], [`going`], [`strokes`], [`hoof`], [`knee`],
//! [`contact`], [`settle`], [`sides`]; [`refused`]; all together: [`watch`].

pub mod area;
pub mod background;
pub mod contact;
pub mod going;
pub mod grey;
pub mod hoof;
pub mod horse;
pub mod knee;
pub mod motion;
pub mod path;
pub mod refused;
pub mod settle;
pub mod sides;
pub mod steady;
pub mod still;
pub mod strokes;
pub mod turn;
pub mod unrolled;
pub mod votes;
pub mod watch;
