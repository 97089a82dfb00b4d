//! The yard on disk: one SQLite file and a folder of footage.
//!
//! Marks and settings are kept, figures never: they are worked out anew. Every edit of marks is
//! one transaction and one row of a journal, so undo works across reloads and a killed server
//! loses nothing that was acknowledged.

pub mod account;
pub mod act;
pub mod archive;
mod bin;
pub mod bringing;
pub mod choice;
pub mod clip;
pub mod coach_mark;
mod connections;
pub mod content;
mod count;
pub mod digest;
mod error;
mod found;
pub mod hand;
pub mod horse;
pub mod job;
pub mod journal;
mod json;
pub mod link;
mod log;
pub mod loose;
mod mark;
pub mod marks;
pub mod one_horse;
pub mod origin;
pub mod person;
pub mod ride;
pub mod role;
#[doc(hidden)]
pub mod schema;
mod seal;
mod sealing;
pub mod session_log;
pub mod settings;
mod shown;
pub mod signed_in;
pub mod soundness;
mod store;
pub mod tag;
pub mod upload;
pub mod yard;

pub use error::{StoreError, UnknownWord};
pub use store::Store;
