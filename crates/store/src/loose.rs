//! Contents whose folder may be no clip's: about to be taken in, or let go. A kill between a folder and its row leaves a
//! content loose, and the next start knows what to do with it.

use std::fs::File;

use rusqlite::Connection;

use crate::error::StoreError;
use crate::store::Store;

/// Nobody else takes a film in or lets one go while this is there, in this program or another.
#[derive(Debug)]
pub struct FoldersHeld {
    _lock: File,
}

impl Store {
    /// Waits until nobody else takes a film in or lets one go: between a folder and its row there is a moment in which
    /// the one would take away what the other has just brought.
    ///
    /// # Errors
    /// When the yard's folder cannot be written.
    pub fn hold_folders(&self) -> Result<FoldersHeld, StoreError> {
        let cannot =
            |source| StoreError::Io { what: "the folders of films cannot be held".into(), source };
        let lock = File::create(self.folder().join("footage.lock")).map_err(cannot)?;
        lock.lock().map_err(cannot)?;
        Ok(FoldersHeld { _lock: lock })
    }

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
