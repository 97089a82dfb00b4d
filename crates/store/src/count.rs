//! How much was acknowledged, in a file beside the yard's: how many changes, and how far the log reached then. What a
//! damaged log has lost is noticed.

use std::fs::{File, OpenOptions, TryLockError};
use std::io::{Read as _, Seek as _, SeekFrom, Write as _};
use std::path::Path;

/// Digits of the number: it is overwritten in place, and is whole at any moment.
const DIGITS: usize = 20;

/// Digits of how far the log reached: its salts, and frames.
const REACHED: (usize, usize) = (16, 10);

/// The file.
pub(crate) struct Count {
    file: Option<File>,
    /// What it says of the log.
    reached: Reached,
    guest: bool,
}

/// How far the log reached: its salts as they stand in it, and its frames; none, when all of it is in the yard's file.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) struct Reached {
    /// Salts.
    pub salts: [u8; 8],
    /// Frames.
    pub frames: u32,
}

impl Count {
    /// Name of the file in a yard's folder.
    const FILE: &'static str = "yard.count";

    /// Opens it, making it if need be, and holds it: another program that opens the yard meanwhile is a guest, and its
    /// count says and notes nothing.
    pub(crate) fn open(folder: &Path) -> Self {
        let mut options = OpenOptions::new();
        options.read(true).write(true).create(true).truncate(false);
        let file = options.open(folder.join(Self::FILE)).ok();
        let held = file.as_ref().map(File::try_lock);
        let guest = matches!(held, Some(Err(TryLockError::WouldBlock)));
        let mut own = Self { file: file.filter(|_| !guest), reached: Reached::default(), guest };
        own.reached = own.read().unwrap_or_default();
        own
    }

    /// Whether another program had the yard open before.
    pub(crate) const fn is_guest(&self) -> bool {
        self.guest
    }

    /// How far the log reached when something was last acknowledged.
    pub(crate) const fn reached(&self) -> Reached {
        self.reached
    }

    fn read(&mut self) -> Option<Reached> {
        let file = self.file.as_mut()?;
        let mut text = String::new();
        file.seek(SeekFrom::Start(DIGITS as u64)).ok()?;
        file.take(64).read_to_string(&mut text).ok()?;
        let (salts, frames) = text.trim().split_once(' ')?;
        let salts = u64::from_str_radix(salts, 16).ok()?.to_be_bytes();
        Some(Reached { salts, frames: frames.parse().ok()? })
    }

    /// Writes how far the log reaches.
    pub(crate) fn reaches(&mut self, now: Reached) {
        self.reached = now;
        if let Some(file) = self.file.as_mut() {
            let (salts, (a, b)) = (u64::from_be_bytes(now.salts), REACHED);
            let text = format!(" {salts:0a$x} {:0b$}", now.frames);
            // Not noted is not lost.
            let _ = file
                .seek(SeekFrom::Start(DIGITS as u64))
                .and_then(|_| file.write_all(text.as_bytes()));
        }
    }

    /// Notes, through to the disk, that all of the log is in the yard's file: it may be let go.
    pub(crate) fn all_moved(&mut self) {
        self.reaches(Reached::default());
        if let Some(file) = &self.file {
            // Not noted is not lost.
            let _ = file.sync_data();
        }
    }

    /// What it says; `None` when it says nothing that can be read.
    pub(crate) fn says(&mut self) -> Option<i64> {
        let file = self.file.as_mut()?;
        let mut text = String::new();
        file.seek(SeekFrom::Start(0)).ok()?;
        file.take(DIGITS as u64).read_to_string(&mut text).ok()?;
        text.trim().parse().ok()
    }

    /// Writes a number. It need not be on the disk at once: less than was acknowledged says nothing.
    pub(crate) fn put(&mut self, number: i64) {
        if let Some(file) = self.file.as_mut() {
            // Not counted is not lost.
            let _ = file
                .seek(SeekFrom::Start(0))
                .and_then(|_| file.write_all(format!("{number:0DIGITS$}").as_bytes()));
        }
    }
}
