//! The bin: emptied, what was removed is gone with everything that belongs to it.

use crate::error::StoreError;
use crate::loose;
use crate::store::Store;

impl Store {
    /// Forgets removed horses, sessions and clips for good and gives the contents that no clip needs any more, whose
    /// folders may go. They are loose until they have.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn purge_removed(&self) -> Result<Vec<String>, StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        tx.execute(
            "UPDATE clip SET removed = 1 WHERE session IN
             (SELECT s.id FROM session s JOIN horse h ON h.id = s.horse
              WHERE s.removed = 1 OR h.removed = 1)",
            [],
        )?;
        let contents: Vec<String> = tx
            .prepare(
                "SELECT DISTINCT content FROM clip c WHERE removed = 1 AND NOT EXISTS
                 (SELECT 1 FROM clip o WHERE o.content = c.content AND o.removed = 0)",
            )?
            .query_map([], |r| r.get(0))?
            .collect::<Result<_, _>>()?;
        for sql in [
            "DELETE FROM edit_mark WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM edit_tag WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM forgotten_edit WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM edit WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM mark WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM found WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM tag WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM digest WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM job WHERE clip IN (SELECT id FROM clip WHERE removed = 1)",
            "DELETE FROM clip WHERE removed = 1",
            "UPDATE session SET removed = 1
             WHERE horse IN (SELECT id FROM horse WHERE removed = 1)",
            "DELETE FROM upload WHERE session IN (SELECT id FROM session WHERE removed = 1)",
            "DELETE FROM coach_mark WHERE session IN (SELECT id FROM session WHERE removed = 1)",
            "DELETE FROM session_log WHERE session IN (SELECT id FROM session WHERE removed = 1)",
            "DELETE FROM session WHERE removed = 1",
            // Choices about a horse are kept as `WHAT.HORSE.…`.
            "DELETE FROM choice WHERE EXISTS (SELECT 1 FROM horse h WHERE h.removed = 1
             AND choice.key GLOB '*.' || h.id || '.*')",
            "DELETE FROM horse WHERE removed = 1",
        ] {
            tx.execute(sql, [])?;
        }
        contents.iter().try_for_each(|content| loose::loosen(&tx, content))?;
        tx.commit()?;
        Ok(contents)
    }
}
