//! The whole yard as plain tables, out and in again.

use rusqlite::Connection;
use rusqlite::types::{Value as Sql, ValueRef};
use serde::{Deserialize, Serialize};
use serde_json::Value;

use crate::error::StoreError;
use crate::schema;
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
const TABLES: [(&str, &str); 13] = [
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
const FORMER: [&str; 1] = ["edit_change"];

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

    /// Puts tables that version `version` of the store wrote into an empty yard, all or none.
    /// Columns that this version does not know are refused; columns that the tables lack keep
    /// their default.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] when the yard is not empty, a table is not one of a yard, or a later
    /// version wrote it; [`StoreError::Full`].
    pub fn put_tables(&self, tables: &[Table], version: usize) -> Result<(), StoreError> {
        let brought;
        let tables = match version {
            VERSION => tables,
            1..VERSION => {
                brought = of_today(tables, version)?;
                &brought
            }
            _ => {
                return Err(StoreError::Invalid(format!(
                    "this yard is of version {version}; this Umlauf reads up to {VERSION}: bring Umlauf up to date first"
                )));
            }
        };
        let mut connection = self.write();
        let tx = connection.transaction()?;
        tx.pragma_update(None, "defer_foreign_keys", true)?;
        if !empty(&tx)? {
            return Err(StoreError::Invalid(NOT_EMPTY.into()));
        }
        // Choices made before the yard came give way to its own.
        tx.execute("DELETE FROM choice", [])?;
        tx.execute("DELETE FROM hand", [])?;
        put(&tx, tables)?;
        Ok(tx.commit()?)
    }
}

/// Tables of an earlier version as this one writes them: put into an empty yard of that version,
/// which is then brought up to date.
fn of_today(tables: &[Table], version: usize) -> Result<Vec<Table>, StoreError> {
    let mut aside = Connection::open_in_memory()?;
    schema::migrations().to_version(&mut aside, version)?;
    // Whether rows refer to one another is seen when they come into the yard.
    aside.pragma_update(None, "foreign_keys", false)?;
    put(&aside, tables)?;
    schema::migrations().to_latest(&mut aside)?;
    all_of(&aside)
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

/// Puts rows into the tables of a connection.
fn put(connection: &Connection, tables: &[Table]) -> Result<(), StoreError> {
    for table in tables {
        let name = &table.name;
        let here = "SELECT count(*) FROM sqlite_schema WHERE type = 'table' AND name = ?1";
        let known = TABLES.iter().any(|(t, _)| t == name) || FORMER.contains(&name.as_str());
        if !known || connection.query_row(here, [name], |r| r.get::<_, i64>(0))? == 0 {
            return Err(StoreError::Invalid(format!("a yard has no table {}", short(name))));
        }
        let known: Vec<String> = {
            let query = connection.prepare(&format!("SELECT * FROM {name} LIMIT 0"))?;
            query.column_names().into_iter().map(str::to_owned).collect()
        };
        if let Some(other) = table.columns.iter().find(|c| !known.contains(c)) {
            return Err(StoreError::Invalid(format!(
                "the table {name} has a column {} that this version does not know",
                short(other)
            )));
        }
        let marks = vec!["?"; table.columns.len()].join(", ");
        let columns = table.columns.join(", ");
        let mut insert =
            connection.prepare(&format!("INSERT INTO {name} ({columns}) VALUES ({marks})"))?;
        for (k, row) in table.rows.iter().enumerate() {
            let cells: Option<Vec<Sql>> = row.iter().map(to_sql).collect();
            let cells = cells.filter(|c| c.len() == table.columns.len()).ok_or_else(|| {
                StoreError::Invalid(format!("row {} of the table {name} is damaged", k + 1))
            })?;
            insert.execute(rusqlite::params_from_iter(cells))?;
        }
    }
    Ok(())
}

fn empty(connection: &Connection) -> Result<bool, StoreError> {
    for (name, _) in TABLES.iter().filter(|(name, _)| !["choice", "hand"].contains(name)) {
        let sql = format!("SELECT count(*) FROM {name}");
        let any: i64 = connection.query_row(&sql, [], |r| r.get(0))?;
        if any > 0 {
            return Ok(false);
        }
    }
    Ok(true)
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
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

fn to_sql(cell: &Value) -> Option<Sql> {
    Some(match cell {
        Value::Null => Sql::Null,
        Value::Bool(v) => Sql::Integer(i64::from(*v)),
        Value::Number(v) => match v.as_i64() {
            Some(whole) => Sql::Integer(whole),
            None => Sql::Real(v.as_f64()?),
        },
        Value::String(v) => Sql::Text(v.clone()),
        Value::Object(v) => Sql::Blob(unhex(v.get("hex")?.as_str()?)?),
        Value::Array(_) => return None,
    })
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

fn unhex(text: &str) -> Option<Vec<u8>> {
    let digits = text.as_bytes();
    if !digits.len().is_multiple_of(2) {
        return None;
    }
    let value = |c: u8| char::from(c).to_digit(16).and_then(|d| u8::try_from(d).ok());
    digits.chunks(2).map(|p| Some(value(p[0])? << 4 | value(p[1])?)).collect()
}
