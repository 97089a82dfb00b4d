//! Files that the command line reads.

use std::io::Read;
use std::path::{Path, PathBuf};

use anyhow::{Context as _, Result, bail};

use crate::document::table::MOST_BYTES;

/// Reads a file, or standard input for `-`, up to [`MOST_BYTES`].
///
/// # Errors
/// When it cannot be read or is too large.
pub fn read(path: &Path) -> Result<Vec<u8>> {
    let mut bytes = Vec::new();
    let most = MOST_BYTES as u64 + 1;
    if path == Path::new("-") {
        std::io::stdin()
            .lock()
            .take(most)
            .read_to_end(&mut bytes)
            .context("standard input cannot be read")?;
    } else {
        std::fs::File::open(path)
            .and_then(|f| f.take(most).read_to_end(&mut bytes))
            .with_context(|| format!("{} cannot be read", path.display()))?;
    }
    if bytes.len() > MOST_BYTES {
        bail!("{}: larger than 256 MiB; cut the table into sessions", path.display());
    }
    Ok(bytes)
}

/// A number above 0 that the command line gives.
pub(crate) fn positive(text: &str) -> Result<f64, &'static str> {
    text.parse::<f64>().ok().filter(|v| v.is_finite() && *v > 0.0).ok_or("must be a number above 0")
}

/// The user's data folder by the XDG rules.
pub(crate) fn data_folder(name: &str) -> Result<PathBuf> {
    let base = std::env::var_os("XDG_DATA_HOME").map(PathBuf::from).filter(|p| p.is_absolute());
    let base = base.or_else(|| Some(std::env::home_dir()?.join(".local/share")));
    Ok(base.context("no home folder: give the yard's folder with --data")?.join(name))
}
