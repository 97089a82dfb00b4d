//! Footfalls that a film tells of by itself: seen, heard, felt by sensors, or all of them.
//!
//! Reading order: [`giving_way`], [`seen`], [`heard`], [`felt`], [`suggestion`], [`with_sensors`], [`worn`], [`known`], [`search`], [`table`]; in the yard [`wanting`], [`found`],
//! [`marks`], [`again`].

pub mod again;
pub mod felt;
pub mod found;
pub mod giving_way;
pub mod heard;
pub mod known;
pub mod marks;
pub(crate) mod reading;
pub mod search;
pub mod seen;
pub mod suggestion;
pub mod table;
pub mod wanting;
pub mod with_sensors;
pub mod worn;
