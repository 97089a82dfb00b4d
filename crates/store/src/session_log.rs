//! What happened in a session, on the wall clock: noted at the ringside, put on the film later.

use rusqlite::params;

use crate::error::{StoreError, UnknownWord, unknown};
use crate::person::Person;
use crate::store::Store;

/// What an entry tells of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum EntryKind {
    /// An exercise was begun.
    Exercise,
    /// The rein was changed.
    Rein,
    /// The horse's answer was scored.
    Answer,
    /// The horse was praised.
    Praise,
    /// A break began or ended.
    Break,
    /// The tempo was clicked or asked.
    Tempo,
    /// A clap, heard on the film too, that lines the clocks up.
    Clap,
    /// Words.
    Note,
}

const KINDS: [(EntryKind, &str); 8] = [
    (EntryKind::Exercise, "exercise"),
    (EntryKind::Rein, "rein"),
    (EntryKind::Answer, "answer"),
    (EntryKind::Praise, "praise"),
    (EntryKind::Break, "break"),
    (EntryKind::Tempo, "tempo"),
    (EntryKind::Clap, "clap"),
    (EntryKind::Note, "note"),
];

impl EntryKind {
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
        known.map(|(k, _)| *k).ok_or_else(|| UnknownWord::new("entry of a session's log", word))
    }
}

/// An entry that is to be made.
#[derive(Clone, Debug, PartialEq)]
pub struct NewEntry {
    /// When, ms of the wall clock since 1970 (UTC).
    pub at_ms: i64,
    /// How well that is known: standard deviation, s; `None` when nobody has said.
    pub sd_s: Option<f64>,
    /// What it tells of.
    pub kind: EntryKind,
    /// In words, for people.
    pub says: String,
    /// What it is about, by the id of an exercise, a movement or a person.
    pub about: Option<String>,
    /// Who noted it.
    pub author: Person,
}

/// An entry of a session's log.
#[derive(Clone, Debug, PartialEq)]
pub struct LogEntry {
    /// Number.
    pub id: i64,
    /// Session.
    pub session: i64,
    /// What it says.
    pub entry: NewEntry,
}

/// Longest words of an entry, letters.
const LONGEST: usize = 2000;

impl Store {
    /// Adds an entry to a session's log and gives its number.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a session, [`StoreError::Invalid`] for words that are
    /// too long or a time outside the years 2000 to 2200; [`StoreError::Full`].
    pub fn log(&self, session: i64, entry: &NewEntry) -> Result<i64, StoreError> {
        let short = |text: &str, most: usize| text.chars().count() <= most;
        if !short(&entry.says, LONGEST) || !entry.about.as_deref().is_none_or(|a| short(a, 64)) {
            return Err(StoreError::Invalid(format!("an entry holds at most {LONGEST} letters")));
        }
        // 2000-01-01 and 2200-01-01.
        if !(946_684_800_000..7_258_118_400_000).contains(&entry.at_ms) {
            return Err(StoreError::Invalid("an entry needs the time of day it was made".into()));
        }
        self.session(session)?;
        let connection = self.write();
        connection.execute(
            "INSERT INTO session_log (id, session, at_ms, sd_s, kind, says, about, author)
             VALUES ((SELECT last + 1 FROM given WHERE kind = 'session_log'), ?1, ?2, ?3, ?4, ?5, ?6, ?7)",
            params![
                session,
                entry.at_ms,
                entry.sd_s,
                entry.kind.word(),
                entry.says,
                entry.about,
                entry.author
            ],
        )?;
        Ok(connection.last_insert_rowid())
    }

    /// A session's log in order of time.
    ///
    /// # Errors
    /// [`StoreError::Unknown`] for an entry that only a later version understands.
    pub fn session_log(&self, session: i64) -> Result<Vec<LogEntry>, StoreError> {
        let connection = self.read()?;
        let mut query = connection.prepare_cached(
            "SELECT id, at_ms, sd_s, kind, says, about, author FROM session_log
             WHERE session = ?1 ORDER BY at_ms, id",
        )?;
        let rows = query.query_map([session], |r| {
            let kind = EntryKind::named(&r.get::<_, String>(3)?).map_err(|e| unknown(3, e))?;
            let entry = NewEntry {
                at_ms: r.get(1)?,
                sd_s: r.get(2)?,
                kind,
                says: r.get(4)?,
                about: r.get(5)?,
                author: r.get(6)?,
            };
            Ok(LogEntry { id: r.get(0)?, session, entry })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Says when a clip's clock stood at 0, ms of the wall clock since 1970; `None`: not known.
    ///
    /// # Errors
    /// [`StoreError::NotFound`]; [`StoreError::Full`].
    pub fn set_clip_began(&self, clip: i64, began_ms: Option<i64>) -> Result<(), StoreError> {
        let sql = "UPDATE clip SET began_ms = ?2 WHERE id = ?1";
        crate::error::changed(self.write().execute(sql, params![clip, began_ms])?, "clip", clip)
    }
}
