//! One file a figure, measured over the strides of a bout.
//!
//! Reading order: [`run_length`], [`stretches`], [`tempo`], [`regularity`], [`drift`], [`evenness`], [`stance`], [`suspension`], [`canter_beats`], [`good_strides`], [`wheel`].

pub mod canter_beats;
pub mod drift;
pub mod evenness;
pub mod good_strides;
pub mod regularity;
pub mod run_length;
pub mod stance;
pub mod stretches;
pub mod stride_wander;
pub mod suspension;
pub mod tempo;
pub mod wheel;
