//! What a person may do.

use std::str::FromStr;

use rusqlite::types::{FromSql, FromSqlError, FromSqlResult, ToSqlOutput, ValueRef};
use serde::{Deserialize, Serialize};

use crate::error::UnknownWord;

/// What a person may do, from the least to the most.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "lowercase")]
pub enum Role {
    /// Sees the reports and films of their own horses.
    Rider,
    /// Marks and adds, takes nothing away and takes nothing out of the yard.
    Assistant,
    /// Everything.
    Coach,
}

impl Role {
    /// All roles.
    pub const ALL: [Self; 3] = [Self::Rider, Self::Assistant, Self::Coach];

    /// Its name in files.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Rider => "rider",
            Self::Assistant => "assistant",
            Self::Coach => "coach",
        }
    }
}

impl FromStr for Role {
    type Err = UnknownWord;

    fn from_str(word: &str) -> Result<Self, UnknownWord> {
        Self::ALL
            .into_iter()
            .find(|r| r.word() == word)
            .ok_or_else(|| UnknownWord::new("role", word))
    }
}

impl rusqlite::ToSql for Role {
    fn to_sql(&self) -> rusqlite::Result<ToSqlOutput<'_>> {
        Ok(self.word().into())
    }
}

impl FromSql for Role {
    fn column_result(v: ValueRef<'_>) -> FromSqlResult<Self> {
        v.as_str()?.parse().map_err(|e: UnknownWord| FromSqlError::Other(Box::new(e)))
    }
}
