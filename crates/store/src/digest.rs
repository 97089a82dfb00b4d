//! What analyses came to, kept under a key of everything they rest on. Never the truth: a digest
//! whose key does not fit is made anew.

use rusqlite::{OptionalExtension as _, params};

use crate::error::StoreError;
use crate::store::Store;

impl Store {
    /// A clip's digest, when its key fits.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn digest(&self, clip: i64, key: &str) -> Result<Option<String>, StoreError> {
        let connection = self.read()?;
        let mut query =
            connection.prepare_cached("SELECT body FROM digest WHERE clip = ?1 AND key = ?2")?;
        Ok(query.query_row(params![clip, key], |r| r.get(0)).optional()?)
    }

    /// Keeps digests: clip, key and body of each.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn keep_digests(&self, digests: &[(i64, String, String)]) -> Result<(), StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        for (clip, key, body) in digests {
            tx.prepare_cached(
                "INSERT INTO digest VALUES (?1, ?2, ?3)
                 ON CONFLICT DO UPDATE SET key = ?2, body = ?3",
            )?
            .execute(params![clip, key, body])?;
        }
        Ok(tx.commit()?)
    }
}
