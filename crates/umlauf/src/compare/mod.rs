//! Side by side: how a side is asked for, which bouts it means, and the verdict on two.
//!
//! Reading order: [`side`], [`row`], [`chosen`], [`target`], [`comparison`].

pub mod chosen;
pub mod comparison;
pub mod row;
pub mod side;
pub mod target;
