//! What there is to choose from, over HTTP.

use axum::Json;

use crate::vocabulary::{Vocabulary, vocabulary};

/// Movements, exercises and gaits by their names in files and in words.
#[utoipa::path(get, path = "/api/vocabulary", responses((status = 200, body = Vocabulary)))]
pub async fn read() -> Json<Vocabulary> {
    Json(vocabulary())
}
