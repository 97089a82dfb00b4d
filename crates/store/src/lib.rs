//! The yard on disk: one SQLite file and a folder of footage.
//!
//! Marks and settings are kept, figures never: they are worked out anew. Every edit of marks is
//! one transaction and one row of a journal, so undo works across reloads and a killed server
//! loses nothing that was acknowledged.

pub mod archive;
pub mod choice;
pub mod clip;
pub mod coach_mark;
mod connections;
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
use std::sync::{Arc, Mutex, MutexGuard};

use rusqlite::Connection;
use thiserror::Error;

use crate::connections::{Connections, Pin, Reading};

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
    yard: Arc<Yard>,
    /// Set for a store that reads one moment only.
    pin: Option<Pin>,
}

/// What all stores of one yard share.
struct Yard {
    connections: Arc<Connections>,
    /// Marks of the clip that was looked at last, at one revision.
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
        let file = folder.join("yard.sqlite");
        let mut writer = Connections::open_writer(&file)?;
        schema::migrations().to_latest(&mut writer)?;
        if let Some(kib) = limit_kib {
            let page: u64 = writer.query_row("PRAGMA page_size", [], |r| r.get(0))?;
            writer.pragma_update(None, "max_page_count", kib * 1024 / page)?;
        }
        let yard = Yard {
            connections: Arc::new(Connections::new(writer, &file)),
            recent: Mutex::default(),
            folder: folder.to_owned(),
        };
        Ok(Self { yard: Arc::new(yard), pin: None })
    }

    /// The same yard, read as it is at this moment: whatever is written meanwhile, all that is read
    /// through it belongs together. Writing through it writes to the yard as it is now.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn snapshot(&self) -> Result<Self, StoreError> {
        let pin = Pin::now(&self.yard.connections)?;
        Ok(Self { yard: Arc::clone(&self.yard), pin: Some(pin) })
    }

    /// The folder of one content's files, named by its hash.
    pub fn footage_folder(&self, content: &str) -> PathBuf {
        self.yard.folder.join("footage").join(content)
    }

    /// Where uploads are written before they are known to be footage.
    pub fn incoming_folder(&self) -> PathBuf {
        self.yard.folder.join("incoming")
    }

    /// The connection that writes.
    fn write(&self) -> MutexGuard<'_, Connection> {
        self.yard.connections.write()
    }

    /// A connection that reads: this store's moment, or what is there now.
    fn read(&self) -> Result<Reading<'_>, StoreError> {
        match self.pin.as_ref().and_then(Pin::read) {
            Some(pinned) => Ok(pinned),
            None => Ok(Reading::Now(self.yard.connections.read()?)),
        }
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
