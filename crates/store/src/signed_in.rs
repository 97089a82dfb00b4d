//! Who is signed in on which device. What the device keeps is not here, only its hash.

use rusqlite::{OptionalExtension as _, params};

use crate::account::Account;
use crate::error::StoreError;
use crate::store::Store;

/// Unused for so long, a device is signed out: 30 days, ms.
pub const IDLE_MS: i64 = 30 * 86_400_000;

/// After so long a password is asked for again in any case: 180 days, ms.
pub const LONGEST_MS: i64 = 180 * 86_400_000;

/// That a device is in use is noted so often, ms: not with every request.
const NOTED_MS: i64 = 3_600_000;

/// Devices of one person; beyond them the one unused for longest is signed out.
const DEVICES: i64 = 20;

/// A device that somebody is signed in on.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct SignedIn {
    /// Who.
    pub account: i64,
    /// Since, ms of Unix time.
    pub began_ms: i64,
    /// Last used, to the hour.
    pub seen_ms: i64,
    /// What the device calls itself.
    pub device: String,
}

impl Store {
    /// Signs somebody in on a device under the hash of what it keeps.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::Full`].
    pub fn sign_in(
        &self,
        account: i64,
        token: &str,
        device: &str,
        now_ms: i64,
    ) -> Result<(), StoreError> {
        self.account(account)?;
        let mut connection = self.write();
        let tx = connection.transaction()?;
        tx.execute(
            "DELETE FROM signed_in WHERE seen_ms < ?1 OR began_ms < ?2",
            [now_ms - IDLE_MS, now_ms - LONGEST_MS],
        )?;
        tx.execute(
            "INSERT INTO signed_in VALUES (?1, ?2, ?3, ?3, ?4)",
            params![token, account, now_ms, device],
        )?;
        tx.execute(
            "DELETE FROM signed_in WHERE account = ?1 AND token NOT IN
             (SELECT token FROM signed_in WHERE account = ?1 ORDER BY seen_ms DESC, began_ms DESC LIMIT ?2)",
            [account, DEVICES],
        )?;
        Ok(tx.commit()?)
    }

    /// Who is signed in under a hash, now.
    ///
    /// # Errors
    /// When the file cannot be used.
    pub fn who_is_signed_in(
        &self,
        token: &str,
        now_ms: i64,
    ) -> Result<Option<Account>, StoreError> {
        let sql = "SELECT account, seen_ms FROM signed_in
                   WHERE token = ?1 AND seen_ms >= ?2 AND began_ms >= ?3";
        let since = params![token, now_ms - IDLE_MS, now_ms - LONGEST_MS];
        let found =
            self.read()?.query_row(sql, since, |r| Ok((r.get(0)?, r.get(1)?))).optional()?;
        let Some((account, seen)): Option<(i64, i64)> = found else { return Ok(None) };
        if now_ms - seen > NOTED_MS {
            let sql = "UPDATE signed_in SET seen_ms = ?2 WHERE token = ?1";
            match self.write().execute(sql, params![token, now_ms]).map_err(StoreError::from) {
                // On a full disk whoever is signed in stays so.
                Ok(_) | Err(StoreError::Full) => {}
                Err(e) => return Err(e),
            }
        }
        self.account(account).map(Some)
    }

    /// Devices that anybody is signed in on now, the one used last first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn devices(&self, now_ms: i64) -> Result<Vec<SignedIn>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT account, began_ms, seen_ms, device FROM signed_in
             WHERE seen_ms >= ?1 AND began_ms >= ?2 ORDER BY seen_ms DESC, began_ms DESC",
        )?;
        let rows = query.query_map([now_ms - IDLE_MS, now_ms - LONGEST_MS], |r| {
            Ok(SignedIn {
                account: r.get(0)?,
                began_ms: r.get(1)?,
                seen_ms: r.get(2)?,
                device: r.get(3)?,
            })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Signs one device out.
    ///
    /// # Errors
    /// When the file cannot be used.
    pub fn sign_out(&self, token: &str) -> Result<(), StoreError> {
        self.write().execute("DELETE FROM signed_in WHERE token = ?1", [token])?;
        Ok(())
    }

    /// Signs somebody out everywhere; `None` everybody.
    ///
    /// # Errors
    /// When the file cannot be used.
    pub fn sign_out_everywhere(&self, account: Option<i64>) -> Result<(), StoreError> {
        let sql = "DELETE FROM signed_in WHERE ?1 IS NULL OR account = ?1";
        self.write().execute(sql, [account])?;
        Ok(())
    }
}
