//! The whole yard as plain tables, out and in again.

use rusqlite::Connection;
use rusqlite::types::ValueRef;
use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::error::StoreError;
pub use crate::schema::VERSION;
use crate::store::{IDENTITY, Store};

/// A table: names of its columns, and its rows. Blobs are `{"hex": "…"}`.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize)]
pub struct Table {
    /// Name.
    pub name: String,
    /// Columns.
    pub columns: Vec<String>,
    /// Rows in the order of their keys.
    pub rows: Vec<Vec<Value>>,
}

/// Tables of what the coach has said and marked, in the order in which they refer to one another.
/// Uploads under way, jobs and digests are made anew.
pub(crate) const TABLES: [(&str, &str); 13] = [
    ("horse", "id"),
    ("session", "id"),
    ("coach_mark", "session, gait, figure"),
    ("session_log", "session, at_ms, id"),
    ("clip", "id"),
    ("mark", "clip, id"),
    ("found", "clip"),
    ("tag", "clip, id"),
    ("edit", "clip, seq"),
    ("edit_mark", "clip, seq, place"),
    ("edit_tag", "clip, seq, place"),
    ("choice", "key"),
    ("hand", "person, frame_rate"),
];

/// Tables of earlier versions that are not there any more.
pub(crate) const FORMER: [&str; 1] = ["edit_change"];

/// The last version that did not write its number beside its tables.
pub const UNNUMBERED: usize = 5;

/// Why a yard is not put back.
pub const NOT_EMPTY: &str = "a yard is put back only where there is none, the bin counted; start Umlauf on an empty folder with --data";

impl Store {
    /// Whether nothing was said or marked yet; choices do not count.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn tables_are_empty(&self) -> Result<bool, StoreError> {
        let connection = self.read()?;
        empty(&connection)
    }

    /// All tables, as they are at one moment.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn tables(&self) -> Result<Vec<Table>, StoreError> {
        let moment = self.snapshot()?;
        table_names()
            .map(|name| {
                let mut rows = Vec::new();
                moment.rows(name, |row| {
                    rows.push(row.to_vec());
                    Ok::<_, StoreError>(())
                })?;
                Ok(Table { name: name.to_owned(), columns: moment.columns(name)?, rows })
            })
            .collect()
    }

    /// Columns of a table.
    ///
    /// # Errors
    /// [`StoreError::Missing`] for a name that is none of [`table_names`]; when the file cannot be read.
    pub fn columns(&self, table: &str) -> Result<Vec<String>, StoreError> {
        let connection = self.read()?;
        let query = connection.prepare(&selecting(table)?)?;
        Ok(query.column_names().into_iter().map(str::to_owned).collect())
    }

    /// Hands over a table row by row, in the order of their keys: it may be larger than memory.
    ///
    /// # Errors
    /// As [`Store::columns`], and what `take` says.
    pub fn rows<E: From<StoreError>>(
        &self,
        table: &str,
        mut take: impl FnMut(&[Value]) -> Result<(), E>,
    ) -> Result<(), E> {
        let connection = self.read()?;
        let mut query = connection.prepare(&selecting(table)?).map_err(StoreError::from)?;
        let columns = query.column_count();
        let mut found = query.query([]).map_err(StoreError::from)?;
        while let Some(r) = found.next().map_err(StoreError::from)? {
            let cells = (0..columns).map(|k| r.get_ref(k).map(to_json));
            let row = cells.collect::<Result<Vec<Value>, _>>().map_err(StoreError::from)?;
            take(&row)?;
        }
        Ok(())
    }
}

/// Tables of a yard, in the order in which they refer to one another.
pub fn table_names() -> impl Iterator<Item = &'static str> {
    TABLES.iter().map(|(name, _)| *name)
}

/// All rows of a table; a yard's own name is its own.
fn selecting(table: &str) -> Result<String, StoreError> {
    let known = TABLES.iter().find(|(name, _)| *name == table);
    let (name, order) = known.ok_or(StoreError::Missing("a yard has no such table"))?;
    let own = if *name == "choice" { format!(" WHERE key <> '{IDENTITY}'") } else { String::new() };
    Ok(format!("SELECT * FROM {name}{own} ORDER BY {order}"))
}

/// Whether nothing was said or marked yet.
pub(crate) fn empty(connection: &Connection) -> Result<bool, StoreError> {
    for (name, _) in TABLES.iter().filter(|(name, _)| !["choice", "hand"].contains(name)) {
        let sql = format!("SELECT count(*) FROM {name}");
        let any: i64 = connection.query_row(&sql, [], |r| r.get(0))?;
        if any > 0 {
            return Ok(false);
        }
    }
    Ok(true)
}

fn to_json(cell: ValueRef<'_>) -> Value {
    match cell {
        ValueRef::Null => Value::Null,
        ValueRef::Integer(v) => v.into(),
        ValueRef::Real(v) => v.into(),
        ValueRef::Text(v) => String::from_utf8_lossy(v).into(),
        ValueRef::Blob(v) => serde_json::json!({ "hex": hex(v) }),
    }
}

fn hex(bytes: &[u8]) -> String {
    use std::fmt::Write as _;
    let mut out = String::with_capacity(2 * bytes.len());
    for b in bytes {
        // Writing to a string cannot fail.
        let _ = write!(out, "{b:02x}");
    }
    out
}
