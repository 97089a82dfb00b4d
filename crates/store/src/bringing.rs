//! A yard that comes from outside, put together beside the one that is there: row by row, each table once, and nothing
//! in it a path.

use std::path::{Path, PathBuf};

use rusqlite::Connection;
use rusqlite::types::Value as Sql;
use serde_json::Value;

use crate::archive::{FORMER, NOT_EMPTY, TABLES, empty};
use crate::content::{is_content, is_file_name};
use crate::error::StoreError;
use crate::schema::{self, VERSION};
use crate::store::{IDENTITY, Store};

/// A yard that is being put together in a folder of its own.
pub struct Bringing {
    connection: Connection,
    folder: PathBuf,
    done: Vec<String>,
    into: Option<Into>,
}

/// The table that rows go into.
struct Into {
    name: String,
    columns: usize,
    insert: String,
    rows: usize,
}

impl Bringing {
    /// Begins a yard that version `version` of the store wrote, in an empty `folder`.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] when a later version wrote it; when the folder cannot be written.
    pub fn begin(folder: &Path, version: usize) -> Result<Self, StoreError> {
        if !(1..=VERSION).contains(&version) {
            return Err(StoreError::Invalid(format!(
                "this yard is of version {version}; this Umlauf reads up to {VERSION}: bring Umlauf up to date first"
            )));
        }
        let mut connection = Connection::open(folder.join(Store::FILE))?;
        // It is thrown away whole if anything goes wrong.
        connection.pragma_update(None, "synchronous", false)?;
        connection.pragma_update(None, "foreign_keys", false)?;
        schema::migrations().to_version(&mut connection, version)?;
        connection.execute_batch("BEGIN")?;
        Ok(Self { connection, folder: folder.to_owned(), done: vec![], into: None })
    }

    /// Begins a table: the rows that follow are its.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] when a yard has no such table or column, or has it already.
    pub fn table(&mut self, name: &str, columns: &[String]) -> Result<(), StoreError> {
        let here = "SELECT count(*) FROM sqlite_schema WHERE type = 'table' AND name = ?1";
        let known = TABLES.iter().any(|(t, _)| *t == name) || FORMER.contains(&name);
        if !known || self.connection.query_row(here, [name], |r| r.get::<_, i64>(0))? == 0 {
            return Err(StoreError::Invalid(format!("a yard has no table {}", short(name))));
        }
        if self.done.iter().any(|done| done == name) {
            return Err(StoreError::Invalid(format!("the table {name} comes twice")));
        }
        let known: Vec<String> = {
            let query = self.connection.prepare(&format!("SELECT * FROM {name} LIMIT 0"))?;
            query.column_names().into_iter().map(str::to_owned).collect()
        };
        for (k, column) in columns.iter().enumerate() {
            if !known.contains(column) || columns[..k].contains(column) {
                return Err(StoreError::Invalid(format!(
                    "the table {name} has a column {} that this version does not know, or twice",
                    short(column)
                )));
            }
        }
        let marks = vec!["?"; columns.len()].join(", ");
        let insert = format!("INSERT INTO {name} ({}) VALUES ({marks})", columns.join(", "));
        self.done.push(name.to_owned());
        self.into = Some(Into { name: name.to_owned(), columns: columns.len(), insert, rows: 0 });
        Ok(())
    }

    /// Adds a row to the table that was begun last.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] when it is none of that table, [`StoreError::Full`].
    pub fn row(&mut self, cells: &[Value]) -> Result<(), StoreError> {
        let Some(into) = &mut self.into else {
            return Err(StoreError::Invalid("rows of no table".into()));
        };
        into.rows += 1;
        let damaged = || {
            StoreError::Invalid(format!("row {} of the table {} is damaged", into.rows, into.name))
        };
        let cells: Option<Vec<Sql>> = cells.iter().map(to_sql).collect();
        let cells = cells.filter(|c| c.len() == into.columns).ok_or_else(damaged)?;
        let mut insert = self.connection.prepare_cached(&into.insert)?;
        insert.execute(rusqlite::params_from_iter(cells)).map_err(|e| match e.into() {
            StoreError::Full => StoreError::Full,
            _ => damaged(),
        })?;
        Ok(())
    }

