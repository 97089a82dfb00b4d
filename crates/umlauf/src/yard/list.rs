//! The yard: horses with their sessions and clips, and what needs the coach.

use std::collections::HashMap;

use serde::Serialize;
use umlauf_gait::season::returning;
use umlauf_gait::words;
use umlauf_store::clip::Clip;
use umlauf_store::horse::Horse;
use umlauf_store::yard::Session;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::dates;
use crate::dates::day_number;
use crate::digest::{Line, Shelf};
use crate::document::wheel::Wheel;

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
    /// Footfalls found by themselves that wait to be taken.
    pub found: usize,
    /// What was found, in one sentence.
    pub headline: String,
    /// Name of the longest bout's gait, lead and tempo, when there is one.
    pub label: Option<String>,
    /// Tempo of the longest bout, strides/min, and half its 95 % interval.
    pub tempo: Option<[f64; 2]>,
    /// Wheel of the longest bout; in the yard only of the latest clips of a horse.
    pub wheel: Option<Wheel>,
    /// Findings that ask for attention.
    pub faults: usize,
    /// Day on which it was filmed, when the camera noted it.
    pub recorded_on: Option<String>,
    /// What there is to say of the file.
    pub remark: String,
    /// Address of its filmstrip, when it is made.
    pub filmstrip: Option<String>,
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
    /// Who rode.
    pub rider: String,
    /// Where.
    pub arena: String,
    /// Footing.
    pub surface: String,
    /// What the rider felt.
    pub felt: String,
    /// The rider's own score, 0 to 10.
    pub score: Option<f64>,
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
    /// What to mind.
    pub cautions: String,
    /// How long ago it was ridden, in words.
    pub ridden: Option<String>,
    /// What to mind after a pause, in words.
    pub returning: Option<String>,
    /// The latest sessions, newest first.
    pub sessions: Vec<SessionLine>,
    /// Sessions before those.
    pub older_sessions: usize,
}

/// The yard.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Yard {
    /// What is to be said of the yard, in one sentence.
    pub headline: String,
    /// Horses by name.
    pub horses: Vec<HorseLine>,
    /// Footage that waits to be told its horse.
    pub unsorted: Vec<ClipLine>,
}

/// Sessions of a horse that the yard shows; the record has all.
const SHOWN: usize = 14;

/// Wheels of a horse that the yard shows.
const WHEELS: usize = 5;

pub(crate) fn read(store: &Store) -> Result<Yard, StoreError> {
    let (horses, sessions) = (store.horses()?, store.sessions()?);
    let today = day_number(&jiff::Zoned::now().date().to_string());
    let mut shelf = Shelf::open(store)?;
    let open = store.open_suggestions()?;
    let mut lines = Vec::with_capacity(horses.len());
    for horse in horses {
        let own: Vec<&Session> = sessions.iter().filter(|s| s.horse == horse.id).collect();
        let mut shown = Vec::new();
        for session in own.iter().take(SHOWN) {
            shown.push(session_line(store, &mut shelf, &open, session, &horse)?);
        }
        // Newest first, as the page takes them.
        let clips = shown.iter_mut().flat_map(|s: &mut SessionLine| s.clips.iter_mut());
        for clip in clips.skip(WHEELS) {
            clip.wheel = None;
        }
        let older_sessions = own.len().saturating_sub(SHOWN);
        let mut days: Vec<i64> = own.iter().map(|s| day_number(&s.date)).collect();
        days.reverse();
        let ridden =
            days.last().map(|last| format!("ridden {}", words::returning::days_ago(today - last)));
        let returning =
            returning::returning(&days, today).map(|r| words::returning::coming_back(&r));
        let Horse { id, card } = horse;
        lines.push(HorseLine {
            id,
            name: card.name,
            withers_m: card.withers_m,
            gaited: card.gaited,
            cautions: card.cautions,
            ridden,
            returning,
            sessions: shown,
            older_sessions,
        });
    }
    let mut unsorted = Vec::new();
    for clip in store.unsorted_clips()? {
        unsorted.push(clip_line(store, &mut shelf, &open, clip, None)?);
    }
    shelf.close();
    Ok(Yard { headline: headline(&lines, unsorted.len()), horses: lines, unsorted })
}

fn session_line(
    store: &Store,
    shelf: &mut Shelf<'_>,
    open: &HashMap<i64, usize>,
    session: &Session,
    horse: &Horse,
) -> Result<SessionLine, StoreError> {
    let mut clips = Vec::new();
    for clip in store.clips_of_session(session.id)? {
        clips.push(clip_line(store, shelf, open, clip, Some(horse))?);
    }
    Ok(SessionLine {
        id: session.id,
        date: session.date.clone(),
        note: session.about.note.clone(),
        rider: session.about.rider.clone(),
        arena: session.about.arena.clone(),
        surface: session.about.surface.clone(),
        felt: session.about.felt.clone(),
        score: session.about.score,
        clips,
    })
}

fn clip_line(
    store: &Store,
    shelf: &mut Shelf<'_>,
    open: &HashMap<i64, usize>,
    clip: Clip,
    horse: Option<&Horse>,
) -> Result<ClipLine, StoreError> {
    let Line { footfalls, headline, label, tempo, wheel, faults } = shelf.line(&clip, horse)?;
    let strip = store.footage_folder(&clip.footage.content).join("filmstrip.jpg");
    // A ride that came as a table has no pictures.
    let pictures = !clip.footage.file.is_empty() && strip.exists();
    Ok(ClipLine {
        id: clip.id,
        name: clip.name,
        length_s: clip.length_s,
        footfalls,
        found: open.get(&clip.id).copied().unwrap_or(0),
        label,
        tempo,
        faults,
        headline,
        recorded_on: clip.footage.recorded.as_deref().and_then(dates::of_stamp),
        remark: clip.remark,
        filmstrip: pictures.then(|| format!("/media/{}/filmstrip", clip.footage.content)),
        wheel,
    })
}

/// What needs the coach: unsorted footage and clips not timed yet come first, faults next.
fn headline(horses: &[HorseLine], unsorted: usize) -> String {
    if unsorted > 0 {
        let clips =
            if unsorted == 1 { "1 new clip".into() } else { format!("{unsorted} new clips") };
        return format!("{clips}: whose footage is it?");
    }
    if horses.is_empty() {
        return "No horse yet: add the first one, then a session and a clip.".into();
    }
    let clips = |h: &HorseLine| h.sessions.iter().map(|s| s.clips.len()).sum::<usize>();
    let any =
        |h: &HorseLine, of: fn(&ClipLine) -> bool| h.sessions.iter().flat_map(|s| &s.clips).any(of);
    let waits = |h: &&HorseLine| any(h, |c| c.label.is_none() && c.found == 0);
    let finds = |h: &&HorseLine| any(h, |c| c.found > 0);
    let looks = |h: &&HorseLine| any(h, |c| c.faults > 0);
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
    let found = names(horses.iter().filter(finds).collect());
    if !found.is_empty() {
        let first = format!("Footfalls found in footage of {found} wait to be taken");
        return match (waiting.is_empty(), looked.is_empty()) {
            (false, _) => format!("{first}; footage of {waiting} waits to be timed."),
            (true, false) => format!("{first}; have a look at {looked}."),
            (true, true) => format!("{first}."),
        };
    }
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
