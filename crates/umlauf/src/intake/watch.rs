//! Footage from folders: taken in once, or whenever a new file has come to rest in a watched
//! folder. Files there are copied and left as they are.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::{Duration, Instant, UNIX_EPOCH};

use umlauf_footage::probe;

use crate::app::App;
use crate::choices::FOLDER;
use crate::films::kind_of_film;
use crate::intake::take::{self, Taken};
use crate::refused::Refused;

/// Time between looks.
const LOOK: Duration = Duration::from_secs(4);

/// A file whose size and time have stayed the same for so long has come to rest: copies pause.
const RESTS: Duration = Duration::from_secs(20);

/// One that breaks off may still be on its way; after so long nothing comes any more.
const RESTS_BROKEN: Duration = Duration::from_secs(600);

/// What the name of something begins with that a program works on in the folder of what comes in; the number of its
/// process follows.
pub const COPY: &str = "copy-";

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
        if meta.is_file() && ending.is_some_and(|e| kind_of_film(&e).is_some()) {
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
    let copy = app.store.incoming_folder().join(format!("{COPY}{}", std::process::id()));
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
    let mut before: HashMap<PathBuf, (Found, Instant)> = HashMap::new();
    loop {
        let _ = tokio::time::timeout(LOOK, app.watch.notified()).await;
        let folder = app.with(|s| s.choice(FOLDER)).await.ok().flatten();
        let found = match folder.map(PathBuf::from) {
            Some(folder) => tokio::task::spawn_blocking(move || look(&folder)).await,
            None => continue,
        };
        let Ok(Ok(found)) = found else { continue };
        let now = Instant::now();
        let since = |file: &Found| match before.get(&file.path) {
            Some((same, since)) if same == file => *since,
            _ => now,
        };
        let found: Vec<(Found, Instant)> =
            found.into_iter().map(|f| (f.clone(), since(&f))).collect();
        for (file, since) in found.iter().filter(|(_, since)| since.elapsed() >= RESTS) {
            if since.elapsed() < RESTS_BROKEN && breaks_off(&app, file).await {
                continue;
            }
            match take_copy(&app, file, None).await {
                Ok(Some(Taken::New(id))) => tracing::info!("{} is clip {id}", file.path.display()),
                Ok(_) => {}
                Err(e) => tracing::warn!("{}: {}", file.path.display(), e),
            }
        }
        before = found.into_iter().map(|f| (f.0.path.clone(), f)).collect();
    }
}

/// Whether a file that was not looked at before announces more than has come of it.
async fn breaks_off(app: &Arc<App>, file: &Found) -> bool {
    let (path, bytes, changed) =
        (file.path.to_string_lossy().into_owned(), file.bytes, file.changed);
    let seen = app.with(move |s| s.file_seen(&path, bytes, changed)).await.unwrap_or(false);
    !seen && probe::probe(&file.path).await.is_ok_and(|probed| probed.breaks_off)
}
