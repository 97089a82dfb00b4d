//! What comes in: footfalls, aids, movements, the coach's word, and their tables.
//!
//! Reading order: [`origin`], [`footfall`], [`aid`], [`movement`], [`ride_mark`], [`coach_word`], [`table`], [`footfall_csv`], [`marks_csv`], [`captions`].

pub mod aid;
pub mod captions;
pub mod coach_word;
pub mod footfall;
pub mod footfall_csv;
pub mod marks_csv;
pub mod movement;
pub mod origin;
pub mod ride_mark;
pub mod table;
