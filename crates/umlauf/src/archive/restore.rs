//! A yard from a ZIP into an empty one: put together aside, every film held against its hash, every page read once,
//! then taken over in one transaction.

use std::fs::File;
use std::io::{BufReader, Read};
use std::path::Path;

use umlauf_store::archive::NOT_EMPTY;
use umlauf_store::clip::ProxyState;
use umlauf_store::job::JobKind;
use umlauf_store::{Store, StoreError};
use zip::ZipArchive;

use crate::archive::aside::{Aside, forget};
use crate::archive::{document, films, readable};
use crate::archive_error::ArchiveError;
use crate::choices::comes_along;

/// The document inside is at most so many times as large as it is packed, and this much more: what grows by more is made
/// to fill a disk.
const GROWS: u64 = 100;
const AT_LEAST: u64 = 16 << 20;

/// The document inside, no larger than a document is.
fn opened(zip: &mut ZipArchive<BufReader<File>>) -> Result<impl Read, ArchiveError> {
    let document = zip.by_name("yard.json").map_err(|_| ArchiveError::NoYard)?;
    let most = AT_LEAST.saturating_add(document.compressed_size().saturating_mul(GROWS));
    if document.size() > most {
        return Err(ArchiveError::TooLarge);
    }
    Ok(BufReader::new(document.take(most)))
}

/// What came back.
#[derive(Clone, Copy, Debug)]
pub struct Restored {
    /// Horses.
    pub horses: usize,
    /// Clips.
    pub clips: usize,
    /// Films.
    pub films: usize,
    /// Films that the ZIP does not hold.
    pub missing: usize,
}

/// Puts a yard from a ZIP into an empty one, all or nothing; copies for stepping are made when it
/// is opened.
///
/// # Errors
/// When the ZIP is none of a yard or is damaged, or the yard is not empty.
pub fn restore(store: &Store, path: &Path) -> Result<Restored, ArchiveError> {
    // Before anything is moved: films of a yard that is there stay as they are, and what was made of them.
    if !store.tables_are_empty()? {
        return Err(StoreError::Invalid(NOT_EMPTY.into()).into());
    }
    let file =
        File::open(path).map_err(|cause| ArchiveError::Open { path: path.to_owned(), cause })?;
    let mut zip = ZipArchive::new(BufReader::new(file)).map_err(ArchiveError::NoZip)?;
    let aside = Aside::make(store)?;
    let version = document::version(opened(&mut zip)?)?;
    let brought = document::read(opened(&mut zip)?, version, &aside.folder)?;
    let brought = brought.finish(&comes_along).map_err(readable::tables)?;
    readable::read_through(&brought)?;
    let films = films::unpacked(&brought, &mut zip)?;
    let clips = brought.all_clips()?;
    let horses = brought.horses()?.len();
    let done =
        aside.move_films(&brought, store, &films.here).and_then(|()| Ok(store.take_over(brought)?));
    if let Err(e) = done {
        forget(store, films.here.iter().map(String::as_str))?;
        return Err(e);
    }
    for clip in clips.iter().filter(|c| !c.footage.file.is_empty()) {
        store.set_proxy(clip.id, ProxyState::Pending, 0)?;
        store.add_job(clip.id, JobKind::Proxy)?;
        store.add_job(clip.id, JobKind::Filmstrip)?;
    }
    let missing = films.missing;
    Ok(Restored { horses, clips: clips.len(), films: films.here.len(), missing })
}
