//! The log is moved into the yard's file here alone, with the pages that it changes sealed before it is let go.

use std::collections::BTreeMap;
use std::fs::File;
use std::io::{Error, ErrorKind, Result};
use std::ops::Range;
use std::os::unix::fs::MetadataExt as _;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError, Weak};
use std::time::Duration;

use rusqlite::Connection;

use crate::connections::{PATIENCE, written};
use crate::count::Count;
use crate::error::StoreError;
use crate::log::{self, Log};
use crate::seal::{self, Kept, Seal};

/// A yard's file and what seals it. It outlives the connections to the file.
pub(crate) struct Sealing {
    folder: PathBuf,
    log: PathBuf,
    file: Held,
}

impl Sealing {
    /// The sealing of a file that is there.
    ///
    /// # Errors
    /// When it cannot be opened.
    pub(crate) fn of(folder: &Path, file: &str) -> std::result::Result<Self, StoreError> {
        Ok(Self {
            folder: folder.to_owned(),
            log: log_of(folder, file),
            file: held(&folder.join(file)).map_err(unread)?,
        })
    }

    /// Moves the log into the file, as far as nobody reads it, and empties it when nobody does so for `patience`. A guest
    /// leaves it to whose the yard is.
    ///
    /// # Errors
    /// When the file or its log cannot be used. What cannot be sealed is not judged until it is.
    pub(crate) fn settle(
        &self,
        connection: &Connection,
        patience: Duration,
        count: &mut Count,
    ) -> std::result::Result<(), StoreError> {
        if count.is_guest() {
            return Ok(());
        }
        let before = Log::read(&self.log).map_err(unread)?.unwrap_or_default();
        let own = self.marred(&before);
        let moved: (i64, i64) =
            connection
                .query_row("PRAGMA wal_checkpoint(PASSIVE)", [], |r| Ok((r.get(1)?, r.get(2)?)))?;
        let page: u32 = connection.query_row("PRAGMA page_size", [], |r| r.get(0))?;
        if let Err(e) = own.and_then(|own| self.renew(own, page, before)) {
            // A seal that is behind its file would cry wolf.
            return match std::fs::remove_file(self.folder.join(seal::FILE)) {
                Err(gone) if gone.kind() != ErrorKind::NotFound => Err(unread(e)),
                _ => Ok(()),
            };
        }
        if moved.0 == moved.1 {
            // Before it is let go: a log that is shorter than was noted has lost something.
            count.all_moved();
            connection.busy_timeout(patience)?;
            let emptied = connection.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |_| Ok(()));
            connection.busy_timeout(PATIENCE)?;
            emptied?;
            let _ = written();
        }
        Ok(())
    }

    /// The seal, with what the log is about to write over looked at.
    fn marred(&self, log: &Log) -> Result<Kept> {
        let mut kept = Seal::read(&self.folder)?;
        if let Kept::Whole(own) = &mut kept {
            own.note_marred(&mut self.file(), log)?;
        }
        Ok(kept)
    }

    fn renew(&self, kept: Kept, page: u32, before: Log) -> Result<()> {
        // Another program may have written meanwhile.
        let log = before.and(Log::read(&self.log)?.unwrap_or_default());
        let mut own = match kept {
            // One that is damaged stays, until that was said.
            Kept::Damaged => return Ok(()),
            Kept::Whole(_) if log.frames.is_empty() => return Ok(()),
            Kept::Whole(own) => own,
            Kept::None => Seal::new(page),
        };
        own.renew(&mut self.file(), &log)?;
        own.write(&self.folder)
    }

    /// A look at the file by pages: of those in `range`, counted from 0, which are neither what they were sealed as nor
    /// what the log has for them, and how many there are in all; `None` when the seal itself is damaged. What was never
    /// sealed is as it is.
    ///
    /// # Errors
    /// When a file cannot be read.
    pub(crate) fn broken(
        &self,
        range: Range<usize>,
    ) -> std::result::Result<Option<(Vec<usize>, usize)>, StoreError> {
        let own = match Seal::read(&self.folder).map_err(unread)? {
            Kept::None => return Ok(Some((vec![], 0))),
            Kept::Damaged => return Ok(None),
            Kept::Whole(own) => own,
        };
        let log = Log::read(&self.log).map_err(unread)?.unwrap_or_default();
        let found = own.broken(&mut self.file(), range, &log).map_err(unread)?;
        Ok(Some((found, own.len())))
    }

    /// What the log is known by; `None` when there is none.
    pub(crate) fn salts(&self) -> Option<[u8; 8]> {
        log::salts_of(&self.log)
    }

    fn file(&self) -> MutexGuard<'_, File> {
        self.file.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// Whether the log beside a file holds less than was acknowledged.
///
/// # Errors
/// When it cannot be read.
pub(crate) fn is_torn(
    folder: &Path,
    file: &str,
    count: &Count,
) -> std::result::Result<bool, StoreError> {
    let reached = count.reached();
    Ok(match Log::read(&log_of(folder, file)).map_err(unread)? {
        _ if count.is_guest() => false,
        None => reached.frames > 0,
        Some(Log { salts: None, .. }) => true,
        Some(log) => log.salts == Some(reached.salts) && log.whole < reached.frames,
    })
}

fn log_of(folder: &Path, file: &str) -> PathBuf {
    folder.join(format!("{file}-wal"))
}

/// An open file that all who look into it share.
type Held = Arc<Mutex<File>>;

/// Opens a file that SQLite may have open too. It is opened once for all of them: POSIX drops a program's locks on a file
/// with any of its descriptors, and SQLite's would go.
fn held(file: &Path) -> Result<Held> {
    type Open = BTreeMap<(u64, u64), Weak<Mutex<File>>>;
    static OPEN: Mutex<Open> = Mutex::new(Open::new());
    let is = std::fs::metadata(file)?;
    let mut open = OPEN.lock().unwrap_or_else(PoisonError::into_inner);
    open.retain(|_, file| file.strong_count() > 0);
    if let Some(held) = open.get(&(is.dev(), is.ino())).and_then(Weak::upgrade) {
        return Ok(held);
    }
    let held = Arc::new(Mutex::new(File::open(file)?));
    open.insert((is.dev(), is.ino()), Arc::downgrade(&held));
    Ok(held)
}

fn unread(source: Error) -> StoreError {
    StoreError::Io { what: "the yard's file or its log could not be read".into(), source }
}
