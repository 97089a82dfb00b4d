//! What a clip tells of by itself: suggested footfalls stand among its marks and do not count before they
//! are taken; what there is to say beside them is one text that the caller reads.

use std::collections::HashMap;

use rusqlite::{OptionalExtension as _, Transaction, params};

use crate::error::StoreError;
use crate::mark::{Change, Mark};
use crate::marks::{self, MOST_MARKS};
use crate::store::Store;

impl Store {
    /// What was found in a clip.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn found(&self, clip: i64) -> Result<Option<String>, StoreError> {
        let sql = "SELECT body FROM found WHERE clip = ?1";
        let connection = self.read()?;
        Ok(connection.prepare_cached(sql)?.query_row([clip], |r| r.get(0)).optional()?)
    }

    /// Takes back the suggestions of a clip that wait for an answer, and keeps `body` beside it: it is to be
    /// looked at anew. What was answered stays.
    ///
    /// # Errors
    /// When the file cannot be written. Nothing is changed then.
    pub fn withdraw(&self, clip: i64, body: &str) -> Result<(), StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        tx.execute("DELETE FROM mark WHERE clip = ?1 AND origin ->> 'answer' = 'open'", [clip])?;
        keep(&tx, clip, body)?;
        tx.commit()?;
        *self.recent() = None;
        Ok(())
    }

    /// How many suggestions wait for an answer in each clip that has some.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn open_suggestions(&self) -> Result<HashMap<i64, usize>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT clip, count(*) FROM mark WHERE origin ->> 'answer' = 'open' GROUP BY clip",
        )?;
        let rows = query.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Keeps what was found in a clip, and puts the suggestions among its marks. They are not an edit of the
    /// coach's: undoing goes on from where the coach was. A clip with suggestions that wait for an answer
    /// keeps those, and `false` is given.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] for an impossible mark, one that is no open suggestion, or too many;
    /// [`StoreError::Full`]. Nothing is changed then.
    pub fn suggest(&self, clip: i64, suggested: Vec<Mark>, body: &str) -> Result<bool, StoreError> {
        if !suggested.iter().all(|m| m.origin.is_open()) {
            return Err(StoreError::Invalid("what is suggested waits for an answer".into()));
        }
        let changes: Vec<Change> =
            suggested.into_iter().map(|m| Change { before: None, after: Some(m) }).collect();
        marks::check(&changes)?;
        let mut connection = self.write();
        let tx = connection.transaction()?;
        let open = "SELECT EXISTS (SELECT 1 FROM mark
                    WHERE clip = ?1 AND origin ->> 'answer' = 'open')";
        if tx.query_row(open, [clip], |r| r.get(0))? {
            return Ok(false);
        }
        for change in &changes {
            marks::put(&tx, clip, change)?;
        }
        let count: i64 =
            tx.query_row("SELECT count(*) FROM mark WHERE clip = ?1", [clip], |r| r.get(0))?;
        if count > MOST_MARKS {
            return Err(StoreError::Invalid(format!("a clip holds at most {MOST_MARKS} marks")));
        }
        keep(&tx, clip, body)?;
        tx.commit()?;
        self.follow(&connection, clip, &changes);
        Ok(true)
    }
}

fn keep(tx: &Transaction<'_>, clip: i64, body: &str) -> Result<(), StoreError> {
    tx.execute(
        "INSERT INTO found VALUES (?1, ?2) ON CONFLICT DO UPDATE SET body = ?2",
        params![clip, body],
    )?;
    tx.execute("UPDATE clip SET revision = revision + 1 WHERE id = ?1", [clip])?;
    Ok(())
}
