//! What was said of a clip and cannot be.

use thiserror::Error;
use umlauf_store::StoreError;

use crate::refused::Refused;

/// A sentence for the coach: what cannot be, and within which limits it can.
#[derive(Clone, Copy, Debug, Error, PartialEq, Eq)]
#[error("{0}")]
pub struct Impossible(pub &'static str);

impl From<&'static str> for Impossible {
    fn from(says: &'static str) -> Self {
        Self(says)
    }
}

impl From<Impossible> for StoreError {
    fn from(e: Impossible) -> Self {
        Self::Invalid(e.0.to_owned())
    }
}

impl From<Impossible> for Refused {
    fn from(e: Impossible) -> Self {
        Self::invalid(e.0)
    }
}
