//! Marks and their journal: every edit can be undone and done again, also tomorrow.

use std::sync::{MutexGuard, PoisonError};

use rusqlite::{Connection, OptionalExtension as _, Transaction, params};
use umlauf_gait::base::limb::Limb;

use crate::clip::{Settings, to_json};
use crate::tag::{self, TagChange};
use crate::{Store, StoreError, found};

/// One mark: a stance of one limb, on the file's clock.
#[derive(Clone, Debug, PartialEq)]
pub struct Mark {
    /// Name given by whoever made it; unique in the clip.
    pub id: String,
    /// Which limb.
    pub limb: Limb,
    /// First frame of contact, µs.
    pub on_us: i64,
    /// First frame clear, µs.
    pub off_us: Option<i64>,
    /// Playback rate at which it was tapped; `None` for a mark stepped or dragged to its frame.
    pub tap_rate: Option<f64>,
    /// Where the hoof stands in the picture, px from the left and upper edges of the footage as
    /// shown; `None` when it was not clicked.
    pub hoof: Option<(f64, f64)>,
}

/// One change of one mark: from `before` (nothing: it is new) to `after` (nothing: it goes).
#[derive(Clone, Debug, PartialEq)]
pub struct Change {
    /// What must stand there now.
    pub before: Option<Mark>,
    /// What is to stand there.
    pub after: Option<Mark>,
}

/// Marks of one clip at one revision, as they stand on disk.
#[derive(Debug)]
pub(crate) struct Recent {
    clip: i64,
    revision: i64,
    marks: Vec<Mark>,
}

impl Recent {
    /// Makes a change; false when it does not start from what stands here.
    fn apply(&mut self, change: &Change) -> bool {
        if let Some(b) = &change.before {
            let Some(k) = self.marks.iter().position(|m| m.id == b.id) else { return false };
            self.marks.remove(k);
        }
        if let Some(a) = &change.after {
            let k = self.marks.partition_point(|m| (m.on_us, &m.id) < (a.on_us, &a.id));
            self.marks.insert(k, a.clone());
        }
        true
    }
}

/// Most marks in one clip.
pub const MOST_MARKS: i64 = 200_000;

impl Store {
    /// Marks of a clip in order of time.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn marks(&self, clip: i64) -> Result<Vec<Mark>, StoreError> {
        let connection = self.read()?;
        let revision = revision_of(&connection, clip)?;
        let mut recent = self.recent();
        if let Some(r) = recent.as_ref().filter(|r| r.clip == clip && r.revision == revision) {
            return Ok(r.marks.clone());
        }
        let mut query = connection.prepare_cached(
            "SELECT id, limb, on_us, off_us, tap_rate, x_px, y_px FROM mark WHERE clip = ?1",
        )?;
        let mut rows = query.query([clip])?;
        let mut marks = Vec::new();
        while let Some(r) = rows.next()? {
            let limb = limb_of(r.get_ref(1)?.as_str().map_err(rusqlite::Error::from)?)?;
            let (id, on_us, off_us, tap_rate) = (r.get(0)?, r.get(2)?, r.get(3)?, r.get(4)?);
            let hoof = r.get::<_, Option<f64>>(5)?.zip(r.get(6)?);
            marks.push(Mark { id, limb, on_us, off_us, tap_rate, hoof });
        }
        marks.sort_unstable_by(|a, b| a.on_us.cmp(&b.on_us).then_with(|| a.id.cmp(&b.id)));
        *recent = Some(Recent { clip, revision, marks: marks.clone() });
        Ok(marks)
    }

    pub(crate) fn recent(&self) -> MutexGuard<'_, Option<Recent>> {
        self.yard.recent.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Brings the marks kept in memory to where an edit has brought those on disk.
    fn follow(&self, connection: &Connection, clip: i64, changes: &[Change]) {
        let mut recent = self.recent();
        let now = revision_of(connection, clip);
        let kept = recent.as_mut().filter(|r| r.clip == clip);
        let followed = match (kept, now) {
            (Some(r), Ok(now)) if r.revision + 1 == now => {
                r.revision = now;
                changes.iter().all(|c| r.apply(c))
            }
            _ => false,
        };
        if !followed {
            *recent = None;
        }
    }

    /// Changes what the coach says of a clip, as an edit that can be undone; values have been
    /// checked.
    ///
    /// # Errors
    /// As [`Store::edit`].
    pub fn change_settings(
        &self,
        clip: i64,
        edit_id: &str,
        settings: &Settings,
    ) -> Result<(), StoreError> {
        check_name(edit_id)?;
        let mut connection = self.write();
        let tx = connection.transaction()?;
        let Some(seq) = next_edit(&tx, clip, edit_id)? else { return Ok(()) };
        let new = to_json(settings)?;
        tx.execute(
            "UPDATE edit SET new_settings = ?3,
                             old_settings = (SELECT settings FROM clip WHERE id = ?1)
             WHERE clip = ?1 AND seq = ?2",
            params![clip, seq, new],
        )?;
        put_settings(&tx, clip, &new)?;
        finish(tx, clip)
    }

    /// Applies changes as one edit, all or none. An edit already in the journal (by `edit_id`) is
    /// not applied again: a client that got no answer may send it once more. What was undone
    /// before is forgotten.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when a `before` does not stand there (someone else changed it),
    /// [`StoreError::Invalid`] when a value is out of bounds, [`StoreError::NotFound`], [`StoreError::Full`]. Nothing is changed then.
    pub fn edit(&self, clip: i64, edit_id: &str, changes: &[Change]) -> Result<(), StoreError> {
        self.edit_all(clip, edit_id, changes, &[])
    }

    /// As [`Store::edit`], with changes of what is marked beside the footfalls.
    ///
    /// # Errors
    /// As [`Store::edit`].
    pub fn edit_all(
        &self,
        clip: i64,
        edit_id: &str,
        changes: &[Change],
        tags: &[TagChange],
    ) -> Result<(), StoreError> {
        check(edit_id, changes, tags.len())?;
        tag::check(tags)?;
        let mut connection = self.write();
        let tx = connection.transaction()?;
        let Some(seq) = next_edit(&tx, clip, edit_id)? else { return Ok(()) };
        for (place, change) in (0i64..).zip(changes) {
            put(&tx, clip, change)?;
            record(&tx, clip, seq, place, change)?;
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
        if count("mark")? > MOST_MARKS {
            return Err(StoreError::Invalid(format!("a clip holds at most {MOST_MARKS} marks")));
        }
        if count("tag")? > tag::MOST_TAGS {
            let most = tag::MOST_TAGS;
            return Err(StoreError::Invalid(format!("a clip holds at most {most} aids and notes")));
        }
        finish(tx, clip)?;
        self.follow(&connection, clip, changes);
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
        let mut changes = recorded(&tx, clip, seq)?;
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
            put(&tx, clip, change)?;
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
        finish(tx, clip)?;
        self.follow(&connection, clip, &changes);
        Ok(true)
    }
}

