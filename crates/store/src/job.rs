//! Work in the background: a queue that survives a restart, in which every job can be seen,
//! cancelled and tried again.

use rusqlite::{OptionalExtension as _, params};

use crate::error::{StoreError, UnknownWord, found, unknown};
use crate::store::Store;

/// What a job makes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum JobKind {
    /// The proxy that steps fast.
    Proxy,
    /// The sound's envelope for the strip.
    Sound,
    /// Small pictures along the clip for the strip.
    Filmstrip,
    /// Footfalls that the clip tells of by itself.
    Footfalls,
}

/// How far a job is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum JobState {
    /// In the queue.
    Waiting,
    /// Being worked on.
    Running,
    /// Done.
    Done,
    /// Given up; `says` tells why.
    Failed,
    /// Cancelled by the coach.
    Cancelled,
}

/// A job.
#[derive(Clone, Debug, PartialEq)]
pub struct Job {
    /// Number; the order of the queue.
    pub id: i64,
    /// Clip it is for.
    pub clip: i64,
    /// What it makes.
    pub kind: JobKind,
    /// How far it is.
    pub state: JobState,
    /// Share done, 0 to 1.
    pub progress: f64,
    /// How often it was begun.
    pub attempts: i64,
    /// When it was begun, ms since 1970.
    pub began_ms: i64,
    /// Why it failed.
    pub says: String,
}

/// A job is begun at most this often.
pub const MOST_ATTEMPTS: i64 = 3;

const KINDS: [(JobKind, &str); 4] = [
    (JobKind::Proxy, "proxy"),
    (JobKind::Sound, "sound"),
    (JobKind::Filmstrip, "filmstrip"),
    (JobKind::Footfalls, "footfalls"),
];
const STATES: [(JobState, &str); 5] = [
    (JobState::Waiting, "waiting"),
    (JobState::Running, "running"),
    (JobState::Done, "done"),
    (JobState::Failed, "failed"),
    (JobState::Cancelled, "cancelled"),
];

/// Jobs of a queue are done one after the other; the queues do not wait for one another.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Queue {
    /// What a clip is shown with.
    Shown,
    /// What takes long, and nobody sits waiting for.
    Looked,
}

impl JobKind {
    /// Where it waits.
    pub const fn queue(self) -> Queue {
        match self {
            Self::Proxy | Self::Sound | Self::Filmstrip => Queue::Shown,
            Self::Footfalls => Queue::Looked,
        }
    }

    /// Its name in files.
    pub fn word(self) -> &'static str {
        KINDS.iter().find(|(k, _)| *k == self).map_or("", |(_, w)| w)
    }

    /// By its name in files.
    ///
    /// # Errors
    /// [`UnknownWord`].
    pub fn named(word: &str) -> Result<Self, UnknownWord> {
        let known = KINDS.iter().find(|(_, w)| *w == word);
        known.map(|(k, _)| *k).ok_or_else(|| UnknownWord::new("kind of job", word))
    }
}

impl JobState {
    /// Its name in files.
    pub fn word(self) -> &'static str {
        STATES.iter().find(|(s, _)| *s == self).map_or("", |(_, w)| w)
    }

    fn named(word: &str) -> Result<Self, UnknownWord> {
        let known = STATES.iter().find(|(_, w)| *w == word);
        known.map(|(s, _)| *s).ok_or_else(|| UnknownWord::new("state of a job", word))
    }
}

/// The kinds of job that this version can do, as a list in SQL. Others are left to the version
/// that knows them.
fn known_kinds() -> String {
    words(|_| true)
}

fn words(which: impl Fn(JobKind) -> bool) -> String {
    let of = |(_, word): &(JobKind, &str)| format!("'{word}'");
    KINDS.iter().filter(|(k, _)| which(*k)).map(of).collect::<Vec<_>>().join(", ")
}

/// Clips that were taken away, alone or with their session or horse.
const HIDDEN: &str = "SELECT c.id FROM clip c LEFT JOIN session s ON s.id = c.session
    LEFT JOIN horse h ON h.id = s.horse WHERE c.removed = 1 OR s.removed = 1 OR h.removed = 1";

const COLUMNS: &str = "id, clip, kind, state, progress, attempts, began_ms, says";

