//! One horse out of a packed yard into a yard that goes on: with its sessions, marks and films, beside what is there.

use std::collections::HashSet;
use std::path::Path;

use jiff::civil::Date;
use serde::Serialize;
use umlauf_store::Store;
use umlauf_store::clip::Clip;
use umlauf_store::horse::Horse;
use utoipa::ToSchema;

use crate::archive::aside::{Aside, forget};
use crate::archive::document::Tables;
use crate::archive::restore::{FILMS, Restored, ask_for_copies, brought, in_brief, opened_zip};
use crate::archive::{films, readable};
use crate::archive_error::ArchiveError;
use crate::choices::TARGET;
use crate::dates::in_words;

/// A horse as a packed yard has it.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Packed {
    /// Its number there.
    pub id: i64,
    /// Its name.
    pub name: String,
    /// Sessions.
    pub sessions: usize,
    /// Day of the last of them.
    pub last: Option<String>,
}

/// Which horse.
#[derive(Clone, Copy, Debug)]
pub enum Which<'a> {
    /// By its number there.
    Id(i64),
    /// By its name, however its letters are written.
    Name(&'a str),
}

/// A horse that came back.
#[derive(Clone, Debug)]
pub struct Came {
    /// Its number here.
    pub horse: i64,
    /// Its name here.
    pub name: String,
    /// What came with it.
    pub with: Restored,
}

/// The horses of a packed yard, but for those in its bin; it is put together in the empty `folder`.
///
/// # Errors
/// When the ZIP is none of a yard or is damaged.
pub fn horses(path: &Path, folder: &Path) -> Result<Vec<Packed>, ArchiveError> {
    let yard = in_brief(path, folder)?;
    let sessions = yard.sessions()?;
    let of = |horse: i64| sessions.iter().filter(move |s| s.horse == horse);
    Ok(yard
        .horses()?
        .into_iter()
        .map(|h| Packed {
            id: h.id,
            name: h.card.name,
            sessions: of(h.id).count(),
            last: of(h.id).map(|s| s.date.clone()).max(),
        })
        .collect())
}

/// Puts one horse back, all of its tables or nothing, and those of its films that are sound. Where a horse of its name is
/// here, it comes as it was on `day`.
///
/// # Errors
/// [`ArchiveError::NoHorse`]; when the ZIP is none of a yard or is damaged, or the disk is full.
pub fn restore(
    store: &Store,
    path: &Path,
    which: Which<'_>,
    day: Option<Date>,
) -> Result<Came, ArchiveError> {
    let mut zip = opened_zip(path)?;
    let aside = Aside::make(store)?;
    let (brought, horse) = brought(&mut zip, Tables::Whole, &aside.folder, |yard| {
        let horse = only(yard, which)?;
        readable::read_horse(yard, horse.id)?;
        Ok(horse)
    })?;
    let mut clips = Vec::new();
    for session in brought.sessions_of(horse.id)? {
        clips.extend(brought.clips_of_session(session.id)?);
    }
    // What a clip here names already is looked after here.
    let here = |content: &str| Ok::<_, ArchiveError>(!store.clips_of_content(content)?.is_empty());
    let mut coming: Vec<Clip> = Vec::new();
    for clip in &clips {
        if !here(&clip.footage.content)? {
            coming.push(clip.clone());
        }
    }
    let films = films::unpacked(&brought, coming, &mut zip, &path.with_file_name(FILMS))?;
    let name = unlike(store, &horse.card.name, day)?;
    let held = store.hold_folders()?;
    let mut contents = Vec::new();
    for content in &films.here {
        // One may have come by itself meanwhile.
        if !here(content)? {
            contents.push(content.clone());
        }
    }
    let done = aside
        .move_films(&brought, store, &contents)
        .and_then(|()| Ok(store.take_in_horse(brought, horse.id, &name, TARGET)?));
    let new = match done {
        Ok(new) => new,
        Err(e) => {
            forget(store, contents.iter().map(String::as_str))?;
            return Err(e);
        }
    };
    drop(held);
    for session in store.sessions_of(new)? {
        ask_for_copies(store, &store.clips_of_session(session.id)?)?;
    }
    let with = Restored {
        horses: 1,
        clips: clips.len(),
        films: contents.len(),
        missing: films.missing,
        damaged: films.damaged,
    };
    Ok(Came { horse: new, name, with })
}

fn only(yard: &Store, which: Which<'_>) -> Result<Horse, ArchiveError> {
    let mut named = yard.horses()?.into_iter().filter(|h| match which {
        Which::Id(id) => h.id == id,
        Which::Name(name) => h.card.name.trim().to_lowercase() == name.trim().to_lowercase(),
    });
    let horse = named.next().ok_or(ArchiveError::NoHorse)?;
    if named.next().is_some() { Err(ArchiveError::TwoHorses) } else { Ok(horse) }
}

/// A name that no horse here has.
fn unlike(store: &Store, name: &str, day: Option<Date>) -> Result<String, ArchiveError> {
    let taken: HashSet<String> = store.horses()?.into_iter().map(|h| h.card.name).collect();
    let short: String = name.chars().take(80).collect();
    let of = match day {
        Some(day) => format!("{short}, as of {}", in_words(&day.to_string())),
        None => format!("{short}, from a backup"),
    };
    let mut names =
        [name.to_owned(), of.clone()].into_iter().chain((2..).map(|k| format!("{of} ({k})")));
    Ok(names.find(|n| !taken.contains(n)).unwrap_or(of))
}
