//! What a rider sees: reports and films of their own horses.

use serde::Serialize;
use umlauf_store::clip::ProxyState;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::api::extract::{Answer, State};
use crate::digest::Shelf;
use crate::films::shown_at;
use crate::people::who::Who;

/// A film.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct OwnFilm {
    /// Clip.
    pub clip: i64,
    /// Its name.
    pub name: String,
    /// Length, s.
    pub length_s: f64,
    /// What was found in it, in one sentence.
    pub headline: String,
    /// Address of the film; `null` as long as the browser could not show it.
    pub media: Option<String>,
}

/// A session.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct OwnSession {
    /// Number.
    pub id: i64,
    /// `YYYY-MM-DD`.
    pub date: String,
    /// Who rode.
    pub rider: String,
    /// Films.
    pub films: Vec<OwnFilm>,
}

/// A horse.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct OwnHorse {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// Its sessions, newest first.
    pub sessions: Vec<OwnSession>,
}

/// Own horses.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Own {
    /// What there is, in one sentence.
    pub headline: String,
    /// By name.
    pub horses: Vec<OwnHorse>,
}

fn read(s: &Store, who: &Who) -> Result<Own, StoreError> {
    let sessions = s.sessions()?;
    let mut shelf = Shelf::open(s)?;
    let mut horses = Vec::new();
    for horse in s.horses()?.into_iter().filter(|h| who.sees(h.id)) {
        let mut own = Vec::new();
        for session in sessions.iter().filter(|of| of.horse == horse.id) {
            let mut films = Vec::new();
            for clip in s.clips_of_session(session.id)? {
                let first = match clip.proxy {
                    ProxyState::Ready => 0,
                    _ => s.frame_times(clip.id)?.first().copied().unwrap_or(0),
                };
                let (media, headline) =
                    (shown_at(&clip, first), shelf.line(&clip, Some(&horse))?.headline);
                let (name, length_s) = (clip.name, clip.length_s);
                films.push(OwnFilm { clip: clip.id, media, name, length_s, headline });
            }
            let (date, rider) = (session.date.clone(), session.about.rider.clone());
            own.push(OwnSession { id: session.id, date, rider, films });
        }
        horses.push(OwnHorse { id: horse.id, name: horse.card.name, sessions: own });
    }
    shelf.close();
    Ok(Own { headline: headline(&horses), horses })
}

fn headline(horses: &[OwnHorse]) -> String {
    let last = horses.iter().filter_map(|h| Some((&h.sessions.first()?.date, &h.name))).max();
    match (horses.is_empty(), last) {
        (true, _) => "No horse is yours here yet: ask your coach to say which ones are.".into(),
        (_, None) => "Nothing was ridden yet.".into(),
        (_, Some((date, name))) => {
            format!("The latest: {name} on {}.", crate::dates::in_words(date))
        }
    }
}

/// Reports and films of one's own horses.
#[utoipa::path(get, path = "/api/own", responses((status = 200, body = Own)))]
pub async fn own(state: State) -> Answer<Own> {
    let who = state.rights.clone();
    state.read(move |s| read(s, &who)).await.map(axum::Json)
}
