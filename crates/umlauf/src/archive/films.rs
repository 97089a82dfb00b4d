//! The films of a packed yard, each unpacked aside and held against its hash.

use std::fs::File;
use std::io::{BufReader, Read};
use std::path::Path;

use umlauf_store::Store;
use umlauf_store::clip::Clip;
use zip::ZipArchive;
use zip::result::ZipError;

use crate::archive_error::ArchiveError;
use crate::copied::{NotCopied, copied};

/// A film is packed as it is; a tool that packs it again makes it little smaller. What grows by more is no film.
const GROWS: u64 = 8;

/// What came of the films that clips name.
#[derive(Default)]
pub struct Films {
    /// Contents whose film is here.
    pub here: Vec<String>,
    /// Clips whose film the ZIP does not hold.
    pub missing: Vec<String>,
    /// Clips whose film is not what its name says.
    pub damaged: Vec<String>,
}

/// Unpacks the films that `clips` of the yard `aside` name into its own folder. What the ZIP does not hold is taken from
/// the folder of films `beside` it, as a backup has it. One that is damaged is left out, and takes no other one along.
///
/// # Errors
/// When one cannot be written.
pub fn unpacked(
    aside: &Store,
    clips: Vec<Clip>,
    zip: &mut ZipArchive<BufReader<File>>,
    beside: &Path,
) -> Result<Films, ArchiveError> {
    let mut films = Films::default();
    let mut done: Vec<String> = Vec::new();
    for clip in clips.into_iter().filter(|c| !c.footage.file.is_empty()) {
        let (content, name) = (clip.footage.content, clip.footage.file);
        if done.contains(&content) {
            continue;
        }
        done.push(content.clone());
        let clip_name: String = clip.name.chars().take(40).collect();
        let folder = aside.footage_folder(&content);
        let to = folder.join(&name);
        let came = match zip.by_name(&format!("footage/{content}/{name}")) {
            Ok(packed) => {
                let (whole, small) = (packed.size(), packed.compressed_size());
                if whole != clip.footage.bytes || whole > small.saturating_mul(GROWS) {
                    films.damaged.push(clip_name);
                    continue;
                }
                std::fs::create_dir_all(&folder)?;
                unpack(packed.take(whole), &to)
            }
            Err(ZipError::FileNotFound) => {
                let Ok(film) = File::open(beside.join(&content).join(&name)) else {
                    films.missing.push(clip_name);
                    continue;
                };
                std::fs::create_dir_all(&folder)?;
                unpack(film.take(clip.footage.bytes), &to)
            }
            Err(_) => {
                films.damaged.push(clip_name);
                continue;
            }
        };
        let sound = match came {
            Ok(hash) => hash == content,
            Err(NotCopied::Read(_)) => false,
            Err(NotCopied::Write(cause)) => {
                return Err(ArchiveError::FilmWrite { name: clip_name, cause });
            }
        };
        if sound {
            File::open(&folder)?.sync_all()?;
            films.here.push(content);
        } else {
            films.damaged.push(clip_name);
        }
    }
    Ok(films)
}

/// Writes what is read, for good, and gives its hash.
fn unpack(from: impl Read, to: &Path) -> Result<String, NotCopied> {
    let mut out = File::create(to).map_err(NotCopied::Write)?;
    let hash = copied(from, &mut out)?;
    out.sync_all().map_err(NotCopied::Write)?;
    Ok(hash)
}