fn revision_of(connection: &Connection, clip: i64) -> Result<i64, StoreError> {
    let mut query = connection.prepare_cached("SELECT revision FROM clip WHERE id = ?1")?;
    found(query.query_row([clip], |r| r.get(0)), "clip", clip)
}

fn finish(tx: Transaction<'_>, clip: i64) -> Result<(), StoreError> {
    tx.execute("UPDATE clip SET revision = revision + 1 WHERE id = ?1", [clip])?;
    Ok(tx.commit()?)
}

/// Begins an edit in the journal and gives its number; `None` when the journal has it already.
/// What was undone before is forgotten.
fn next_edit(tx: &Transaction<'_>, clip: i64, edit_id: &str) -> Result<Option<i64>, StoreError> {
    let row = tx.query_row("SELECT 1 FROM clip WHERE id = ?1", [clip], |_| Ok(()));
    found(row, "clip", clip)?;
    let known: Option<i64> = tx
        .query_row(
            "SELECT seq FROM edit WHERE clip = ?1 AND edit_id = ?2",
            params![clip, edit_id],
            |r| r.get(0),
        )
        .optional()?;
    if known.is_some() {
        return Ok(None);
    }
    tx.execute("DELETE FROM edit WHERE clip = ?1 AND undone = 1", [clip])?;
    let seq = tx.query_row(
        "INSERT INTO edit (clip, seq, edit_id)
         SELECT ?1, coalesce(max(seq), 0) + 1, ?2 FROM edit WHERE clip = ?1 RETURNING seq",
        params![clip, edit_id],
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

fn check(edit_id: &str, changes: &[Change], tags: usize) -> Result<(), StoreError> {
    check_name(edit_id)?;
    let name_ok = |id: &str| (1..=64).contains(&id.len());
    if !(1..=10_000).contains(&(changes.len() + tags)) {
        return Err(StoreError::Invalid("an edit needs 1 to 10000 changes".into()));
    }
    for change in changes {
        for mark in [&change.before, &change.after].into_iter().flatten() {
            let times = (-10_i64.pow(12)..=10_i64.pow(12)).contains(&mark.on_us)
                && mark.off_us.is_none_or(|off| off >= mark.on_us && off <= 10_i64.pow(12));
            let rate = mark.tap_rate.is_none_or(|r| (0.01..=16.0).contains(&r));
            // A hoof may stand a little outside the picture, never far.
            let near = |v: f64| (-20_000.0..=40_000.0).contains(&v);
            let hoof = mark.hoof.is_none_or(|(x, y)| near(x) && near(y));
            if !name_ok(&mark.id) || !times || !rate || !hoof {
                return Err(StoreError::Invalid(format!(
                    "the mark of {} at {} µs has an impossible time, place or name",
                    mark.limb, mark.on_us
                )));
            }
        }
        let (before, after) = (&change.before, &change.after);
        let same = match (before, after) {
            (Some(b), Some(a)) => b.id == a.id,
            (None, None) => false,
            _ => true,
        };
        if !same {
            return Err(StoreError::Invalid("a change must speak of one mark".into()));
        }
    }
    Ok(())
}

/// Makes a change, provided that what it starts from stands there.
fn put(tx: &Transaction<'_>, clip: i64, change: &Change) -> Result<(), StoreError> {
    if let Some(b) = &change.before {
        let gone = tx
            .prepare_cached(
                "DELETE FROM mark WHERE clip = ?1 AND id = ?2 AND limb = ?3 AND on_us = ?4 AND off_us IS ?5
                 AND x_px IS ?6 AND y_px IS ?7",
            )?
            .execute(params![
                clip,
                b.id,
                b.limb.code(),
                b.on_us,
                b.off_us,
                b.hoof.map(|h| h.0),
                b.hoof.map(|h| h.1)
            ])?;
        if gone == 0 {
            return Err(StoreError::Conflict);
        }
    }
    if let Some(a) = &change.after {
        let put = tx
            .prepare_cached(
                "INSERT OR IGNORE INTO mark (clip, id, limb, on_us, off_us, tap_rate, x_px, y_px)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8)",
            )?
            .execute(params![
                clip,
                a.id,
                a.limb.code(),
                a.on_us,
                a.off_us,
                a.tap_rate,
                a.hoof.map(|h| h.0),
                a.hoof.map(|h| h.1)
            ])?;
        if put == 0 {
            return Err(StoreError::Conflict);
        }
    }
    Ok(())
}

fn record(
    tx: &Transaction<'_>,
    clip: i64,
    seq: i64,
    place: i64,
    change: &Change,
) -> Result<(), StoreError> {
    let (b, a) = (change.before.as_ref(), change.after.as_ref());
    let id = b.or(a).map_or("", |m| m.id.as_str());
    tx.prepare_cached(
        "INSERT INTO edit_change VALUES
         (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15, ?16)",
    )?
    .execute(params![
        clip,
        seq,
        place,
        id,
        b.map(|m| m.limb.code()),
        b.map(|m| m.on_us),
        b.and_then(|m| m.off_us),
        b.and_then(|m| m.tap_rate),
        a.map(|m| m.limb.code()),
        a.map(|m| m.on_us),
        a.and_then(|m| m.off_us),
        a.and_then(|m| m.tap_rate),
        b.and_then(|m| m.hoof).map(|h| h.0),
        b.and_then(|m| m.hoof).map(|h| h.1),
        a.and_then(|m| m.hoof).map(|h| h.0),
        a.and_then(|m| m.hoof).map(|h| h.1),
    ])?;
    Ok(())
}

fn recorded(tx: &Transaction<'_>, clip: i64, seq: i64) -> Result<Vec<Change>, StoreError> {
    let mut query = tx.prepare_cached(
        "SELECT mark, old_limb, old_on, old_off, old_tap, new_limb, new_on, new_off, new_tap,
                old_x, old_y, new_x, new_y
         FROM edit_change WHERE clip = ?1 AND seq = ?2 ORDER BY place",
    )?;
    let mut rows = query.query(params![clip, seq])?;
    let mut out = Vec::new();
    while let Some(r) = rows.next()? {
        let id: String = r.get(0)?;
        let side = |first: usize, place: usize| -> Result<Option<Mark>, StoreError> {
            let Some(limb) = r.get::<_, Option<String>>(first)? else { return Ok(None) };
            Ok(Some(Mark {
                id: id.clone(),
                limb: limb_of(&limb)?,
                on_us: r.get(first + 1)?,
                off_us: r.get(first + 2)?,
                tap_rate: r.get(first + 3)?,
                hoof: r.get::<_, Option<f64>>(place)?.zip(r.get(place + 1)?),
            }))
        };
        out.push(Change { before: side(1, 9)?, after: side(5, 11)? });
    }
    Ok(out)
}

fn limb_of(code: &str) -> Result<Limb, StoreError> {
    code.parse().map_err(|_| StoreError::Invalid(format!("`{code}` is no limb")))
}
