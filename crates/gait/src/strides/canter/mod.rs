//! Canter and gallop: the horse's own pattern, and the leads of hinds and fores stride by stride.
//!
//! Reading order: [`pattern`], [`states`], [`explain`], [`holes`], [`leads`].

pub mod explain;
pub mod holes;
pub mod leads;
pub mod pattern;
pub mod states;
