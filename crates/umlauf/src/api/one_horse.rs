//! One horse out of a backup, beside what is in the yard.

use std::collections::BTreeMap;
use std::path::PathBuf;

use jiff::civil::Date;
use serde::Serialize;
use umlauf_store::Store;
use utoipa::ToSchema;

use crate::api::extract::{Answer, Path, State};
use crate::archive::one_horse::{self, Packed, Which};
use crate::archive_error::ArchiveError;
use crate::backup::daily;
use crate::backup::make::aside;
use crate::backup::place::Place;
use crate::problem::Problem;
use crate::refused::Refused;

/// Days of which there is a backup.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Days {
    /// Each day, the latest first; none where the stick is not there.
    #[schema(value_type = Vec<String>)]
    pub days: Vec<Date>,
}

/// Horses of a backup.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct PackedHorses {
    /// Each horse, in order of names.
    pub horses: Vec<Packed>,
}

/// A horse that came back from a backup.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct HorseBack {
    /// Its number in the yard.
    pub horse: i64,
    /// Its name there: where a horse has it already, with the day of the backup.
    pub name: String,
    /// Clips.
    pub clips: usize,
    /// Films that were not here.
    pub films: usize,
    /// What did not come back, in words.
    pub lacks: Option<String>,
}

/// Backups in the folder that was chosen, the latest first: the yard's own, and for other days those of other yards, for a
/// yard that was put back on another machine goes by another name there.
fn backups(store: &Store) -> Result<Vec<(Date, PathBuf)>, Refused> {
    let folder = daily::folder(store)?;
    let folder = folder.ok_or_else(|| Refused::invalid("choose a folder for backups first"))?;
    let own = Place::of(&folder, &store.identity()?);
    let all = std::iter::once(own).chain(Place::all(&folder));
    let mut by_day = BTreeMap::new();
    for place in all {
        for day in place.days() {
            by_day.entry(day).or_insert_with(|| place.of_day(day));
        }
    }
    Ok(by_day.into_iter().rev().collect())
}

/// Days of which the chosen folder holds a backup.
#[utoipa::path(get, path = "/api/backups/days",
    responses((status = 200, body = Days), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn days(state: State) -> Answer<Days> {
    let all = state.ask(backups).await?;
    Ok(axum::Json(Days { days: all.into_iter().map(|(day, _)| day).collect() }))
}

/// Horses of the backup of a day.
#[utoipa::path(get, path = "/api/backups/days/{day}", params(("day" = String, Path, format = Date)),
    responses((status = 200, body = PackedHorses), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn horses(state: State, Path(day): Path<String>) -> Answer<PackedHorses> {
    let day = real(&day)?;
    let _turn = state.along[1].try_acquire().map_err(|_| ArchiveError::Busy)?;
    let horses = state
        .ask(move |s| {
            let aside = aside(s)?;
            let mut all = one_horse::horses(&of_day(s, day)?, aside.path())?;
            all.sort_by(|a, b| a.name.cmp(&b.name));
            Ok(all)
        })
        .await?;
    Ok(axum::Json(PackedHorses { horses }))
}

/// Brings one horse back from the backup of a day, with its sessions, marks and films, beside what is in the yard.
#[utoipa::path(post, path = "/api/backups/days/{day}/horses/{horse}", params(("day" = String, Path, format = Date), ("horse" = i64, Path)),
    responses((status = 200, body = HorseBack), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn bring(state: State, Path((day, horse)): Path<(String, i64)>) -> Answer<HorseBack> {
    let day = real(&day)?;
    let came = state
        .ask(move |s| {
            let zip = of_day(s, day)?;
            Ok(one_horse::restore(s, &zip, Which::Id(horse), Some(day))?)
        })
        .await?;
    state.wake();
    let (clips, films) = (came.with.clips, came.with.films);
    let lacks = came.with.lacks();
    Ok(axum::Json(HorseBack { horse: came.horse, name: came.name, clips, films, lacks }))
}

fn real(day: &str) -> Result<Date, Refused> {
    day.parse().map_err(|_| Refused::invalid(format!("{day} is no day: 2026-11-30 is one")))
}

fn of_day(store: &Store, day: Date) -> Result<PathBuf, Refused> {
    let found = backups(store)?.into_iter().find(|(d, _)| *d == day);
    let none = || Refused::invalid(format!("there is no backup of {day} in the folder"));
    found.map(|(_, zip)| zip).ok_or_else(none)
}
