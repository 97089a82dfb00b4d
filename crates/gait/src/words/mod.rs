//! Every sentence the analysis says, in one place.
//!
//! Reading order: [`numbers`], [`names`], [`sentence`], [`finding`], [`of_ground`], [`headline`], [`ground_headline`], [`missing`], [`marking`], [`session`], [`still`], [`scales`], [`arena`], [`comparison`], [`record`], [`returning`].

pub mod arena;
pub mod comparison;
pub mod finding;
pub mod ground_headline;
pub mod headline;
pub mod marking;
pub mod missing;
pub mod names;
pub mod numbers;
pub mod of_ground;
pub mod record;
pub mod returning;
pub mod scales;
pub mod sentence;
pub mod session;
pub mod still;
