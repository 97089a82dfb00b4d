//! Links that show one report or one film to whoever has them, until they end.

use rusqlite::{OptionalExtension as _, Row, params};

use crate::error::StoreError;
use crate::person::Person;
use crate::store::Store;

/// What a link shows.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shows {
    /// The rider's report on a session.
    Report(i64),
    /// The film of a clip.
    Film {
        /// Clip.
        clip: i64,
        /// Without its sound.
        silent: bool,
        /// With what the rider's head is seen by made unsharp.
        blurred: bool,
    },
}

/// A link.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Link {
    /// Number.
    pub id: i64,
    /// What it shows.
    pub shows: Shows,
    /// When it ends, ms of Unix time.
    pub ends_ms: i64,
    /// Who made it.
    pub author: Person,
}

/// Links at once.
const MOST: i64 = 200;

const COLUMNS: &str = "id, session, clip, silent, blurred, ends_ms, author";

fn link(r: &Row<'_>) -> rusqlite::Result<Link> {
    let session: Option<i64> = r.get(1)?;
    let shows = match session {
        Some(session) => Shows::Report(session),
        None => Shows::Film { clip: r.get(2)?, silent: r.get(3)?, blurred: r.get(4)? },
    };
    Ok(Link { id: r.get(0)?, shows, ends_ms: r.get(5)?, author: r.get(6)? })
}

impl Store {
    /// Makes a link, under the hash of what opens it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for what is not there, [`StoreError::Invalid`] when there are 200 already.
    pub fn add_link(
        &self,
        token: &str,
        shows: Shows,
        ends_ms: i64,
        author: &Person,
    ) -> Result<i64, StoreError> {
        let gone = |kind, id| StoreError::NotFound { kind, id };
        let (session, clip, silent, blurred) = match shows {
            Shows::Report(id) => {
                self.horse_of_shown_session(id)?.ok_or_else(|| gone("session", id))?;
                (Some(id), None, true, false)
            }
            Shows::Film { clip, silent, blurred } => {
                self.horse_of_shown_clip(clip)?.ok_or_else(|| gone("clip", clip))?;
                (None, Some(clip), silent, blurred)
            }
        };
        let connection = self.write();
        let others: i64 = connection.query_row("SELECT count(*) FROM link", [], |r| r.get(0))?;
        if others >= MOST {
            return Err(StoreError::Invalid(format!("{MOST} links at most: end some first")));
        }
        connection.execute(
            "INSERT INTO link (token, session, clip, silent, blurred, ends_ms, author)
             VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)",
            params![token, session, clip, silent, blurred, ends_ms, author],
        )?;
        Ok(connection.last_insert_rowid())
    }

    /// What a link shows now, by the hash of what opens it.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn link_by(&self, token: &str, now_ms: i64) -> Result<Option<Link>, StoreError> {
        let sql = format!("SELECT {COLUMNS} FROM link WHERE token = ?1 AND ends_ms > ?2");
        Ok(self.read()?.query_row(&sql, params![token, now_ms], link).optional()?)
    }

    /// Links that have not ended, the one that ends next first; those that have are forgotten.
    ///
    /// # Errors
    /// When the file cannot be used.
    pub fn links(&self, now_ms: i64) -> Result<Vec<Link>, StoreError> {
        self.write().execute("DELETE FROM link WHERE ends_ms <= ?1", [now_ms])?;
        let connection = self.read()?;
        let sql = format!("SELECT {COLUMNS} FROM link ORDER BY ends_ms, id");
        let mut query = connection.prepare_cached(&sql)?;
        Ok(query.query_map([], link)?.collect::<Result<_, _>>()?)
    }

    /// Ends a link now.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn end_link(&self, id: i64) -> Result<(), StoreError> {
        match self.write().execute("DELETE FROM link WHERE id = ?1", [id])? {
            0 => Err(StoreError::NotFound { kind: "link", id }),
            _ => Ok(()),
        }
    }
}
