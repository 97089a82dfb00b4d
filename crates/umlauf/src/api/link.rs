//! Links that show one report or one film to whoever has them, until they end.

use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use umlauf_store::account::Account;
use umlauf_store::link::{Link, Shows};
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::api::extract::{Answer, Json, Path, State};
use crate::api::network::qr;
use crate::dates::{in_words, now_ms};
use crate::people::secret::{hashed, secret};
use crate::problem::Problem;
use crate::refused::Refused;
use crate::share::film;

/// A link.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct LinkLine {
    /// Number.
    pub id: i64,
    /// What it shows, in words.
    pub shows: String,
    /// When it ends, ms of Unix time.
    pub ends_ms: i64,
    /// Who made it.
    pub who: String,
}

/// Links that have not ended.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Links {
    /// The one that ends next first.
    pub links: Vec<LinkLine>,
}

/// What a link shows, in words.
pub(crate) fn words(s: &Store, shows: Shows) -> Result<String, StoreError> {
    let of = |id: i64| {
        let session = s.session(id)?;
        Ok::<_, StoreError>((s.horse(session.horse)?.card.name, in_words(&session.date)))
    };
    Ok(match shows {
        Shows::Report(session) => {
            let (horse, day) = of(session)?;
            format!("Report on {horse}, {day}")
        }
        Shows::Film { clip, silent, blurred } => {
            let clip = s.clip(clip)?;
            let whose = clip.session.map(of).transpose()?;
            let whose =
                whose.map_or_else(String::new, |(horse, day)| format!(" of {horse}, {day}"));
            let how = match (silent, blurred) {
                (true, true) => ", without sound and face",
                (true, false) => ", without sound",
                (false, true) => ", without face",
                (false, false) => "",
            };
            format!("Film {}{whose}{how}", clip.name)
        }
    })
}

fn read(s: &Store) -> Result<Links, StoreError> {
    let links = s.links(now_ms())?.into_iter().map(|Link { id, shows, ends_ms, author }| {
        Ok(LinkLine { id, shows: words(s, shows)?, ends_ms, who: author.id().to_owned() })
    });
    Ok(Links { links: links.collect::<Result<_, StoreError>>()? })
}

/// Links that have not ended.
#[utoipa::path(get, path = "/api/links", responses((status = 200, body = Links)))]
pub async fn links(state: State) -> Answer<Links> {
    state.with(read).await.map(axum::Json)
}

/// A new link, to a session's report or a clip's film.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewLink {
    /// The session whose report it shows.
    session: Option<i64>,
    /// The clip whose film it shows.
    clip: Option<i64>,
    /// With the film's sound.
    #[serde(default)]
    sound: bool,
    /// With the rider's face hidden.
    #[serde(default)]
    hide_face: bool,
    /// Days until it ends, 1 to 30.
    days: u8,
    /// The parents of whoever is under age have agreed.
    #[serde(default)]
    agreed: bool,
}

/// A link that was made.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct MadeLink {
    /// Its address. It is told this once: the yard keeps only its hash.
    pub address: String,
    /// The address as a QR code, an SVG.
    pub qr: Option<String>,
    /// When it ends, ms of Unix time.
    pub ends_ms: i64,
}

/// Makes a link. It is opened in the yard's network only: nothing is sent anywhere.
#[utoipa::path(post, path = "/api/links", request_body = NewLink,
    responses((status = 200, body = MadeLink), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn add_link(state: State, Json(new): Json<NewLink>) -> Answer<MadeLink> {
    let shows = match (new.session, new.clip) {
        (Some(session), None) => Shows::Report(session),
        (None, Some(clip)) => Shows::Film { clip, silent: !new.sound, blurred: new.hide_face },
        _ => {
            return Err(Refused::invalid(
                "a link shows the report of a session or the film of a clip",
            ));
        }
    };
    if !(1..=30).contains(&new.days) {
        return Err(Refused::invalid("a link ends after 1 to 30 days"));
    }
    let host = state.network.borrow().hosts().first().cloned().ok_or_else(|| {
        Refused::invalid(
            "nobody could open it: only this machine reaches Umlauf. Let tablets in first, in Setup",
        )
    })?;
    let ends_ms = now_ms() + i64::from(new.days) * 86_400_000;
    let (kept, author) = (secret(), state.who.clone());
    let token = hashed(&kept);
    let link = state
        .ask(move |s| {
            if let Some(name) = under_age(s, shows)?.filter(|_| !new.agreed) {
                return Err(Refused::UnderAge(name));
            }
            let id = s.add_link(&token, shows, ends_ms, &author)?;
            Ok(Link { id, shows, ends_ms, author })
        })
        .await?;
    if matches!(shows, Shows::Film { .. }) {
        // Begun at once: whoever opens it waits less.
        film::state(&state, &link).await;
    }
    let address = format!("https://{host}/link/{kept}");
    Ok(axum::Json(MadeLink { qr: qr(&address), address, ends_ms }))
}

/// Who under age would be shown: who rode it by what is said of the session, or a rider of that horse when whoever is named
/// there, or nobody, is none of the yard's people.
fn under_age(s: &Store, shows: Shows) -> Result<Option<String>, StoreError> {
    let session = match shows {
        Shows::Report(session) => Some(session),
        Shows::Film { clip, .. } => s.clip(clip)?.session,
    };
    let Some(session) = session.map(|id| s.session(id)).transpose()? else { return Ok(None) };
    let rider = session.about.rider.trim().to_lowercase();
    let is_rider = |a: &Account| a.person.id().to_lowercase() == rider;
    let people = s.accounts()?;
    let known = people.iter().any(is_rider);
    for account in people.iter().filter(|a| a.under_age) {
        let may_be = !known && s.horses_of_account(account.id)?.contains(&session.horse);
        if is_rider(account) || may_be {
            return Ok(Some(account.person.id().to_owned()));
        }
    }
    Ok(None)
}

/// Ends a link now; the film that was made for it goes too.
#[utoipa::path(delete, path = "/api/links/{link}", params(("link" = i64, Path,)),
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn end_link(state: State, Path(id): Path<i64>) -> Result<StatusCode, Refused> {
    state
        .take_away(move |s| {
            s.end_link(id)?;
            film::swept(s, now_ms(), false)
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}
