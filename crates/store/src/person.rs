//! Who has done something: the coach of this machine, until others take part.

use serde::{Deserialize, Serialize};

use crate::error::StoreError;

/// A person's name in the yard's files: 1 to 64 letters.
///
/// ```
/// use umlauf_store::person::Person;
/// assert_eq!(Person::coach().id(), "coach");
/// assert!(Person::named("").is_err());
/// ```
#[derive(Clone, Debug, Deserialize, PartialEq, Eq, Hash, Serialize)]
#[serde(transparent)]
pub struct Person(String);

impl Person {
    /// The coach of this machine.
    pub fn coach() -> Self {
        Self("coach".into())
    }

    /// A person by name.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] for a name that is empty or longer than 64 letters.
    pub fn named(id: &str) -> Result<Self, StoreError> {
        if (1..=64).contains(&id.chars().count()) {
            Ok(Self(id.to_owned()))
        } else {
            Err(StoreError::Invalid("a person has a name of 1 to 64 letters".into()))
        }
    }

    /// The name.
    pub fn id(&self) -> &str {
        &self.0
    }
}

impl rusqlite::ToSql for Person {
    fn to_sql(&self) -> rusqlite::Result<rusqlite::types::ToSqlOutput<'_>> {
        self.0.to_sql()
    }
}

impl rusqlite::types::FromSql for Person {
    fn column_result(v: rusqlite::types::ValueRef<'_>) -> rusqlite::types::FromSqlResult<Self> {
        String::column_result(v).map(Self)
    }
}
