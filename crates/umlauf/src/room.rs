//! Room that is kept back on the disk for taking things away: a full disk must not lock itself.

use std::fs::File;
use std::io::Write as _;
use std::path::Path;

use umlauf_store::{Store, StoreError};

/// Name of the file that fills it.
const NAME: &str = "room";

/// Bytes that are kept back; where there are fewer, half of it, and so on down to the least.
const MOST: u64 = 32 << 20;
const LEAST: u64 = 1 << 20;

/// Keeps room back, unless there is some. A yard on a disk that is all but full goes without.
pub fn keep(folder: &Path) {
    let file = folder.join(NAME);
    if std::fs::metadata(&file).is_ok_and(|m| m.len() > 0) {
        return;
    }
    let mut bytes = MOST;
    while bytes >= LEAST && filled(&file, bytes).is_err() {
        // Half a file keeps nothing back that is needed now.
        let _ = std::fs::remove_file(&file);
        bytes /= 2;
    }
}

/// Does what takes something away; where the disk is full, with the room that was kept back.
///
/// # Errors
/// What it meets.
pub fn with_room<T>(
    store: &Store,
    take_away: impl Fn(&Store) -> Result<T, StoreError>,
) -> Result<T, StoreError> {
    match take_away(store) {
        Err(StoreError::Full) => {
            // Without it there is no more to be had.
            let _ = std::fs::remove_file(store.folder().join(NAME));
            let done = take_away(store);
            keep(store.folder());
            done
        }
        done => done,
    }
}

fn filled(file: &Path, bytes: u64) -> std::io::Result<()> {
    let mut out = File::create(file)?;
    let block = vec![0u8; 1 << 16];
    for _ in 0..bytes / (1 << 16) {
        out.write_all(&block)?;
    }
    out.sync_all()
}
