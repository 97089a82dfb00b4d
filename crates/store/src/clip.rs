//! Clips: footage with its frame times, and how it was filmed and ridden.

use rusqlite::params;

use crate::error::{StoreError, UnknownWord, changed, damaged, found, unknown};
use crate::json::to_json;
use crate::loose;
pub use crate::settings::Settings;
use crate::store::Store;

/// How far the proxy of a clip has come.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ProxyState {
    /// Not made yet.
    Pending,
    /// Made and checked.
    Ready,
    /// Could not be made; the original is shown.
    Failed,
}

impl ProxyState {
    /// Its name in files.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Pending => "pending",
            Self::Ready => "ready",
            Self::Failed => "failed",
        }
    }

    fn named(word: &str) -> Result<Self, UnknownWord> {
        match word {
            "pending" => Ok(Self::Pending),
            "ready" => Ok(Self::Ready),
            "failed" => Ok(Self::Failed),
            _ => Err(UnknownWord::new("state of a copy for stepping", word)),
        }
    }
}

/// What a clip's file is.
#[derive(Clone, Debug, PartialEq)]
pub struct Footage {
    /// BLAKE3 of the file, hexadecimal.
    pub content: String,
    /// File name inside the content's folder.
    pub file: String,
    /// Size.
    pub bytes: u64,
    /// Codec.
    pub codec: String,
    /// Width as shown, pixels.
    pub width: u32,
    /// Height as shown, pixels.
    pub height: u32,
    /// Degrees by which the player turns the picture clockwise.
    pub rotation: i32,
    /// Frames per second of the file's clock.
    pub frame_rate: Option<f64>,
    /// Frames per second at which the camera says it filmed.
    pub tagged_rate: Option<f64>,
    /// When it was filmed, as the camera wrote it (ISO 8601).
    pub recorded: Option<String>,
}

/// A clip without its long columns.
#[derive(Clone, Debug, PartialEq)]
pub struct Clip {
    /// Number.
    pub id: i64,
    /// Session it belongs to; `None` for footage that is not sorted yet.
    pub session: Option<i64>,
    /// Name.
    pub name: String,
    /// File.
    pub footage: Footage,
    /// Length of the file, s.
    pub length_s: f64,
    /// Settings.
    pub settings: Settings,
    /// Proxy.
    pub proxy: ProxyState,
    /// What is to be added to a time of the proxy for that of the original, µs.
    pub proxy_shift_us: i64,
    /// What there is to say of the file, e.g. that it breaks off.
    pub remark: String,
    /// Counts the changes of marks and settings.
    pub revision: i64,
    /// Taken away, and to be had back until the bin is emptied.
    pub removed: bool,
    /// Time of the wall clock at 0 of the file's clock, ms since 1970, when it is known: it puts
    /// the session's log on the film.
    pub began_ms: Option<i64>,
}

const COLUMNS: &str = "id, session, name, content, file, bytes, codec, width, height, rotation, \
                       frame_rate, tagged_rate, recorded, length_s, settings, proxy, remark, \
                       revision, removed, proxy_shift_us, began_ms";

