//! Errors over HTTP: `application/problem+json` (RFC 9457), written for people. Here alone a refusal
//! becomes a status and a name for programs.

use std::io::ErrorKind;

use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use umlauf_footage::FootageError;
use umlauf_store::StoreError;
use utoipa::ToSchema;
use zip::result::ZipError;

use crate::archive_error::ArchiveError;
use crate::refused::Refused;

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

/// Said when the program itself failed.
const FAILED: &str = "Umlauf failed at this; nothing saved before is lost. Try again, and look at the server's messages if it stays";

/// Status and name of a refusal; `None` when the program itself failed.
fn status(e: &Refused) -> Option<(StatusCode, &'static str)> {
    use StatusCode as S;
    Some(match e {
        Refused::Invalid(_) => (S::UNPROCESSABLE_ENTITY, "invalid"),
        Refused::Unreadable(_) => (S::BAD_REQUEST, "bad-request"),
        Refused::Missing(_) => (S::NOT_FOUND, "not-found"),
        Refused::WrongMethod => (S::METHOD_NOT_ALLOWED, "method-not-allowed"),
        Refused::ForeignName => (S::FORBIDDEN, "foreign-name"),
        Refused::OtherYard => (S::CONFLICT, "other-yard"),
        Refused::SignIn => (S::UNAUTHORIZED, "sign-in"),
        Refused::WrongPassword => (S::UNAUTHORIZED, "wrong-password"),
        Refused::Wait { .. } => (S::TOO_MANY_REQUESTS, "wait"),
        Refused::UnderAge(_) => (S::CONFLICT, "under-age"),
        Refused::NotYours(_) => (S::FORBIDDEN, "not-yours"),
        Refused::Busy(_) => (S::CONFLICT, "busy"),
        Refused::TooMany => (S::SERVICE_UNAVAILABLE, "too-many"),
        Refused::BrokenOff(_) => (S::BAD_REQUEST, "broken-off"),
        Refused::TooMuch { code, .. } => (S::PAYLOAD_TOO_LARGE, code),
        Refused::WrongPlace { .. } => (S::CONFLICT, "wrong-place"),
        Refused::NotWhole { .. } => (S::CONFLICT, "not-whole"),
        Refused::BadRequest { status, .. } => {
            (S::from_u16(*status).unwrap_or(S::BAD_REQUEST), "bad-request")
        }
        Refused::Store(e) | Refused::Archive(ArchiveError::Store(e)) => return of_store(e),
        Refused::Footage(FootageError::NotVideo(_) | FootageError::NoFrames) => {
            (S::UNPROCESSABLE_ENTITY, "not-video")
        }
        Refused::Footage(FootageError::ToolMissing(_)) => (S::SERVICE_UNAVAILABLE, "tool-missing"),
        Refused::Footage(FootageError::Io(e)) | Refused::Io(e) => return of_io(e),
        Refused::Archive(
            ArchiveError::Io(e)
            | ArchiveError::FilmWrite { cause: e, .. }
            | ArchiveError::Pack { cause: e, .. }
            | ArchiveError::Write(ZipError::Io(e)),
        ) => return of_io(e),
        Refused::Archive(ArchiveError::Document(e)) if e.io_error_kind().is_some_and(is_full) => {
            FULL
        }
        Refused::Archive(ArchiveError::Table(e)) if matches!(e.kind(), csv::ErrorKind::Io(e) if is_full(e.kind())) => {
            FULL
        }
        Refused::Footage(_) => (S::UNPROCESSABLE_ENTITY, "footage"),
        Refused::Table(_) => (S::UNPROCESSABLE_ENTITY, "table"),
        Refused::Archive(_) => (S::UNPROCESSABLE_ENTITY, "invalid"),
        Refused::Failed(_) => return None,
    })
}

fn of_store(e: &StoreError) -> Option<(StatusCode, &'static str)> {
    use StatusCode as S;
    Some(match e {
        StoreError::NotFound { .. } | StoreError::Missing(_) => (S::NOT_FOUND, "not-found"),
        StoreError::Conflict => (S::CONFLICT, "conflict"),
        StoreError::Full => FULL,
        StoreError::Invalid(_) => (S::UNPROCESSABLE_ENTITY, "invalid"),
        _ => return None,
    })
}

const FULL: (StatusCode, &str) = (StatusCode::INSUFFICIENT_STORAGE, "disk-full");

fn of_io(e: &std::io::Error) -> Option<(StatusCode, &'static str)> {
    is_full(e.kind()).then_some(FULL)
}

fn is_full(kind: ErrorKind) -> bool {
    matches!(kind, ErrorKind::StorageFull | ErrorKind::QuotaExceeded)
}

impl From<Refused> for Problem {
    fn from(e: Refused) -> Self {
        let (status, code, detail) = match status(&e) {
            // A full disk is told in the same words wherever it is met.
            Some((status, code @ "disk-full")) => (status, code, StoreError::Full.to_string()),
            Some((status, code)) => (status, code, e.to_string()),
            None => {
                tracing::error!("{e}");
                (StatusCode::INTERNAL_SERVER_ERROR, "internal", FAILED.to_owned())
            }
        };
        let received = match e {
            Refused::WrongPlace { received } | Refused::NotWhole { received, .. } => Some(received),
            _ => None,
        };
        Self {
            code: code.to_owned(),
            title: status.canonical_reason().unwrap_or("Error").to_owned(),
            status: status.as_u16(),
            detail,
            received,
        }
    }
}

impl IntoResponse for Problem {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        let body = serde_json::to_vec(&self).unwrap_or_default();
        (status, [(header::CONTENT_TYPE, "application/problem+json")], body).into_response()
    }
}

impl IntoResponse for Refused {
    fn into_response(self) -> Response {
        Problem::from(self).into_response()
    }
}

#[cfg(test)]
mod tests {
    use super::{ArchiveError, ErrorKind, FAILED, Problem, Refused, StatusCode, ZipError};
    use umlauf_store::StoreError;

    #[test]
    fn a_refusal_says_its_sentence_and_a_failure_hides_its_cause() {
        let refused = Problem::from(Refused::from(StoreError::Missing("there is no such clip")));
        assert_eq!((refused.status, refused.code.as_str()), (404, "not-found"));
        assert_eq!(refused.detail, "there is no such clip");
        let failed = Problem::from(Refused::Failed("secret path /etc".into()));
        assert_eq!(failed.status, StatusCode::INTERNAL_SERVER_ERROR.as_u16());
        assert_eq!(failed.detail, FAILED);
    }

    #[test]
    fn a_full_disk_is_one_problem_wherever_it_is_met() {
        let full = || std::io::Error::from(ErrorKind::StorageFull);
        let b = Problem::from(Refused::from(StoreError::Full));
        for met in [
            Refused::Io(full()),
            ArchiveError::Io(full()).into(),
            ArchiveError::Write(ZipError::Io(full())).into(),
            ArchiveError::Table(csv::Error::from(full())).into(),
            ArchiveError::Document(serde_json::Error::io(full())).into(),
        ] {
            let a = Problem::from(met);
            assert_eq!((a.status, &a.code, &a.detail), (b.status, &b.code, &b.detail));
        }
    }

    #[test]
    fn an_upload_says_how_far_it_has_come() {
        let problem = Problem::from(Refused::NotWhole { received: 7, bytes: 9 });
        assert_eq!((problem.status, problem.received), (409, Some(7)));
        assert_eq!(problem.detail, "7 of 9 bytes have arrived; send the rest");
    }
}
