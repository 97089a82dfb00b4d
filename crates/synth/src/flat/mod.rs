//! A second drawn horse, by another method than [`crate::figure`]'s: flat shapes with soft edges on a grained
//! ground, its limbs two links each and moved by rules of its own, filmed by a lens that may be held in the
//! hand. What finds hooves must not hold for one way of drawing only.
//!
//! Reading order: [`canvas`], [`grain`], [`lens`], [`limb`], [`conditions`], [`body`], [`stranger`], [`film`].

pub mod body;
pub mod canvas;
pub mod conditions;
pub mod film;
pub mod grain;
pub mod lens;
pub mod limb;
pub(crate) mod stranger;
