//! The log beside the yard's file, as it lies on the disk: which pages it holds, as what, and how much of it is whole.
//!
//! Its form is that of SQLite's write-ahead log (“Database File Format”, section 4): a head of 32 bytes, then frames of a
//! head of 24 bytes and a page each. Every frame repeats the head's two salts and goes on from the checksum before it.

use std::fs::File;
use std::io::{BufReader, ErrorKind, Read as _};
use std::path::Path;

const HEAD: usize = 32;
const FRAME_HEAD: usize = 24;

/// The first word of a log, but for its last bit, which says how its checksums read words.
const MAGIC: u32 = 0x377f_0682;

/// Pages are not larger.
const LARGEST: usize = 65_536;

/// A page's hash, the first bytes of its BLAKE3: one change of 2¹²⁸ is missed.
pub(crate) type PageHash = [u8; 16];

/// The hash of a page.
pub(crate) fn page_hash(page: &[u8]) -> PageHash {
    let mut hash = PageHash::default();
    hash.copy_from_slice(&blake3::hash(page).as_bytes()[..size_of::<PageHash>()]);
    hash
}

/// A log.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(crate) struct Log {
    /// Its salts; `None` for one whose head is damaged.
    pub salts: Option<[u8; 8]>,
    /// Frames that are whole, one after the other from the first, up to the last one that ends a transaction.
    pub whole: u32,
    /// Page, counted from 1, and what it is written as, of each of these frames; in order of pages.
    pub frames: Vec<(u32, PageHash)>,
    /// Pages of the file when all of this is moved into it; 0 when there is nothing to move.
    pub size: u32,
}

impl Log {
    /// Reads one; `None` when there is none, or nothing in it.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub(crate) fn read(file: &Path) -> std::io::Result<Option<Self>> {
        let file = match File::open(file) {
            Err(e) if e.kind() == ErrorKind::NotFound => return Ok(None),
            other => other?,
        };
        let mut from = BufReader::with_capacity(1 << 18, file);
        let mut head = [0; HEAD];
        if !filled(&mut from, &mut head)? {
            return Ok(None);
        }
        let word = |k: usize| u32::from_be_bytes([head[k], head[k + 1], head[k + 2], head[k + 3]]);
        let page = word(8) as usize;
        let mut sum = Sum { big: word(0) & 1 == 1, s: [0, 0] };
        sum.add(&head[..24]);
        let sound = word(0) & !1 == MAGIC
            && (512..=LARGEST).contains(&page)
            && page.is_power_of_two()
            && sum.s == [word(24), word(28)];
        if !sound {
            return Ok(Some(Self::default()));
        }
        let mut salts = [0; 8];
        salts.copy_from_slice(&head[16..24]);
        let mut log = Self { salts: Some(salts), ..Self::default() };
        let mut frame = vec![0; FRAME_HEAD + page];
        while filled(&mut from, &mut frame)? {
            let word =
                |k: usize| u32::from_be_bytes([frame[k], frame[k + 1], frame[k + 2], frame[k + 3]]);
            sum.add(&frame[..8]);
            sum.add(&frame[FRAME_HEAD..]);
            if frame[8..16] != salts || sum.s != [word(16), word(20)] {
                // What is left of an earlier log, or damage.
                break;
            }
            log.frames.push((word(0), page_hash(&frame[FRAME_HEAD..])));
            if word(4) > 0 {
                log.whole = u32::try_from(log.frames.len()).unwrap_or(u32::MAX);
                log.size = word(4);
            }
        }
        log.frames.truncate(log.whole as usize);
        log.frames.sort_unstable();
        Ok(Some(log))
    }

    /// The pages that it writes, counted from 0, each once.
    pub(crate) fn pages(&self) -> impl Iterator<Item = usize> {
        let once = self.frames.chunk_by(|a, b| a.0 == b.0).filter_map(<[_]>::first);
        once.filter_map(|(page, _)| (*page as usize).checked_sub(1))
    }

    /// Whether it writes page `k`, counted from 0, as this; `None`: as anything.
    pub(crate) fn has(&self, k: usize, as_what: Option<PageHash>) -> bool {
        let Ok(page) = u32::try_from(k + 1) else { return false };
        let from = self.frames.partition_point(|f| *f < (page, as_what.unwrap_or_default()));
        self.frames.get(from).is_some_and(|f| f.0 == page && as_what.is_none_or(|h| h == f.1))
    }

    /// Both together.
    pub(crate) fn and(mut self, other: Self) -> Self {
        self.frames.extend(other.frames);
        self.frames.sort_unstable();
        if other.size > 0 {
            self.size = other.size;
        }
        self
    }
}

/// The salts of a log, as they stand in its head.
pub(crate) fn salts_of(file: &Path) -> Option<[u8; 8]> {
    let mut head = [0; 24];
    File::open(file).ok()?.read_exact(&mut head).ok()?;
    head.last_chunk::<8>().copied()
}

/// Whether so much was there.
fn filled(from: &mut BufReader<File>, into: &mut [u8]) -> std::io::Result<bool> {
    match from.read_exact(into) {
        Err(e) if e.kind() == ErrorKind::UnexpectedEof => Ok(false),
        other => other.map(|()| true),
    }
}

/// The log's checksum so far.
struct Sum {
    big: bool,
    s: [u32; 2],
}

impl Sum {
    fn add(&mut self, bytes: &[u8]) {
        for pair in bytes.chunks_exact(8) {
            let word = |k: usize| {
                let four = [pair[k], pair[k + 1], pair[k + 2], pair[k + 3]];
                if self.big { u32::from_be_bytes(four) } else { u32::from_le_bytes(four) }
            };
            let (a, b) = (word(0), word(4));
            self.s[0] = self.s[0].wrapping_add(a).wrapping_add(self.s[1]);
            self.s[1] = self.s[1].wrapping_add(b).wrapping_add(self.s[0]);
        }
    }
}
