//! Over months: bouts, sessions and horses compared.
//!
//! Reading order: [`metric`], [`bout_summary`], [`tally`], [`card_row`], [`card`], [`progress`], [`verdict`], [`record_line`], [`movement_holds`], [`coach_agreement`], [`body_size`], [`workload`], [`returning`], [`sought`], [`looked_for`], [`meaning`], [`session`], [`again`].

pub mod again;
pub mod best;
pub mod body_size;
pub mod bout_summary;
pub mod card;
pub mod card_row;
pub mod coach_agreement;
pub mod looked_for;
pub mod meaning;
pub mod metric;
pub mod movement_holds;
pub mod progress;
pub mod record_line;
pub mod returning;
pub mod session;
pub mod sought;
pub mod tally;
pub mod verdict;
pub mod workload;
