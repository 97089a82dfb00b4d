//! The journal: every edit can be undone and done again, also tomorrow.

use rusqlite::{OptionalExtension as _, Transaction, params};

use crate::clip::Settings;
use crate::error::{StoreError, found};
use crate::json::{read, to_json};
use crate::marks::{self, Change, revision_of};
use crate::person::Person;
use crate::store::Store;
use crate::tag::{self, TagChange};

/// Who made an edit, and when.
#[derive(Clone, Debug, PartialEq)]
pub struct EditLine {
    /// Name of the edit.
    pub edit_id: String,
    /// Who made it.
    pub author: Person,
    /// When, ms since 1970; `None` for edits of earlier versions.
    pub at_ms: Option<i64>,
    /// Whether it is taken back.
    pub undone: bool,
}

impl Store {
    /// Edits of a clip in the order they were made.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn journal(&self, clip: i64) -> Result<Vec<EditLine>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT edit_id, author, at_ms, undone FROM edit WHERE clip = ?1 ORDER BY seq",
        )?;
        let rows = query.query_map([clip], |r| {
            Ok(EditLine {
                edit_id: r.get(0)?,
                author: r.get(1)?,
                at_ms: Some(r.get(2)?).filter(|ms| *ms > 0),
                undone: r.get(3)?,
            })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Changes what the coach says of a clip, as an edit that can be undone; values have been
    /// checked. Only what differs between `before` and `after` is changed, so two people may
    /// change different things at once.
    ///
    /// # Errors
    /// As [`Store::edit`]; [`StoreError::Conflict`] when the same thing was changed meanwhile.
    pub fn change_settings(
        &self,
        clip: i64,
        edit_id: &str,
        by: &Person,
        before: &Settings,
        after: &Settings,
    ) -> Result<(), StoreError> {
        check_name(edit_id)?;
        let mut connection = self.write();
        let tx = connection.transaction()?;
        let Some(seq) = next_edit(&tx, clip, edit_id, by)? else { return Ok(()) };
        let old: String =
            tx.query_row("SELECT settings FROM clip WHERE id = ?1", [clip], |r| r.get(0))?;
        let new = to_json(&read::<Settings>(&old)?.changed(before, after)?)?;
        tx.execute(
            "UPDATE edit SET old_settings = ?3, new_settings = ?4 WHERE clip = ?1 AND seq = ?2",
            params![clip, seq, old, new],
        )?;
        put_settings(&tx, clip, &new)?;
        self.finish(tx, clip)
    }

    /// Applies changes as one edit of the coach, all or none. An edit already in the journal (by `edit_id`) is
    /// not applied again: a client that got no answer may send it once more. What was undone
    /// before is forgotten.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when a `before` does not stand there (someone else changed it),
    /// [`StoreError::Invalid`] when a value is out of bounds, [`StoreError::NotFound`], [`StoreError::Full`]. Nothing is changed then.
    pub fn edit(&self, clip: i64, edit_id: &str, changes: &[Change]) -> Result<(), StoreError> {
        self.edit_all(clip, edit_id, &Person::coach(), changes, &[])
    }

    /// As [`Store::edit`], by anyone, with changes of what is marked beside the footfalls.
    ///
    /// # Errors
    /// As [`Store::edit`].
    pub fn edit_all(
        &self,
        clip: i64,
        edit_id: &str,
        by: &Person,
        changes: &[Change],
        tags: &[TagChange],
    ) -> Result<(), StoreError> {
        check_name(edit_id)?;
        if !(1..=10_000).contains(&(changes.len() + tags.len())) {
            return Err(StoreError::Invalid("an edit needs 1 to 10000 changes".into()));
        }
        marks::check(changes)?;
        tag::check(tags)?;
        let mut connection = self.write();
        let tx = connection.transaction()?;
        let Some(seq) = next_edit(&tx, clip, edit_id, by)? else { return Ok(()) };
        // Whoever makes an edit has made its marks.
        let changes: Vec<Change> = changes.iter().map(|c| c.clone().by(by)).collect();
        for (place, change) in (0i64..).zip(&changes) {
            marks::put(&tx, clip, change)?;
            marks::record(&tx, clip, seq, place, change)?;
        }
        for (place, change) in (0i64..).zip(tags) {
            tag::put(&tx, clip, change)?;
            tag::record(&tx, clip, seq, place, change)?;
        }
        // Only an edit that adds can make it too many.
        let adds = changes.iter().any(|c| c.before.is_none()) || !tags.is_empty();
        let count = |table| {
            if !adds {
                return Ok(0);
            }
            let sql = format!("SELECT count(*) FROM {table} WHERE clip = ?1");
            tx.query_row(&sql, [clip], |r| r.get::<_, i64>(0))
        };
        if count("mark")? > marks::MOST_MARKS {
            let most = marks::MOST_MARKS;
            return Err(StoreError::Invalid(format!("a clip holds at most {most} marks")));
        }
        if count("tag")? > tag::MOST_TAGS {
            let most = tag::MOST_TAGS;
            return Err(StoreError::Invalid(format!("a clip holds at most {most} aids and notes")));
        }
        self.finish(tx, clip)?;
        self.follow(&connection, clip, &changes);
        Ok(())
    }

    /// Takes back the latest edit that stands, provided that the clip still is at `revision`: a
    /// request sent twice takes back one edit. `false` when there is none.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] at another revision; [`StoreError::NotFound`];
    /// [`StoreError::Full`].
    pub fn undo(&self, clip: i64, revision: i64) -> Result<bool, StoreError> {
        let latest = "SELECT max(seq) FROM edit WHERE clip = ?1 AND undone = 0";
        self.replay(clip, revision, latest, true)
    }

    /// Does the edit again that was taken back last, provided that the clip still is at
    /// `revision`. `false` when there is none.
    ///
    /// # Errors
    /// As [`Store::undo`].
    pub fn redo(&self, clip: i64, revision: i64) -> Result<bool, StoreError> {
        let next = "SELECT min(seq) FROM edit WHERE clip = ?1 AND undone = 1";
        self.replay(clip, revision, next, false)
    }

    /// How often a clip was changed.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn revision(&self, clip: i64) -> Result<i64, StoreError> {
        let connection = self.read()?;
        revision_of(&connection, clip)
    }

    /// How many edits can be undone and redone.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn journal_depth(&self, clip: i64) -> Result<(i64, i64), StoreError> {
        let connection = self.read()?;
        Ok(connection.query_row(
            "SELECT count(*) FILTER (WHERE undone = 0), count(*) FILTER (WHERE undone = 1)
             FROM edit WHERE clip = ?1",
            [clip],
            |r| Ok((r.get(0)?, r.get(1)?)),
        )?)
    }

    /// Acknowledges a change, and counts it.
    fn finish(&self, tx: Transaction<'_>, clip: i64) -> Result<(), StoreError> {
        tx.execute("UPDATE clip SET revision = revision + 1 WHERE id = ?1", [clip])?;
        let count = "UPDATE given SET last = last + 1 WHERE kind = 'change' RETURNING last";
        let count = tx.query_row(count, [], |r| r.get(0))?;
        tx.commit()?;
        self.counted(count);
        Ok(())
    }

    fn replay(
        &self,
        clip: i64,
        revision: i64,
        which: &str,
        undo: bool,
    ) -> Result<bool, StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        let now = tx.query_row("SELECT revision FROM clip WHERE id = ?1", [clip], |r| r.get(0));
        if found::<i64>(now, "clip", clip)? != revision {
            return Err(StoreError::Conflict);
        }
        let seq: Option<i64> = tx.query_row(which, [clip], |r| r.get(0))?;
        let Some(seq) = seq else { return Ok(false) };
        let mut changes = marks::recorded(&tx, clip, seq)?;
        let mut tags = tag::recorded(&tx, clip, seq)?;
        if undo {
            changes.reverse();
            for c in &mut changes {
                std::mem::swap(&mut c.before, &mut c.after);
            }
            tags.reverse();
            for c in &mut tags {
                std::mem::swap(&mut c.before, &mut c.after);
            }
        }
        for change in &tags {
            tag::put(&tx, clip, change)?;
        }
        for change in &changes {
            marks::put(&tx, clip, change)?;
        }
        let column = if undo { "old_settings" } else { "new_settings" };
        let sql = format!("SELECT {column} FROM edit WHERE clip = ?1 AND seq = ?2");
        if let Some(settings) =
            tx.query_row(&sql, params![clip, seq], |r| r.get::<_, Option<String>>(0))?
        {
            put_settings(&tx, clip, &settings)?;
        }
        tx.execute(
            "UPDATE edit SET undone = ?3 WHERE clip = ?1 AND seq = ?2",
            params![clip, seq, undo],
        )?;
        self.finish(tx, clip)?;
        self.follow(&connection, clip, &changes);
        Ok(true)
    }
}

