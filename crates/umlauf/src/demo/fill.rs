//! The demo yard: horses of Watthof with sessions and clips made by the synthetic horse.

use std::sync::Arc;

use anyhow::{Context as _, Result};

use crate::app::App;
use crate::demo::clips::{CLIPS, add};
use crate::demo::season;

/// Fills an empty yard with the demo's horses; a yard with horses in it is left as it is.
///
/// # Errors
/// When a clip cannot be written or read.
pub async fn fill(app: &Arc<App>) -> Result<()> {
    if !app.store.horses()?.is_empty() {
        return Ok(());
    }
    for clip in CLIPS {
        add(app, clip).await.with_context(|| format!("demo clip {}", clip.file))?;
    }
    season::fill(&app.store, season::DEMO).context("the demo's season")
}
