//! The whole yard as plain tables, out and in again.

use rusqlite::Connection;
use rusqlite::types::ValueRef;
use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::error::StoreError;
pub use crate::schema::VERSION;
use crate::store::Store;

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

    /// All tables.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn tables(&self) -> Result<Vec<Table>, StoreError> {
        // One moment of the yard, whatever is marked meanwhile.
        let moment = self.snapshot()?;
        let connection = moment.read()?;
        all_of(&connection)
    }
}

/// All tables of a yard.
fn all_of(connection: &Connection) -> Result<Vec<Table>, StoreError> {
    let mut out = Vec::with_capacity(TABLES.len());
    for (name, order) in TABLES {
        let mut query = connection.prepare(&format!("SELECT * FROM {name} ORDER BY {order}"))?;
        let columns: Vec<String> = query.column_names().into_iter().map(str::to_owned).collect();
        let mut rows = Vec::new();
        let mut found = query.query([])?;
        while let Some(r) = found.next()? {
            let cells = (0..columns.len()).map(|k| r.get_ref(k).map(to_json));
            rows.push(cells.collect::<Result<Vec<Value>, _>>()?);
        }
        out.push(Table { name: name.to_owned(), columns, rows });
    }
    Ok(out)
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