    /// The yard, brought to this version. Of its choices those stay whose keys are `taken`.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] when rows refer to what is not there, or a clip's film has a name that is none.
    pub fn finish(mut self, taken: &dyn Fn(&str) -> bool) -> Result<Store, StoreError> {
        self.connection.execute_batch("COMMIT")?;
        schema::migrations().to_latest(&mut self.connection)?;
        self.checked(taken)?;
        let Self { connection, folder, .. } = self;
        drop(connection);
        Store::open(&folder, None)
    }

    fn checked(&self, taken: &dyn Fn(&str) -> bool) -> Result<(), StoreError> {
        let mut lost = self.connection.prepare("PRAGMA foreign_key_check")?;
        if let Some(row) = lost.query([])?.next()? {
            let table: String = row.get(0)?;
            return Err(StoreError::Invalid(format!(
                "a row of the table {table} belongs to something that is not there"
            )));
        }
        let mut clips = self.connection.prepare("SELECT id, content, file FROM clip")?;
        let mut rows = clips.query([])?;
        while let Some(r) = rows.next()? {
            let text = |column: usize| r.get::<_, String>(column);
            let sound = match (text(1), text(2)) {
                (Ok(content), Ok(file)) => {
                    is_content(&content) && (file.is_empty() || is_file_name(&file))
                }
                _ => false,
            };
            if !sound {
                let id: i64 = r.get(0)?;
                return Err(StoreError::Invalid(format!(
                    "the film of clip {id} has an impossible name"
                )));
            }
        }
        let mut keys = self.connection.prepare("SELECT key FROM choice")?;
        let keys: Vec<String> = keys.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?;
        for key in keys.iter().filter(|key| !taken(key)) {
            self.connection.execute("DELETE FROM choice WHERE key = ?1", [key])?;
        }
        Ok(())
    }
}

impl Store {
    /// Takes over all tables of another yard, all or none. Choices made before it came give way to its own.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] when this yard is not empty; [`StoreError::Full`].
    pub fn take_over(&self, other: Self) -> Result<(), StoreError> {
        let file = other.yard_file();
        // What it has written last goes into its file.
        drop(other);
        let mut connection = self.write();
        connection.execute("ATTACH ?1 AS brought", [file.to_string_lossy()])?;
        let copied = copied(&mut connection);
        *self.recent() = None;
        connection.execute_batch("DETACH brought")?;
        copied
    }
}

fn copied(connection: &mut Connection) -> Result<(), StoreError> {
    let tx = connection.transaction()?;
    tx.pragma_update(None, "defer_foreign_keys", true)?;
    if !empty(&tx)? {
        return Err(StoreError::Invalid(NOT_EMPTY.into()));
    }
    tx.execute("DELETE FROM main.choice WHERE key <> ?1", [IDENTITY])?;
    tx.execute("DELETE FROM brought.choice WHERE key = ?1", [IDENTITY])?;
    // What was said of this yard's horses and sessions is of no others that come by their numbers.
    for table in ["hand", "account_horse", "link"] {
        tx.execute(&format!("DELETE FROM main.{table}"), [])?;
    }
    for (name, _) in TABLES {
        let columns = {
            let query = tx.prepare(&format!("SELECT * FROM main.{name} LIMIT 0"))?;
            query.column_names().join(", ")
        };
        let sql =
            format!("INSERT INTO main.{name} ({columns}) SELECT {columns} FROM brought.{name}");
        tx.execute(&sql, [])?;
    }
    Ok(tx.commit()?)
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
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

fn unhex(text: &str) -> Option<Vec<u8>> {
    let digits = text.as_bytes();
    if !digits.len().is_multiple_of(2) {
        return None;
    }
    let value = |c: u8| char::from(c).to_digit(16).and_then(|d| u8::try_from(d).ok());
    digits.chunks(2).map(|p| Some(value(p[0])? << 4 | value(p[1])?)).collect()
}
