//! Choices for the whole yard.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::api::extract::{Answer, Json, State};
use crate::api::folder::real;
use crate::choices::{FINDS_NOTHING, FOLDER, KEYS};
use crate::problem::Problem;
use crate::refused::Refused;

/// Folders in which the machine shows itself: there are no films in them.
const NO_FILMS: [&str; 3] = ["/proc", "/sys", "/dev"];

/// Choices for the whole yard.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Setup {
    /// Folder on the server's machine whose new footage comes in by itself.
    pub watched_folder: Option<String>,
    /// Whether new footage is looked at for footfalls by itself; left out, that stays as it is.
    pub find_footfalls: Option<bool>,
}

/// Choices for the whole yard.
#[utoipa::path(get, path = "/api/setup", responses((status = 200, body = Setup)))]
pub async fn setup(state: State) -> Answer<Setup> {
    let (watched_folder, finds) =
        state.read(|s| Ok((s.choice(FOLDER)?, s.choice(FINDS_NOTHING)?.is_none()))).await?;
    Ok(axum::Json(Setup { watched_folder, find_footfalls: Some(finds) }))
}

/// Changes the choices.
#[utoipa::path(put, path = "/api/setup", request_body = Setup,
    responses((status = 200, body = Setup), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change(state: State, Json(new): Json<Setup>) -> Answer<Setup> {
    let folder = new.watched_folder.as_deref().map(str::trim).filter(|f| !f.is_empty());
    if let Some(folder) = folder {
        let real = real(folder).await?;
        let yard = tokio::fs::canonicalize(state.store.folder()).await?;
        if real.starts_with(yard) || NO_FILMS.iter().any(|own| real.starts_with(own)) {
            return Err(Refused::invalid(format!(
                "{folder} belongs to Umlauf or to the machine itself; give a folder that films are copied to"
            )));
        }
    }
    let keep = folder.map(str::to_owned);
    state
        .with(move |s| {
            s.set_choice(FOLDER, keep.as_deref())?;
            match new.find_footfalls {
                Some(finds) => s.set_choice(FINDS_NOTHING, (!finds).then_some("yes")),
                None => Ok(()),
            }
        })
        .await?;
    state.watch.notify_one();
    setup(state).await
}

/// The coach's own scatter, from footfalls timed twice.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Hand {
    /// Standard deviation of a stepped mark beyond its frame, s; `null` when it was not measured.
    /// Where it was measured at several frame rates, that of the slowest footage.
    pub scatter_s: Option<f64>,
    /// All that was measured: for each clip that of the nearest frame rate counts.
    pub measured: Vec<HandAt>,
}

/// The coach's own scatter at one frame rate.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
pub struct HandAt {
    /// Frames/s of the footage it was measured on; `null` when that was not kept.
    pub frame_rate: Option<f64>,
    /// Standard deviation, s.
    pub scatter_s: f64,
}

/// The coach's own scatter that is counted in every error.
#[utoipa::path(get, path = "/api/hand", responses((status = 200, body = Hand)))]
pub async fn hand(state: State) -> Answer<Hand> {
    let who = state.who.clone();
    let all = state.read(move |s| s.hand_scatters(&who)).await?;
    let measured =
        all.iter().map(|h| HandAt { frame_rate: h.frame_rate, scatter_s: h.scatter_s }).collect();
    let known = all.iter().find(|h| h.frame_rate.is_some()).or(all.first());
    Ok(axum::Json(Hand { scatter_s: known.map(|h| h.scatter_s), measured }))
}

/// Forgets the coach's own scatter: errors are those of the frames again.
#[utoipa::path(delete, path = "/api/hand", responses((status = 200, body = Hand)))]
pub async fn forget_hand(state: State) -> Answer<Hand> {
    let who = state.who.clone();
    state.with(move |s| s.forget_hand(&who)).await?;
    hand(state).await
}

/// Keys of the desk that the coach has changed, by the name of what they do.
#[derive(Clone, Debug, Default, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Keys {
    /// From what is done to the key that does it, as the page writes it.
    pub keys: BTreeMap<String, String>,
}

/// Keys that the coach has changed.
#[utoipa::path(get, path = "/api/keys", responses((status = 200, body = Keys)))]
pub async fn keys(state: State) -> Answer<Keys> {
    let text = state.read(|s| s.choice(KEYS)).await?;
    Ok(axum::Json(text.and_then(|t| serde_json::from_str(&t).ok()).unwrap_or_default()))
}

/// Changes the keys; what is not named has the key it came with.
#[utoipa::path(put, path = "/api/keys", request_body = Keys,
    responses((status = 200, body = Keys), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change_keys(state: State, Json(new): Json<Keys>) -> Answer<Keys> {
    let short = |t: &str| (1..=40).contains(&t.chars().count());
    if new.keys.len() > 200 || !new.keys.iter().all(|(k, v)| short(k) && short(v)) {
        return Err(Refused::invalid("a key and what it does have 1 to 40 letters"));
    }
    let text = serde_json::to_string(&new).map_err(|e| Refused::Failed(e.to_string()))?;
    state.with(move |s| s.set_choice(KEYS, Some(&text))).await?;
    Ok(axum::Json(new))
}
