//! One clip: its footage, frames, sound and settings.

use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::{Deserialize, Serialize};
use umlauf_gait::Side;
use umlauf_gait::footfall_csv::{self, FootfallTable, Header};
use umlauf_gait::units::SlowFactor;
use umlauf_store::clip::{Clip, ProxyState, Settings};
use utoipa::ToSchema;

use super::{Answer, Json, Path, State};
use crate::desk;
use crate::problem::Problem;

/// A clip.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ClipView {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// Horse's number.
    pub horse: i64,
    /// Horse's name.
    pub horse_name: String,
    /// Session's number.
    pub session: i64,
    /// Session's date.
    pub date: String,
    /// Address of the footage to show: the proxy when there is one, else the original.
    pub media: String,
    /// `pending`, `ready` or `failed`.
    pub proxy: String,
    /// Picture width, pixels.
    pub width: u32,
    /// Picture height, pixels.
    pub height: u32,
    /// Length of the file, s.
    pub length_s: f64,
    /// Frames per second of the file's clock.
    pub frame_rate: Option<f64>,
    /// Codec of the original.
    pub codec: String,
    /// What the coach says of it.
    pub settings: ClipSettings,
}

/// What the coach says of a clip.
#[derive(Clone, Debug, Deserialize, Serialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ClipSettings {
    /// How many times slower the file runs than the world.
    pub slow_factor: f64,
    /// `left` or `right`.
    pub rein: Option<String>,
    /// `left` or `right`.
    pub asked_lead: Option<String>,
}

/// When each frame is shown.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Frames {
    /// Presentation times, µs of the file's clock, in order.
    pub times_us: Vec<i64>,
}

/// How loud the clip is, for drawing.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Sound {
    /// µs of the file's clock that one point covers.
    pub step_us: i64,
    /// 0 to 255; empty when there is no sound, or not yet.
    pub points: Vec<u8>,
}

/// One clip.
#[utoipa::path(get, path = "/api/clips/{clip}", params(("clip" = i64, Path,)),
    responses((status = 200, body = ClipView), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn clip(state: State, Path(id): Path<i64>) -> Answer<ClipView> {
    let (clip, session, horse) = state
        .with(move |s| {
            let clip = s.clip(id)?;
            let session = s.session(clip.session)?;
            let horse = s.horse(session.horse)?;
            Ok((clip, session, horse))
        })
        .await?;
    let which = if clip.proxy == ProxyState::Ready { "proxy" } else { "original" };
    Ok(axum::Json(ClipView {
        id,
        horse: horse.id,
        horse_name: horse.name,
        session: session.id,
        date: session.date,
        media: format!("/media/{}/{which}", clip.footage.content),
        proxy: clip.proxy.word().to_owned(),
        width: clip.footage.width,
        height: clip.footage.height,
        length_s: clip.length_s,
        frame_rate: clip.footage.frame_rate,
        codec: clip.footage.codec,
        settings: ClipSettings {
            slow_factor: clip.settings.slow_factor,
            rein: clip.settings.rein,
            asked_lead: clip.settings.asked_lead,
        },
        name: clip.name,
    }))
}

/// Changes what the coach says of a clip. Marks stay as they are.
#[utoipa::path(put, path = "/api/clips/{clip}/settings", params(("clip" = i64, Path,)),
    request_body = ClipSettings,
    responses((status = 200, body = desk::Desk), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn settings(
    state: State,
    Path(id): Path<i64>,
    Json(new): Json<ClipSettings>,
) -> Answer<desk::Desk> {
    let invalid = |says: String| Problem::new(StatusCode::UNPROCESSABLE_ENTITY, "invalid", says);
    SlowFactor::new(new.slow_factor).map_err(|e| invalid(e.to_string()))?;
    for (word, what) in [(&new.rein, "rein"), (&new.asked_lead, "lead asked for")] {
        if word.as_deref().is_some_and(|w| w.parse::<Side>().is_err()) {
            return Err(invalid(format!("the {what} must be left or right")));
        }
    }
    let settings =
        Settings { slow_factor: new.slow_factor, rein: new.rein, asked_lead: new.asked_lead };
    state
        .with(move |s| {
            s.set_settings(id, &settings)?;
            desk::desk(s, id, false)
        })
        .await
        .map(axum::Json)
}

/// Times of all frames.
#[utoipa::path(get, path = "/api/clips/{clip}/frames", params(("clip" = i64, Path,)),
    responses((status = 200, body = Frames), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn frames(state: State, Path(id): Path<i64>) -> Answer<Frames> {
    let times_us = state.with(move |s| s.frame_times(id)).await?;
    Ok(axum::Json(Frames { times_us }))
}

/// The sound's envelope.
#[utoipa::path(get, path = "/api/clips/{clip}/sound", params(("clip" = i64, Path,)),
    responses((status = 200, body = Sound), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn sound(state: State, Path(id): Path<i64>) -> Answer<Sound> {
    let points = state.with(move |s| s.sound(id)).await?.unwrap_or_default();
    Ok(axum::Json(Sound { step_us: crate::jobs::SOUND_STEP_US, points }))
}

/// The marks as a footfalls table in true seconds.
#[utoipa::path(get, path = "/api/clips/{clip}/footfalls.csv", params(("clip" = i64, Path,)),
    responses((status = 200, content_type = "text/csv", body = String), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn footfalls(state: State, Path(id): Path<i64>) -> Result<Response, Problem> {
    let (clip, horse, marks) = state
        .with(move |s| {
            let clip = s.clip(id)?;
            let horse = s.horse(s.session(clip.session)?.horse)?;
            let marks = s.marks(id)?;
            Ok((clip, horse, marks))
        })
        .await?;
    let name = file_name(&clip);
    let (footfalls, options) = desk::on_true_clock(&clip, &horse, &marks);
    let header = Header {
        frame_rate: options.frame_rate,
        slow_factor: Some(clip.settings.slow_factor),
        withers: options.withers,
        rein: options.rein,
        asked_lead: options.asked_lead,
        gaited: options.gaited.then_some(true),
        ..Header::default()
    };
    let table = footfall_csv::write(&FootfallTable { footfalls, header });
    let disposition = format!("attachment; filename=\"{name}.footfalls.csv\"");
    Ok((
        [
            (header::CONTENT_TYPE, "text/csv; charset=utf-8".to_owned()),
            (header::CONTENT_DISPOSITION, disposition),
        ],
        table,
    )
        .into_response())
}

/// A clip's name as a safe file name.
fn file_name(clip: &Clip) -> String {
    let safe: String = clip
        .name
        .chars()
        .map(|c| if c.is_ascii_alphanumeric() || c == '-' || c == '_' { c } else { '-' })
        .collect();
    if safe.is_empty() { format!("clip-{}", clip.id) } else { safe }
}
