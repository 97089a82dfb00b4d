//! Whether the yard is whole, and its second copy.

use std::path::PathBuf;

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::api::archive::BroughtBack;
use crate::api::extract::{Answer, Json, State};
use crate::api::folder::real;
use crate::backup::daily;
use crate::backup::put_back::put_back;
use crate::check::finding::Finding;
use crate::choices::BACKUP_FOLDER;
use crate::problem::Problem;
use crate::refused::Refused;
use crate::watchman;

/// What is wrong with the yard.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Findings {
    /// Each with what to do; none when all that was looked at is well.
    pub findings: Vec<Finding>,
}

/// What is wrong with the yard, as far as it was looked at since it was opened.
#[utoipa::path(get, path = "/api/check", responses((status = 200, body = Findings)))]
pub async fn check(state: State) -> Answer<Findings> {
    Ok(axum::Json(Findings { findings: state.findings() }))
}

/// Backups of the yard.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Backups {
    /// Folder on the server's machine that they go into; `null`: none are made.
    pub folder: Option<String>,
    /// Day of the last good one.
    #[schema(value_type = Option<String>, format = Date)]
    pub last: Option<Date>,
    /// Films that are not in it as they should be, each with why.
    pub lacks: Vec<String>,
    /// Why the latest could not be made.
    pub trouble: Option<String>,
    /// Whether one is being made.
    pub at_work: bool,
}

/// Where backups go, and the last good one.
#[utoipa::path(get, path = "/api/backups", responses((status = 200, body = Backups)))]
pub async fn backups(state: State) -> Answer<Backups> {
    let (folder, last) = state.read(|s| Ok((daily::folder(s)?, daily::last(s)?))).await?;
    let folder = folder.map(|f| f.to_string_lossy().into_owned());
    let (last, lacks) = last.map_or((None, vec![]), |l| (Some(l.day), l.lacks));
    let trouble = state.backing_up.try_lock().map(|trouble| trouble.clone());
    let at_work = trouble.is_err();
    let trouble = trouble.ok().flatten();
    Ok(axum::Json(Backups { folder, last, lacks, trouble, at_work }))
}

/// A folder on the server's machine.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Folder {
    /// Its way from the root; `null`: none.
    folder: Option<String>,
}

impl Folder {
    /// The folder, when it is there and no part of the yard itself.
    async fn there(&self, state: &State) -> Result<Option<PathBuf>, Refused> {
        let Some(folder) = self.folder.as_deref().map(str::trim).filter(|f| !f.is_empty()) else {
            return Ok(None);
        };
        let real = real(folder).await?;
        if real.starts_with(tokio::fs::canonicalize(state.store.folder()).await?) {
            return Err(Refused::invalid(format!(
                "{folder} is in the yard’s own folder: what befalls the one befalls the other. Give a stick or a network drive"
            )));
        }
        Ok(Some(real))
    }
}

/// Chooses the folder that backups go into.
#[utoipa::path(put, path = "/api/backups", request_body = Folder,
    responses((status = 200, body = Backups), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn choose(state: State, Json(new): Json<Folder>) -> Answer<Backups> {
    let folder = new.there(&state).await?.map(|f| f.to_string_lossy().into_owned());
    state.with(move |s| s.set_choice(BACKUP_FOLDER, folder.as_deref())).await?;
    backups(state).await
}

/// Makes today's backup now.
#[utoipa::path(post, path = "/api/backups",
    responses((status = 200, body = Backups), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn back_up(state: State) -> Answer<Backups> {
    watchman::back_up(&state).await?;
    backups(state).await
}

/// Puts a yard back from the latest sound backup in a folder of the server's machine; only where there is none yet.
#[utoipa::path(post, path = "/api/backups/restore", request_body = Folder,
    responses((status = 200, body = BroughtBack), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn restore(state: State, Json(from): Json<Folder>) -> Answer<BroughtBack> {
    let folder = from.there(&state).await?;
    let folder =
        folder.ok_or_else(|| Refused::invalid("give the folder that the backups are in"))?;
    let (restored, passed_over) = state.ask(move |s| Ok(put_back(s, &folder)?)).await?;
    state.wake();
    Ok(axum::Json(BroughtBack::of(&restored, &passed_over)))
}
