//! Bytes from one place to another, with their hash.

use std::fs::File;
use std::io::{Read, Write};
use std::path::Path;

/// Why bytes did not get from one place to another.
#[derive(Debug)]
pub enum NotCopied {
    /// They cannot be read.
    Read(std::io::Error),
    /// They cannot be written.
    Write(std::io::Error),
}

impl From<NotCopied> for std::io::Error {
    fn from(e: NotCopied) -> Self {
        match e {
            NotCopied::Read(e) | NotCopied::Write(e) => e,
        }
    }
}

/// Writes what is read, to its end, and gives its BLAKE3 hash in hexadecimal.
///
/// # Errors
/// [`NotCopied`], which side it was.
pub fn copied(mut from: impl Read, to: &mut impl Write) -> Result<String, NotCopied> {
    let mut hash = blake3::Hasher::new();
    let mut block = vec![0; 1 << 18];
    loop {
        let n = from.read(&mut block).map_err(NotCopied::Read)?;
        if n == 0 {
            return Ok(hash.finalize().to_hex().to_string());
        }
        hash.update(&block[..n]);
        to.write_all(&block[..n]).map_err(NotCopied::Write)?;
    }
}

/// BLAKE3 of a file, hexadecimal.
///
/// # Errors
/// When it cannot be read.
pub fn hash(path: &Path) -> std::io::Result<String> {
    let mut hasher = blake3::Hasher::new();
    hasher.update_reader(File::open(path)?)?;
    Ok(hasher.finalize().to_hex().to_string())
}
