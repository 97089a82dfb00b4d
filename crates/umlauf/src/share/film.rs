//! The film that a link shows: made once, kept beside the yard's films under the link's number, and gone with the link.

use std::path::{Path, PathBuf};
use std::sync::Arc;

use umlauf_footage::probe::probe;
use umlauf_footage::share::{self, Hidden};
use umlauf_store::clip::ProxyState;
use umlauf_store::link::{Link, Shows};
use umlauf_store::{Store, StoreError};

use crate::app::App;
use crate::jobs::UNFINISHED;
use crate::problem::Problem;
use crate::refused::Refused;
use crate::share::heads::heads;

/// Folder of films that links show.
const FOLDER: &str = "shared";

/// Where a link's film is, made or not.
fn file(store: &Store, link: i64) -> PathBuf {
    store.folder().join(FOLDER).join(format!("{link}.mp4"))
}

/// The film that a link shows, made the first time that somebody asks.
///
/// # Errors
/// When there is no such film, or it cannot be made.
pub async fn film(app: &Arc<App>, link: &Link) -> Result<PathBuf, Refused> {
    let Shows::Film { clip, silent, blurred } = link.shows else {
        return Err(Refused::Missing("this link shows no film"));
    };
    let clip = app.with(move |s| s.clip(clip)).await?;
    let folder = app.store.footage_folder(&clip.footage.content);
    let from = match clip.proxy {
        ProxyState::Ready => folder.join("proxy.mp4"),
        _ => folder.join(&clip.footage.file),
    };
    if !silent && !blurred {
        return Ok(from);
    }
    // One at a time, and one that two ask for is made once.
    let mut failed = app.sharing.lock().await;
    let made = file(&app.store, link.id);
    if tokio::fs::try_exists(&made).await? {
        return Ok(made);
    }
    // What could not be made is not tried again by whoever loads the page once more.
    if let Some(why) = failed.get(&link.id) {
        return Err(Refused::invalid(why.clone()));
    }
    tokio::fs::create_dir_all(app.store.folder().join(FOLDER)).await?;
    let half = app.store.folder().join(FOLDER).join(format!("{}{UNFINISHED}.mp4", link.id));
    let done = if blurred {
        hidden(&from, silent, &half).await
    } else {
        share::silent(&from, clip.length_s, &half).await.map_err(Refused::from)
    };
    if let Err(e) = done {
        // Whoever has the link reads it: what the program failed at is logged, not shown.
        let why = Problem::from(e).detail;
        failed.insert(link.id, why.clone());
        return Err(Refused::invalid(why));
    }
    // The link may have been ended meanwhile: nothing of it is left.
    let id = link.id;
    if app.with(move |s| s.links(0)).await?.iter().any(|l| l.id == id) {
        tokio::fs::rename(&half, &made).await?;
        Ok(made)
    } else {
        tokio::fs::remove_file(&half).await?;
        Err(Refused::Missing("this link has ended"))
    }
}

/// The film with the rider's head made unsharp.
async fn hidden(from: &Path, silent: bool, into: &Path) -> Result<(), Refused> {
    let probe = probe(from).await?;
    let parts = heads(from, &probe).await.map_err(|e| Refused::Failed(format!("{e:#}")))?;
    if parts.iter().all(Option::is_none) {
        return Err(Refused::invalid(
            "no horse is seen in this film, so nothing says where a head is: cut it, or give it with the head",
        ));
    }
    let size = (probe.width, probe.height);
    let film = Hidden { times: &probe.frame_times, size, parts: &parts, silent };
    Ok(share::hidden(from, film, into).await?)
}

/// How far a link's film is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum State {
    /// It can be shown.
    Ready,
    /// It is being made.
    Making,
    /// It cannot be made: why.
    Failed(String),
}

/// How far a link's film is; one that is not there is begun.
pub async fn state(app: &Arc<App>, link: &Link) -> State {
    let made = file(&app.store, link.id);
    let plain = matches!(link.shows, Shows::Film { silent: false, blurred: false, .. });
    if plain || tokio::fs::try_exists(&made).await.unwrap_or(false) {
        return State::Ready;
    }
    let failed = app.sharing.try_lock().map(|failed| failed.get(&link.id).cloned());
    match failed {
        Ok(Some(why)) => State::Failed(why),
        // Another is being made, or this one.
        Err(_) => State::Making,
        Ok(None) => {
            let (app, link) = (Arc::clone(app), link.clone());
            tokio::spawn(async move {
                if let Err(e) = film(&app, &link).await {
                    tracing::warn!("the film of a link is not made: {e}");
                }
            });
            State::Making
        }
    }
}

/// Lets films go whose links have ended; at a start, when none is being made, also what was half made of others.
///
/// # Errors
/// When the yard cannot be read, or a file not be removed.
pub fn swept(store: &Store, now_ms: i64, halves: bool) -> Result<(), StoreError> {
    let links = store.links(now_ms)?;
    let files = std::fs::read_dir(store.folder().join(FOLDER)).into_iter().flatten().flatten();
    for file in files {
        let name = file.file_name();
        let (id, rest) = name.to_str().and_then(|n| n.split_once('.')).unwrap_or_default();
        let is_of_one = id.parse().is_ok_and(|id: i64| links.iter().any(|l| l.id == id));
        if is_of_one && (rest == "mp4" || !halves) {
            continue;
        }
        match std::fs::remove_file(file.path()) {
            Err(e) if e.kind() != std::io::ErrorKind::NotFound => {
                return Err(StoreError::Io {
                    what: "the film of a link that has ended cannot be removed".into(),
                    source: e,
                });
            }
            _ => {}
        }
    }
    Ok(())
}
