//! The folder in which a yard from outside is put together before it takes the place of an empty one. A kill at any
//! moment leaves nothing that counts: what it has left is swept away at the next start.

use std::fs::File;
use std::io::Write as _;
use std::path::PathBuf;

use umlauf_store::{Store, StoreError};

use crate::archive_error::ArchiveError;

/// Its name in the yard's folder.
const NAME: &str = "coming-back";

/// The list of contents that it moves into the yard.
const MOVED: &str = "moved.txt";

/// A folder aside, gone when it is dropped.
pub struct Aside {
    /// Where it is.
    pub folder: PathBuf,
}

impl Aside {
    /// Makes it.
    ///
    /// # Errors
    /// [`ArchiveError::Busy`] when another yard is being put back.
    pub fn make(store: &Store) -> Result<Self, ArchiveError> {
        let folder = store.folder().join(NAME);
        match std::fs::create_dir(&folder) {
            Ok(()) => Ok(Self { folder }),
            Err(e) if e.kind() == std::io::ErrorKind::AlreadyExists => Err(ArchiveError::Busy),
            Err(e) => Err(e.into()),
        }
    }

    /// Moves the folders of `contents` from the yard aside into `store`; what lies there under their names belongs to
    /// no clip, and nobody knows whether it is whole.
    ///
    /// # Errors
    /// When a folder cannot be moved: those that were are known to [`swept`].
    pub fn move_films(
        &self,
        from: &Store,
        store: &Store,
        contents: &[String],
    ) -> Result<(), ArchiveError> {
        let mut list = File::create(self.folder.join(MOVED))?;
        list.write_all(contents.join("\n").as_bytes())?;
        list.sync_all()?;
        for content in contents {
            let to = store.footage_folder(content);
            gone(&to)?;
            std::fs::rename(from.footage_folder(content), &to)?;
        }
        File::open(store.folder().join("footage"))?.sync_all()?;
        Ok(())
    }
}

impl Drop for Aside {
    fn drop(&mut self) {
        if let Err(e) = gone(&self.folder) {
            tracing::warn!("{} stays behind: {e}", self.folder.display());
        }
    }
}

/// Removes what a yard that was not put back to its end has left: the folder aside, and films that it moved and no clip
/// names.
///
/// # Errors
/// When the yard cannot be read, or a file not be removed.
pub fn swept(store: &Store) -> Result<(), StoreError> {
    let cannot = |source| StoreError::Io {
        what: "what an unfinished import has left cannot be removed".into(),
        source,
    };
    let aside = store.folder().join(NAME);
    if aside.exists() {
        let list = std::fs::read_to_string(aside.join(MOVED)).unwrap_or_default();
        forget(store, list.lines())?;
        gone(&aside).map_err(cannot)?;
    }
    Ok(())
}

/// Removes films of contents that no clip names.
pub fn forget<'a>(
    store: &Store,
    contents: impl Iterator<Item = &'a str>,
) -> Result<(), StoreError> {
    for content in contents {
        if store.clips_of_content(content)?.is_empty() {
            gone(&store.footage_folder(content)).map_err(|source| StoreError::Io {
                what: format!("the film {content} of no clip cannot be removed"),
                source,
            })?;
        }
    }
    Ok(())
}

/// Removes a folder; that it is not there is fine.
fn gone(folder: &std::path::Path) -> std::io::Result<()> {
    match std::fs::remove_dir_all(folder) {
        Err(e) if e.kind() != std::io::ErrorKind::NotFound => Err(e),
        _ => Ok(()),
    }
}
