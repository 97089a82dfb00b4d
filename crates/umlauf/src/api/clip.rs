//! One clip: its footage, frames, sound and settings.

use axum::http::{StatusCode, header};
use axum::response::{IntoResponse as _, Response};
use serde::{Deserialize, Serialize};
use umlauf_gait::Side;
use umlauf_gait::base::units::SlowFactor;
use umlauf_gait::marks::captions;
use umlauf_gait::marks::footfall_csv::{self, FootfallTable, Header};
use umlauf_store::clip::{Clip, ProxyState};
use umlauf_store::horse::Horse;
use utoipa::{IntoParams, ToSchema};

use crate::api::extract::{Answer, Json, Path, Query, State};
use crate::clip::settings::ClipSettings;
use crate::clip::{click_track, reading};
use crate::desk;
use crate::films::shown_at;
use crate::problem::Problem;
use crate::refused::Refused;

/// A clip.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ClipView {
    /// Number.
    pub id: i64,
    /// Name.
    pub name: String,
    /// Horse's number, when the clip is sorted.
    pub horse: Option<i64>,
    /// Horse's name.
    pub horse_name: Option<String>,
    /// Session's number.
    pub session: Option<i64>,
    /// Session's date.
    pub date: Option<String>,
    /// Address of the footage to show, when there is something that shows its frames exactly: the
    /// proxy, or the original while that is being made.
    pub media: Option<String>,
    /// What is to be added to a time of the shown file for that of the original, µs.
    pub media_shift_us: i64,
    /// Address of the filmstrip, when it is made.
    pub filmstrip: Option<String>,
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
    /// Size of the original, bytes.
    pub bytes: u64,
    /// When it was filmed, as the camera wrote it.
    pub recorded: Option<String>,
    /// What there is to say of the file.
    pub remark: String,
}

/// Settings of a clip, changed as one edit: what differs between `before` and `after` is changed,
/// the rest stays as it is.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SettingsEdit {
    /// Name given by the page: an edit sent twice is made once.
    edit_id: String,
    /// What the page showed.
    before: ClipSettings,
    /// What the coach says of the clip now.
    after: ClipSettings,
}

/// Where a clip belongs.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Place {
    /// Horse.
    horse: i64,
    /// Day of the session, `YYYY-MM-DD`; the session is made when there is none.
    #[schema(value_type = String, format = Date)]
    date: jiff::civil::Date,
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
    let (clip, session, horse, first) = state
        .read(move |s| {
            let clip = s.clip(id)?;
            let session = clip.session.map(|id| s.session(id)).transpose()?;
            let horse = reading::horse_of(s, &clip)?;
            let first = s.frame_times(id)?.first().copied().unwrap_or(0);
            Ok((clip, session, horse, first))
        })
        .await?;
    let content = &clip.footage.content;
    let ready = clip.proxy == ProxyState::Ready;
    let media = shown_at(&clip, first);
    let strip = state.store.footage_folder(content).join("filmstrip.jpg");
    let has_strip = tokio::fs::try_exists(&strip).await.unwrap_or(false);
    Ok(axum::Json(ClipView {
        id,
        horse: horse.as_ref().map(|h| h.id),
        horse_name: horse.map(|h| h.card.name),
        session: clip.session,
        date: session.map(|s| s.date),
        media,
        media_shift_us: if ready { clip.proxy_shift_us } else { 0 },
        filmstrip: has_strip.then(|| format!("/media/{content}/filmstrip")),
        proxy: clip.proxy.word().to_owned(),
        width: clip.footage.width,
        height: clip.footage.height,
        length_s: clip.length_s,
        frame_rate: clip.footage.frame_rate,
        codec: clip.footage.codec,
        bytes: clip.footage.bytes,
        recorded: clip.footage.recorded,
        remark: clip.remark,
        name: clip.name,
    }))
}

