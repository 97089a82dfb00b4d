//! Choices that hold for the whole yard, and files of the watched folder that were looked at.

use rusqlite::{OptionalExtension as _, params};

use crate::error::StoreError;
use crate::store::{IDENTITY, Store};

impl Store {
    /// A choice by its key.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn choice(&self, key: &str) -> Result<Option<String>, StoreError> {
        let sql = "SELECT value FROM choice WHERE key = ?1";
        Ok(self.read()?.query_row(sql, [key], |r| r.get(0)).optional()?)
    }

    /// The yard's own name among yards, made when it was: a page that was made of one yard does not write to another.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn identity(&self) -> Result<String, StoreError> {
        Ok(self.choice(IDENTITY)?.unwrap_or_default())
    }

    /// Keeps a choice; `None` forgets it.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn set_choice(&self, key: &str, value: Option<&str>) -> Result<(), StoreError> {
        let connection = self.write();
        match value {
            Some(value) => connection.execute(
                "INSERT INTO choice VALUES (?1, ?2) ON CONFLICT DO UPDATE SET value = ?2",
                params![key, value],
            )?,
            None => connection.execute("DELETE FROM choice WHERE key = ?1", [key])?,
        };
        Ok(())
    }

    /// Whether a file of this size and time was looked at before.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn file_seen(&self, path: &str, bytes: u64, changed: i64) -> Result<bool, StoreError> {
        let sql = "SELECT 1 FROM seen_file WHERE path = ?1 AND bytes = ?2 AND changed = ?3";
        let row = self.read()?.query_row(sql, params![path, bytes, changed], |_| Ok(()));
        Ok(row.optional()?.is_some())
    }

    /// Notes that a file was looked at.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn note_file(&self, path: &str, bytes: u64, changed: i64) -> Result<(), StoreError> {
        self.write().execute(
            "INSERT OR REPLACE INTO seen_file VALUES (?1, ?2, ?3)",
            params![path, bytes, changed],
        )?;
        Ok(())
    }
}
