//! The films of a packed yard, each unpacked aside and held against its hash.

use std::fs::File;
use std::io::{BufReader, Read, Write as _};
use std::path::Path;

use umlauf_store::Store;
use zip::ZipArchive;

use crate::archive_error::ArchiveError;

/// A film is packed as it is; a tool that packs it again makes it little smaller. What grows by more is no film.
const GROWS: u64 = 8;

/// What came of the films that clips name.
#[derive(Default)]
pub struct Films {
    /// Contents whose film is here.
    pub here: Vec<String>,
    /// Contents whose film the ZIP does not hold.
    pub missing: usize,
}

/// Unpacks the films that clips of the yard `aside` name into its own folder.
///
/// # Errors
/// When one is not what its name says, or cannot be written.
pub fn unpacked(
    aside: &Store,
    zip: &mut ZipArchive<BufReader<File>>,
) -> Result<Films, ArchiveError> {
    let mut films = Films::default();
    let mut done: Vec<String> = Vec::new();
    for clip in aside.all_clips()?.into_iter().filter(|c| !c.footage.file.is_empty()) {
        let (content, name) = (clip.footage.content, clip.footage.file);
        let short = || name.chars().take(40).collect::<String>();
        if done.contains(&content) {
            continue;
        }
        done.push(content.clone());
        let Ok(packed) = zip.by_name(&format!("footage/{content}/{name}")) else {
            films.missing += 1;
            continue;
        };
        let (whole, small) = (packed.size(), packed.compressed_size());
        if whole != clip.footage.bytes || whole > small.saturating_mul(GROWS) {
            return Err(ArchiveError::FilmDamaged(short()));
        }
        let folder = aside.footage_folder(&content);
        std::fs::create_dir_all(&folder)?;
        let hash = unpack(packed.take(whole), &folder.join(&name))
            .map_err(|cause| ArchiveError::FilmWrite { name: short(), cause })?;
        if hash != content {
            return Err(ArchiveError::FilmDamaged(short()));
        }
        File::open(&folder)?.sync_all()?;
        films.here.push(content);
    }
    Ok(films)
}

/// Writes what is read, and its BLAKE3 hash in hexadecimal.
fn unpack(mut from: impl Read, to: &Path) -> std::io::Result<String> {
    let mut out = File::create(to)?;
    let mut hash = blake3::Hasher::new();
    let mut block = vec![0; 1 << 16];
    loop {
        let n = from.read(&mut block)?;
        if n == 0 {
            break;
        }
        hash.update(&block[..n]);
        out.write_all(&block[..n])?;
    }
    out.sync_all()?;
    Ok(hash.finalize().to_hex().to_string())
}
