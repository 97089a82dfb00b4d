//! A day's backup: packed, read back, and only then one; older ones go when it is there.

use std::collections::HashSet;
use std::fs::File;
use std::io::BufWriter;
use std::path::Path;

use jiff::civil::Date;
use umlauf_store::Store;
use zip::ZipWriter;

use crate::archive::export::{self, Films};
use crate::archive::restore::proved;
use crate::archive_error::ArchiveError;
use crate::backup::films;
use crate::backup::kept::kept;
use crate::backup::place::Place;
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
    // What cannot be put back is no backup. Old ones prove which films they need.
    contents(&part, store)?;
    std::fs::rename(&part, &ready)?;
    File::open(place.folder())?.sync_all()?;
    forget_old(store, place)?;
    Ok(Made { lacks })
}

/// Contents that the yard in a ZIP has films of; every page of it is read.
fn contents(zip: &Path, store: &Store) -> Result<HashSet<String>, ArchiveError> {
    // Its name says whose it is, for the next start after a kill.
    let name = format!("{COPY}{}-", std::process::id());
    let aside = tempfile::Builder::new().prefix(&name).tempdir_in(store.incoming_folder())?;
    let yard = proved(zip, aside.path())?;
    Ok(yard.all_clips()?.into_iter().map(|c| c.footage.content).collect())
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
    }
    let mut needed = HashSet::new();
    for day in keep {
        match contents(&place.of_day(day), store) {
            Ok(films) => needed.extend(films),
            // What it needs is not known: nothing goes.
            Err(_) => return Ok(()),
        }
    }
    Ok(films::forget(place, &needed)?)
}
