//! Umlauf: the command line, the server and the page it serves.

pub mod analyse;
pub mod api;
pub mod app;
pub mod archive;
pub mod calibration;
pub mod click;
pub mod demo;
pub mod desk;
pub mod digest;
pub mod document;
pub mod document_work;
pub mod ground;
pub mod jobs;
pub mod problem;
pub mod record;
pub mod report;
pub mod season;
pub mod serve;
pub mod slow;
pub mod summary;
pub mod tags;
pub mod watch;
