//! Whether what the yard's file says can be true.

use rusqlite::params;

use crate::error::StoreError;
use crate::json::read;
use crate::marks::{self, Change, Mark};
use crate::store::{LOST, Store};

/// Marks whose journal says something else of them: its last change that stands, of each mark. Suggestions that wait for
/// an answer come and go without it.
const DISAGREEING: &str = "
    WITH change AS (
        SELECT em.clip, coalesce(em.new ->> 'id', em.old ->> 'id') AS id, em.new,
            row_number() OVER (
                PARTITION BY em.clip, coalesce(em.new ->> 'id', em.old ->> 'id')
                ORDER BY em.seq DESC, em.place DESC) AS back
        FROM edit_mark em JOIN edit e ON e.clip = em.clip AND e.seq = em.seq AND e.undone = 0)
    SELECT c.clip, c.id, c.new FROM change c LEFT JOIN mark m ON m.clip = c.clip AND m.id = c.id
    WHERE c.back = 1 AND coalesce(c.new ->> '$.origin.answer', '') <> 'open' AND CASE
        WHEN c.new IS NULL THEN m.id IS NOT NULL
        ELSE m.id IS NULL OR m.limb <> c.new ->> 'limb' OR m.on_us <> c.new ->> 'on_us'
            OR m.off_us IS NOT c.new ->> 'off_us' END
    ORDER BY c.clip, c.id";

/// A mark of which its journal says something else.
#[derive(Clone, Debug, PartialEq)]
pub struct Disagreeing {
    /// Its clip.
    pub clip: i64,
    /// Its name.
    pub id: String,
    /// What the journal says of it; `None`: that it is not there.
    pub says: Option<Mark>,
}

impl Store {
    /// What SQLite finds wrong with the file, at most a hundred lines; nothing when it is sound. The quick look leaves
    /// out whether indices hold what their tables do.
    ///
    /// # Errors
    /// When the file cannot be read at all.
    pub fn integrity(&self, quick: bool) -> Result<Vec<String>, StoreError> {
        let connection = self.read()?;
        let look = if quick { "PRAGMA quick_check(100)" } else { "PRAGMA integrity_check(100)" };
        let mut query = connection.prepare(look)?;
        let lines: Vec<String> = query.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?;
        Ok(lines.into_iter().filter(|line| line != "ok").collect())
    }

    /// Tables with rows that belong to something that is not there, and how many.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn dangling(&self) -> Result<Vec<(String, usize)>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare(
            "SELECT \"table\", count(*) FROM pragma_foreign_key_check GROUP BY \"table\" ORDER BY 1",
        )?;
        let rows = query.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Marks of which their journal says something else.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn disagreeing(&self) -> Result<Vec<Disagreeing>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare(DISAGREEING)?;
        let mut rows = query.query([])?;
        let mut out = Vec::new();
        while let Some(r) = rows.next()? {
            let says: Option<String> = r.get(2)?;
            let says = says.map(|text| read(&text)).transpose()?;
            out.push(Disagreeing { clip: r.get(0)?, id: r.get(1)?, says });
        }
        Ok(out)
    }

    /// Makes marks what their journal says of them.
    ///
    /// # Errors
    /// [`StoreError::Full`]. Nothing is changed then.
    pub fn mend_marks(&self, of: &[Disagreeing]) -> Result<(), StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        for Disagreeing { clip, id, says } in of {
            tx.execute("DELETE FROM mark WHERE clip = ?1 AND id = ?2", params![clip, id])?;
            if let Some(mark) = says {
                marks::put(&tx, *clip, &Change { before: None, after: Some(mark.clone()) })?;
            }
            tx.execute("UPDATE clip SET revision = revision + 1 WHERE id = ?1", [clip])?;
        }
        tx.commit()?;
        *self.recent() = None;
        Ok(())
    }

    /// How many changes were acknowledged and are gone: the file, or its log, was damaged or is an older one.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn lost_changes(&self) -> Result<u64, StoreError> {
        Ok(self.choice(LOST)?.and_then(|n| n.parse().ok()).unwrap_or(0))
    }

    /// Forgets that changes are gone, when the coach has seen it.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn forget_lost_changes(&self) -> Result<(), StoreError> {
        self.set_choice(LOST, None)
    }
}
