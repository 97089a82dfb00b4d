//! The film that a link shows: made once, kept beside the yard's films under the link's number, and gone with the link.

use std::path::PathBuf;
use std::sync::Arc;

use umlauf_footage::share;
use umlauf_store::clip::ProxyState;
use umlauf_store::link::{Link, Shows};
use umlauf_store::{Store, StoreError};

use crate::app::App;
use crate::jobs::UNFINISHED;
use crate::refused::Refused;

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
    let Shows::Film { clip, silent, blurred: _ } = link.shows else {
        return Err(Refused::Missing("this link shows no film"));
    };
    let clip = app.with(move |s| s.clip(clip)).await?;
    let folder = app.store.footage_folder(&clip.footage.content);
    let from = match clip.proxy {
        ProxyState::Ready => folder.join("proxy.mp4"),
        _ => folder.join(&clip.footage.file),
    };
    if !silent {
        return Ok(from);
    }
    // One at a time, and one that two ask for is made once.
    let _turn = app.sharing.lock().await;
    let made = file(&app.store, link.id);
    if tokio::fs::try_exists(&made).await? {
        return Ok(made);
    }
    tokio::fs::create_dir_all(app.store.folder().join(FOLDER)).await?;
    let half = app.store.folder().join(FOLDER).join(format!("{}{UNFINISHED}.mp4", link.id));
    share::silent(&from, clip.length_s, &half).await?;
    tokio::fs::rename(&half, &made).await?;
    Ok(made)
}

/// Lets films go whose links have ended, and what was half made of others.
///
/// # Errors
/// When the yard cannot be read, or a file not be removed.
pub fn swept(store: &Store, now_ms: i64) -> Result<(), StoreError> {
    let links = store.links(now_ms)?;
    let files = std::fs::read_dir(store.folder().join(FOLDER)).into_iter().flatten().flatten();
    for file in files {
        let name = file.file_name();
        let id = name.to_str().and_then(|n| n.strip_suffix(".mp4")?.parse::<i64>().ok());
        if !links.iter().any(|l| Some(l.id) == id) {
            std::fs::remove_file(file.path()).map_err(|source| StoreError::Io {
                what: "the film of a link that has ended cannot be removed".into(),
                source,
            })?;
        }
    }
    Ok(())
}
