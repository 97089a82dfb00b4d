//! Room that is kept back on the disk for taking things away: a full disk must not lock itself.

use std::fs::{File, OpenOptions};
use std::io::Write as _;
use std::path::Path;

use umlauf_store::{Store, StoreError};

/// Name of the file that fills it.
const NAME: &str = "room";

/// Bytes that are kept back; where there are fewer, half of it, and so on down to the least.
const MOST: u64 = 32 << 20;
const LEAST: u64 = 1 << 20;

const BLOCK: usize = 1 << 16;

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

/// What is given of it at first.
const PIECE: u64 = 1 << 20;

/// Does what takes something away; where the disk is full, with as much of the room that was kept back as it needs. What it
/// leaves of that is kept back again.
///
/// # Errors
/// What it meets.
pub fn with_room<T>(
    store: &Store,
    take_away: impl Fn(&Store) -> Result<T, StoreError>,
) -> Result<T, StoreError> {
    let file = store.folder().join(NAME);
    let had = std::fs::metadata(&file).map_or(0, |m| m.len());
    let (mut left, mut piece) = (had, PIECE);
    loop {
        match take_away(store) {
            Err(StoreError::Full) if left > 0 => {
                left = left.saturating_sub(piece);
                piece *= 2;
                shrunk(&file, left);
            }
            done => {
                if left < had {
                    // Somebody else may have taken it meanwhile.
                    let _ = grown(&file, had);
                }
                return done;
            }
        }
    }
}

/// Gives back what is beyond `bytes`.
fn shrunk(file: &Path, bytes: u64) {
    let cut = OpenOptions::new().write(true).open(file).and_then(|f| f.set_len(bytes));
    if cut.is_err() || bytes == 0 {
        // Without it there is no more to be had.
        let _ = std::fs::remove_file(file);
    }
}

/// Makes it as large as it was, as far as the disk goes.
fn grown(file: &Path, bytes: u64) -> std::io::Result<()> {
    let mut out = OpenOptions::new().append(true).create(true).open(file)?;
    let mut len = out.metadata()?.len();
    let block = vec![0u8; BLOCK];
    while len < bytes {
        if let Err(e) = out.write_all(&block) {
            out.set_len(len)?;
            return Err(e);
        }
        len += BLOCK as u64;
    }
    out.sync_all()
}

fn filled(file: &Path, bytes: u64) -> std::io::Result<()> {
    let mut out = File::create(file)?;
    let block = vec![0u8; BLOCK];
    for _ in 0..bytes / BLOCK as u64 {
        out.write_all(&block)?;
    }
    out.sync_all()
}
