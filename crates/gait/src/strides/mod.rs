//! From marks to strides and bouts.
//!
//! Reading order: [`nearby`], [`relabel`], [`missing_marks`], [`tidy`], [`seldom`], [`stride`], [`cut`], [`classify`], [`smooth`], [`canter`], [`confidence`], [`turn`], [`bout`], [`set_apart`], [`group`], [`coach_gait`], [`halt`].

pub mod bout;
pub mod canter;
pub mod classify;
pub mod coach_gait;
pub mod confidence;
pub mod cut;
pub mod group;
pub mod halt;
pub mod missing_marks;
pub mod nearby;
pub mod relabel;
pub mod seldom;
mod set_apart;
pub mod smooth;
pub mod stride;
pub mod tidy;
pub mod turn;
