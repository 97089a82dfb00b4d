//! Who is asking: signing in and out, and one's own password.

use std::time::Instant;

use axum::Json as Body;
use axum::http::{HeaderMap, HeaderName, HeaderValue, StatusCode, header};
use axum::response::{IntoResponse as _, Response};
use serde::{Deserialize, Serialize};
use umlauf_store::act::Act;
use umlauf_store::role::Role;
use umlauf_store::signed_in::LONGEST_MS;
use utoipa::ToSchema;

use crate::api::extract::{AtTheDoor, Json, State, cookie};
use crate::dates::now_ms;
use crate::people::password;
use crate::people::secret::{hashed, secret};
use crate::people::who::Who;
use crate::problem::Problem;
use crate::refused::Refused;

/// Who is asking.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Me {
    /// By which name marks and changes are kept; `null`: nobody is signed in.
    pub name: Option<String>,
    /// `coach`, `assistant` or `rider`.
    #[schema(value_type = Option<String>)]
    pub role: Option<Role>,
    /// Whether it is the machine that Umlauf runs on, where nobody signs in.
    pub at_the_machine: bool,
}

impl Me {
    fn of(who: Option<&Who>) -> Self {
        Self {
            name: who.map(|w| w.person.id().to_owned()),
            role: who.map(|w| w.role),
            at_the_machine: who.is_some_and(|w| w.account.is_none()),
        }
    }
}

/// Who is asking.
#[utoipa::path(get, path = "/api/me", responses((status = 200, body = Me)))]
pub async fn me(door: AtTheDoor) -> Body<Me> {
    Body(Me::of(door.who.as_ref()))
}

/// Name and password.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SignIn {
    /// Name, whatever its letters' case.
    name: String,
    /// Password.
    password: String,
}

/// Signs in on this device: a cookie is kept there until it signs out, is unused for 30 days, or 180 days have passed.
#[utoipa::path(post, path = "/api/sign-in", request_body = SignIn,
    responses((status = 200, body = Me), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn sign_in(door: AtTheDoor, Json(given): Json<SignIn>) -> Result<Response, Refused> {
    let app = &door.app;
    if given.password.chars().count() > password::MOST || given.name.chars().count() > 64 {
        return Err(Refused::WrongPassword);
    }
    // One after the other: none begins before the ones before it are known to be wrong.
    let turn = app.one_password.acquire().await;
    let from = door.peer.address;
    if let Some(wait) = app.tries().wait(from, &given.name, Instant::now()) {
        return Err(waits(wait.as_secs() + 1));
    }
    let SignIn { name, password: typed } = given;
    let looked_up = name.trim().to_owned();
    let found = app
        .ask(move |s| {
            let found = s.account_named(&looked_up)?;
            let right = password::is_right(&typed, found.as_ref().map(|(_, kept)| kept.as_str()));
            Ok(found.filter(|_| right).map(|(account, _)| account))
        })
        .await?;
    let Some(account) = found else {
        app.tries().wrong(from, &name, Instant::now());
        return Err(Refused::WrongPassword);
    };
    app.tries().right(from, &name);
    drop(turn);
    let (kept, now) = (secret(), now_ms());
    let (token, device) = (hashed(&kept), format!("{} at {from}", door.device));
    let who = app
        .with(move |s| {
            s.sign_in(account.id, &token, &device, now)?;
            let who = Who::signed_in(s, account)?;
            let did = format!("signed in on {device}");
            s.note_act(&Act { at_ms: now, author: who.person.clone(), did, about: String::new() })?;
            Ok(who)
        })
        .await?;
    let set = format!(
        "{}={kept}; Path=/; Max-Age={}; HttpOnly; Secure; SameSite=Strict",
        cookie(&app.identity),
        LONGEST_MS / 1000
    );
    Ok(([(header::SET_COOKIE, set)], Body(Me::of(Some(&who)))).into_response())
}

fn waits(seconds: u64) -> Refused {
    let in_words = match seconds {
        0..=90 => format!("in {seconds} seconds"),
        _ => format!("in {} minutes", seconds.div_ceil(60)),
    };
    Refused::Wait { seconds, in_words }
}

/// Where to sign out.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SignOut {
    /// On all devices instead of this one.
    #[serde(default)]
    everywhere: bool,
}

/// Signs out. Films that this device has kept are let go.
#[utoipa::path(post, path = "/api/sign-out", request_body = SignOut,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn sign_out(door: AtTheDoor, Json(out): Json<SignOut>) -> Result<Response, Refused> {
    let (app, secret) = (&door.app, door.secret.clone());
    let account = door.who.as_ref().and_then(|w| w.account).filter(|_| out.everywhere);
    app.take_away(move |s| {
        if let Some(secret) = &secret {
            s.sign_out(&hashed(secret))?;
        }
        account.map_or(Ok(()), |id| s.sign_out_everywhere(Some(id)))
    })
    .await?;
    let forget =
        format!("{}=; Path=/; Max-Age=0; HttpOnly; Secure; SameSite=Strict", cookie(&app.identity));
    let mut headers = HeaderMap::new();
    headers.insert(header::SET_COOKIE, HeaderValue::from_str(&forget).map_err(failed)?);
    headers
        .insert(HeaderName::from_static("clear-site-data"), HeaderValue::from_static("\"cache\""));
    Ok((StatusCode::NO_CONTENT, headers).into_response())
}

fn failed(e: impl std::fmt::Display) -> Refused {
    Refused::Failed(e.to_string())
}

/// One's own password, old and new.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct OwnPassword {
    /// The password until now.
    old: String,
    /// The password from now on.
    new: String,
}

/// Changes one's own password; all devices are signed out.
#[utoipa::path(put, path = "/api/me/password", request_body = OwnPassword,
    responses((status = 204), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change_password(
    state: State,
    Json(given): Json<OwnPassword>,
) -> Result<StatusCode, Refused> {
    let Some(account) = state.rights.account else {
        return Err(Refused::invalid(
            "nobody signs in at the machine itself; people’s passwords are given in Setup",
        ));
    };
    password::good(&given.new, state.who.id())?;
    let _turn = state.one_password.acquire().await;
    let name = state.who.id().to_owned();
    state
        .ask(move |s| {
            let kept = s.account_named(&name)?.map(|(_, kept)| kept);
            if !password::is_right(&given.old, kept.as_deref()) {
                return Err(Refused::invalid("the password until now is another one"));
            }
            Ok(s.set_password(account, &password::kept(&given.new)?)?)
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}
