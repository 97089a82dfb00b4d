//! Footage from folders: taken in once, or whenever a new file has come to rest in a watched
//! folder. Files there are copied and left as they are.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::{Duration, UNIX_EPOCH};

use crate::app::App;
use crate::choices::FOLDER;
use crate::intake::take::{self, Taken};
use crate::refused::Refused;

/// Time between looks. A file whose size and time are the same in two looks has come to rest.
const LOOK: Duration = Duration::from_secs(4);

/// Endings of files that may be footage.
const ENDINGS: [&str; 14] = [
    "mp4", "mov", "m4v", "mkv", "webm", "avi", "mts", "m2ts", "ts", "3gp", "mpg", "mpeg", "wmv",
    "ogv",
];

/// A file that may be footage.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Found {
    /// Where.
    pub path: PathBuf,
    bytes: u64,
    changed: i64,
}

/// Files in a folder (not in its subfolders) that may be footage, by name.
///
/// # Errors
/// When the folder cannot be read.
pub fn look(folder: &Path) -> std::io::Result<Vec<Found>> {
    let mut out = Vec::new();
    for entry in std::fs::read_dir(folder)? {
        let entry = entry?;
        let path = entry.path();
        let ending = path.extension().and_then(|e| e.to_str()).map(str::to_ascii_lowercase);
        let meta = entry.metadata()?;
        if meta.is_file() && ending.is_some_and(|e| ENDINGS.contains(&e.as_str())) {
            let since = meta.modified()?.duration_since(UNIX_EPOCH).unwrap_or_default();
            let changed = i64::try_from(since.as_millis()).unwrap_or(i64::MAX);
            out.push(Found { path, bytes: meta.len(), changed });
        }
    }
    out.sort_by(|a, b| a.path.cmp(&b.path));
    Ok(out)
}

/// Takes a copy of a file into the yard, unless it was looked at before; `None` then.
///
/// # Errors
/// A [`Refused`] for a file that is not footage, or a disk that is full. A file that is not
/// footage is not looked at again until it changes.
pub async fn take_copy(
    app: &Arc<App>,
    found: &Found,
    session: Option<i64>,
) -> Result<Option<Taken>, Refused> {
    let name = found.path.to_string_lossy().into_owned();
    let (key, bytes, changed) = (name.clone(), found.bytes, found.changed);
    if app.with(move |s| s.file_seen(&key, bytes, changed)).await? {
        return Ok(None);
    }
    // The copy's name is of its own kind: uploads are letters and digits only.
    let copy = app.store.incoming_folder().join(format!("copy-{}", std::process::id()));
    tokio::fs::copy(&found.path, &copy).await?;
    let taken = take::take_in(app, session, &name, &copy).await;
    // Taken in, it has moved away; refused or known, the copy is of no use.
    let _ = tokio::fs::remove_file(&copy).await;
    let settled = taken.as_ref().map_or_else(Refused::is_not_footage, |_| true);
    if settled {
        app.with(move |s| s.note_file(&name, bytes, changed)).await?;
    }
    taken.map(Some)
}

/// Watches the chosen folder until the program ends.
pub async fn watch(app: Arc<App>) {
    let mut before: HashMap<PathBuf, Found> = HashMap::new();
    loop {
        let _ = tokio::time::timeout(LOOK, app.watch.notified()).await;
        let folder = app.with(|s| s.choice(FOLDER)).await.ok().flatten();
        let found = match folder.map(PathBuf::from) {
            Some(folder) => tokio::task::spawn_blocking(move || look(&folder)).await,
            None => continue,
        };
        let Ok(Ok(found)) = found else { continue };
        for file in found.iter().filter(|f| before.get(&f.path) == Some(f)) {
            match take_copy(&app, file, None).await {
                Ok(Some(Taken::New(id))) => tracing::info!("{} is clip {id}", file.path.display()),
                Ok(_) => {}
                Err(e) => tracing::warn!("{}: {}", file.path.display(), e),
            }
        }
        before = found.into_iter().map(|f| (f.path.clone(), f)).collect();
    }
}
