//! One connection that writes and a few that read, so that reading a yard never waits for marking
//! it; and a store pinned to one moment, so that an answer is read from one state.

use std::cell::Cell;
use std::ops::Deref;
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard, PoisonError};
use std::time::Duration;

use rusqlite::config::DbConfig;
use rusqlite::{Connection, OpenFlags};

use crate::error::StoreError;

/// Connections that read, kept for the next reader.
const KEPT: usize = 6;
/// How long a connection waits for another to finish, before it gives up.
pub(crate) const PATIENCE: Duration = Duration::from_secs(5);

thread_local! {
    /// How far the log reached after what this thread has written last.
    static WRITTEN: Cell<Option<u32>> = const { Cell::new(None) };
}

/// How many frames the log had after this thread has written, since it was asked last.
pub(crate) fn written() -> Option<u32> {
    WRITTEN.take()
}

/// The connections to one file.
pub(crate) struct Connections {
    writer: Mutex<Connection>,
    idle: Mutex<Vec<Connection>>,
    file: PathBuf,
}

impl Connections {
    /// Over a file that `writer` has opened.
    pub(crate) fn new(writer: Connection, file: &Path) -> Self {
        Self { writer: Mutex::new(writer), idle: Mutex::default(), file: file.to_owned() }
    }

    /// Opens the connection that writes.
    pub(crate) fn open_writer(file: &Path) -> Result<Connection, StoreError> {
        let connection = Connection::open(file)?;
        connection.busy_timeout(PATIENCE)?;
        connection.pragma_update(None, "journal_mode", "WAL")?;
        connection.pragma_update(None, "synchronous", "FULL")?;
        // What is deleted is overwritten.
        connection.pragma_update(None, "secure_delete", true)?;
        connection.pragma_update(None, "foreign_keys", true)?;
        // The log is moved into the file when its pages are sealed, and at no other time.
        connection.pragma_update(None, "wal_autocheckpoint", 0)?;
        connection.set_db_config(DbConfig::SQLITE_DBCONFIG_NO_CKPT_ON_CLOSE, true)?;
        connection.wal_hook(Some(|of, frames| {
            // A yard that is being taken over has a log of its own.
            if of.name() == c"main" {
                WRITTEN.set(u32::try_from(frames).ok());
            }
            Ok(())
        }));
        Ok(connection)
    }

    /// The connection that writes, for one writer at a time.
    pub(crate) fn write(&self) -> MutexGuard<'_, Connection> {
        // A panic while the lock was held left no half-done transaction: it was rolled back.
        locked(&self.writer)
    }

    /// A connection that reads, given back when dropped.
    pub(crate) fn read(&self) -> Result<Reader<'_>, StoreError> {
        let idle = locked(&self.idle).pop();
        let connection = match idle {
            Some(connection) => connection,
            None => {
                let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX;
                let connection = Connection::open_with_flags(&self.file, flags)?;
                connection.busy_timeout(PATIENCE)?;
                connection.set_db_config(DbConfig::SQLITE_DBCONFIG_NO_CKPT_ON_CLOSE, true)?;
                connection
            }
        };
        Ok(Reader { of: self, connection: Some(connection) })
    }

    fn give_back(&self, connection: Connection) {
        let mut idle = locked(&self.idle);
        if idle.len() < KEPT {
            idle.push(connection);
        }
    }
}

/// A connection that reads.
pub(crate) struct Reader<'a> {
    of: &'a Connections,
    connection: Option<Connection>,
}

impl Reader<'_> {
    /// Keeps the connection for longer than the loan.
    pub(crate) fn into_inner(mut self) -> Option<Connection> {
        self.connection.take()
    }
}

impl Drop for Reader<'_> {
    fn drop(&mut self) {
        if let Some(connection) = self.connection.take() {
            self.of.give_back(connection);
        }
    }
}

/// What reads from the yard: a connection of its own, or the one that is pinned to a moment.
pub(crate) enum Reading<'a> {
    /// Each call sees what is there when it is made.
    Now(Reader<'a>),
    /// Every call sees the same moment.
    Pinned(MutexGuard<'a, Connection>),
}

impl Deref for Reading<'_> {
    type Target = Connection;

    fn deref(&self) -> &Connection {
        match self {
            Self::Pinned(connection) => connection,
            Self::Now(reader) => match &reader.connection {
                Some(connection) => connection,
                // It is taken only when the reader is consumed.
                None => unreachable!("a reader without its connection"),
            },
        }
    }
}

/// A connection inside one reading transaction.
pub(crate) struct Pin {
    connection: Option<Mutex<Connection>>,
    of: std::sync::Arc<Connections>,
}

impl Pin {
    /// Pins a connection to this moment.
    pub(crate) fn now(of: &std::sync::Arc<Connections>) -> Result<Self, StoreError> {
        let Some(connection) = of.read()?.into_inner() else {
            unreachable!("a reader has its connection until it is consumed")
        };
        // The moment is that of the first row read.
        connection.execute_batch("BEGIN; SELECT 1 FROM choice LIMIT 1")?;
        Ok(Self { connection: Some(Mutex::new(connection)), of: std::sync::Arc::clone(of) })
    }

    pub(crate) fn read(&self) -> Option<Reading<'_>> {
        self.connection.as_ref().map(|c| Reading::Pinned(locked(c)))
    }
}

impl Drop for Pin {
    fn drop(&mut self) {
        let Some(connection) = self.connection.take() else { return };
        let connection = connection.into_inner().unwrap_or_else(PoisonError::into_inner);
        // One that cannot end its transaction is not used again.
        if connection.execute_batch("COMMIT").is_ok() {
            self.of.give_back(connection);
        }
    }
}

fn locked<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}
