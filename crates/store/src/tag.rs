//! What the coach marks beside footfalls: aids, letters, notes, and what was ridden from when to
//! when. Kept in the same journal as the marks.

use rusqlite::{Transaction, params};
use serde::{Deserialize, Serialize};

use crate::error::StoreError;
use crate::json::{read, to_json};
use crate::store::Store;

/// One of them, on the file's clock.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize)]
pub struct Tag {
    /// Name given by whoever made it; unique in the clip.
    pub id: String,
    /// When, or from when, µs.
    pub from_us: i64,
    /// To when, µs; nothing for a moment.
    pub to_us: Option<i64>,
    /// What, as JSON that the caller reads.
    pub what: String,
}

/// One change of one tag: from `before` (nothing: it is new) to `after` (nothing: it goes).
#[derive(Clone, Debug, PartialEq)]
pub struct TagChange {
    /// What must stand there now.
    pub before: Option<Tag>,
    /// What is to stand there.
    pub after: Option<Tag>,
}

/// Most tags in one clip.
pub const MOST_TAGS: i64 = 5000;
/// Longest JSON of one tag, bytes.
const LONGEST: usize = 4000;

impl Store {
    /// Tags of a clip in order of time.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn tags(&self, clip: i64) -> Result<Vec<Tag>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT id, from_us, to_us, what FROM tag WHERE clip = ?1 ORDER BY from_us, id",
        )?;
        let rows = query.query_map([clip], |r| {
            Ok(Tag { id: r.get(0)?, from_us: r.get(1)?, to_us: r.get(2)?, what: r.get(3)? })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }
}

impl Store {
    /// Tags of one kind in all clips of a horse, removed ones left out, with their clips.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn tags_of_horse(&self, horse: i64, kind: &str) -> Result<Vec<(i64, Tag)>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT t.clip, t.id, t.from_us, t.to_us, t.what
             FROM session s JOIN clip c ON c.session = s.id JOIN tag t ON t.clip = c.id
             WHERE s.horse = ?1 AND s.removed = 0 AND c.removed = 0
               AND json_extract(t.what, '$.kind') = ?2
             ORDER BY s.date, c.id, t.from_us",
        )?;
        let rows = query.query_map(params![horse, kind], |r| {
            let tag = Tag { id: r.get(1)?, from_us: r.get(2)?, to_us: r.get(3)?, what: r.get(4)? };
            Ok((r.get(0)?, tag))
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }
}

/// Refuses impossible tags.
pub(crate) fn check(changes: &[TagChange]) -> Result<(), StoreError> {
    let bounds = -10_i64.pow(12)..=10_i64.pow(12);
    for change in changes {
        for tag in [&change.before, &change.after].into_iter().flatten() {
            let times = bounds.contains(&tag.from_us)
                && tag.to_us.is_none_or(|to| to >= tag.from_us && bounds.contains(&to));
            if !(1..=64).contains(&tag.id.len()) || !times || tag.what.len() > LONGEST {
                return Err(StoreError::Invalid(format!(
                    "what was marked at {} µs has an impossible time, name or length",
                    tag.from_us
                )));
            }
        }
        match (&change.before, &change.after) {
            (None, None) => {
                return Err(StoreError::Invalid("a change must speak of something".into()));
            }
            (Some(b), Some(a)) if b.id != a.id => {
                return Err(StoreError::Invalid("a change must speak of one mark".into()));
            }
            _ => {}
        }
    }
    Ok(())
}

/// Makes a change, provided that what it starts from stands there.
pub(crate) fn put(tx: &Transaction<'_>, clip: i64, change: &TagChange) -> Result<(), StoreError> {
    if let Some(b) = &change.before {
        let gone = tx
            .prepare_cached(
                "DELETE FROM tag WHERE clip = ?1 AND id = ?2 AND from_us = ?3 AND to_us IS ?4 AND what = ?5",
            )?
            .execute(params![clip, b.id, b.from_us, b.to_us, b.what])?;
        if gone == 0 {
            return Err(StoreError::Conflict);
        }
    }
    if let Some(a) = &change.after {
        let put = tx
            .prepare_cached(
                "INSERT OR IGNORE INTO tag (clip, id, from_us, to_us, what) VALUES (?1, ?2, ?3, ?4, ?5)",
            )?
            .execute(params![clip, a.id, a.from_us, a.to_us, a.what])?;
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
    change: &TagChange,
) -> Result<(), StoreError> {
    let text = |tag: &Option<Tag>| tag.as_ref().map(to_json).transpose();
    tx.prepare_cached("INSERT INTO edit_tag VALUES (?1, ?2, ?3, ?4, ?5)")?.execute(params![
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
) -> Result<Vec<TagChange>, StoreError> {
    let mut query = tx.prepare_cached(
        "SELECT old, new FROM edit_tag WHERE clip = ?1 AND seq = ?2 ORDER BY place",
    )?;
    let mut rows = query.query(params![clip, seq])?;
    let read = |text: Option<String>| text.map(|t| read(&t)).transpose();
    let mut out = Vec::new();
    while let Some(r) = rows.next()? {
        out.push(TagChange { before: read(r.get(0)?)?, after: read(r.get(1)?)? });
    }
    Ok(out)
}
