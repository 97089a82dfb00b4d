//! A day's backup: packed, read back, and only then one; older ones go when it is there.

use std::collections::HashSet;
use std::fs::File;
use std::io::BufWriter;

use jiff::civil::Date;
use umlauf_store::Store;
use zip::ZipWriter;

use crate::archive::export::{self, Films};
use crate::archive::restore::{in_brief, proved};
use crate::archive_error::ArchiveError;
use crate::backup::films;
use crate::backup::kept::kept;
use crate::backup::place::Place;
use crate::backup::sealed;
use crate::copied::hash;
use crate::intake::watch::COPY;

/// What a backup came to.
#[derive(Clone, Debug)]
pub struct Made {
    /// Films that are not in it as they should be, each with why.
    pub lacks: Vec<String>,
}

/// Makes the backup of a day, in the place of one that was made that day before.
///
/// # Errors
/// When it cannot be written, or not be read back: the one before stays then.
pub fn make(store: &Store, place: &Place, day: Date) -> Result<Made, ArchiveError> {
    std::fs::create_dir_all(place.films())?;
    let weekday = day.weekday().to_monday_zero_offset();
    let lacks = films::bring(store, place, u8::try_from(weekday).unwrap_or(0))?;
    let ready = place.of_day(day);
    let part = ready.with_extension("part");
    let out = File::create(&part)?;
    export::export(store, ZipWriter::new(BufWriter::with_capacity(1 << 18, &out)), Films::Beside)?;
    out.sync_all()?;
    drop(out);
    // What cannot be put back is no backup.
    proved(&part, aside(store)?.path())?;
    sealed::taking_place(place, day, &hash(&part)?)?;
    std::fs::rename(&part, &ready)?;
    File::open(place.folder())?.sync_all()?;
    sealed::in_place(place, day)?;
    forget_old(store, place)?;
    Ok(Made { lacks })
}

/// An empty folder to put a yard together in; its name says whose it is, for the next start after a kill.
///
/// # Errors
/// When it cannot be made.
pub fn aside(store: &Store) -> std::io::Result<tempfile::TempDir> {
    let name = format!("{COPY}{}-", std::process::id());
    tempfile::Builder::new().prefix(&name).tempdir_in(store.incoming_folder())
}

/// Removes backups of days that are not kept, and films that none of the others has.
fn forget_old(store: &Store, place: &Place) -> Result<(), ArchiveError> {
    let days = place.days();
    let keep = kept(&days);
    let gone: Vec<&Date> = days.iter().filter(|day| !keep.contains(day)).collect();
    if gone.is_empty() {
        return Ok(());
    }
    for day in gone {
        std::fs::remove_file(place.of_day(*day))?;
        sealed::forget(place, *day)?;
    }
    let mut needed = HashSet::new();
    for day in keep {
        let aside = aside(store)?;
        match in_brief(&place.of_day(day), aside.path()) {
            Ok(yard) => needed.extend(yard.all_clips()?.into_iter().map(|c| c.footage.content)),
            // What it needs is not known: nothing goes.
            Err(_) => return Ok(()),
        }
    }
    Ok(films::forget(place, &needed)?)
}
