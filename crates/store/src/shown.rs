//! What is shown to others than the coach: nothing that lies in the bin, or whose session or horse does.

use rusqlite::{OptionalExtension as _, ToSql};

use crate::error::StoreError;
use crate::store::Store;

/// Whatever hangs on a horse that is there, in a session that is.
const SHOWN: &str = "JOIN horse h ON h.id = s.horse WHERE s.removed = 0 AND h.removed = 0";

impl Store {
    /// The horse of a session that is shown.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn horse_of_shown_session(&self, session: i64) -> Result<Option<i64>, StoreError> {
        self.shown(&format!("SELECT h.id FROM session s {SHOWN} AND s.id = ?1"), &session)
    }

    /// The horse of a clip that is shown.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn horse_of_shown_clip(&self, clip: i64) -> Result<Option<i64>, StoreError> {
        let sql = format!(
            "SELECT h.id FROM clip c JOIN session s ON s.id = c.session {SHOWN} AND c.removed = 0 AND c.id = ?1"
        );
        self.shown(&sql, &clip)
    }

    /// Horses of the clips with a content that are shown.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn horses_of_shown_content(&self, content: &str) -> Result<Vec<i64>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(&format!(
            "SELECT DISTINCT h.id FROM clip c JOIN session s ON s.id = c.session {SHOWN}
             AND c.removed = 0 AND c.content = ?1"
        ))?;
        Ok(query.query_map([content], |r| r.get(0))?.collect::<Result<_, _>>()?)
    }

    fn shown(&self, sql: &str, id: &dyn ToSql) -> Result<Option<i64>, StoreError> {
        Ok(self.read()?.query_row(sql, [id], |r| r.get(0)).optional()?)
    }
}
