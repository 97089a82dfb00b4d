//! The yard's store: one SQLite file with a writer and readers, and a folder of footage.

use std::ops::{Deref, DerefMut};
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicU32, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;

use rusqlite::Connection;

use crate::connections::{Connections, PATIENCE, Pin, Reading, written};
use crate::content::is_content;
use crate::count::{Count, Reached};
use crate::error::StoreError;
use crate::mark::Recent;
use crate::schema;
use crate::sealing::{Sealing, is_torn};

/// The yard's store. All calls block; use it from a blocking thread.
pub struct Store {
    pub(crate) yard: Arc<Yard>,
    /// Set for a store that reads one moment only.
    pin: Option<Pin>,
}

/// The key of the choice that is a yard's own name among yards; it stays when another yard's tables come.
pub(crate) const IDENTITY: &str = "yard";

/// The key under which it is kept how many acknowledged changes are gone.
pub(crate) const LOST: &str = "lost_changes";

/// What all stores of one yard share.
pub(crate) struct Yard {
    connections: Arc<Connections>,
    /// Marks of the clip that was looked at last, at one revision.
    pub(crate) recent: Mutex<Option<Recent>>,
    folder: PathBuf,
    count: Mutex<Count>,
    sealing: Sealing,
    /// Frames of the log beyond which it is moved into the file: more where that could not be done at once.
    long: AtomicU32,
}

impl Drop for Yard {
    /// What is at rest is in one file.
    fn drop(&mut self) {
        let connection = self.connections.write();
        let count = self.count.get_mut().unwrap_or_else(PoisonError::into_inner);
        // What cannot be moved now is moved at the next start.
        let _ = self.sealing.settle(&connection, Duration::ZERO, count);
    }
}

impl Store {
    /// Name of the SQLite file in a yard's folder.
    pub const FILE: &'static str = "yard.sqlite";

    /// Opens the store in `folder`, making it if need be. `limit_kib` bounds the size of the
    /// SQLite file: beyond it saving answers [`StoreError::Full`].
    ///
    /// # Errors
    /// [`StoreError::Io`] when the folder cannot be made, [`StoreError::Sqlite`] or
    /// [`StoreError::Migration`] when the file cannot be used, [`StoreError::Later`] when a later version wrote it,
    /// [`StoreError::Lost`] when it is not there and its films are.
    pub fn open(folder: &Path, limit_kib: Option<u64>) -> Result<Self, StoreError> {
        for needed in [folder.join("footage"), folder.join("incoming")] {
            std::fs::create_dir_all(&needed).map_err(|source| StoreError::Io {
                what: format!("the folder {} could not be made", needed.display()),
                source,
            })?;
        }
        let file = folder.join(Self::FILE);
        lost(folder, &file)?;
        let mut count = Count::open(folder);
        // Before anything is written to it.
        let torn = is_torn(folder, Self::FILE, &count)?;
        let mut writer = Connections::open_writer(&file)?;
        schema::bring_up_to_date(&mut writer)?;
        writer.execute(
            "INSERT OR IGNORE INTO choice VALUES (?1, lower(hex(randomblob(16))))",
            [IDENTITY],
        )?;
        // What a killed program has deleted still stands in its log.
        let sealing = Sealing::of(folder, Self::FILE)?;
        sealing.settle(&writer, PATIENCE, &mut count)?;
        note_lost(&writer, &mut count, torn)?;
        let _ = written();
        if let Some(kib) = limit_kib {
            let page: u64 = writer.query_row("PRAGMA page_size", [], |r| r.get(0))?;
            writer.pragma_update(None, "max_page_count", kib * 1024 / page)?;
        }
        let yard = Yard {
            connections: Arc::new(Connections::new(writer, &file)),
            recent: Mutex::default(),
            folder: folder.to_owned(),
            count: Mutex::new(count),
            sealing,
            long: AtomicU32::new(LONG),
        };
        Ok(Self { yard: Arc::new(yard), pin: None })
    }

