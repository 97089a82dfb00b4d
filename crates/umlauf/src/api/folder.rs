//! Folders of the server's machine that a page names.

use std::path::PathBuf;

use crate::refused::Refused;

/// Where a folder really is, whatever way leads there.
///
/// # Errors
/// [`Refused::Invalid`] when there is no such folder.
pub async fn real(folder: &str) -> Result<PathBuf, Refused> {
    if !tokio::fs::metadata(folder).await.is_ok_and(|m| m.is_dir()) {
        return Err(Refused::invalid(format!(
            "there is no folder {folder} on this machine; make it first, or give another"
        )));
    }
    Ok(tokio::fs::canonicalize(folder).await?)
}
