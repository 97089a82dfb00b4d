//! Errors over HTTP: `application/problem+json` (RFC 9457), written for people.

use axum::extract::rejection::{JsonRejection, PathRejection, QueryRejection};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use umlauf_footage::FootageError;
use umlauf_gait::marks::table::TableError;
use umlauf_store::StoreError;
use utoipa::ToSchema;

/// What went wrong, where, and what to do.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Problem {
    /// A short name for programs.
    pub code: String,
    /// A few words.
    pub title: String,
    /// The HTTP status.
    pub status: u16,
    /// The sentence for people.
    pub detail: String,
    /// Uploads: bytes that have arrived.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub received: Option<u64>,
}

impl Problem {
    /// A problem with a status, a name for programs and a sentence for people.
    pub fn new(status: StatusCode, code: &str, detail: impl Into<String>) -> Self {
        Self {
            code: code.to_owned(),
            title: status.canonical_reason().unwrap_or("Error").to_owned(),
            status: status.as_u16(),
            detail: detail.into(),
            received: None,
        }
    }

    /// The server itself failed; the cause is logged, not shown.
    pub fn internal(cause: &dyn std::fmt::Display) -> Self {
        tracing::error!("{cause}");
        Self::new(
            StatusCode::INTERNAL_SERVER_ERROR,
            "internal",
            "Umlauf failed at this; nothing saved before is lost. Try again, and look at the server's messages if it stays",
        )
    }
}

impl IntoResponse for Problem {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        let body = serde_json::to_vec(&self).unwrap_or_default();
        (status, [(header::CONTENT_TYPE, "application/problem+json")], body).into_response()
    }
}

impl From<StoreError> for Problem {
    fn from(e: StoreError) -> Self {
        let says = e.to_string();
        match e {
            StoreError::NotFound { .. } | StoreError::Missing(_) => {
                Self::new(StatusCode::NOT_FOUND, "not-found", says)
            }
            StoreError::Conflict => Self::new(StatusCode::CONFLICT, "conflict", says),
            StoreError::Full => Self::new(StatusCode::INSUFFICIENT_STORAGE, "disk-full", says),
            StoreError::Invalid(_) => Self::new(StatusCode::UNPROCESSABLE_ENTITY, "invalid", says),
            other => Self::internal(&other),
        }
    }
}

impl From<FootageError> for Problem {
    fn from(e: FootageError) -> Self {
        let says = e.to_string();
        match e {
            FootageError::NotVideo(_) | FootageError::NoFrames => {
                Self::new(StatusCode::UNPROCESSABLE_ENTITY, "not-video", says)
            }
            FootageError::ToolMissing(_) => {
                Self::new(StatusCode::SERVICE_UNAVAILABLE, "tool-missing", says)
            }
            FootageError::Io(e) => e.into(),
            other => Self::new(StatusCode::UNPROCESSABLE_ENTITY, "footage", other.to_string()),
        }
    }
}

impl From<std::io::Error> for Problem {
    fn from(e: std::io::Error) -> Self {
        if matches!(e.kind(), std::io::ErrorKind::StorageFull | std::io::ErrorKind::QuotaExceeded) {
            Self::from(StoreError::Full)
        } else {
            Self::internal(&e)
        }
    }
}

impl From<TableError> for Problem {
    fn from(e: TableError) -> Self {
        Self::new(StatusCode::UNPROCESSABLE_ENTITY, "table", e.to_string())
    }
}

macro_rules! from_rejection {
    ($($rejection:ty => $what:literal),+) => {$(
        impl From<$rejection> for Problem {
            fn from(e: $rejection) -> Self {
                Self::new(e.status(), "bad-request", format!(concat!($what, ": {}"), e.body_text()))
            }
        }
    )+};
}

from_rejection!(
    JsonRejection => "the request's JSON cannot be used",
    PathRejection => "the address cannot be used",
    QueryRejection => "the address's options cannot be used"
);
