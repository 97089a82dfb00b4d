//! Sessions of horses.

use std::collections::HashSet;

use rusqlite::{OptionalExtension as _, params};

use crate::error::changed;
use crate::error::{StoreError, found};
use crate::store::Store;

/// A schooling session.
#[derive(Clone, Debug, PartialEq)]
pub struct Session {
    /// Number.
    pub id: i64,
    /// Whose.
    pub horse: i64,
    /// Date, `YYYY-MM-DD`.
    pub date: String,
    /// The coach's words and where it was.
    pub about: About,
}

/// What the coach says of a session.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct About {
    /// What was ridden, in the coach's words.
    pub note: String,
    /// Who rode.
    pub rider: String,
    /// Where.
    pub arena: String,
    /// On what footing.
    pub surface: String,
    /// What the rider felt, in their own words.
    pub felt: String,
    /// The rider's own score, 0 to 10.
    pub score: Option<f64>,
}

impl About {
    fn checked(&self) -> Result<Self, StoreError> {
        let short = [&self.rider, &self.arena, &self.surface];
        if self.score.is_some_and(|s| !(0.0..=10.0).contains(&s)) {
            return Err(StoreError::Invalid("a score lies between 0 and 10".into()));
        }
        let long = [&self.note, &self.felt].iter().any(|t| t.chars().count() > 2000);
        if long || short.iter().any(|t| t.chars().count() > 120) {
            return Err(StoreError::Invalid(
                "notes must stay under 2000 letters; rider, arena and surface under 120".into(),
            ));
        }
        let trimmed = |t: &String| t.trim().to_owned();
        Ok(Self {
            note: trimmed(&self.note),
            rider: trimmed(&self.rider),
            arena: trimmed(&self.arena),
            surface: trimmed(&self.surface),
            felt: trimmed(&self.felt),
            score: self.score,
        })
    }
}

const SESSION: &str = "id, horse, date, note, rider, arena, surface, felt, score";

impl Store {
    /// Adds a session; `date` has been checked to be one.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a horse, [`StoreError::Invalid`] for overlong words.
    pub fn add_session(
        &self,
        horse: i64,
        date: &str,
        about: &About,
    ) -> Result<Session, StoreError> {
        self.horse(horse)?;
        let about = about.checked()?;
        let connection = self.write();
        connection.execute(
            "INSERT INTO session (id, horse, date, note, rider, arena, surface, felt, score)
             VALUES ((SELECT last + 1 FROM given WHERE kind = 'session'), ?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8)",
            params![
                horse,
                date,
                about.note,
                about.rider,
                about.arena,
                about.surface,
                about.felt,
                about.score
            ],
        )?;
        let id = connection.last_insert_rowid();
        Ok(Session { id, horse, date: date.to_owned(), about })
    }

    /// Changes what is said of a session, its date too.
    ///
    /// # Errors
    /// As [`Store::add_session`].
    pub fn change_session(&self, id: i64, date: &str, about: &About) -> Result<(), StoreError> {
        let about = about.checked()?;
        let rows = self.write().execute(
            "UPDATE session SET date = ?2, note = ?3, rider = ?4, arena = ?5, surface = ?6,
                                felt = ?7, score = ?8
             WHERE id = ?1",
            params![
                id,
                date,
                about.note,
                about.rider,
                about.arena,
                about.surface,
                about.felt,
                about.score
            ],
        )?;
        changed(rows, "session", id)
    }

    /// The session of a horse on a day, made when there is none.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a horse.
    pub fn session_on(&self, horse: i64, date: &str) -> Result<Session, StoreError> {
        self.horse(horse)?;
        let known = {
            let connection = self.write();
            let sql = format!(
                "SELECT {SESSION} FROM session WHERE horse = ?1 AND date = ?2 AND removed = 0
                 ORDER BY id LIMIT 1"
            );
            connection.query_row(&sql, params![horse, date], session_row).optional()?
        };
        known.map_or_else(|| self.add_session(horse, date, &About::default()), Ok)
    }

    /// Numbers of the sessions that are not taken away, nor their horse.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn shown_sessions(&self) -> Result<HashSet<i64>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT s.id FROM session s JOIN horse h ON h.id = s.horse
             WHERE s.removed = 0 AND h.removed = 0",
        )?;
        Ok(query.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
    }

    /// Takes a session with its clips away, or brings it back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn remove_session(&self, id: i64, removed: bool) -> Result<(), StoreError> {
        let sql = "UPDATE session SET removed = ?2 WHERE id = ?1";
        changed(self.write().execute(sql, params![id, removed])?, "session", id)
    }

    /// Sessions that were taken away.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn removed_sessions(&self) -> Result<Vec<Session>, StoreError> {
        let connection = self.read()?;
        let sql = format!("SELECT {SESSION} FROM session WHERE removed = 1 ORDER BY date");
        let mut query = connection.prepare_cached(&sql)?;
        Ok(query.query_map([], session_row)?.collect::<Result<_, _>>()?)
    }

    /// One session.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn session(&self, id: i64) -> Result<Session, StoreError> {
        let connection = self.read()?;
        let row = connection.query_row(
            &format!("SELECT {SESSION} FROM session WHERE id = ?1"),
            [id],
            session_row,
        );
        found(row, "session", id)
    }

    /// All sessions, newest first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn sessions(&self) -> Result<Vec<Session>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(&format!(
            "SELECT {SESSION} FROM session WHERE removed = 0 ORDER BY date DESC, id DESC"
        ))?;
        let rows = query.query_map([], session_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Sessions of a horse that are not removed, oldest first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn sessions_of(&self, horse: i64) -> Result<Vec<Session>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(&format!(
            "SELECT {SESSION} FROM session WHERE horse = ?1 AND removed = 0 ORDER BY date, id"
        ))?;
        let rows = query.query_map([horse], session_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }
}

fn session_row(r: &rusqlite::Row<'_>) -> Result<Session, rusqlite::Error> {
    Ok(Session {
        id: r.get(0)?,
        horse: r.get(1)?,
        date: r.get(2)?,
        about: About {
            note: r.get(3)?,
            rider: r.get(4)?,
            arena: r.get(5)?,
            surface: r.get(6)?,
            felt: r.get(7)?,
            score: r.get(8)?,
        },
    })
}
