//! The yard on disk: one SQLite file and a folder of footage.
//!
//! Marks and settings are kept, figures never: they are worked out anew. Every edit of marks is
//! one transaction and one row of a journal, so undo works across reloads and a killed server
//! loses nothing that was acknowledged.

pub mod archive;
pub mod choice;
pub mod clip;
pub mod coach_mark;
pub mod digest;
pub mod horse;
pub mod job;
pub mod marks;
pub mod ride;
mod schema;
pub mod tag;
pub mod upload;
pub mod yard;

use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard};
use std::time::Duration;

use rusqlite::Connection;
use thiserror::Error;

/// What may go wrong with the store.
#[derive(Debug, Error)]
pub enum StoreError {
    /// Nothing by this number.
    #[error("there is no {kind} {id}")]
    NotFound {
        /// Kind of thing.
        kind: &'static str,
        /// Its number.
        id: i64,
    },
    /// Something without a number is not there; the text says what to do.
    #[error("{0}")]
    Missing(&'static str),
    /// The disk, or the limit set for the store, is full.
    #[error(
        "the disk is full: the change was not saved, everything saved before it is safe; free some space and try again"
    )]
    Full,
    /// A change starts from something that does not stand there any more.
    #[error("this mark was changed elsewhere in the meantime; the page shows it as it is now")]
    Conflict,
    /// A value that cannot be kept.
    #[error("{0}")]
    Invalid(String),
    /// SQLite failed.
    #[error("the yard's file could not be used: {0}")]
    Sqlite(rusqlite::Error),
    /// Bringing the file to this version's form failed.
    #[error("the yard's file could not be brought to this version: {0}")]
    Migration(#[from] rusqlite_migration::Error),
    /// Folder or file trouble.
    #[error("{what}: {source}")]
    Io {
        /// What was tried.
        what: String,
        /// Why it failed.
        source: std::io::Error,
    },
}

impl From<rusqlite::Error> for StoreError {
    fn from(e: rusqlite::Error) -> Self {
        match e.sqlite_error_code() {
            Some(rusqlite::ErrorCode::DiskFull) => Self::Full,
            _ => Self::Sqlite(e),
        }
    }
}

/// The yard's store. All calls block; use it from a blocking thread.
pub struct Store {
    connection: Mutex<Connection>,
    /// Marks of the clip that was looked at last; taken only while the connection is held.
    recent: Mutex<Option<marks::Recent>>,
    folder: PathBuf,
}

impl Store {
    /// Opens the store in `folder`, making it if need be. `limit_kib` bounds the size of the
    /// SQLite file: beyond it saving answers [`StoreError::Full`].
    ///
    /// # Errors
    /// [`StoreError::Io`] when the folder cannot be made, [`StoreError::Sqlite`] or
    /// [`StoreError::Migration`] when the file cannot be used.
    pub fn open(folder: &Path, limit_kib: Option<u64>) -> Result<Self, StoreError> {
        for needed in [folder.join("footage"), folder.join("incoming")] {
            std::fs::create_dir_all(&needed).map_err(|source| StoreError::Io {
                what: format!("the folder {} could not be made", needed.display()),
                source,
            })?;
        }
        let mut connection = Connection::open(folder.join("yard.sqlite"))?;
        connection.busy_timeout(Duration::from_secs(5))?;
        connection.pragma_update(None, "journal_mode", "WAL")?;
        connection.pragma_update(None, "synchronous", "FULL")?;
        connection.pragma_update(None, "foreign_keys", true)?;
        schema::migrations().to_latest(&mut connection)?;
        if let Some(kib) = limit_kib {
            let page: u64 = connection.query_row("PRAGMA page_size", [], |r| r.get(0))?;
            connection.pragma_update(None, "max_page_count", kib * 1024 / page)?;
        }
        Ok(Self {
            connection: Mutex::new(connection),
            recent: Mutex::default(),
            folder: folder.to_owned(),
        })
    }

    /// The folder of one content's files, named by its hash.
    pub fn footage_folder(&self, content: &str) -> PathBuf {
        self.folder.join("footage").join(content)
    }

    /// Where uploads are written before they are known to be footage.
    pub fn incoming_folder(&self) -> PathBuf {
        self.folder.join("incoming")
    }

    fn lock(&self) -> MutexGuard<'_, Connection> {
        // A panic while the lock was held left no half-done transaction: it was rolled back.
        self.connection.lock().unwrap_or_else(std::sync::PoisonError::into_inner)
    }
}

/// A row that must be there.
fn found<T>(
    result: Result<T, rusqlite::Error>,
    kind: &'static str,
    id: i64,
) -> Result<T, StoreError> {
    match result {
        Err(rusqlite::Error::QueryReturnedNoRows) => Err(StoreError::NotFound { kind, id }),
        other => Ok(other?),
    }
}
