//! What a kill has left in a yard's folder, and no clip or upload names, goes at the next start. Only what this program is
//! known to have left is touched: a film that nobody knows of is somebody's.

use std::path::Path;

use umlauf_store::{Store, StoreError};

use crate::archive::aside;
use crate::dates::now_ms;
use crate::intake::watch::COPY;
use crate::jobs::UNFINISHED;
use crate::share::film;

/// Sweeps a yard that nobody else has open.
///
/// # Errors
/// When the yard cannot be read, or a file not be removed.
pub fn swept(store: &Store) -> Result<(), StoreError> {
    aside::swept(store)?;
    film::swept(store, now_ms(), true)?;
    // Another program may be taking a film in.
    let held = store.hold_folders()?;
    let loose = store.loose()?;
    aside::forget(store, loose.iter().map(String::as_str))?;
    loose.iter().try_for_each(|content| store.let_go(content))?;
    drop(held);
    let cannot = |source| StoreError::Io {
        what: "what an earlier start has left cannot be removed".into(),
        source,
    };
    for left in came_of_nothing(store)? {
        let gone = if left.is_dir() {
            std::fs::remove_dir_all(&left)
        } else {
            std::fs::remove_file(&left)
        };
        gone.map_err(cannot)?;
    }
    for folder in std::fs::read_dir(store.folder().join("footage")).map_err(cannot)?.flatten() {
        // What is no folder holds none.
        for file in std::fs::read_dir(folder.path()).into_iter().flatten().flatten() {
            let name = file.file_name();
            if Path::new(&name)
                .file_stem()
                .is_some_and(|s| s.to_string_lossy().ends_with(UNFINISHED))
            {
                std::fs::remove_file(file.path()).map_err(cannot)?;
            }
        }
    }
    Ok(())
}

/// What has come in for no upload, and is not being copied by another program.
fn came_of_nothing(store: &Store) -> Result<Vec<std::path::PathBuf>, StoreError> {
    let uploads = store.uploads()?;
    let files = std::fs::read_dir(store.incoming_folder()).into_iter().flatten().flatten();
    let awaited = |name: &str| {
        let copied_by = name.strip_prefix(COPY).and_then(|rest| rest.split('-').next());
        let copied_by = copied_by.filter(|id| id.parse::<u32>().is_ok());
        uploads.iter().any(|u| u.id == name)
            || copied_by.is_some_and(|id| Path::new("/proc").join(id).exists())
    };
    Ok(files.filter(|f| !f.file_name().to_str().is_some_and(awaited)).map(|f| f.path()).collect())
}
