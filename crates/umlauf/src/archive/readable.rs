//! Every page of a yard from outside is read once before it is taken over: a row that a page cannot be made of is found
//! while there is still nothing to lose.

use jiff::civil::Date;
use umlauf_store::clip::Clip;
use umlauf_store::horse::Horse;
use umlauf_store::yard::Session;
use umlauf_store::{Store, StoreError};

use crate::archive_error::ArchiveError;
use crate::record::filter::Filter;
use crate::suggest::found::Kept;
use crate::{desk, ground, record, yard};

/// What is wrong with tables that come from outside, and not with this yard, is the fault of the ZIP.
pub fn tables(cause: StoreError) -> ArchiveError {
    match cause {
        StoreError::Full | StoreError::Invalid(_) | StoreError::Io { .. } => cause.into(),
        _ => ArchiveError::Page { name: "its tables".into(), cause },
    }
}

/// Reads all that pages are made of.
///
/// # Errors
/// [`ArchiveError::Page`] for the first page that cannot be made.
pub fn read_through(store: &Store) -> Result<(), ArchiveError> {
    yard::list::read(store).map_err(page("the Yard"))?;
    store.uploads().map_err(page("the Yard"))?;
    clips(store, store.all_clips().map_err(page("the Bin"))?)?;
    let mut horses = store.horses().map_err(page("the Yard"))?;
    horses.extend(store.removed_horses().map_err(page("the Bin"))?);
    for horse in horses {
        record(store, &horse)?;
    }
    store.removed_sessions().map_err(page("the Bin"))?;
    sessions(store, store.sessions().map_err(page("the Yard"))?)
}

/// Reads all that the pages of one horse are made of.
///
/// # Errors
/// As [`read_through`].
pub fn read_horse(store: &Store, horse: i64) -> Result<(), ArchiveError> {
    let horse = store.horse(horse).map_err(page("the Yard"))?;
    record(store, &horse)?;
    let own = store.sessions_of(horse.id).map_err(page("the Yard"))?;
    for session in &own {
        clips(store, store.clips_of_session(session.id).map_err(page("a session"))?)?;
    }
    sessions(store, own)
}

fn page(name: impl Into<String>) -> impl FnOnce(StoreError) -> ArchiveError {
    |cause| ArchiveError::Page { name: name.into(), cause }
}

fn clips(store: &Store, clips: Vec<Clip>) -> Result<(), ArchiveError> {
    clips
        .into_iter()
        .try_for_each(|clip| clip_of(store, clip.id).map_err(page(format!("clip {}", clip.id))))
}

fn record(store: &Store, horse: &Horse) -> Result<(), ArchiveError> {
    record::read::read(store, horse.id, &Filter::default())
        .map_err(page(format!("the record of {}", horse.card.name)))?;
    Ok(())
}

fn sessions(store: &Store, sessions: Vec<Session>) -> Result<(), ArchiveError> {
    for session in sessions {
        if let Err(e) = session.date.parse::<Date>() {
            return Err(StoreError::Invalid(format!("a session's date is none: {e}")).into());
        }
        yard::session::read(store, session.id)
            .and_then(|_| store.session_log(session.id))
            .map_err(page(format!("the session of {}", session.date)))?;
    }
    Ok(())
}

/// All that is read of a clip.
fn clip_of(store: &Store, id: i64) -> Result<(), StoreError> {
    let times = store.frame_times(id)?;
    if !times.is_sorted() {
        return Err(StoreError::Invalid("its frames are not in order".into()));
    }
    store.sound(id)?;
    store.journal(id)?;
    store.marks_and_suggestions(id)?;
    Kept::in_clip(store, id)?;
    desk::desk(store, id, true)?;
    ground::desk::ground(store, id)?;
    Ok(())
}
