//! A file is taken into the yard as a clip.

use std::path::Path;
use std::sync::Arc;

use umlauf_footage::probe;
use umlauf_store::clip::Footage;
use umlauf_store::job::JobKind;

use crate::app::App;
use crate::choices::FINDS_NOTHING;
use crate::copied::hash;
use crate::films::kind_of_film;
use crate::refused::Refused;

/// What became of a file that was to be taken in.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Taken {
    /// A new clip.
    New(i64),
    /// The same file is in the yard already (in this session, when one was named).
    Known(i64),
}

impl Taken {
    /// The clip's number.
    pub const fn clip(self) -> i64 {
        match self {
            Self::New(id) | Self::Known(id) => id,
        }
    }
}

/// Takes a file into the yard: probes it, puts it into its content's folder and queues the work
/// on it. The same file added to the same session again is the clip that is there. A session that was taken away
/// meanwhile gets nothing: the clip waits to be sorted.
///
/// # Errors
/// A [`Refused`] for a file that is not footage; the file is left where it was.
pub async fn take_in(
    app: &Arc<App>,
    session: Option<i64>,
    name: &str,
    file: &Path,
) -> Result<Taken, Refused> {
    let probed = probe::probe(file).await?;
    let (path, bytes) = (file.to_owned(), tokio::fs::metadata(file).await?.len());
    let content = tokio::task::spawn_blocking(move || hash(&path)).await??;
    // Until its clip is there nobody empties the bin of the same film.
    let _held = app.with(umlauf_store::Store::hold_folders).await?;
    let wanted = content.clone();
    let (known, session) = app
        .with(move |s| {
            let shown = s.shown_sessions()?;
            Ok((s.clips_of_content(&wanted)?, session.filter(|id| shown.contains(id))))
        })
        .await?;
    if let Some(clip) = known.first() {
        mend(app, &content, &clip.footage.file, file).await?;
    }
    let same = known.iter().find(|c| !c.removed && (session.is_none() || c.session == session));
    if let Some(clip) = same {
        return Ok(Taken::Known(clip.id));
    }
    let stored = match known.first() {
        Some(clip) => clip.footage.file.clone(),
        None => {
            let stored = format!("original.{}", ending(name));
            let (loose, folder) = (content.clone(), app.store.footage_folder(&content));
            app.with(move |s| s.loosen(&loose)).await?;
            let (from, to) = (file.to_owned(), folder.join(&stored));
            tokio::task::spawn_blocking(move || put(&from, &folder, &to)).await??;
            stored
        }
    };
    let footage = Footage {
        content,
        file: stored,
        bytes,
        frame_rate: probed.frame_rate(),
        codec: probed.codec,
        width: probed.width,
        height: probed.height,
        rotation: probed.rotation,
        tagged_rate: probed.tagged_rate,
        recorded: probed.recorded,
    };
    let name = clip_name(name);
    let id = app
        .with(move |s| {
            let id = s.add_clip(session, &name, &footage, &probed.frame_times)?;
            if probed.has_sound {
                s.add_job(id, JobKind::Sound)?;
            }
            s.add_job(id, JobKind::Proxy)?;
            s.add_job(id, JobKind::Filmstrip)?;
            if s.choice(FINDS_NOTHING)?.is_none() {
                s.add_job(id, JobKind::Footfalls)?;
            }
            Ok(id)
        })
        .await?;
    app.wake();
    Ok(Taken::New(id))
}

/// Where the film that is kept of this content is missing or damaged, this one takes its place.
async fn mend(app: &Arc<App>, content: &str, stored: &str, file: &Path) -> Result<(), Refused> {
    let folder = app.store.footage_folder(content);
    let (from, to, content) = (file.to_owned(), folder.join(stored), content.to_owned());
    tokio::task::spawn_blocking(move || {
        if hash(&to).is_ok_and(|is| is == content) { Ok(()) } else { put(&from, &folder, &to) }
    })
    .await??;
    Ok(())
}

/// Puts a film into its content's folder, for good: whatever happens to the machine from here on, it is there. Where the
/// disk can do so the file it came as stays beside it until its clip is there too.
fn put(from: &Path, folder: &Path, to: &Path) -> std::io::Result<()> {
    std::fs::create_dir_all(folder)?;
    // What lies there is of no clip.
    let _ = std::fs::remove_file(to);
    if std::fs::hard_link(from, to).is_err() {
        std::fs::rename(from, to)?;
    }
    std::fs::File::open(to)?.sync_all()?;
    for folder in [Some(folder), folder.parent()].into_iter().flatten() {
        std::fs::File::open(folder)?.sync_all()?;
    }
    Ok(())
}

/// The file's ending, if it is one of films: what else it calls itself is not taken over.
fn ending(name: &str) -> String {
    let ending = name.rsplit_once('.').map(|(_, e)| e.to_ascii_lowercase());
    ending.filter(|e| kind_of_film(e).is_some()).unwrap_or_else(|| "video".to_owned())
}

/// A clip's name: the file's without its ending.
fn clip_name(name: &str) -> String {
    let base = name.rsplit(['/', '\\']).next().unwrap_or(name);
    let stem = base.rsplit_once('.').map_or(base, |(stem, _)| stem).trim();
    if stem.is_empty() { "clip".into() } else { stem.into() }
}
