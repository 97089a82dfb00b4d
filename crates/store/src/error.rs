//! What may go wrong with the store, for people and for programs.

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
    /// Something that this version does not know: refused, never read as another thing.
    #[error(transparent)]
    Unknown(#[from] UnknownWord),
    /// JSON in the yard's file cannot be read.
    #[error("the yard's file is damaged, or written by a later version: {0}")]
    Damaged(serde_json::Error),
    /// The yard's file is gone, and what belongs to it is not.
    #[error(
        "{} is missing or empty, but {films} films are here: put the file back from a backup, or start with another --data; nothing was changed", file.display()
    )]
    Lost {
        /// The file.
        file: std::path::PathBuf,
        /// How many contents lie beside it.
        films: usize,
    },
    /// A later version has written the yard's file.
    #[error(
        "a later Umlauf wrote this yard (version {version} of its tables; this one knows {known}): bring Umlauf up to date, then start it again; nothing was changed"
    )]
    Later {
        /// Version of its tables.
        version: usize,
        /// The version that this program writes.
        known: usize,
    },
    /// SQLite failed.
    #[error("the yard's file could not be used: {0}")]
    Sqlite(rusqlite::Error),
    /// Bringing the file to this version's form failed.
    #[error("the yard's file could not be brought to this version: {0}")]
    Migration(rusqlite_migration::Error),
    /// Folder or file trouble.
    #[error("{what}: {source}")]
    Io {
        /// What was tried.
        what: String,
        /// Why it failed.
        source: std::io::Error,
    },
}

/// A word in the yard's file that this version does not know.
#[derive(Debug, Error, PartialEq)]
#[error("`{word}` is no {what} that this version knows; a later version of Umlauf wrote it")]
pub struct UnknownWord {
    what: &'static str,
    word: String,
}

impl UnknownWord {
    pub(crate) fn new(what: &'static str, word: &str) -> Self {
        Self { what, word: word.chars().take(40).collect() }
    }
}

/// An unknown word in a column of a row.
pub fn unknown(column: usize, word: UnknownWord) -> rusqlite::Error {
    let kind = rusqlite::types::Type::Text;
    rusqlite::Error::FromSqlConversionFailure(column, kind, Box::new(word))
}

/// Damaged JSON in a column of a row.
pub fn damaged(column: usize, error: serde_json::Error) -> rusqlite::Error {
    let kind = rusqlite::types::Type::Text;
    rusqlite::Error::FromSqlConversionFailure(column, kind, Box::new(error))
}

impl From<rusqlite::Error> for StoreError {
    fn from(e: rusqlite::Error) -> Self {
        let rusqlite::Error::FromSqlConversionFailure(column, kind, cause) = e else {
            return match e.sqlite_error_code() {
                Some(rusqlite::ErrorCode::DiskFull) => Self::Full,
                _ => Self::Sqlite(e),
            };
        };
        match cause.downcast::<UnknownWord>() {
            Ok(word) => Self::Unknown(*word),
            Err(cause) => match cause.downcast::<serde_json::Error>() {
                Ok(json) => Self::Damaged(*json),
                Err(cause) => {
                    Self::Sqlite(rusqlite::Error::FromSqlConversionFailure(column, kind, cause))
                }
            },
        }
    }
}

impl From<rusqlite_migration::Error> for StoreError {
    fn from(e: rusqlite_migration::Error) -> Self {
        match &e {
            rusqlite_migration::Error::RusqliteError { err, .. }
                if err.sqlite_error_code() == Some(rusqlite::ErrorCode::DiskFull) =>
            {
                Self::Full
            }
            _ => Self::Migration(e),
        }
    }
}

/// A row that must be there.
pub fn found<T>(
    result: Result<T, rusqlite::Error>,
    kind: &'static str,
    id: i64,
) -> Result<T, StoreError> {
    match result {
        Err(rusqlite::Error::QueryReturnedNoRows) => Err(StoreError::NotFound { kind, id }),
        other => Ok(other?),
    }
}

/// A change that must meet a row.
pub fn changed(rows: usize, kind: &'static str, id: i64) -> Result<(), StoreError> {
    if rows == 0 { Err(StoreError::NotFound { kind, id }) } else { Ok(()) }
}
