//! Every sentence the analysis says, in one place.
//!
//! Reading order: [`numbers`], [`names`], [`movements`], [`advice`], [`cautions`], [`sentence`], [`of_bouts`], [`of_changes`], [`of_work`], [`of_aids`], [`of_ground`], [`finding`], [`headline`], [`ground_headline`], [`missing`], [`marking`], [`looked_for`], [`session`], [`still`], [`scales`], [`arena`], [`comparison`], [`record`], [`returning`].

pub mod advice;
pub mod arena;
pub mod cautions;
pub mod comparison;
pub mod finding;
pub mod ground_headline;
pub mod headline;
pub mod looked_for;
pub mod marking;
pub mod missing;
pub mod movements;
pub mod names;
pub mod numbers;
pub mod of_aids;
pub mod of_bouts;
pub mod of_changes;
pub mod of_ground;
pub mod of_work;
pub mod record;
pub mod returning;
pub mod scales;
pub mod sentence;
pub mod session;
pub mod still;
