//! Who changed what: everything but marks, whose journal says it.

use rusqlite::params;

use crate::error::StoreError;
use crate::person::Person;
use crate::store::Store;

/// Acts that are kept; older ones are forgotten.
const KEPT: i64 = 5000;

/// Something that somebody did.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Act {
    /// When, ms of Unix time.
    pub at_ms: i64,
    /// Who.
    pub author: Person,
    /// What, in words that follow the name.
    pub did: String,
    /// With what: a kind of thing and its number, as in `horse 3`; no names, which may be forgotten some day.
    pub about: String,
}

/// Marks that somebody made in one clip on one day.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Marked {
    /// When the last of them was made, ms of Unix time.
    pub at_ms: i64,
    /// Who.
    pub author: Person,
    /// Clip.
    pub clip: i64,
    /// Edits that stand.
    pub edits: usize,
}

impl Store {
    /// Notes what somebody did.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn note_act(&self, act: &Act) -> Result<(), StoreError> {
        let connection = self.write();
        connection.execute(
            "INSERT INTO act (at_ms, author, did, about) VALUES (?1, ?2, ?3, ?4)",
            params![act.at_ms, act.author, act.did, act.about],
        )?;
        let last = connection.last_insert_rowid();
        connection.execute("DELETE FROM act WHERE id <= ?1", [last - KEPT])?;
        Ok(())
    }

    /// What was done last, newest first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn acts(&self, most: usize) -> Result<Vec<Act>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT at_ms, author, did, about FROM act ORDER BY id DESC LIMIT ?1",
        )?;
        let rows = query.query_map([most], |r| {
            Ok(Act { at_ms: r.get(0)?, author: r.get(1)?, did: r.get(2)?, about: r.get(3)? })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Who marked which clips on which days (UTC), newest first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn marked(&self, most: usize) -> Result<Vec<Marked>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT max(at_ms) AS last, author, clip, count(*) FROM edit
             WHERE undone = 0 AND at_ms > 0
             GROUP BY author, clip, at_ms / 86400000 ORDER BY last DESC LIMIT ?1",
        )?;
        let rows = query.query_map([most], |r| {
            Ok(Marked { at_ms: r.get(0)?, author: r.get(1)?, clip: r.get(2)?, edits: r.get(3)? })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }
}
