//! People who may sign in: their roles, the hashes of their passwords, and the horses that riders see.

use rusqlite::{OptionalExtension as _, Row, params};

use crate::error::StoreError;
use crate::person::Person;
use crate::role::Role;
use crate::store::Store;

/// Somebody who may sign in.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Account {
    /// Number.
    pub id: i64,
    /// By which name marks and changes are kept.
    pub person: Person,
    /// What they may do.
    pub role: Role,
    /// Of a rider under age nothing leaves the yard by itself.
    pub under_age: bool,
}

/// What is said of an account.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct AccountForm {
    /// Name, whatever its letters' case, of nobody else.
    pub person: Person,
    /// What they may do.
    pub role: Role,
    /// Under age.
    pub under_age: bool,
    /// Horses that a rider sees.
    pub horses: Vec<i64>,
}

const COLUMNS: &str = "id, person, role, under_age";

/// People at most.
const MOST: i64 = 200;

fn account(r: &Row<'_>) -> rusqlite::Result<Account> {
    Ok(Account { id: r.get(0)?, person: r.get(1)?, role: r.get(2)?, under_age: r.get(3)? })
}

impl Store {
    /// Everybody who may sign in, by name.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn accounts(&self) -> Result<Vec<Account>, StoreError> {
        let connection = self.read()?;
        let sql = format!("SELECT {COLUMNS} FROM account ORDER BY person");
        let mut query = connection.prepare_cached(&sql)?;
        Ok(query.query_map([], account)?.collect::<Result<_, _>>()?)
    }

    /// An account by number.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn account(&self, id: i64) -> Result<Account, StoreError> {
        let sql = format!("SELECT {COLUMNS} FROM account WHERE id = ?1");
        let found = self.read()?.query_row(&sql, [id], account).optional()?;
        found.ok_or(StoreError::NotFound { kind: "person", id })
    }

    /// An account by its person's name, and the hash of its password.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn account_named(&self, name: &str) -> Result<Option<(Account, String)>, StoreError> {
        let sql = format!("SELECT {COLUMNS}, password FROM account WHERE person = ?1");
        let read = |r: &Row<'_>| Ok((account(r)?, r.get(4)?));
        Ok(self.read()?.query_row(&sql, [name], read).optional()?)
    }

    /// Horses that an account's person sees as a rider.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn horses_of_account(&self, id: i64) -> Result<Vec<i64>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT a.horse FROM account_horse a JOIN horse h ON h.id = a.horse
             WHERE a.account = ?1 AND h.removed = 0 ORDER BY a.horse",
        )?;
        Ok(query.query_map([id], |r| r.get(0))?.collect::<Result<_, _>>()?)
    }

    /// Whether a coach has a password, so that others may be let in.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn has_coach(&self) -> Result<bool, StoreError> {
        Ok(self.accounts()?.iter().any(|a| a.role == Role::Coach))
    }

    /// Adds somebody, with the hash of their password.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] when somebody has that name or there are 200 already; [`StoreError::NotFound`] for a horse that is not there.
    pub fn add_account(&self, form: &AccountForm, password: &str) -> Result<i64, StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        let others: i64 = tx.query_row("SELECT count(*) FROM account", [], |r| r.get(0))?;
        if others >= MOST {
            return Err(StoreError::Invalid(format!("{MOST} people can sign in at most")));
        }
        free(&tx, &form.person, 0)?;
        tx.execute(
            "INSERT INTO account (person, role, password, under_age) VALUES (?1, ?2, ?3, ?4)",
            params![form.person, form.role, password, form.under_age],
        )?;
        let id = tx.last_insert_rowid();
        put_horses(&tx, id, &form.horses)?;
        tx.commit()?;
        Ok(id)
    }

    /// Changes what is said of somebody. Whose role or horses change is signed out everywhere.
    ///
    /// # Errors
    /// As [`Store::add_account`]; when no coach would be left.
    pub fn change_account(&self, id: i64, form: &AccountForm) -> Result<(), StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        free(&tx, &form.person, id)?;
        let changed = tx.execute(
            "UPDATE account SET person = ?2, role = ?3, under_age = ?4 WHERE id = ?1",
            params![id, form.person, form.role, form.under_age],
        )?;
        if changed == 0 {
            return Err(StoreError::NotFound { kind: "person", id });
        }
        tx.execute("DELETE FROM account_horse WHERE account = ?1", [id])?;
        put_horses(&tx, id, &form.horses)?;
        tx.execute("DELETE FROM signed_in WHERE account = ?1", [id])?;
        coach_left(&tx)?;
        Ok(tx.commit()?)
    }

    /// Gives somebody another password, by its hash, and signs them out everywhere.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn set_password(&self, id: i64, password: &str) -> Result<(), StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        let sql = "UPDATE account SET password = ?2 WHERE id = ?1";
        if tx.execute(sql, params![id, password])? == 0 {
            return Err(StoreError::NotFound { kind: "person", id });
        }
        tx.execute("DELETE FROM signed_in WHERE account = ?1", [id])?;
        Ok(tx.commit()?)
    }

    /// Somebody signs in no more. Their marks stay, under their name.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; [`StoreError::Invalid`] when no coach would be left for the others.
    pub fn remove_account(&self, id: i64) -> Result<(), StoreError> {
        let mut connection = self.write();
        let tx = connection.transaction()?;
        if tx.execute("DELETE FROM account WHERE id = ?1", [id])? == 0 {
            return Err(StoreError::NotFound { kind: "person", id });
        }
        coach_left(&tx)?;
        Ok(tx.commit()?)
    }
}

fn free(tx: &rusqlite::Transaction<'_>, person: &Person, but: i64) -> Result<(), StoreError> {
    let sql = "SELECT 1 FROM account WHERE person = ?1 AND id <> ?2";
    match tx.query_row(sql, params![person, but], |_| Ok(())).optional()? {
        Some(()) => {
            Err(StoreError::Invalid(format!("{} is here already: give another name", person.id())))
        }
        None => Ok(()),
    }
}

fn put_horses(tx: &rusqlite::Transaction<'_>, id: i64, horses: &[i64]) -> Result<(), StoreError> {
    for horse in horses {
        let there = "SELECT 1 FROM horse WHERE id = ?1 AND removed = 0";
        if tx.query_row(there, [horse], |_| Ok(())).optional()?.is_none() {
            return Err(StoreError::NotFound { kind: "horse", id: *horse });
        }
        tx.execute("INSERT OR IGNORE INTO account_horse VALUES (?1, ?2)", [id, *horse])?;
    }
    Ok(())
}

/// As long as anybody signs in, a coach can.
fn coach_left(tx: &rusqlite::Transaction<'_>) -> Result<(), StoreError> {
    let any = |sql: &str| tx.query_row(sql, [], |r| r.get::<_, i64>(0));
    let coaches = any("SELECT count(*) FROM account WHERE role = 'coach'")?;
    if coaches == 0 && any("SELECT count(*) FROM account")? > 0 {
        return Err(StoreError::Invalid(
            "one coach at least must be able to sign in; take the others away first".into(),
        ));
    }
    Ok(())
}
