//! Whether what the backups hold is what was written to them, every byte.

use std::path::Path;

use jiff::civil::Date;
use umlauf_store::{Store, StoreError};

use crate::archive_error::ArchiveError;
use crate::backup::place::Place;
use crate::backup::{films, sealed};
use crate::check::finding::Finding;

/// Looks at the ZIP of each day of a yard's backups in the folder that the coach has chosen. A stick that is not there is
/// not looked at.
///
/// # Errors
/// When the yard cannot be read.
pub fn days(store: &Store, chosen: &Path) -> Result<Vec<Finding>, StoreError> {
    let place = Place::of(chosen, &store.identity()?);
    let damaged = |day: &Date| sealed::is_whole(&place, *day) == Some(false);
    // One that was let go meanwhile is none.
    let there = |day: &Date| place.of_day(*day).exists();
    let found = place.days().into_iter().filter(damaged).filter(there).map(|day| Finding {
        what: format!("The backup of {day} is not as Umlauf wrote it."),
        means: "The stick or drive may be failing. The yard may not come back as it was that day.",
        todo: "Make a backup on another stick, from Setup. The other days in this folder are sound, unless they are named here too.".into(),
        mended: false,
    });
    Ok(found.collect())
}

/// Looks at every film in them. When `mend`, a damaged one is brought anew.
///
/// # Errors
/// When the yard cannot be read, or the backup not be written.
pub fn films(store: &Store, chosen: &Path, mend: bool) -> Result<Vec<Finding>, ArchiveError> {
    let place = Place::of(chosen, &store.identity()?);
    let found = films::damaged(store, &place, mend)?.into_iter().map(|(film, mended)| Finding {
        what: format!("A film in the backup is damaged: {}.", film.display()),
        means: "The stick or drive may be failing. If the yard's own film is lost too, it does not come back.",
        todo: "`umlauf check --mend` brings it anew where the yard has it sound; else send it once more, from the camera.".into(),
        mended,
    });
    Ok(found.collect())
}
