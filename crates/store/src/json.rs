//! Values kept as JSON.

use serde::Serialize;
use serde::de::DeserializeOwned;

use crate::error::StoreError;

/// A value as JSON.
pub fn to_json<T: Serialize>(value: &T) -> Result<String, StoreError> {
    serde_json::to_string(value).map_err(|e| StoreError::Invalid(e.to_string()))
}

/// A value from the JSON that the yard's file holds.
pub fn read<T: DeserializeOwned>(text: &str) -> Result<T, StoreError> {
    serde_json::from_str(text).map_err(StoreError::Damaged)
}
