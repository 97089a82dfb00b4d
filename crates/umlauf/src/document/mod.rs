//! What the analysis says, in fixed keys: `umlauf.analysis/1`, wheels, and the same in plain text.
//!
//! Reading order: [`estimate`], [`bout`], [`event`], [`events`], [`events_of_work`], [`finding`], [`wheel`], [`whole`], [`summary`], [`table`].

pub mod bout;
pub mod estimate;
pub mod event;
pub mod events;
pub mod events_of_work;
pub mod finding;
pub mod summary;
pub mod table;
pub mod wheel;
pub mod whole;
