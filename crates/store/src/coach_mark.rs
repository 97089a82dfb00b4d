//! The coach's own marks, 0 to 10, for figures of a session's gait card.

use rusqlite::params;

use crate::error::StoreError;
use crate::store::Store;

/// A mark.
#[derive(Clone, Debug, PartialEq)]
pub struct CoachMark {
    /// Session.
    pub session: i64,
    /// Gait, by its name in files.
    pub gait: String,
    /// Figure, by its name in files.
    pub figure: String,
    /// 0 to 10.
    pub mark: f64,
}

impl Store {
    /// Keeps a mark; `None` takes it back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a session, [`StoreError::Invalid`] outside 0 to 10.
    pub fn set_coach_mark(
        &self,
        session: i64,
        gait: &str,
        figure: &str,
        mark: Option<f64>,
    ) -> Result<(), StoreError> {
        if mark.is_some_and(|m| !(0.0..=10.0).contains(&m)) {
            return Err(StoreError::Invalid("a mark lies between 0 and 10".into()));
        }
        self.session(session)?;
        let connection = self.write();
        match mark {
            Some(mark) => connection.execute(
                "INSERT INTO coach_mark VALUES (?1, ?2, ?3, ?4)
                 ON CONFLICT DO UPDATE SET mark = ?4",
                params![session, gait, figure, mark],
            )?,
            None => connection.execute(
                "DELETE FROM coach_mark WHERE session = ?1 AND gait = ?2 AND figure = ?3",
                params![session, gait, figure],
            )?,
        };
        Ok(())
    }

    /// Marks of a horse in a gait, in order of their sessions' days.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn coach_marks(&self, horse: i64, gait: &str) -> Result<Vec<CoachMark>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT m.session, m.gait, m.figure, m.mark
             FROM session s JOIN coach_mark m ON m.session = s.id
             WHERE s.horse = ?1 AND m.gait = ?2 AND s.removed = 0 ORDER BY s.date, s.id, m.figure",
        )?;
        let rows = query.query_map(params![horse, gait], |r| {
            Ok(CoachMark {
                session: r.get(0)?,
                gait: r.get(1)?,
                figure: r.get(2)?,
                mark: r.get(3)?,
            })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }
}
