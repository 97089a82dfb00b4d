//! Things taken away: to be had back until the bin is emptied.

use axum::http::StatusCode;
use serde::Serialize;
use umlauf_store::clip::Clip;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::api::extract::{Answer, Path, State};
use crate::dates::now_ms;
use crate::problem::Problem;
use crate::refused::Refused;
use crate::share::film;

/// What may be in the bin.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum RemovedKind {
    /// A clip.
    Clip,
    /// A session with its clips.
    Session,
    /// A horse with its sessions.
    Horse,
}

/// Something in the bin.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Removed {
    /// What it is.
    pub kind: RemovedKind,
    /// Number.
    pub id: i64,
    /// Name, or a session's date.
    pub name: String,
}

/// Disk space of the yard, bytes.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Space {
    /// Originals, proxies and filmstrips.
    pub footage: u64,
    /// Of these, what emptying the bin would free.
    pub removed: u64,
    /// What is in the bin.
    pub bin: Vec<Removed>,
}

macro_rules! removable {
    ($($path:literal, $name:literal, $remove:ident, $restore:ident, $what:literal);+ $(;)?) => {$(
        #[doc = concat!("Takes ", $what, " away; it can be had back.")]
        #[utoipa::path(delete, path = $path, params(($name = i64, Path,)),
            responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
        pub async fn $remove(state: State, Path(id): Path<i64>) -> Result<StatusCode, Refused> {
            let stopped = state.take_away(move |s| {
                s.$remove(id, true)?;
                s.put_back_jobs()
            }).await?;
            stopped.into_iter().for_each(|job| state.stop_job(job));
            Ok(StatusCode::NO_CONTENT)
        }

        #[doc = concat!("Brings ", $what, " back.")]
        #[utoipa::path(post, path = concat!($path, "/restore"), params(($name = i64, Path,)),
            responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
        pub async fn $restore(state: State, Path(id): Path<i64>) -> Result<StatusCode, Refused> {
            state.with(move |s| s.$remove(id, false)).await?;
            state.wake();
            Ok(StatusCode::NO_CONTENT)
        }
    )+};
}

removable!(
    "/api/clips/{clip}", "clip", remove_clip, restore_clip, "a clip";
    "/api/sessions/{session}", "session", remove_session, restore_session, "a session";
    "/api/horses/{horse}", "horse", remove_horse, restore_horse, "a horse";
);

/// How much disk the footage takes.
#[utoipa::path(get, path = "/api/space", responses((status = 200, body = Space)))]
pub async fn space(state: State) -> Answer<Space> {
    state
        .read(|s| {
            let clips = s.all_clips()?;
            let size = |content: &str| folder_size(&s.footage_folder(content));
            let mut contents: Vec<&str> =
                clips.iter().map(|c| c.footage.content.as_str()).collect();
            contents.sort_unstable();
            contents.dedup();
            let shown = s.shown_sessions()?;
            let here = |c: &Clip| !c.removed && c.session.is_none_or(|id| shown.contains(&id));
            let kept =
                |content: &str| clips.iter().any(|c| here(c) && c.footage.content == content);
            Ok(Space {
                footage: contents.iter().map(|c| size(c)).sum(),
                removed: contents.iter().filter(|c| !kept(c)).map(|c| size(c)).sum(),
                bin: bin(s, &clips)?,
            })
        })
        .await
        .map(axum::Json)
}

/// Removes for good what is in the bin, with its footage; nothing of it can be read in the yard's file any more.
#[utoipa::path(post, path = "/api/space/empty", responses((status = 200, body = Space)))]
pub async fn empty(state: State) -> Answer<Space> {
    let held = state.with(umlauf_store::Store::hold_folders).await?;
    let contents = state.take_away(umlauf_store::Store::purge_removed).await?;
    for content in contents {
        let gone = tokio::fs::remove_dir_all(state.store.footage_folder(&content)).await;
        // A ride that came as a table has no folder.
        if let Err(e) = gone
            && e.kind() != std::io::ErrorKind::NotFound
        {
            return Err(e.into());
        }
        state.take_away(move |s| s.let_go(&content)).await?;
    }
    drop(held);
    // What was made of them for others goes too.
    state.take_away(|s| film::swept(s, now_ms(), false)).await?;
    if let Err(e) = state.with(umlauf_store::Store::scrub).await {
        // What was deleted is overwritten in the file; its log is emptied at the next start.
        tracing::warn!("the yard's file does not get smaller: {e}");
    }
    space(state).await
}

fn bin(store: &Store, clips: &[Clip]) -> Result<Vec<Removed>, StoreError> {
    let horses = store.removed_horses()?.into_iter();
    let sessions = store.removed_sessions()?.into_iter();
    let clips = clips.iter().filter(|c| c.removed);
    Ok(horses
        .map(|h| Removed { kind: RemovedKind::Horse, id: h.id, name: h.card.name })
        .chain(sessions.map(|s| Removed { kind: RemovedKind::Session, id: s.id, name: s.date }))
        .chain(clips.map(|c| Removed { kind: RemovedKind::Clip, id: c.id, name: c.name.clone() }))
        .collect())
}

fn folder_size(folder: &std::path::Path) -> u64 {
    let files = std::fs::read_dir(folder).into_iter().flatten().flatten();
    files.filter_map(|f| f.metadata().ok()).map(|m| m.len()).sum()
}