impl Store {
    /// Adds a clip with the times of its frames (µs).
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a session; [`StoreError::Full`].
    pub fn add_clip(
        &self,
        session: Option<i64>,
        name: &str,
        footage: &Footage,
        frame_times: &[i64],
    ) -> Result<i64, StoreError> {
        if let Some(session) = session {
            self.session(session)?;
        }
        let name: String = name.trim().chars().take(120).collect();
        let settings = to_json(&Settings::default())?;
        let f = footage;
        let mut connection = self.write();
        let tx = connection.transaction()?;
        tx.execute(
            "INSERT INTO clip (id, session, name, content, file, bytes, codec, width, height, rotation,
                               frame_rate, tagged_rate, recorded, frame_times, length_s, settings)
             VALUES ((SELECT last + 1 FROM given WHERE kind = 'clip'),
                     ?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15)",
            params![
                session,
                name,
                f.content,
                f.file,
                f.bytes,
                f.codec,
                f.width,
                f.height,
                f.rotation,
                f.frame_rate,
                f.tagged_rate,
                f.recorded,
                to_blob(frame_times),
                length_s(frame_times),
                settings
            ],
        )?;
        let id = tx.last_insert_rowid();
        loose::held(&tx, &f.content)?;
        tx.commit()?;
        Ok(id)
    }

    /// One clip.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn clip(&self, id: i64) -> Result<Clip, StoreError> {
        let connection = self.read()?;
        let sql = format!("SELECT {COLUMNS} FROM clip WHERE id = ?1");
        let row = connection.prepare_cached(&sql)?.query_row([id], clip_row);
        found(row, "clip", id)
    }

    /// All clips in the order they were added, removed ones among them.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn all_clips(&self) -> Result<Vec<Clip>, StoreError> {
        self.clips_where("1", "")
    }

    /// Clips of a session that are not removed, in the order they were added.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn clips_of_session(&self, session: i64) -> Result<Vec<Clip>, StoreError> {
        let connection = self.read()?;
        let sql =
            format!("SELECT {COLUMNS} FROM clip WHERE session = ?1 AND removed = 0 ORDER BY id");
        let mut query = connection.prepare_cached(&sql)?;
        let rows = query.query_map([session], clip_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Clips that nobody has said the horse of yet and that are not removed.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn unsorted_clips(&self) -> Result<Vec<Clip>, StoreError> {
        self.clips_where("removed = 0 AND session IS NULL", "")
    }

    /// All clips that are not removed, in the order they were added.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn clips(&self) -> Result<Vec<Clip>, StoreError> {
        self.clips_where("removed = 0", "")
    }

    /// Clips of one content, removed ones among them.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn clips_of_content(&self, content: &str) -> Result<Vec<Clip>, StoreError> {
        self.clips_where("?1 = content", content)
    }

    fn clips_where(&self, condition: &str, value: &str) -> Result<Vec<Clip>, StoreError> {
        let connection = self.read()?;
        let sql =
            format!("SELECT {COLUMNS} FROM clip WHERE {condition} AND ?1 IS NOT NULL ORDER BY id");
        let mut query = connection.prepare_cached(&sql)?;
        let rows = query.query_map([value], clip_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Presentation times of a clip's frames, µs.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn frame_times(&self, id: i64) -> Result<Vec<i64>, StoreError> {
        let connection = self.read()?;
        let row = connection.query_row("SELECT frame_times FROM clip WHERE id = ?1", [id], |r| {
            r.get::<_, Vec<u8>>(0)
        });
        let blob = found(row, "clip", id)?;
        Ok(blob.as_chunks::<8>().0.iter().map(|b| i64::from_le_bytes(*b)).collect())
    }

    /// Keeps the frames that can really be shown, with a remark for the coach: a file that breaks
    /// off announces more of them than it holds.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn set_frame_times(
        &self,
        id: i64,
        frame_times: &[i64],
        remark: &str,
    ) -> Result<(), StoreError> {
        self.write().execute(
            "UPDATE clip SET frame_times = ?2, length_s = ?3, remark = ?4 WHERE id = ?1",
            params![id, to_blob(frame_times), length_s(frame_times), remark],
        )?;
        Ok(())
    }

    /// Sound envelope of a clip, one byte a point, `None` when there is none (yet).
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn sound(&self, id: i64) -> Result<Option<Vec<u8>>, StoreError> {
        let connection = self.read()?;
        let row = connection.query_row("SELECT sound FROM clip WHERE id = ?1", [id], |r| r.get(0));
        found(row, "clip", id)
    }

    /// Keeps the sound envelope of a clip.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn set_sound(&self, id: i64, envelope: &[u8]) -> Result<(), StoreError> {
        self.write().execute("UPDATE clip SET sound = ?2 WHERE id = ?1", params![id, envelope])?;
        Ok(())
    }

    /// Keeps how far the proxy has come.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn set_proxy(&self, id: i64, state: ProxyState, shift_us: i64) -> Result<(), StoreError> {
        let sql = "UPDATE clip SET proxy = ?2, proxy_shift_us = ?3 WHERE id = ?1";
        changed(self.write().execute(sql, params![id, state.word(), shift_us])?, "clip", id)
    }

    /// Keeps settings without an entry in the journal: for clips that come with them.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; [`StoreError::Full`].
    pub fn set_settings(&self, id: i64, settings: &Settings) -> Result<(), StoreError> {
        let sql = "UPDATE clip SET settings = ?2, revision = revision + 1 WHERE id = ?1";
        changed(self.write().execute(sql, params![id, to_json(settings)?])?, "clip", id)
    }

    /// Puts a clip into a session.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn move_clip(&self, id: i64, session: i64) -> Result<(), StoreError> {
        self.session(session)?;
        let sql = "UPDATE clip SET session = ?2 WHERE id = ?1";
        changed(self.write().execute(sql, params![id, session])?, "clip", id)
    }

    /// Takes a clip away, or brings it back.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn remove_clip(&self, id: i64, removed: bool) -> Result<(), StoreError> {
        let sql = "UPDATE clip SET removed = ?2 WHERE id = ?1";
        changed(self.write().execute(sql, params![id, removed])?, "clip", id)
    }
}

pub(crate) fn to_blob(frame_times: &[i64]) -> Vec<u8> {
    frame_times.iter().flat_map(|t| t.to_le_bytes()).collect()
}

/// From the first frame to the end of the last, which is taken to last as long as the mean one.
fn length_s(frame_times: &[i64]) -> f64 {
    let (Some(first), Some(last)) = (frame_times.first(), frame_times.last()) else { return 0.0 };
    #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
    let (span, gaps) = ((last - first) as f64 / 1e6, (frame_times.len() - 1) as f64);
    if gaps > 0.0 { span * (1.0 + 1.0 / gaps) } else { 0.0 }
}

fn clip_row(r: &rusqlite::Row<'_>) -> Result<Clip, rusqlite::Error> {
    let settings: String = r.get(14)?;
    Ok(Clip {
        id: r.get(0)?,
        session: r.get(1)?,
        name: r.get(2)?,
        footage: Footage {
            content: r.get(3)?,
            file: r.get(4)?,
            bytes: r.get(5)?,
            codec: r.get(6)?,
            width: r.get(7)?,
            height: r.get(8)?,
            rotation: r.get(9)?,
            frame_rate: r.get(10)?,
            tagged_rate: r.get(11)?,
            recorded: r.get(12)?,
        },
        length_s: r.get(13)?,
        settings: serde_json::from_str(&settings).map_err(|e| damaged(14, e))?,
        proxy: ProxyState::named(&r.get::<_, String>(15)?).map_err(|e| unknown(15, e))?,
        remark: r.get(16)?,
        revision: r.get(17)?,
        removed: r.get(18)?,
        proxy_shift_us: r.get(19)?,
        began_ms: r.get(20)?,
    })
}
