//! How often the analysis is right about rides whose truth is known.
//!
//! Reading order: [`row`], [`labels`], [`changes`], [`intervals`], [`by_length`], [`length_page`],
//! [`one_more`], [`transitions`], [`halts`], [`sessions`], [`records`], [`two_sessions`], [`table`], [`page`].

pub mod by_length;
pub mod changes;
pub mod halts;
pub mod intervals;
pub mod labels;
pub mod length_page;
pub mod one_more;
pub mod page;
pub mod records;
pub mod row;
pub mod sessions;
pub mod table;
pub mod transitions;
pub mod two_sessions;
