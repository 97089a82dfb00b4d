//! What is worth saying: facts, where, and how sure.
//!
//! Reading order: [`certainty`], [`ground_kind`], [`kind`], [`finding`], [`of_bouts`], [`of_events`], [`of_work`], [`of_ground`], [`all`].

pub mod all;
pub mod certainty;
pub mod finding;
pub mod ground_kind;
pub mod kind;
pub mod of_bouts;
pub mod of_events;
pub mod of_ground;
pub mod of_work;
