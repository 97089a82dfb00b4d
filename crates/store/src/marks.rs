//! Marks: stances of single limbs, as they stand on disk and in the journal.

use rusqlite::{Connection, Transaction, params};
use umlauf_gait::base::limb::Limb;

use crate::error::{StoreError, UnknownWord, found};
use crate::json::{read, to_json};
use crate::mark::Recent;
pub use crate::mark::{Change, Mark};
use crate::origin::Origin;
use crate::store::Store;

/// Most marks in one clip.
pub const MOST_MARKS: i64 = 200_000;

impl Store {
    /// Marks of a clip in order of time. What was suggested and is not taken is none.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn marks(&self, clip: i64) -> Result<Vec<Mark>, StoreError> {
        let mut marks = self.marks_and_suggestions(clip)?;
        marks.retain(|m| !m.origin.is_open());
        Ok(marks)
    }

    /// Marks of a clip in order of time, and what is suggested between them.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn marks_and_suggestions(&self, clip: i64) -> Result<Vec<Mark>, StoreError> {
        let connection = self.read()?;
        let revision = revision_of(&connection, clip)?;
        let mut recent = self.recent();
        if let Some(r) = recent.as_ref().filter(|r| r.clip == clip && r.revision == revision) {
            return Ok(r.marks.clone());
        }
        let mut query = connection.prepare_cached(
            "SELECT id, limb, on_us, off_us, origin, x_px, y_px, author FROM mark WHERE clip = ?1",
        )?;
        let mut rows = query.query([clip])?;
        let mut marks = Vec::new();
        while let Some(r) = rows.next()? {
            let limb = limb_of(r.get_ref(1)?.as_str().map_err(rusqlite::Error::from)?)?;
            let origin = match r.get_ref(4)?.as_str_or_null().map_err(rusqlite::Error::from)? {
                Some(text) => read_origin(text)?,
                None => Origin::Stepped,
            };
            marks.push(Mark {
                id: r.get(0)?,
                limb,
                on_us: r.get(2)?,
                off_us: r.get(3)?,
                origin,
                author: r.get(7)?,
                hoof: r.get::<_, Option<f64>>(5)?.zip(r.get(6)?),
            });
        }
        marks.sort_unstable_by(|a, b| a.on_us.cmp(&b.on_us).then_with(|| a.id.cmp(&b.id)));
        *recent = Some(Recent { clip, revision, marks: marks.clone() });
        Ok(marks)
    }

    /// Brings the marks kept in memory to where an edit has brought those on disk.
    pub(crate) fn follow(&self, connection: &Connection, clip: i64, changes: &[Change]) {
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
}

pub(crate) fn revision_of(connection: &Connection, clip: i64) -> Result<i64, StoreError> {
    let mut query = connection.prepare_cached("SELECT revision FROM clip WHERE id = ?1")?;
    found(query.query_row([clip], |r| r.get(0)), "clip", clip)
}

/// Refuses impossible marks.
pub(crate) fn check(changes: &[Change]) -> Result<(), StoreError> {
    let name_ok = |id: &str| (1..=64).contains(&id.len());
    for change in changes {
        for mark in [&change.before, &change.after].into_iter().flatten() {
            let times = (-10_i64.pow(12)..=10_i64.pow(12)).contains(&mark.on_us)
                && mark.off_us.is_none_or(|off| off >= mark.on_us && off <= 10_i64.pow(12));
            // A hoof may stand a little outside the picture, never far.
            let near = |v: f64| (-20_000.0..=40_000.0).contains(&v);
            let hoof = mark.hoof.is_none_or(|(x, y)| near(x) && near(y));
            if !name_ok(&mark.id) || !times || !mark.origin.is_possible() || !hoof {
                return Err(StoreError::Invalid(format!(
                    "the mark of {} at {} µs has an impossible time, place, origin or name",
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
pub(crate) fn put(tx: &Transaction<'_>, clip: i64, change: &Change) -> Result<(), StoreError> {
    if let Some(b) = &change.before {
        let gone = tx
            .prepare_cached(
                "DELETE FROM mark WHERE clip = ?1 AND id = ?2 AND limb = ?3 AND on_us = ?4
                 AND off_us IS ?5 AND x_px IS ?6 AND y_px IS ?7",
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
        // Nearly all are stepped: those take no room for it.
        let origin = Some(&a.origin).filter(|o| **o != Origin::Stepped).map(to_json).transpose()?;
        let put = tx
            .prepare_cached(
                "INSERT OR IGNORE INTO mark (clip, id, limb, on_us, off_us, origin, author, x_px, y_px)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9)",
            )?
            .execute(params![
                clip,
                a.id,
                a.limb.code(),
                a.on_us,
                a.off_us,
                origin,
                a.author,
                a.hoof.map(|h| h.0),
                a.hoof.map(|h| h.1)
            ])?;
        if put == 0 {
            return Err(StoreError::Conflict);
        }
    }
    Ok(())
}

/// Writes a change into the journal.
pub(crate) fn record(
    tx: &Transaction<'_>,
    clip: i64,
    seq: i64,
    place: i64,
    change: &Change,
) -> Result<(), StoreError> {
    let text = |mark: &Option<Mark>| mark.as_ref().map(to_json).transpose();
    tx.prepare_cached("INSERT INTO edit_mark VALUES (?1, ?2, ?3, ?4, ?5)")?.execute(params![
        clip,
        seq,
        place,
        text(&change.before)?,
        text(&change.after)?
    ])?;
    Ok(())
}

/// Changes of an edit in the journal.
pub(crate) fn recorded(
    tx: &Transaction<'_>,
    clip: i64,
    seq: i64,
) -> Result<Vec<Change>, StoreError> {
    let mut query = tx.prepare_cached(
        "SELECT old, new FROM edit_mark WHERE clip = ?1 AND seq = ?2 ORDER BY place",
    )?;
    let mut rows = query.query(params![clip, seq])?;
    let mut out = Vec::new();
    while let Some(r) = rows.next()? {
        let side = |k: usize| -> Result<Option<Mark>, StoreError> {
            r.get::<_, Option<String>>(k)?.map(|t| read(&t)).transpose()
        };
        out.push(Change { before: side(0)?, after: side(1)? });
    }
    Ok(out)
}

fn read_origin(text: &str) -> Result<Origin, StoreError> {
    Ok(serde_json::from_str(text).map_err(|_| UnknownWord::new("origin of a mark", text))?)
}

fn limb_of(code: &str) -> Result<Limb, StoreError> {
    Ok(code.parse().map_err(|_| UnknownWord::new("limb", code))?)
}
