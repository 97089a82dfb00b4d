//! One bout measured: all its figures, or why one is missing.
//!
//! Reading order: [`options`], [`missing`], [`lead_verdict`], [`bout_figures`], [`reasons`], [`measure`], [`known`].

pub mod bout_figures;
pub mod known;
pub mod lead_verdict;
pub mod measure;
pub mod missing;
pub mod options;
pub mod reasons;
