//! Horses, their sessions and clips.

use serde::{Deserialize, Serialize};
use umlauf_store::clip::Clip;
use umlauf_store::yard::{Horse, Session};
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use super::{Answer, Json, Path, State};
use crate::desk::{self, Wheel};
use crate::problem::Problem;

/// A clip in a list.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ClipLine {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// Length of the file, s.
    pub length_s: f64,
    /// Marks made.
    pub footfalls: usize,
    /// What was found, in one sentence.
    pub headline: String,
    /// Name of the longest bout's gait, lead and tempo, when there is one.
    pub label: Option<String>,
    /// Tempo of the longest bout, strides/min, and half its 95 % interval.
    pub tempo: Option<[f64; 2]>,
    /// Wheel of the longest bout.
    pub wheel: Option<Wheel>,
    /// Findings that ask for attention.
    pub faults: usize,
}

/// A session with its clips.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct SessionLine {
    /// Number.
    pub id: i64,
    /// `YYYY-MM-DD`.
    pub date: String,
    /// The coach's words.
    pub note: String,
    /// Clips.
    pub clips: Vec<ClipLine>,
}

/// A horse with its sessions.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct HorseLine {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// Height at the withers, m.
    pub withers_m: Option<f64>,
    /// Gaited.
    pub gaited: bool,
    /// Sessions, newest first.
    pub sessions: Vec<SessionLine>,
}

/// The yard.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Yard {
    /// What is to be said of the yard, in one sentence.
    pub headline: String,
    /// Horses by name.
    pub horses: Vec<HorseLine>,
}

/// A new horse.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewHorse {
    /// Name.
    name: String,
    /// Height at the withers, m.
    withers_m: Option<f64>,
    /// Gaited.
    #[serde(default)]
    gaited: bool,
}

/// A new session.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewSession {
    /// `YYYY-MM-DD`.
    #[schema(value_type = String, format = Date)]
    date: jiff::civil::Date,
    /// The coach's words.
    #[serde(default)]
    note: String,
}

/// The number of something new.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Added {
    /// Number.
    pub id: i64,
}

/// Horses, sessions and clips.
#[utoipa::path(get, path = "/api/yard", responses((status = 200, body = Yard)))]
pub async fn yard(state: State) -> Answer<Yard> {
    state.with(read).await.map(axum::Json)
}

/// Adds a horse.
#[utoipa::path(post, path = "/api/horses", request_body = NewHorse,
    responses((status = 200, body = Added), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn add_horse(state: State, Json(new): Json<NewHorse>) -> Answer<Added> {
    let horse = state.with(move |s| s.add_horse(&new.name, new.withers_m, new.gaited)).await?;
    Ok(axum::Json(Added { id: horse.id }))
}

/// Adds a session of a horse.
#[utoipa::path(post, path = "/api/horses/{horse}/sessions", request_body = NewSession,
    params(("horse" = i64, Path,)),
    responses((status = 200, body = Added), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn add_session(
    state: State,
    Path(horse): Path<i64>,
    Json(new): Json<NewSession>,
) -> Answer<Added> {
    let session =
        state.with(move |s| s.add_session(horse, &new.date.to_string(), &new.note)).await?;
    Ok(axum::Json(Added { id: session.id }))
}

fn read(store: &Store) -> Result<Yard, StoreError> {
    let (horses, sessions, clips) = (store.horses()?, store.sessions()?, store.clips()?);
    let mut lines = Vec::with_capacity(horses.len());
    for horse in horses {
        let own = sessions.iter().filter(|s| s.horse == horse.id);
        let sessions = own
            .map(|s| session_line(store, s, &horse, &clips))
            .collect::<Result<Vec<_>, StoreError>>()?;
        let Horse { id, name, withers_m, gaited } = horse;
        lines.push(HorseLine { id, name, withers_m, gaited, sessions });
    }
    Ok(Yard { headline: headline(&lines), horses: lines })
}

fn session_line(
    store: &Store,
    session: &Session,
    horse: &Horse,
    clips: &[Clip],
) -> Result<SessionLine, StoreError> {
    let own = clips.iter().filter(|c| c.session == session.id);
    Ok(SessionLine {
        id: session.id,
        date: session.date.clone(),
        note: session.note.clone(),
        clips: own.map(|c| clip_line(store, c, horse)).collect::<Result<_, StoreError>>()?,
    })
}

fn clip_line(store: &Store, clip: &Clip, horse: &Horse) -> Result<ClipLine, StoreError> {
    let marks = store.marks(clip.id)?;
    let analysis = desk::analyse(clip, horse, &marks);
    let mut wheels = desk::wheels(&analysis);
    let document = crate::document::document(&analysis);
    let longest = (0..document.bouts.len()).max_by_key(|k| document.bouts[*k].strides);
    let bout = longest.map(|k| &document.bouts[k]);
    Ok(ClipLine {
        id: clip.id,
        name: clip.name.clone(),
        length_s: clip.length_s,
        footfalls: document.input.footfalls,
        label: bout.map(|b| b.label.clone()),
        tempo: bout.and_then(|b| b.tempo.as_ref()).and_then(|t| {
            let [lo, hi] = t.ci95?;
            Some([t.value, (hi - lo) / 2.0])
        }),
        faults: document.findings.iter().filter(|f| f.fault).count(),
        headline: document.headline,
        wheel: longest.map(|k| wheels.swap_remove(k)),
    })
}

/// What needs the coach: clips not timed yet come first, faults next.
fn headline(horses: &[HorseLine]) -> String {
    if horses.is_empty() {
        return "No horse yet: add the first one, then a session and a clip.".into();
    }
    let clips = |h: &HorseLine| h.sessions.iter().map(|s| s.clips.len()).sum::<usize>();
    let waits =
        |h: &&HorseLine| h.sessions.iter().flat_map(|s| &s.clips).any(|c| c.label.is_none());
    let looks = |h: &&HorseLine| h.sessions.iter().flat_map(|s| &s.clips).any(|c| c.faults > 0);
    let names = |of: Vec<&HorseLine>| match of.as_slice() {
        [] => String::new(),
        [one] => one.name.clone(),
        [most @ .., last] if most.len() < 4 => {
            let most: Vec<&str> = most.iter().map(|h| h.name.as_str()).collect();
            format!("{} and {}", most.join(", "), last.name)
        }
        many => format!("{} horses", many.len()),
    };
    let waiting = names(horses.iter().filter(waits).collect());
    let looked = names(horses.iter().filter(looks).collect());
    match (waiting.is_empty(), looked.is_empty()) {
        (false, true) => format!("Footage of {waiting} waits to be timed."),
        (false, false) => {
            format!("Footage of {waiting} waits to be timed; have a look at {looked}.")
        }
        (true, false) => format!("All footage is timed; have a look at {looked}."),
        (true, true) if horses.iter().all(|h| clips(h) == 0) => {
            "No footage yet: open a session and add a clip.".into()
        }
        (true, true) => "All footage is timed, and nothing asks for a second look.".into(),
    }
}
