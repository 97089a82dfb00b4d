//! One horse of another yard beside those that are here, with all that is its own; everything gets a number that was never
//! given here.

use rusqlite::{Connection, OptionalExtension as _, params};

use crate::error::StoreError;
use crate::store::Store;

/// Tables of what belongs to sessions and clips, by the column that names which.
const OWN: [(&str, &str); 7] = [
    ("coach_mark", "session"),
    ("mark", "clip"),
    ("found", "clip"),
    ("tag", "clip"),
    ("edit", "clip"),
    ("edit_mark", "clip"),
    ("edit_tag", "clip"),
];

impl Store {
    /// Takes over one horse of another yard under a name, with its sessions, clips, marks and their journal, all or
    /// nothing; what was in the other yard's bin stays there. `target` begins the keys of choices that are this horse's, its
    /// number and a dot follow. Gives the horse's number here.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the other yard has no such horse; [`StoreError::Full`].
    pub fn take_in_horse(
        &self,
        other: Self,
        horse: i64,
        name: &str,
        target: &str,
    ) -> Result<i64, StoreError> {
        let file = other.yard_file();
        // What it has written last goes into its file.
        drop(other);
        let mut connection = self.write();
        connection.execute("ATTACH ?1 AS brought", [file.to_string_lossy()])?;
        let taken = taken(&mut connection, horse, name, target);
        connection.execute_batch("DETACH brought")?;
        taken
    }
}

fn taken(
    connection: &mut Connection,
    horse: i64,
    name: &str,
    target: &str,
) -> Result<i64, StoreError> {
    let tx = connection.transaction()?;
    tx.pragma_update(None, "defer_foreign_keys", true)?;
    let there = "SELECT id FROM brought.horse WHERE id = ?1 AND removed = 0";
    let there: Option<i64> = tx.query_row(there, [horse], |r| r.get(0)).optional()?;
    there.ok_or(StoreError::NotFound { kind: "horse", id: horse })?;
    // Numbers there, and here.
    tx.execute_batch(
        "CREATE TEMP TABLE came_session (old INTEGER PRIMARY KEY, new INTEGER NOT NULL);
         CREATE TEMP TABLE came_clip (old INTEGER PRIMARY KEY, new INTEGER NOT NULL);",
    )?;
    tx.execute(
        "INSERT INTO came_session
         SELECT id, (SELECT last FROM main.given WHERE kind = 'session') + row_number() OVER (ORDER BY id)
         FROM brought.session WHERE horse = ?1 AND removed = 0",
        [horse],
    )?;
    tx.execute(
        "INSERT INTO came_clip
         SELECT id, (SELECT last FROM main.given WHERE kind = 'clip') + row_number() OVER (ORDER BY id)
         FROM brought.clip WHERE session IN (SELECT old FROM came_session) AND removed = 0",
        [],
    )?;
    let new: i64 =
        tx.query_row("SELECT last + 1 FROM main.given WHERE kind = 'horse'", [], |r| r.get(0))?;
    let insert = |table: &str, instead: &[(&str, &str)], of: &str| {
        let columns = columns(&tx, table)?;
        let values: Vec<String> = columns
            .iter()
            .map(|column| {
                let other = instead.iter().find(|(name, _)| name == column);
                other.map_or_else(|| format!("t.{column}"), |(_, value)| (*value).to_owned())
            })
            .collect();
        Ok::<_, StoreError>(format!(
            "INSERT INTO main.{table} ({}) SELECT {} FROM brought.{table} t {of}",
            columns.join(", "),
            values.join(", ")
        ))
    };
    tx.execute(
        &insert("horse", &[("id", "?1"), ("name", "?2")], "WHERE t.id = ?3")?,
        params![new, name, horse],
    )?;
    let of = "JOIN came_session s ON s.old = t.id ORDER BY t.id";
    tx.execute(&insert("session", &[("id", "s.new"), ("horse", "?1")], of)?, [new])?;
    let of =
        "JOIN came_clip c ON c.old = t.id JOIN came_session s ON s.old = t.session ORDER BY t.id";
    tx.execute(&insert("clip", &[("id", "c.new"), ("session", "s.new")], of)?, [])?;
    for (table, column) in OWN {
        let of = format!("JOIN came_{column} m ON m.old = t.{column}");
        tx.execute(&insert(table, &[(column, "m.new")], &of)?, [])?;
    }
    let number = "(SELECT last FROM main.given WHERE kind = 'session_log') + row_number() OVER (ORDER BY t.id)";
    let of = "JOIN came_session s ON s.old = t.session ORDER BY t.id";
    tx.execute(&insert("session_log", &[("id", number), ("session", "s.new")], of)?, [])?;
    let (from, to) = (format!("{target}{horse}."), format!("{target}{new}."));
    tx.execute(
        "INSERT OR REPLACE INTO main.choice
         SELECT ?2 || substr(key, length(?1) + 1), value FROM brought.choice
         WHERE substr(key, 1, length(?1)) = ?1",
        [from, to],
    )?;
    tx.execute_batch("DROP TABLE came_session; DROP TABLE came_clip;")?;
    tx.commit()?;
    Ok(new)
}

fn columns(connection: &Connection, table: &str) -> Result<Vec<String>, StoreError> {
    let query = connection.prepare(&format!("SELECT * FROM main.{table} LIMIT 0"))?;
    Ok(query.column_names().into_iter().map(str::to_owned).collect())
}