/// Changes what the coach says of a clip; it can be undone. Marks stay as they are.
#[utoipa::path(put, path = "/api/clips/{clip}/settings", params(("clip" = i64, Path,)),
    request_body = SettingsEdit,
    responses((status = 200, body = desk::Desk), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn settings(
    state: State,
    Path(id): Path<i64>,
    Json(edit): Json<SettingsEdit>,
) -> Answer<desk::Desk> {
    let who = state.who.clone();
    let (before, new) = (edit.before, edit.after);
    let invalid = |says: String| Refused::invalid(says);
    SlowFactor::new(new.slow_factor).map_err(|e| invalid(e.to_string()))?;
    for (word, what) in [(&new.rein, "rein"), (&new.asked_lead, "lead asked for")] {
        if word.as_deref().is_some_and(|w| w.parse::<Side>().is_err()) {
            return Err(invalid(format!("the {what} must be left or right")));
        }
    }
    if new.trim_from_us.zip(new.trim_to_us).is_some_and(|(from, to)| from >= to) {
        return Err(invalid("the clip must begin before it ends".into()));
    }
    if new.note.chars().count() > 4000 {
        return Err(invalid("a note must stay under 4000 letters".into()));
    }
    // How metres are found is said on the Ground desk: in neither of the two, it stays.
    let (before, after) = (before.into(), new.into());
    state
        .with(move |s| {
            s.change_settings(id, &edit.edit_id, &who, &before, &after)?;
            desk::desk(s, id, true)
        })
        .await
        .map(axum::Json)
}

/// Puts a clip into the session of a horse on a day.
#[utoipa::path(put, path = "/api/clips/{clip}/place", params(("clip" = i64, Path,)),
    request_body = Place,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn place(
    state: State,
    Path(id): Path<i64>,
    Json(place): Json<Place>,
) -> Result<StatusCode, Refused> {
    state
        .with(move |s| {
            let session = s.session_on(place.horse, &place.date.to_string())?;
            s.move_clip(id, session.id)
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Times of all frames.
#[utoipa::path(get, path = "/api/clips/{clip}/frames", params(("clip" = i64, Path,)),
    responses((status = 200, body = Frames), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn frames(state: State, Path(id): Path<i64>) -> Answer<Frames> {
    let times_us = state.read(move |s| s.frame_times(id)).await?;
    Ok(axum::Json(Frames { times_us }))
}

/// The sound's envelope.
#[utoipa::path(get, path = "/api/clips/{clip}/sound", params(("clip" = i64, Path,)),
    responses((status = 200, body = Sound), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn sound(state: State, Path(id): Path<i64>) -> Answer<Sound> {
    let points = state.read(move |s| s.sound(id)).await?.unwrap_or_default();
    Ok(axum::Json(Sound { step_us: crate::jobs::SOUND_STEP_US, points }))
}

/// The marks as a footfalls table in true seconds.
#[utoipa::path(get, path = "/api/clips/{clip}/footfalls.csv", params(("clip" = i64, Path,)),
    responses((status = 200, content_type = "text/csv", body = String), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn footfalls(state: State, Path(id): Path<i64>) -> Result<Response, Refused> {
    let (clip, horse, marks) = marked(&state, id).await?;
    let name = file_name(&clip);
    let (footfalls, options) = reading::on_true_clock(&clip, horse.as_ref(), &marks);
    let header = Header {
        frame_rate: options.frame_rate,
        slow_factor: Some(clip.settings.slow_factor),
        withers: options.withers,
        rein: options.rein,
        asked_lead: options.asked_lead,
        gaited: options.gaited.then_some(true),
        ..Header::default()
    };
    let table = footfall_csv::write(&FootfallTable { footfalls, header, without_limb: Vec::new() });
    Ok(attached(&format!("{name}.footfalls.csv"), "text/csv; charset=utf-8", table.into_bytes()))
}

/// The marks as captions on the clip's own clock.
#[utoipa::path(get, path = "/api/clips/{clip}/footfalls.vtt", params(("clip" = i64, Path,)),
    responses((status = 200, content_type = "text/vtt", body = String), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn captions(state: State, Path(id): Path<i64>) -> Result<Response, Refused> {
    let (clip, horse, marks) = marked(&state, id).await?;
    let (footfalls, _) = reading::on_true_clock(&clip, horse.as_ref(), &marks);
    let slow = clip.settings.slow_factor;
    let text = captions::webvtt(&footfalls, |s| s * slow);
    let name = format!("{}.vtt", file_name(&clip));
    Ok(attached(&name, "text/vtt; charset=utf-8", text.into_bytes()))
}

/// What a click track is made at.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct ClickOptions {
    /// Strides/min; left out, the tempo measured.
    tempo: Option<f64>,
}

/// A click track on the clip's own clock.
#[utoipa::path(get, path = "/api/clips/{clip}/clicks.wav", params(("clip" = i64, Path,), ClickOptions),
    responses((status = 200, content_type = "audio/wav", body = Vec<u8>), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn clicks(
    state: State,
    Path(id): Path<i64>,
    Query(options): Query<ClickOptions>,
) -> Result<Response, Refused> {
    let bad = |what: &str| Refused::Unreadable(what.to_owned());
    let tempo = options.tempo;
    if tempo.is_some_and(|t| !(20.0..=250.0).contains(&t)) {
        return Err(bad("`tempo` must be 20 to 250 strides a minute"));
    }
    let (clip, analysis) = state
        .read(move |s| {
            let clip = s.clip(id)?;
            let horse = reading::horse_of(s, &clip)?;
            let analysis = reading::analysis_of(s, &clip, horse.as_ref())?;
            Ok((clip, analysis))
        })
        .await?;
    let slow = clip.settings.slow_factor;
    let wav = tokio::task::spawn_blocking(move || click_track::wav(&analysis, tempo, |s| s * slow))
        .await?
        .map_err(|e| bad(&e.to_string()))?;
    Ok(attached(&format!("{}.clicks.wav", file_name(&clip)), "audio/wav", wav))
}

/// A clip with its horse and marks.
async fn marked(
    state: &State,
    id: i64,
) -> Result<(Clip, Option<Horse>, Vec<umlauf_store::marks::Mark>), Refused> {
    state
        .read(move |s| {
            let clip = s.clip(id)?;
            let horse = reading::horse_of(s, &clip)?;
            let marks = s.marks(id)?;
            Ok((clip, horse, marks))
        })
        .await
}

/// A file to keep.
fn attached(name: &str, kind: &str, bytes: Vec<u8>) -> Response {
    let disposition = format!("attachment; filename=\"{name}\"");
    ([(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, disposition)], bytes)
        .into_response()
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
