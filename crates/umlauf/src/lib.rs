//! Umlauf: the command line, the server and the page it serves.
//!
//! Modules stand in reading order: each uses only those above it, which `tests/architecture.rs`
//! holds.

pub mod api;
pub mod app;
pub mod archive;
pub mod archive_error;
pub mod arena;
pub mod assets;
pub mod at_length;
pub mod backup;
pub mod check;
pub mod choices;
pub mod cli;
pub mod clip;
pub mod compare;
pub mod copied;
pub mod dates;
pub mod demo;
pub mod desk;
pub mod digest;
pub mod document;
pub mod films;
pub mod ground;
pub mod held;
pub mod intake;
pub mod jobs;
pub mod leftovers;
pub mod people;
pub mod problem;
pub mod record;
pub mod refused;
pub mod report;
pub mod room;
pub mod server;
pub mod share;
pub mod suggest;
pub mod vocabulary;
pub mod watchman;
pub mod yard;
