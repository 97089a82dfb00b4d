//! How many changes were acknowledged, in a file beside the yard's: what a damaged log has lost is noticed.

use std::fs::{File, OpenOptions};
use std::io::{Read as _, Seek as _, SeekFrom, Write as _};
use std::path::Path;

/// Digits of the number: it is overwritten in place, and is whole at any moment.
const DIGITS: usize = 20;

/// The file.
pub(crate) struct Count(Option<File>);

impl Count {
    /// Name of the file in a yard's folder.
    const FILE: &'static str = "yard.count";

    /// Opens it, making it if need be. Where that cannot be, nothing is counted.
    pub(crate) fn open(folder: &Path) -> Self {
        let mut options = OpenOptions::new();
        options.read(true).write(true).create(true).truncate(false);
        Self(options.open(folder.join(Self::FILE)).ok())
    }

    /// What it says; `None` when it says nothing that can be read.
    pub(crate) fn says(&mut self) -> Option<i64> {
        let file = self.0.as_mut()?;
        let mut text = String::new();
        file.seek(SeekFrom::Start(0)).ok()?;
        file.take(DIGITS as u64).read_to_string(&mut text).ok()?;
        text.trim().parse().ok()
    }

    /// Writes a number. It need not be on the disk at once: less than was acknowledged says nothing.
    pub(crate) fn put(&mut self, number: i64) {
        if let Some(file) = self.0.as_mut() {
            // Not counted is not lost.
            let _ = file
                .seek(SeekFrom::Start(0))
                .and_then(|_| file.write_all(format!("{number:0DIGITS$}").as_bytes()));
        }
    }
}
