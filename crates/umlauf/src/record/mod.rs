//! A horse over months: a file a section.
//!
//! Reading order: [`horse_form`], [`season`], [`story`], [`filter`], [`card`], [`marks`], [`work`], [`milestones`], [`movements`], [`sides`], [`since`], [`next`], [`stories`], [`again`], [`read`].

pub mod again;
pub mod card;
pub mod filter;
pub mod horse_form;
pub mod marks;
pub mod milestones;
pub mod movements;
pub mod next;
pub mod read;
pub mod season;
pub mod sides;
pub mod since;
pub mod stories;
pub mod story;
pub mod work;
