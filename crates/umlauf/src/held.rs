//! One program a yard: who serves a folder, or puts a yard into it, holds it, and another is told who does.

use std::fs::{File, OpenOptions, TryLockError};
use std::io::{Read as _, Seek as _, Write as _};
use std::path::{Path, PathBuf};

use thiserror::Error;

/// Name of the file that is locked.
const FILE: &str = "yard.lock";

/// A folder that is held until this is dropped, or the program ends, however that may be.
#[derive(Debug)]
pub struct Held {
    _file: File,
}

/// Why a folder cannot be held.
#[derive(Debug, Error)]
pub enum NotHeld {
    /// Another program holds it.
    #[error(
        "the yard in {} is open already, {by}: use that one, or stop it first",
        folder.display()
    )]
    ByAnother {
        /// The folder.
        folder: PathBuf,
        /// Who, as it has written itself.
        by: String,
    },
    /// The file cannot be used.
    #[error("the yard in {} cannot be held: {cause}", folder.display())]
    Io {
        /// The folder.
        folder: PathBuf,
        /// Why.
        cause: std::io::Error,
    },
}

impl Held {
    /// Holds a yard's folder, which is made if need be, for `what`, as in “a server since …”.
    ///
    /// # Errors
    /// When another program holds it, or it cannot be written.
    pub fn hold(folder: &Path, what: &str) -> Result<Self, NotHeld> {
        let io = |cause| NotHeld::Io { folder: folder.to_owned(), cause };
        std::fs::create_dir_all(folder).map_err(io)?;
        let mut options = OpenOptions::new();
        options.read(true).write(true).create(true).truncate(false);
        let mut file = options.open(folder.join(FILE)).map_err(io)?;
        match file.try_lock() {
            Ok(()) => {}
            Err(TryLockError::WouldBlock) => {
                let mut by = String::new();
                // Who it is is a courtesy.
                let _ = (&file).take(200).read_to_string(&mut by);
                return Err(NotHeld::ByAnother { folder: folder.to_owned(), by });
            }
            Err(TryLockError::Error(cause)) => return Err(io(cause)),
        }
        let now = jiff::Timestamp::now().strftime("%Y-%m-%d %H:%M UTC");
        file.set_len(0).map_err(io)?;
        file.rewind().map_err(io)?;
        write!(file, "by {what} (process {}) since {now}", std::process::id()).map_err(io)?;
        Ok(Self { _file: file })
    }
}
