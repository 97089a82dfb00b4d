//! Looks after the yard while it is served: whether its file is whole, each film in its turn, a backup a day.

use std::sync::Arc;
use std::time::{Duration, Instant};

use jiff::Zoned;
use jiff::civil::Date;
use umlauf_store::Store;
use umlauf_store::clip::Clip;

use crate::app::{App, Looked};
use crate::backup::{self, daily, place::Place};
use crate::check::finding::Finding;
use crate::check::{films, tables};
use crate::dates::now_ms;
use crate::refused::Refused;
use crate::share::film;

/// Between two looks at whether a backup is due.
const HOUR: Duration = Duration::from_secs(3600);

/// For each second that a film is read nothing is read for so many: the desk comes first.
const RESTS: u32 = 20;

/// Looks at the yard's file at a start and once a day, makes the backup of the day, and lets films of ended links go, until
/// the program ends.
pub async fn hourly(app: Arc<App>) {
    for hour in 0u64.. {
        // At a start somebody waits; from the hour after it on it is looked at whole, once a day.
        if hour == 0 || hour % 24 == 1 {
            let quick = hour == 0;
            match app.with(move |s| tables::tables(s, quick, false)).await {
                Ok(found) => app.has_looked(Looked::Tables, found),
                Err(e) => tracing::warn!("the yard’s file is not looked at: {e}"),
            }
        }
        if let Err(e) = back_up_if_due(&app).await {
            tracing::warn!("no backup: {e}");
        }
        if let Err(e) = say_of_backups(&app).await {
            tracing::warn!("nothing is said of backups: {e}");
        }
        if let Err(e) = app.with(|s| film::swept(s, now_ms(), false)).await {
            tracing::warn!("films of links that have ended are not let go: {e}");
        }
        tokio::time::sleep(HOUR).await;
    }
}

/// Reads every film once a day at the most, a little at a time, until the program ends.
pub async fn films(app: Arc<App>) {
    loop {
        let begun = Instant::now();
        let clips = app.with(umlauf_store::Store::all_clips).await.unwrap_or_default();
        for clip in clips.into_iter().filter(|c| !c.footage.file.is_empty() && !c.removed) {
            let (id, reading) = (clip.id, Instant::now());
            match app.ask(move |s| looked_at(s, &clip)).await {
                Ok(found) => app.has_looked(Looked::Film(id), found.into_iter().collect()),
                Err(e) => tracing::warn!("the film of clip {id} is not looked at: {e}"),
            }
            tokio::time::sleep(RESTS * reading.elapsed()).await;
        }
        if let Ok(found) = app.with(films::of_no_clip).await {
            app.has_looked(Looked::Folders, found.into_iter().collect());
        }
        match kept(&app).await {
            Ok(found) => app.has_looked(Looked::Kept, found),
            Err(e) => tracing::warn!("the backups are not looked at: {e}"),
        }
        tokio::time::sleep((24 * HOUR).saturating_sub(begun.elapsed()).max(HOUR)).await;
    }
}

/// What is wrong in the backups of days; their films are looked at as a backup is made.
async fn kept(app: &Arc<App>) -> Result<Vec<Finding>, Refused> {
    let Some(folder) = app.with(daily::folder).await? else { return Ok(vec![]) };
    app.ask(move |s| Ok(backup::sound::days(s, &folder)?)).await
}

/// A film that is damaged and is in the backup is put back from there.
fn looked_at(store: &Store, clip: &Clip) -> Result<Option<Finding>, Refused> {
    let Some(found) = films::film(store, clip) else { return Ok(None) };
    let Some(folder) = daily::folder(store)? else { return Ok(Some(found)) };
    let place = Place::of(&folder, &store.identity()?);
    let _held = store.hold_folders()?;
    // It may have been emptied from the bin meanwhile.
    let there = store.clip(clip.id).is_ok();
    let mended = there && backup::films::put_back(store, &place, clip)?;
    Ok(there.then_some(Finding { mended, ..found }))
}

/// Makes today's backup unless there is one, or no folder for it.
async fn back_up_if_due(app: &Arc<App>) -> Result<(), Refused> {
    let (folder, last) = app.with(|s| Ok((daily::folder(s)?, daily::last(s)?))).await?;
    let due = folder.is_some() && last.as_ref().is_none_or(|l| l.day != today());
    if due { back_up(app).await.map(|_| ()) } else { Ok(()) }
}

/// Makes today's backup now.
///
/// # Errors
/// When there is no folder for it, or it cannot be made.
pub async fn back_up(app: &Arc<App>) -> Result<daily::Last, Refused> {
    let folder = app.with(daily::folder).await?;
    let folder = folder.ok_or_else(|| Refused::invalid("choose a folder for backups first"))?;
    let made = {
        let mut trouble = app.backing_up.lock().await;
        let made = app.ask(move |s| Ok(daily::back_up(s, &folder, today())?)).await;
        *trouble = made.as_ref().err().map(ToString::to_string);
        made
    };
    say_of_backups(app).await?;
    made
}

/// Keeps what there is to say of the backups.
async fn say_of_backups(app: &Arc<App>) -> Result<(), Refused> {
    let last = app.with(daily::last).await?;
    let trouble = app.backing_up.lock().await.clone();
    app.has_looked(Looked::Backups, daily::findings(last.as_ref(), trouble.as_deref(), today()));
    Ok(())
}

fn today() -> Date {
    Zoned::now().date()
}