/// Begins an edit in the journal and gives its number; `None` when the journal has it already.
/// What was undone before is forgotten.
fn next_edit(
    tx: &Transaction<'_>,
    clip: i64,
    edit_id: &str,
    by: &Person,
) -> Result<Option<i64>, StoreError> {
    let row = tx.query_row("SELECT 1 FROM clip WHERE id = ?1", [clip], |_| Ok(()));
    found(row, "clip", clip)?;
    let known: Option<i64> = tx
        .query_row(
            "SELECT seq FROM edit WHERE clip = ?1 AND edit_id = ?2
             UNION ALL SELECT 0 FROM forgotten_edit WHERE clip = ?1 AND edit_id = ?2 LIMIT 1",
            params![clip, edit_id],
            |r| r.get(0),
        )
        .optional()?;
    if known.is_some() {
        return Ok(None);
    }
    tx.execute(
        "INSERT OR IGNORE INTO forgotten_edit
         SELECT clip, edit_id FROM edit WHERE clip = ?1 AND undone = 1",
        [clip],
    )?;
    tx.execute("DELETE FROM edit WHERE clip = ?1 AND undone = 1", [clip])?;
    let seq = tx.query_row(
        "INSERT INTO edit (clip, seq, edit_id, author, at_ms)
         SELECT ?1, coalesce(max(seq), 0) + 1, ?2, ?3, CAST(unixepoch('subsec') * 1000 AS INTEGER)
         FROM edit WHERE clip = ?1 RETURNING seq",
        params![clip, edit_id, by],
        |r| r.get(0),
    )?;
    Ok(Some(seq))
}

fn put_settings(tx: &Transaction<'_>, clip: i64, settings: &str) -> Result<(), StoreError> {
    tx.execute("UPDATE clip SET settings = ?2 WHERE id = ?1", params![clip, settings])?;
    Ok(())
}

fn check_name(edit_id: &str) -> Result<(), StoreError> {
    if (1..=64).contains(&edit_id.len()) {
        Ok(())
    } else {
        Err(StoreError::Invalid("an edit needs a name of 1 to 64 letters".into()))
    }
}