impl Store {
    /// Puts a job into the queue.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn add_job(&self, clip: i64, kind: JobKind) -> Result<i64, StoreError> {
        let connection = self.write();
        connection.execute(
            "INSERT INTO job (id, clip, kind)
             VALUES ((SELECT last + 1 FROM given WHERE kind = 'job'), ?1, ?2)",
            params![clip, kind.word()],
        )?;
        Ok(connection.last_insert_rowid())
    }

    /// Takes the next waiting job of a queue, marked as running; those of a clip that was taken away wait for it to come
    /// back.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn take_job(&self, queue: Queue) -> Result<Option<Job>, StoreError> {
        let sql = format!(
            "UPDATE job SET state = 'running', attempts = attempts + 1, progress = 0,
                            began_ms = CAST(unixepoch('subsec') * 1000 AS INTEGER)
             WHERE id = (SELECT id FROM job WHERE state = 'waiting' AND kind IN ({}) AND clip NOT IN ({HIDDEN})
                         ORDER BY id LIMIT 1)
             RETURNING {COLUMNS}",
            words(|k| k.queue() == queue)
        );
        Ok(self.write().query_row(&sql, [], job_row).optional()?)
    }

    /// Puts running jobs of clips that were taken away back into the queue, and gives their numbers.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn put_back_jobs(&self) -> Result<Vec<i64>, StoreError> {
        let connection = self.write();
        let mut query = connection.prepare(&format!(
            "UPDATE job SET state = 'waiting', attempts = attempts - 1, progress = 0
             WHERE state = 'running' AND clip IN ({HIDDEN}) RETURNING id"
        ))?;
        Ok(query.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
    }

    /// Keeps how far a running job is.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn job_progress(&self, id: i64, progress: f64) -> Result<(), StoreError> {
        self.write().execute(
            "UPDATE job SET progress = ?2 WHERE id = ?1 AND state = 'running'",
            params![id, progress.clamp(0.0, 1.0)],
        )?;
        Ok(())
    }

    /// Keeps a job's end; one that was cancelled meanwhile stays cancelled.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn end_job(&self, id: i64, failed: Option<&str>) -> Result<(), StoreError> {
        let (state, says) =
            failed.map_or(("done", String::new()), |s| ("failed", s.chars().take(400).collect()));
        self.write().execute(
            "UPDATE job SET state = ?2, says = ?3, progress = iif(?2 = 'done', 1, progress)
             WHERE id = ?1 AND state = 'running'",
            params![id, state, says],
        )?;
        Ok(())
    }

    /// Cancels a job that has not ended, or puts one that has failed or was cancelled back into
    /// the queue.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; [`StoreError::Invalid`] when its state does not allow it.
    pub fn steer_job(&self, id: i64, cancel: bool) -> Result<Job, StoreError> {
        let sql = if cancel {
            "UPDATE job SET state = 'cancelled' WHERE id = ?1 AND state IN ('waiting', 'running')"
        } else {
            "UPDATE job SET state = 'waiting', attempts = 0, says = '', progress = 0
             WHERE id = ?1 AND state IN ('failed', 'cancelled')"
        };
        let changed = self.write().execute(sql, [id])?;
        let job = self.job(id)?;
        if changed == 0 {
            return Err(StoreError::Invalid(format!(
                "this job is {} and cannot be {}",
                job.state.word(),
                if cancel { "cancelled" } else { "tried again" }
            )));
        }
        Ok(job)
    }

    /// One job.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn job(&self, id: i64) -> Result<Job, StoreError> {
        let sql = format!("SELECT {COLUMNS} FROM job WHERE id = ?1");
        let row = self.read()?.query_row(&sql, [id], job_row);
        found(row, "job", id)
    }

    /// The latest jobs of the kinds that this version knows, newest first, at most 500.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn jobs(&self) -> Result<Vec<Job>, StoreError> {
        let connection = self.read()?;
        let known = known_kinds();
        let sql =
            format!("SELECT {COLUMNS} FROM job WHERE kind IN ({known}) ORDER BY id DESC LIMIT 500");
        let mut query = connection.prepare_cached(&sql)?;
        let rows = query.query_map([], job_row)?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// After a start: jobs that a dead server left running wait again, or have failed when they
    /// were begun too often.
    ///
    /// # Errors
    /// [`StoreError::Full`].
    pub fn requeue_jobs(&self) -> Result<(), StoreError> {
        self.write().execute(
            "UPDATE job SET state = iif(attempts < ?1, 'waiting', 'failed'),
                            says = iif(attempts < ?1, '', 'begun too often without coming to an end')
             WHERE state = 'running'",
            [MOST_ATTEMPTS],
        )?;
        Ok(())
    }
}

fn job_row(r: &rusqlite::Row<'_>) -> Result<Job, rusqlite::Error> {
    let kind: String = r.get(2)?;
    let state: String = r.get(3)?;
    Ok(Job {
        id: r.get(0)?,
        clip: r.get(1)?,
        kind: JobKind::named(&kind).map_err(|e| unknown(2, e))?,
        state: JobState::named(&state).map_err(|e| unknown(3, e))?,
        progress: r.get(4)?,
        attempts: r.get(5)?,
        began_ms: r.get(6)?,
        says: r.get(7)?,
    })
}
