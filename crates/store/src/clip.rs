//! Clips: footage with its frame times, and how it was filmed and ridden.

use rusqlite::params;

use crate::{Store, StoreError, found};

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

    fn from_word(word: &str) -> Self {
        match word {
            "ready" => Self::Ready,
            "failed" => Self::Failed,
            _ => Self::Pending,
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
    /// Width, pixels.
    pub width: u32,
    /// Height, pixels.
    pub height: u32,
    /// Frames per second of the file's clock.
    pub frame_rate: Option<f64>,
}

/// What the coach says of a clip.
#[derive(Clone, Debug, PartialEq)]
pub struct Settings {
    /// Slow-motion factor.
    pub slow_factor: f64,
    /// Rein: `left` or `right`.
    pub rein: Option<String>,
    /// Lead asked for.
    pub asked_lead: Option<String>,
}

/// A clip without its long columns.
#[derive(Clone, Debug, PartialEq)]
pub struct Clip {
    /// Number.
    pub id: i64,
    /// Session it belongs to.
    pub session: i64,
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
    /// Counts the changes of marks and settings.
    pub revision: i64,
}

const COLUMNS: &str = "id, session, name, content, file, bytes, codec, width, height, frame_rate, \
                       slow_factor, rein, asked_lead, proxy, revision, length_s";

impl Store {
    /// Adds a clip with the times of its frames (µs).
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a session; [`StoreError::Full`].
    pub fn add_clip(
        &self,
        session: i64,
        name: &str,
        footage: &Footage,
        frame_times: &[i64],
    ) -> Result<i64, StoreError> {
        self.session(session)?;
        let blob: Vec<u8> = frame_times.iter().flat_map(|t| t.to_le_bytes()).collect();
        let name: String = name.trim().chars().take(120).collect();
        let connection = self.lock();
        connection.execute(
            "INSERT INTO clip (session, name, content, file, bytes, codec, width, height, frame_rate, frame_times,
                               length_s)
             VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11)",
            params![
                session, name, footage.content, footage.file, footage.bytes, footage.codec,
                footage.width, footage.height, footage.frame_rate, blob, length_s(frame_times)
            ],
        )?;
        Ok(connection.last_insert_rowid())
    }

    /// One clip.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn clip(&self, id: i64) -> Result<Clip, StoreError> {
        let connection = self.lock();
        let sql = format!("SELECT {COLUMNS} FROM clip WHERE id = ?1");
        let row = connection.prepare_cached(&sql)?.query_row([id], clip_row);
        found(row, "clip", id)
    }

    /// All clips in the order they were added.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn clips(&self) -> Result<Vec<Clip>, StoreError> {
        let connection = self.lock();
        let sql = format!("SELECT {COLUMNS} FROM clip ORDER BY id");
        let mut query = connection.prepare_cached(&sql)?;
        let rows = query.query_map([], clip_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Presentation times of a clip's frames, µs.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn frame_times(&self, id: i64) -> Result<Vec<i64>, StoreError> {
        let connection = self.lock();
        let row = connection.query_row("SELECT frame_times FROM clip WHERE id = ?1", [id], |r| {
            r.get::<_, Vec<u8>>(0)
        });
        let blob = found(row, "clip", id)?;
        Ok(blob.as_chunks::<8>().0.iter().map(|b| i64::from_le_bytes(*b)).collect())
    }

    /// Sound envelope of a clip, one byte a point, `None` when there is none (yet).
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn sound(&self, id: i64) -> Result<Option<Vec<u8>>, StoreError> {
        let connection = self.lock();
        let row = connection.query_row("SELECT sound FROM clip WHERE id = ?1", [id], |r| r.get(0));
        found(row, "clip", id)
    }

    /// Keeps the sound envelope of a clip.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn set_sound(&self, id: i64, envelope: &[u8]) -> Result<(), StoreError> {
        self.lock().execute("UPDATE clip SET sound = ?2 WHERE id = ?1", params![id, envelope])?;
        Ok(())
    }

    /// Keeps how far the proxy has come.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn set_proxy(&self, id: i64, state: ProxyState) -> Result<(), StoreError> {
        self.lock()
            .execute("UPDATE clip SET proxy = ?2 WHERE id = ?1", params![id, state.word()])?;
        Ok(())
    }

    /// Keeps what the coach says of a clip; values have been checked.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; [`StoreError::Full`].
    pub fn set_settings(&self, id: i64, settings: &Settings) -> Result<(), StoreError> {
        let changed = self.lock().execute(
            "UPDATE clip SET slow_factor = ?2, rein = ?3, asked_lead = ?4, revision = revision + 1
             WHERE id = ?1",
            params![id, settings.slow_factor, settings.rein, settings.asked_lead],
        )?;
        if changed == 0 { Err(StoreError::NotFound { kind: "clip", id }) } else { Ok(()) }
    }
}

/// From the first frame to the end of the last, which is taken to last as long as the mean one.
fn length_s(frame_times: &[i64]) -> f64 {
    let (Some(first), Some(last)) = (frame_times.first(), frame_times.last()) else { return 0.0 };
    #[expect(clippy::cast_precision_loss, reason = "µs of a file, far below 2^52")]
    let (span, gaps) = ((last - first) as f64 / 1e6, (frame_times.len() - 1) as f64);
    if gaps > 0.0 { span * (1.0 + 1.0 / gaps) } else { 0.0 }
}

fn clip_row(r: &rusqlite::Row<'_>) -> Result<Clip, rusqlite::Error> {
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
            frame_rate: r.get(9)?,
        },
        settings: Settings { slow_factor: r.get(10)?, rein: r.get(11)?, asked_lead: r.get(12)? },
        proxy: ProxyState::from_word(&r.get::<_, String>(13)?),
        revision: r.get(14)?,
        length_s: r.get(15)?,
    })
}
