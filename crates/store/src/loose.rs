//! Contents whose folder may be no clip's: about to be taken in, or let go. A kill between a folder and its row leaves a
//! content loose, and the next start knows what to do with it.

use rusqlite::Connection;

use crate::error::StoreError;
use crate::store::Store;

impl Store {
    /// Says that a content's folder is about to be made for a clip that is not there yet.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn loosen(&self, content: &str) -> Result<(), StoreError> {
        loosen(&self.write(), content)
    }

    /// Says that a content's folder has gone.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn let_go(&self, content: &str) -> Result<(), StoreError> {
        held(&self.write(), content)
    }

    /// Contents that are loose.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn loose(&self) -> Result<Vec<String>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare("SELECT content FROM loose ORDER BY content")?;
        Ok(query.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
    }
}

/// A content has no clip, or will have none.
pub(crate) fn loosen(connection: &Connection, content: &str) -> Result<(), StoreError> {
    connection.execute("INSERT OR IGNORE INTO loose VALUES (?1)", [content])?;
    Ok(())
}

/// A content has a clip, or no folder any more.
pub(crate) fn held(connection: &Connection, content: &str) -> Result<(), StoreError> {
    connection.execute("DELETE FROM loose WHERE content = ?1", [content])?;
    Ok(())
}
