//! Horses and their sessions.

use rusqlite::params;

use crate::{Store, StoreError, found};

/// A horse.
#[derive(Clone, Debug, PartialEq)]
pub struct Horse {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// Height at the withers, m.
    pub withers_m: Option<f64>,
    /// Its intended gait may be a four-beat gait other than walk.
    pub gaited: bool,
}

/// A schooling session.
#[derive(Clone, Debug, PartialEq)]
pub struct Session {
    /// Number.
    pub id: i64,
    /// Whose.
    pub horse: i64,
    /// Date, `YYYY-MM-DD`.
    pub date: String,
    /// The coach's words.
    pub note: String,
}

const LONGEST_NAME: usize = 120;

fn name_of(text: &str, what: &str) -> Result<String, StoreError> {
    let text = text.trim();
    if text.is_empty() || text.chars().count() > LONGEST_NAME {
        return Err(StoreError::Invalid(format!(
            "{what} must have between 1 and {LONGEST_NAME} letters"
        )));
    }
    Ok(text.to_owned())
}

impl Store {
    /// Adds a horse.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] for an empty or overlong name or a height outside 0.5 to 2.5 m.
    pub fn add_horse(
        &self,
        name: &str,
        withers_m: Option<f64>,
        gaited: bool,
    ) -> Result<Horse, StoreError> {
        let name = name_of(name, "a horse's name")?;
        if withers_m.is_some_and(|h| !(0.5..=2.5).contains(&h)) {
            return Err(StoreError::Invalid(
                "the height at the withers must lie between 0.5 and 2.5 m".into(),
            ));
        }
        let connection = self.lock();
        connection.execute(
            "INSERT INTO horse (name, withers_m, gaited) VALUES (?1, ?2, ?3)",
            params![name, withers_m, gaited],
        )?;
        Ok(Horse { id: connection.last_insert_rowid(), name, withers_m, gaited })
    }

    /// One horse.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn horse(&self, id: i64) -> Result<Horse, StoreError> {
        let connection = self.lock();
        let row = connection.query_row(
            "SELECT id, name, withers_m, gaited FROM horse WHERE id = ?1",
            [id],
            horse_row,
        );
        found(row, "horse", id)
    }

    /// All horses, by name.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn horses(&self) -> Result<Vec<Horse>, StoreError> {
        let connection = self.lock();
        let mut query = connection.prepare_cached(
            "SELECT id, name, withers_m, gaited FROM horse ORDER BY name COLLATE NOCASE, id",
        )?;
        let rows = query.query_map([], horse_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Adds a session; `date` has been checked to be one.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a horse, [`StoreError::Invalid`] for an overlong note.
    pub fn add_session(&self, horse: i64, date: &str, note: &str) -> Result<Session, StoreError> {
        self.horse(horse)?;
        if note.chars().count() > 2000 {
            return Err(StoreError::Invalid("a note must stay under 2000 letters".into()));
        }
        let connection = self.lock();
        connection.execute(
            "INSERT INTO session (horse, date, note) VALUES (?1, ?2, ?3)",
            params![horse, date, note.trim()],
        )?;
        let id = connection.last_insert_rowid();
        Ok(Session { id, horse, date: date.to_owned(), note: note.trim().to_owned() })
    }

    /// One session.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn session(&self, id: i64) -> Result<Session, StoreError> {
        let connection = self.lock();
        let row = connection.query_row(
            "SELECT id, horse, date, note FROM session WHERE id = ?1",
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
        let connection = self.lock();
        let mut query = connection.prepare_cached(
            "SELECT id, horse, date, note FROM session ORDER BY date DESC, id DESC",
        )?;
        let rows = query.query_map([], session_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }
}

fn horse_row(r: &rusqlite::Row<'_>) -> Result<Horse, rusqlite::Error> {
    Ok(Horse { id: r.get(0)?, name: r.get(1)?, withers_m: r.get(2)?, gaited: r.get(3)? })
}

fn session_row(r: &rusqlite::Row<'_>) -> Result<Session, rusqlite::Error> {
    Ok(Session { id: r.get(0)?, horse: r.get(1)?, date: r.get(2)?, note: r.get(3)? })
}
