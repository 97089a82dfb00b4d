//! The whole yard as a download, and back again.

use std::io::{BufWriter, Write};
use std::sync::Arc;

use axum::body::Body;
use axum::http::{HeaderValue, header};
use axum::response::Response;
use futures_util::{StreamExt as _, stream};
use serde::Serialize;
use tokio::io::AsyncWriteExt as _;
use tokio::sync::mpsc::Sender;
use umlauf_store::StoreError;
use utoipa::ToSchema;
use zip::ZipWriter;

use crate::api::extract::{Answer, State};
use crate::archive::export::{self, Films};
use crate::archive::restore::{Restored, restore};
use crate::archive_error::ArchiveError;
use crate::problem::Problem;
use crate::refused::Refused;

/// The whole yard as a ZIP of JSON, CSV and footage, packed while it is sent.
#[utoipa::path(get, path = "/api/export",
    responses((status = 200, content_type = "application/zip", body = Vec<u8>), (status = "5XX", body = Problem, content_type = "application/problem+json")))]
pub async fn export(state: State) -> Result<Response, Refused> {
    let turn = Arc::clone(&state.along[0]).try_acquire_owned().map_err(|_| Refused::TooMany)?;
    let app = Arc::clone(&state);
    // A few blocks wait at most: whoever takes them slowly holds up nothing but this.
    let (send, receive) = tokio::sync::mpsc::channel(4);
    tokio::task::spawn_blocking(move || {
        let _turn = turn;
        let out = BufWriter::with_capacity(BLOCK, Sending(send.clone()));
        if let Err(e) = export::export(&app.store, ZipWriter::new_stream(out), Films::Inside) {
            tracing::warn!("the yard is not packed: {e}");
            // The download breaks off, and is not taken for a whole one.
            let _ = send.blocking_send(Err(std::io::Error::other(e)));
        }
    });
    let blocks = stream::unfold(receive, |mut from| async { Some((from.recv().await?, from)) });
    let mut response = Response::new(Body::from_stream(blocks));
    let headers = response.headers_mut();
    headers.insert(header::CONTENT_TYPE, HeaderValue::from_static("application/zip"));
    headers.insert(
        header::CONTENT_DISPOSITION,
        HeaderValue::from_static("attachment; filename=\"yard.umlauf.zip\""),
    );
    Ok(response)
}

const BLOCK: usize = 1 << 18;

/// What is written goes out.
struct Sending(Sender<std::io::Result<Vec<u8>>>);

impl Write for Sending {
    fn write(&mut self, block: &[u8]) -> std::io::Result<usize> {
        let gone = |_| std::io::Error::from(std::io::ErrorKind::BrokenPipe);
        self.0.blocking_send(Ok(block.to_vec())).map_err(gone)?;
        Ok(block.len())
    }

    fn flush(&mut self) -> std::io::Result<()> {
        Ok(())
    }
}

/// What came back from a ZIP.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct BroughtBack {
    /// Horses.
    pub horses: usize,
    /// Clips.
    pub clips: usize,
    /// Films.
    pub films: usize,
    /// What did not come back, in words.
    pub lacks: Option<String>,
}

impl BroughtBack {
    /// In words: what came back, and what was passed over for it.
    pub fn of(restored: &Restored, passed_over: &[String]) -> Self {
        let Restored { horses, clips, films, .. } = *restored;
        let lacks: Vec<String> = passed_over.iter().cloned().chain(restored.lacks()).collect();
        let lacks = (!lacks.is_empty()).then(|| lacks.join("; "));
        Self { horses, clips, films, lacks }
    }
}

/// Puts a yard back from its ZIP, all of its tables or nothing, and the films that are sound; only where there is none yet.
#[utoipa::path(post, path = "/api/import",
    request_body(content = Vec<u8>, content_type = "application/zip"),
    responses((status = 200, body = BroughtBack), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn import(state: State, body: Body) -> Answer<BroughtBack> {
    // Refused before gigabytes are sent, and again when they have come.
    if state.with(|s| Ok(!s.tables_are_empty()?)).await? {
        let says = StoreError::Invalid(umlauf_store::archive::NOT_EMPTY.to_owned());
        return Err(says.into());
    }
    let _turn = state.along[1].try_acquire().map_err(|_| ArchiveError::Busy)?;
    let folder = state.store.incoming_folder();
    let packed = tempfile::NamedTempFile::new_in(folder)?;
    let mut file = tokio::fs::File::from_std(packed.reopen()?);
    let mut stream = body.into_data_stream();
    while let Some(block) = stream.next().await {
        let block = block.map_err(|_| {
            Refused::BrokenOff("the connection broke off; nothing was put back: send the ZIP again")
        })?;
        file.write_all(&block).await?;
    }
    file.flush().await?;
    let app = Arc::clone(&state);
    let restored =
        tokio::task::spawn_blocking(move || restore(&app.store, packed.path())).await??;
    state.wake();
    Ok(axum::Json(BroughtBack::of(&restored, &[])))
}