    /// The same yard, read as it is at this moment: whatever is written meanwhile, all that is read
    /// through it belongs together. Writing through it writes to the yard as it is now.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn snapshot(&self) -> Result<Self, StoreError> {
        let pin = Pin::now(&self.yard.connections)?;
        Ok(Self { yard: Arc::clone(&self.yard), pin: Some(pin) })
    }

    /// Takes what was deleted out of the file, and out of its log.
    ///
    /// # Errors
    /// [`StoreError::Full`]; what was deleted is overwritten all the same.
    pub fn scrub(&self) -> Result<(), StoreError> {
        let connection = self.write();
        self.settle(&connection, PATIENCE)?;
        connection.execute_batch("VACUUM")?;
        self.settle(&connection, PATIENCE)
    }

    /// Moves the log into the file, seals its pages, and empties it when nobody reads it for `patience`.
    fn settle(&self, connection: &Connection, patience: Duration) -> Result<(), StoreError> {
        self.yard.sealing.settle(connection, patience, &mut self.count())
    }

    fn count(&self) -> MutexGuard<'_, Count> {
        self.yard.count.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Of the pages in `range`, counted from 0, of the yard's file those that something else than this program has
    /// changed, and how many pages there are; `None` when the seal that tells it is damaged itself.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn broken_pages(
        &self,
        range: std::ops::Range<usize>,
    ) -> Result<Option<(Vec<usize>, usize)>, StoreError> {
        // Nothing is moved into the file meanwhile.
        let _writer = self.yard.connections.write();
        let look = || self.yard.sealing.broken(range.clone());
        if !self.count().is_guest() {
            return look();
        }
        // But by another program: what it moves is not as it was sealed for a moment.
        let mut found = look()?;
        for _ in 0..2 {
            if found.as_ref().is_some_and(|(broken, _)| broken.is_empty()) {
                break;
            }
            std::thread::sleep(Duration::from_millis(300));
            let again = look()?;
            found = match (found, again) {
                (Some((mut broken, _)), Some((still, all))) => {
                    broken.retain(|k| still.contains(k));
                    Some((broken, all))
                }
                (_, again) => again,
            };
        }
        Ok(found)
    }

    /// Seals the file anew as it is now, when what was wrong with it was said.
    ///
    /// # Errors
    /// When the file cannot be read or the seal not be written.
    pub fn seal_anew(&self) -> Result<(), StoreError> {
        let connection = self.write();
        match std::fs::remove_file(self.folder().join(crate::seal::FILE)) {
            Err(source) if source.kind() != std::io::ErrorKind::NotFound => {
                Err(StoreError::Io { what: "the seal could not be made anew".into(), source })
            }
            _ => self.settle(&connection, Duration::ZERO),
        }
    }

    /// The folder of one content's files, named by its hash; of what is no hash a folder that is never there.
    pub fn footage_folder(&self, content: &str) -> PathBuf {
        let name = if is_content(content) { content } else { "none" };
        self.yard.folder.join("footage").join(name)
    }

    /// The yard's folder.
    pub fn folder(&self) -> &Path {
        &self.yard.folder
    }

    /// The SQLite file.
    pub(crate) fn yard_file(&self) -> PathBuf {
        self.yard.folder.join(Self::FILE)
    }

    /// Where uploads are written before they are known to be footage.
    pub fn incoming_folder(&self) -> PathBuf {
        self.yard.folder.join("incoming")
    }

    /// The connection that writes.
    pub(crate) fn write(&self) -> Writing<'_> {
        let connection = self.yard.connections.write();
        if self.count().reached().frames > self.yard.long.load(Ordering::Relaxed) {
            // Trouble with it is met again, and said, where the file is looked at.
            let _ = self.settle(&connection, Duration::ZERO);
            let left = self.count().reached().frames;
            self.yard.long.store(left.saturating_add(LONG), Ordering::Relaxed);
        }
        Writing { connection, of: self }
    }

    /// A connection that reads: this store's moment, or what is there now.
    pub(crate) fn read(&self) -> Result<Reading<'_>, StoreError> {
        match self.pin.as_ref().and_then(Pin::read) {
            Some(pinned) => Ok(pinned),
            None => Ok(Reading::Now(self.yard.connections.read()?)),
        }
    }

    /// Notes how many changes were acknowledged.
    pub(crate) fn counted(&self, changes: i64) {
        self.count().put(changes);
    }

    /// The marks that are kept in memory.
    pub(crate) fn recent(&self) -> MutexGuard<'_, Option<Recent>> {
        self.yard.recent.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// Frames of a log that is moved into the file before the next one writes: 4 MiB.
const LONG: u32 = 1000;

/// The connection that writes, for one writer at a time: when it is let go, it is noted how far the log reaches.
pub(crate) struct Writing<'a> {
    connection: MutexGuard<'a, Connection>,
    of: &'a Store,
}

impl Deref for Writing<'_> {
    type Target = Connection;

    fn deref(&self) -> &Connection {
        &self.connection
    }
}

impl DerefMut for Writing<'_> {
    fn deref_mut(&mut self) -> &mut Connection {
        &mut self.connection
    }
}

impl Drop for Writing<'_> {
    fn drop(&mut self) {
        let Some(frames) = written() else { return };
        let mut count = self.of.count();
        let before = count.reached();
        // A log that is shorter than it was began anew, with other salts.
        let salts = if frames > before.frames && before.frames > 0 {
            before.salts
        } else {
            match self.of.yard.sealing.salts() {
                Some(salts) => salts,
                None => return,
            }
        };
        count.reaches(Reached { salts, frames });
    }
}

/// A folder with films and no file that says what they are is no new yard.
fn lost(folder: &Path, file: &Path) -> Result<(), StoreError> {
    if std::fs::metadata(file).is_ok_and(|m| m.len() > 0) {
        return Ok(());
    }
    let films = std::fs::read_dir(folder.join("footage")).into_iter().flatten().flatten();
    let films = films.filter(|f| f.file_name().to_str().is_some_and(is_content)).count();
    if films == 0 { Ok(()) } else { Err(StoreError::Lost { file: file.to_owned(), films }) }
}

/// Keeps in mind how many acknowledged changes the file does not have, one at least where its log is torn, and counts from
/// it again.
fn note_lost(connection: &Connection, count: &mut Count, torn: bool) -> Result<(), StoreError> {
    let has = "SELECT last FROM given WHERE kind = 'change'";
    let has: i64 = connection.query_row(has, [], |r| r.get(0))?;
    let gone = (count.says().unwrap_or(has) - has).max(i64::from(torn));
    if gone > 0 {
        connection.execute(
            "INSERT INTO choice VALUES (?1, ?2)
             ON CONFLICT DO UPDATE SET value = CAST(value AS INTEGER) + ?2",
            rusqlite::params![LOST, gone],
        )?;
    }
    count.put(has);
    Ok(())
}
