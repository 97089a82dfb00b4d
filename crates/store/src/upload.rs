//! Uploads that have begun: what is coming, for which session. How much has arrived is the length
//! of the file in the incoming folder, so that it survives a kill without a write per block.

use std::path::PathBuf;

use rusqlite::{OptionalExtension as _, params};

use crate::error::StoreError;
use crate::store::Store;

/// An upload that has begun.
#[derive(Clone, Debug, PartialEq)]
pub struct Upload {
    /// Name given by whoever sends it: letters and digits.
    pub id: String,
    /// Session the clip is for, if the sender knows it.
    pub session: Option<i64>,
    /// The file's name on the sender's machine.
    pub name: String,
    /// Bytes announced.
    pub bytes: u64,
    /// Bytes that have arrived.
    pub received: u64,
}

/// Largest file taken, 64 GiB: an hour of the best a phone records.
pub const MOST_BYTES: u64 = 64 << 30;

impl Store {
    /// Begins an upload, or finds the one of this name that has begun.
    ///
    /// # Errors
    /// [`StoreError::Invalid`] for a size out of bounds, a name that is not letters and digits,
    /// or an upload of this name for something else; [`StoreError::NotFound`] without the session.
    pub fn begin_upload(
        &self,
        id: &str,
        session: Option<i64>,
        name: &str,
        bytes: u64,
    ) -> Result<Upload, StoreError> {
        if !(8..=64).contains(&id.len()) || !id.bytes().all(|b| b.is_ascii_alphanumeric()) {
            return Err(StoreError::Invalid(
                "an upload needs a name of 8 to 64 letters and digits".into(),
            ));
        }
        if !(1..=MOST_BYTES).contains(&bytes) {
            return Err(StoreError::Invalid(if bytes == 0 {
                "this file is empty: copy it from the camera once more".into()
            } else {
                "this file is larger than 64 GiB: cut it into shorter clips".into()
            }));
        }
        if let Some(session) = session {
            self.session(session)?;
        }
        let name: String = name.trim().chars().take(120).collect();
        self.write().execute(
            "INSERT OR IGNORE INTO upload (id, session, name, bytes) VALUES (?1, ?2, ?3, ?4)",
            params![id, session, name, bytes],
        )?;
        let upload = self.upload(id)?;
        if upload.session == session && upload.bytes == bytes {
            Ok(upload)
        } else {
            Err(StoreError::Invalid("an upload of this name is on its way already".into()))
        }
    }

    /// One upload.
    ///
    /// # Errors
    /// [`StoreError::Missing`].
    pub fn upload(&self, id: &str) -> Result<Upload, StoreError> {
        let row = self.read()?.query_row(
            "SELECT id, session, name, bytes FROM upload WHERE id = ?1",
            [id],
            |r| Ok((r.get::<_, String>(0)?, r.get(1)?, r.get(2)?, r.get(3)?)),
        );
        match row {
            Ok((id, session, name, bytes)) => {
                let received = std::fs::metadata(self.upload_file(&id)).map_or(0, |m| m.len());
                Ok(Upload { id, session, name, bytes, received })
            }
            Err(rusqlite::Error::QueryReturnedNoRows) => {
                Err(StoreError::Missing("this upload is not known here; begin it anew"))
            }
            Err(e) => Err(e.into()),
        }
    }

    /// All uploads that have begun.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn uploads(&self) -> Result<Vec<Upload>, StoreError> {
        let ids: Vec<String> = {
            let connection = self.read()?;
            let mut query = connection.prepare("SELECT id FROM upload ORDER BY rowid")?;
            query.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?
        };
        ids.iter().map(|id| self.upload(id)).collect()
    }

    /// Forgets an upload and removes what has arrived of it.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn end_upload(&self, id: &str) -> Result<(), StoreError> {
        let connection = self.write();
        let known = "SELECT 1 FROM upload WHERE id = ?1";
        if connection.query_row(known, [id], |_| Ok(())).optional()?.is_some() {
            // Before its row: it may be what has filled the disk. After a finished upload it may have moved away.
            let _ = std::fs::remove_file(self.upload_file(id));
            connection.execute("DELETE FROM upload WHERE id = ?1", [id])?;
        }
        Ok(())
    }

    /// Where an upload's bytes are collected. Only for names that [`Store::upload`] knows.
    pub fn upload_file(&self, id: &str) -> PathBuf {
        self.incoming_folder().join(id)
    }
}
