//! A yard from a ZIP into an empty one: put together aside, every film held against its hash, every page read once,
//! then taken over in one transaction.

use std::fs::File;
use std::io::{BufReader, Read};
use std::path::Path;

use umlauf_store::archive::NOT_EMPTY;
use umlauf_store::clip::{Clip, ProxyState};
use umlauf_store::job::JobKind;
use umlauf_store::{Store, StoreError};
use zip::ZipArchive;

use crate::archive::aside::{Aside, forget};
use crate::archive::document::Tables;
use crate::archive::export::DOCUMENTS;
use crate::archive::{document, films, readable};
use crate::archive_error::ArchiveError;
use crate::choices::comes_along;

/// The document inside is at most so many times as large as it is packed, and this much more: what grows by more is made
/// to fill a disk.
const GROWS: u64 = 100;
const AT_LEAST: u64 = 16 << 20;

/// A document inside, no larger than a document is.
fn opened<'z>(
    zip: &'z mut ZipArchive<BufReader<File>>,
    name: &str,
) -> Result<impl Read + 'z, ArchiveError> {
    let document = zip.by_name(name).map_err(|_| ArchiveError::NoYard)?;
    let most = AT_LEAST.saturating_add(document.compressed_size().saturating_mul(GROWS));
    if document.size() > most {
        return Err(ArchiveError::TooLarge);
    }
    Ok(BufReader::new(document.take(most)))
}

/// The yard of a document inside, put together in a folder of its own.
fn put_together(
    zip: &mut ZipArchive<BufReader<File>>,
    name: &str,
    wanted: Tables,
    folder: &Path,
) -> Result<Store, ArchiveError> {
    std::fs::create_dir(folder)?;
    let version = document::version(opened(zip, name)?)?;
    let brought = document::read(opened(zip, name)?, version, wanted, folder)?;
    brought.finish(&comes_along).map_err(readable::tables)
}

/// The yard of the first document that `sound` takes, and what it says of it; what is wrong with the first one where none
/// is.
pub(super) fn brought<T>(
    zip: &mut ZipArchive<BufReader<File>>,
    wanted: Tables,
    aside: &Path,
    sound: impl Fn(&Store) -> Result<T, ArchiveError>,
) -> Result<(Store, T), ArchiveError> {
    let mut wrong = None;
    for (k, name) in DOCUMENTS.iter().enumerate() {
        let brought = put_together(zip, name, wanted, &aside.join(k.to_string()));
        match brought.and_then(|yard| sound(&yard).map(|says| (yard, says))) {
            Ok(both) => return Ok(both),
            Err(ArchiveError::Store(StoreError::Full)) => return Err(StoreError::Full.into()),
            Err(e) => wrong = wrong.or(Some(e)),
        }
    }
    Err(wrong.unwrap_or(ArchiveError::NoYard))
}

/// Whether a yard can be made of a ZIP: it is put together in an empty folder, and every page read once.
///
/// # Errors
/// As [`restore`].
pub fn proved(path: &Path, folder: &Path) -> Result<Store, ArchiveError> {
    let mut zip = opened_zip(path)?;
    // Each of the two documents has to do.
    let mut made = None;
    for (k, name) in DOCUMENTS.iter().enumerate() {
        let yard = put_together(&mut zip, name, Tables::Whole, &folder.join(k.to_string()))?;
        readable::read_through(&yard)?;
        made = Some(yard);
    }
    made.ok_or(ArchiveError::NoYard)
}

/// The horses, sessions and clips of a packed yard, without a mark, put together in the empty `folder`.
///
/// # Errors
/// When the ZIP is none of a yard, or both of its documents are damaged.
pub fn in_brief(path: &Path, folder: &Path) -> Result<Store, ArchiveError> {
    Ok(brought(&mut opened_zip(path)?, Tables::Brief, folder, |_| Ok(()))?.0)
}

pub(super) fn opened_zip(path: &Path) -> Result<ZipArchive<BufReader<File>>, ArchiveError> {
    let file =
        File::open(path).map_err(|cause| ArchiveError::Open { path: path.to_owned(), cause })?;
    ZipArchive::new(BufReader::new(file)).map_err(ArchiveError::NoZip)
}

/// Name of the folder of films beside a backup's ZIPs.
pub const FILMS: &str = "films";

/// What came back.
#[derive(Clone, Debug)]
pub struct Restored {
    /// Horses.
    pub horses: usize,
    /// Clips.
    pub clips: usize,
    /// Films.
    pub films: usize,
    /// Clips whose film the ZIP does not hold.
    pub missing: Vec<String>,
    /// Clips whose film in the ZIP is damaged.
    pub damaged: Vec<String>,
}

impl Restored {
    /// What did not come back, in words; `None` when all did.
    pub fn lacks(&self) -> Option<String> {
        let of = |clips: &[String], one: &str, more: &str| match clips {
            [] => None,
            [clip] => Some(format!("the film of {clip} {one}")),
            clips => Some(format!("the films of {} {more}", clips.join(", "))),
        };
        let said: Vec<String> = [
            of(&self.missing, "is not in there", "are not in there"),
            of(&self.damaged, "is damaged and was left out", "are damaged and were left out"),
        ]
        .into_iter()
        .flatten()
        .collect();
        (!said.is_empty()).then(|| format!("{}; the marks are here", said.join("; ")))
    }
}

/// Puts a yard from a ZIP into an empty one, all of its tables or nothing, and those of its films that are sound; copies
/// for stepping are made when it is opened.
///
/// # Errors
/// When the ZIP is none of a yard or is damaged, or the yard is not empty.
pub fn restore(store: &Store, path: &Path) -> Result<Restored, ArchiveError> {
    // Before anything is moved: films of a yard that is there stay as they are, and what was made of them.
    if !store.tables_are_empty()? {
        return Err(StoreError::Invalid(NOT_EMPTY.into()).into());
    }
    let mut zip = opened_zip(path)?;
    let aside = Aside::make(store)?;
    let (brought, ()) = brought(&mut zip, Tables::Whole, &aside.folder, readable::read_through)?;
    let clips = brought.all_clips()?;
    let films = films::unpacked(&brought, clips.clone(), &mut zip, &path.with_file_name(FILMS))?;
    let horses = brought.horses()?.len();
    let done =
        aside.move_films(&brought, store, &films.here).and_then(|()| Ok(store.take_over(brought)?));
    if let Err(e) = done {
        forget(store, films.here.iter().map(String::as_str))?;
        return Err(e);
    }
    ask_for_copies(store, &clips)?;
    let (films, missing, damaged) = (films.here.len(), films.missing, films.damaged);
    Ok(Restored { horses, clips: clips.len(), films, missing, damaged })
}

/// Asks for the copies for stepping of clips that came back.
pub(super) fn ask_for_copies(store: &Store, clips: &[Clip]) -> Result<(), StoreError> {
    for clip in clips.iter().filter(|c| !c.footage.file.is_empty()) {
        store.set_proxy(clip.id, ProxyState::Pending, 0)?;
        store.add_job(clip.id, JobKind::Proxy)?;
        store.add_job(clip.id, JobKind::Filmstrip)?;
    }
    Ok(())
}
