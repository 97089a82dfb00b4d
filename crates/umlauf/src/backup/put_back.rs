//! A yard, or a horse of it, put back from its backups: from the latest that is sound.

use std::path::{Path, PathBuf};

use jiff::civil::Date;
use umlauf_store::{Store, StoreError};

use crate::archive::one_horse::{self, Came, Which};
use crate::archive::restore::{Restored, restore};
use crate::archive_error::ArchiveError;
use crate::backup::place::Place;

/// Puts a yard back from the latest sound backup in a folder, or in a folder of backups inside it; and says which later
/// ones were passed over.
///
/// # Errors
/// [`ArchiveError::NoBackup`] when there is none that is sound; when this yard is not empty, or the disk is full.
pub fn put_back(store: &Store, chosen: &Path) -> Result<(Restored, Vec<String>), ArchiveError> {
    let all = latest_first(chosen);
    let mut passed_over = Vec::new();
    for (day, zip) in all {
        match restore(store, &zip) {
            Ok(restored) => return Ok((restored, passed_over)),
            Err(ArchiveError::Store(e @ (StoreError::Full | StoreError::Invalid(_)))) => {
                return Err(e.into());
            }
            Err(why) => passed_over.push(format!("the backup of {day} was passed over: {why}")),
        }
    }
    Err(ArchiveError::NoBackup { folder: chosen.to_owned(), tried: passed_over })
}

/// Puts one horse back from the latest sound backup that has it, beside what is in the yard; and says which later ones were
/// passed over.
///
/// # Errors
/// As [`put_back`], but for the yard that is not empty.
pub fn one_horse(
    store: &Store,
    chosen: &Path,
    which: Which<'_>,
) -> Result<(Came, Vec<String>), ArchiveError> {
    let mut passed_over = Vec::new();
    for (day, zip) in latest_first(chosen) {
        match one_horse::restore(store, &zip, which, Some(day)) {
            Ok(came) => return Ok((came, passed_over)),
            Err(e @ (ArchiveError::TwoHorses | ArchiveError::Store(StoreError::Full))) => {
                return Err(e);
            }
            Err(why) => passed_over.push(format!("the backup of {day} was passed over: {why}")),
        }
    }
    Err(ArchiveError::NoBackup { folder: chosen.to_owned(), tried: passed_over })
}

/// Days of all backups in a folder, or in folders of backups inside it, and their ZIPs.
fn latest_first(chosen: &Path) -> Vec<(Date, PathBuf)> {
    let mut all: Vec<_> = Place::all(chosen)
        .into_iter()
        .flat_map(|place| place.days().into_iter().map(move |day| (day, place.of_day(day))))
        .collect();
    all.sort_by(|a, b| b.cmp(a));
    all
}
