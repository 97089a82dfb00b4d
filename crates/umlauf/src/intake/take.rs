//! A file is taken into the yard as a clip.

use std::path::Path;
use std::sync::Arc;

use umlauf_footage::probe;
use umlauf_store::clip::Footage;
use umlauf_store::job::JobKind;

use crate::app::App;
use crate::choices::FINDS_NOTHING;
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

/// Takes a file into the yard: probes it, moves it to its content's folder and queues the work
/// on it. The same file added to the same session again is the clip that is there.
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
    let wanted = content.clone();
    let known = app.with(move |s| s.clips_of_content(&wanted)).await?;
    let same = known.iter().find(|c| !c.removed && (session.is_none() || c.session == session));
    if let Some(clip) = same {
        return Ok(Taken::Known(clip.id));
    }
    let stored = match known.first() {
        Some(clip) => clip.footage.file.clone(),
        None => {
            let stored = format!("original.{}", ending(name));
            let folder = app.store.footage_folder(&content);
            tokio::fs::create_dir_all(&folder).await?;
            tokio::fs::rename(file, folder.join(&stored)).await?;
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

/// BLAKE3 of a file, hexadecimal.
fn hash(path: &Path) -> std::io::Result<String> {
    let mut hasher = blake3::Hasher::new();
    hasher.update_reader(std::fs::File::open(path)?)?;
    Ok(hasher.finalize().to_hex().to_string())
}

/// The file's ending, if it is a plain one.
fn ending(name: &str) -> String {
    let plain =
        |e: &&str| (1..=5).contains(&e.len()) && e.bytes().all(|b| b.is_ascii_alphanumeric());
    name.rsplit_once('.').map(|(_, e)| e).filter(plain).unwrap_or("video").to_ascii_lowercase()
}

/// A clip's name: the file's without its ending.
fn clip_name(name: &str) -> String {
    let base = name.rsplit(['/', '\\']).next().unwrap_or(name);
    let stem = base.rsplit_once('.').map_or(base, |(stem, _)| stem).trim();
    if stem.is_empty() { "clip".into() } else { stem.into() }
}
