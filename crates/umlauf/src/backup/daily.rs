//! When a backup is due, what the last one came to, and one made and noted.

use std::path::PathBuf;

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use umlauf_store::{Store, StoreError};

use crate::archive_error::ArchiveError;
use crate::backup::make::make;
use crate::backup::place::Place;
use crate::check::finding::Finding;
use crate::choices::{BACKED_UP, BACKUP_FOLDER};

/// After so many days without a good backup it is said on the Yard.
const OVERDUE_DAYS: i32 = 7;

/// The last good backup.
#[derive(Clone, Debug, Deserialize, Serialize)]
pub struct Last {
    /// Its day.
    pub day: Date,
    /// Films that are not in it as they should be, each with why.
    pub lacks: Vec<String>,
}

/// The folder that the coach has chosen, if any.
///
/// # Errors
/// When the yard cannot be read.
pub fn folder(store: &Store) -> Result<Option<PathBuf>, StoreError> {
    Ok(store.choice(BACKUP_FOLDER)?.map(PathBuf::from))
}

/// The last good backup, if there was one.
///
/// # Errors
/// When the yard cannot be read.
pub fn last(store: &Store) -> Result<Option<Last>, StoreError> {
    Ok(store.choice(BACKED_UP)?.and_then(|text| serde_json::from_str(&text).ok()))
}

/// Makes the backup of today and notes it.
///
/// # Errors
/// When it cannot be made; what there was stays.
pub fn back_up(store: &Store, to: &std::path::Path, today: Date) -> Result<Last, ArchiveError> {
    let made = make(store, &Place::of(to, &store.identity()?), today)?;
    let last = Last { day: today, lacks: made.lacks };
    let text = serde_json::to_string(&last).map_err(ArchiveError::Document)?;
    store.set_choice(BACKED_UP, Some(&text))?;
    Ok(last)
}

/// What is wrong with the backups, in words; `trouble`: why the latest could not be made. A stick that is not there for
/// some days is nothing to speak of.
pub fn findings(last: Option<&Last>, trouble: Option<&str>, today: Date) -> Vec<Finding> {
    let days = last.map(|l| today.since(l.day).map_or(0, |span| span.get_days()));
    let said = match days {
        None => trouble.map(|_| "No backup has been made yet".to_owned()),
        Some(d) => (d > OVERDUE_DAYS).then(|| format!("The last good backup is {d} days old")),
    };
    if let Some(said) = said {
        return vec![Finding {
            what: trouble.map_or_else(|| format!("{said}."), |t| format!("{said}: {t}.")),
            means: "If this machine fails, what was marked since is gone.",
            todo: "See that the stick or network drive is there; it is tried again every hour, and at once from Setup.".into(),
            mended: false,
        }];
    }
    let lacks = last.map(|l| l.lacks.join("; ")).filter(|l| !l.is_empty());
    let lacking = lacks.map(|lacks| Finding {
        what: format!("The last backup is not whole: {lacks}."),
        means: "No later backup than the last that has them holds those films.",
        todo: "Send the film once more, from the camera or an older backup: it takes its place by itself.".into(),
        mended: false,
    });
    lacking.into_iter().collect()
}
