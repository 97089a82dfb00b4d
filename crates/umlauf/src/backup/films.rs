//! The films of a backup: each content once, read back as it is written, and looked at again week by week.

use std::collections::HashSet;
use std::fs::File;
use std::path::{Path, PathBuf};

use umlauf_store::Store;
use umlauf_store::clip::Clip;
use umlauf_store::content::is_content;

use crate::archive_error::ArchiveError;
use crate::backup::place::Place;
use crate::copied::{copied, hash};

/// Brings the films of a yard into its backup; gives those that are not in there as they should be, each with why.
/// `weekday` (0 to 6) chooses which of the films that are there already are looked at again, byte by byte.
///
/// # Errors
/// When the backup cannot be written.
pub fn bring(store: &Store, place: &Place, weekday: u8) -> Result<Vec<String>, ArchiveError> {
    let mut wrong = Vec::new();
    let mut done = HashSet::new();
    for clip in store.all_clips()?.into_iter().filter(|c| !c.footage.file.is_empty()) {
        let content = &clip.footage.content;
        if !done.insert(content.clone()) {
            continue;
        }
        let there = place.films().join(content).join(&clip.footage.file);
        let size = std::fs::metadata(&there).map(|m| m.len());
        let its_turn = u8::from_str_radix(&content[..2], 16).unwrap_or(0) % 7 == weekday;
        let sound = size.is_ok_and(|s| s == clip.footage.bytes)
            && (!its_turn || hash(&there).is_ok_and(|h| h == *content));
        if sound {
            continue;
        }
        let here = store.footage_folder(content).join(&clip.footage.file);
        if let Some(why) = one(&here, &there, content)? {
            wrong.push(format!("the film of clip {}, {}, {why}", clip.id, clip.name));
        }
    }
    Ok(wrong)
}

/// Brings one film; why it is not there.
fn one(here: &Path, there: &Path, content: &str) -> Result<Option<&'static str>, ArchiveError> {
    let Ok(film) = File::open(here) else { return Ok(Some("is missing")) };
    let (folder, part) = (there.parent().unwrap_or(there), there.with_extension("part"));
    std::fs::create_dir_all(folder)?;
    let mut out = File::create(&part)?;
    let came = copied(film, &mut out)
        .map_err(|e| ArchiveError::Pack { path: there.to_owned(), cause: e.into() })?;
    out.sync_all()?;
    drop(out);
    let wrong = if came != content {
        Some("is damaged")
    } else if hash(&part)? != content {
        Some("cannot be read back from the backup: the disk there may be failing")
    } else {
        None
    };
    if wrong.is_some() {
        std::fs::remove_file(&part)?;
    } else {
        std::fs::rename(&part, there)?;
        File::open(folder)?.sync_all()?;
    }
    Ok(wrong)
}

/// Puts a film of the yard back from its backup; whether a sound one was there.
///
/// # Errors
/// When it cannot be written.
pub fn put_back(store: &Store, place: &Place, clip: &Clip) -> Result<bool, ArchiveError> {
    let content = &clip.footage.content;
    let kept = place.films().join(content).join(&clip.footage.file);
    // What is damaged there too stays away.
    if !hash(&kept).is_ok_and(|is| is == *content) {
        return Ok(false);
    }
    let here = store.footage_folder(content).join(&clip.footage.file);
    Ok(one(&kept, &here, content)?.is_none())
}

/// Looks at every film of a backup, byte by byte. Those that are not what they were brought as, each with whether a sound
/// one of the yard took its place: only when `mend`.
///
/// # Errors
/// When the backup cannot be written.
pub fn damaged(
    store: &Store,
    place: &Place,
    mend: bool,
) -> Result<Vec<(PathBuf, bool)>, ArchiveError> {
    let mut found = Vec::new();
    for folder in std::fs::read_dir(place.films()).into_iter().flatten().flatten() {
        let content = folder.file_name().to_string_lossy().into_owned();
        for film in std::fs::read_dir(folder.path()).into_iter().flatten().flatten() {
            let (path, name) = (film.path(), film.file_name());
            let unfinished = path.extension().is_some_and(|e| e == "part");
            let is = hash(&path);
            // One that was let go meanwhile is none.
            if unfinished || !path.exists() || is.is_ok_and(|is| is == content) {
                continue;
            }
            let here = store.footage_folder(&content).join(name);
            let mended = mend && one(&here, &path, &content)?.is_none();
            found.push((path, mended));
        }
    }
    Ok(found)
}

/// Removes films that no clip of these yards has.
///
/// # Errors
/// When one cannot be removed.
pub fn forget(place: &Place, needed: &HashSet<String>) -> std::io::Result<()> {
    for folder in std::fs::read_dir(place.films()).into_iter().flatten().flatten() {
        let name = folder.file_name();
        if name.to_str().is_some_and(|name| is_content(name) && !needed.contains(name)) {
            std::fs::remove_dir_all(folder.path())?;
        }
    }
    Ok(())
}
