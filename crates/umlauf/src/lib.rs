//! Umlauf: the command line, the server and the page it serves.
//!
//! Modules stand in reading order: each uses only those above it, which `tests/architecture.rs`
//! holds.

pub mod assets;

pub mod dates;

pub mod archive_error;

pub mod refused;

pub mod problem;

pub mod clip;

pub mod document;

pub mod digest;

pub mod desk;

pub mod ground;

pub mod compare;

pub mod arena;

pub mod record;

pub mod yard;

pub mod report;

pub mod app;

pub mod intake;

pub mod jobs;

pub mod archive;

pub mod api;

pub mod server;

pub mod demo;

pub mod cli;
