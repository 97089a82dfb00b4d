//! A seal over the yard's file: a hash of each page as this program has last written it, in a file beside. Whatever else
//! changes a page, were it one bit of a word in a note, is noticed by holding page against hash.
//!
//! The file itself changes only when its log is moved into it (`sealing`). Until the seal is made anew a page may be what
//! it was sealed as or what the log has for it. One that was neither is kept in mind when it is written over: what came of
//! its damage stands in it still.

use std::fs::File;
use std::io::{Read as _, Seek as _, SeekFrom, Write as _};
use std::ops::Range;
use std::path::Path;

use crate::log::{Log, PageHash, page_hash};

/// Name of the file in a yard's folder.
pub(crate) const FILE: &str = "yard.seal";

/// How it begins.
const MAGIC: &[u8; 12] = b"umlauf seal\n";

/// The hashes of a file's pages. Pages are counted from 0.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Seal {
    page: u32,
    hashes: Vec<PageHash>,
    /// Pages that were found changed and have been written over since, in order.
    marred: Vec<u32>,
}

/// What a seal's own file is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) enum Kept {
    /// There is none.
    None,
    /// It is not as it was written.
    Damaged,
    /// It is whole.
    Whole(Seal),
}

impl Seal {
    /// A seal over pages of `page` bytes, of which none is sealed yet.
    pub(crate) const fn new(page: u32) -> Self {
        Self { page, hashes: Vec::new(), marred: Vec::new() }
    }

    /// The seal in a yard's folder.
    ///
    /// # Errors
    /// When it cannot be read.
    pub(crate) fn read(folder: &Path) -> std::io::Result<Kept> {
        let bytes = match std::fs::read(folder.join(FILE)) {
            Err(e) if e.kind() == std::io::ErrorKind::NotFound => return Ok(Kept::None),
            other => other?,
        };
        Ok(Self::parsed(&bytes).map_or(Kept::Damaged, Kept::Whole))
    }

    fn parsed(bytes: &[u8]) -> Option<Self> {
        let (body, own) = bytes.split_last_chunk::<32>()?;
        if blake3::hash(body).as_bytes() != own {
            return None;
        }
        let (words, rest) = body.strip_prefix(MAGIC)?.split_first_chunk::<8>()?;
        let (words, _) = words.as_chunks::<4>();
        let (page, marred) = (u32::from_le_bytes(words[0]), u32::from_le_bytes(words[1]));
        let (marred, hashes) = rest.split_at_checked(4 * marred as usize)?;
        let marred = marred.as_chunks::<4>().0.iter().map(|w| u32::from_le_bytes(*w)).collect();
        let (hashes, rest) = hashes.as_chunks();
        (rest.is_empty() && page > 0).then(|| Self { page, hashes: hashes.to_vec(), marred })
    }

    /// Writes it through in place of the one before, whole or not at all.
    ///
    /// # Errors
    /// When it cannot be written.
    pub(crate) fn write(&self, folder: &Path) -> std::io::Result<()> {
        let mut bytes = MAGIC.to_vec();
        let marred = u32::try_from(self.marred.len()).unwrap_or(0);
        bytes.extend([self.page, marred].iter().chain(&self.marred).flat_map(|w| w.to_le_bytes()));
        bytes.extend(self.hashes.iter().flatten());
        let own = blake3::hash(&bytes);
        bytes.extend_from_slice(own.as_bytes());
        let new = folder.join("yard.seal.new");
        let mut file = File::create(&new)?;
        file.write_all(&bytes)?;
        file.sync_all()?;
        std::fs::rename(&new, folder.join(FILE))?;
        File::open(folder)?.sync_all()
    }

    /// Keeps in mind which of the pages that the log is about to write over are what nobody wrote.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub(crate) fn note_marred(&mut self, file: &mut File, log: &Log) -> std::io::Result<()> {
        let found = self.changed(file, log.pages(), log)?;
        self.marred.extend(found.into_iter().filter_map(|k| u32::try_from(k).ok()));
        self.marred.sort_unstable();
        self.marred.dedup();
        Ok(())
    }

    /// Makes the hashes of the pages anew that the log has, or had before it was moved, from the file; of all pages that
    /// have none.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub(crate) fn renew(&mut self, file: &mut File, log: &Log) -> std::io::Result<()> {
        let (there, before) = (self.pages_of(file)?, self.hashes.len());
        let size = match log.size {
            0 if before == 0 => there,
            0 => before,
            size => size as usize,
        };
        self.hashes.resize(size, PageHash::default());
        let mut page = vec![0; self.page as usize];
        let anew = log.pages().filter(|k| *k < before).chain(before..size);
        // The log has what is not there yet.
        for k in anew.filter(|k| *k < size.min(there)) {
            self.hashes[k] = hash(file, k, &mut page)?;
        }
        Ok(())
    }

    /// Of the pages in `range` those that are neither what they were sealed as nor what the log has for them, or were so
    /// when they were written over.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub(crate) fn broken(
        &self,
        file: &mut File,
        range: Range<usize>,
        log: &Log,
    ) -> std::io::Result<Vec<usize>> {
        let mut found = self.changed(file, range.start..range.end.min(self.hashes.len()), log)?;
        found.extend(self.marred.iter().map(|k| *k as usize).filter(|k| range.contains(k)));
        found.sort_unstable();
        found.dedup();
        Ok(found)
    }

    /// How many pages are sealed.
    pub(crate) fn len(&self) -> usize {
        self.hashes.len()
    }

    fn changed(
        &self,
        file: &mut File,
        pages: impl Iterator<Item = usize>,
        log: &Log,
    ) -> std::io::Result<Vec<usize>> {
        let there = self.pages_of(file)?;
        let mut page = vec![0; self.page as usize];
        let mut changed = Vec::new();
        for k in pages.filter(|k| *k < self.hashes.len()) {
            let is = if k < there { Some(hash(file, k, &mut page)?) } else { None };
            if is != Some(self.hashes[k]) && !log.has(k, is) {
                changed.push(k);
            }
        }
        Ok(changed)
    }

    fn pages_of(&self, file: &File) -> std::io::Result<usize> {
        Ok(usize::try_from(file.metadata()?.len() / u64::from(self.page)).unwrap_or(0))
    }
}

fn hash(file: &mut File, k: usize, page: &mut [u8]) -> std::io::Result<PageHash> {
    file.seek(SeekFrom::Start(k as u64 * page.len() as u64))?;
    file.read_exact(page)?;
    Ok(page_hash(page))
}
