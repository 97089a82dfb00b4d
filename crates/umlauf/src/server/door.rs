//! The door: who asks, and whether they may. What is done through it is noted.

use std::sync::Arc;

use axum::extract::{MatchedPath, Request, State};
use axum::http::{HeaderMap, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse as _, Redirect, Response};
use umlauf_store::act::Act;

use crate::api::extract::kept_secret;
use crate::app::App;
use crate::dates::now_ms;
use crate::people::rights::{Least, Right, about, right_to};
use crate::people::secret::hashed;
use crate::people::who::{Peer, Who};
use crate::refused::Refused;

/// Headers by which a program says that it passes on what another machine asks.
const PASSED_ON: [&str; 4] = ["forwarded", "x-forwarded-for", "x-real-ip", "via"];

/// Where a tablet is told how to reach the yard safely.
const TABLET: &str = "/tablet";

/// Lets through whoever may ask for what they ask for.
pub(crate) async fn door(
    State(app): State<Arc<App>>,
    mut request: Request,
    next: Next,
) -> Response {
    // Who comes from nowhere that is known is nobody.
    let Some(peer) = request.extensions().get::<Peer>().copied() else {
        return Refused::SignIn.into_response();
    };
    let here = peer.is_at_the_machine(passed_on(request.headers()));
    let path = request.uri().path();
    if !here && !peer.secure && !path.starts_with(TABLET) {
        return not_safe(request.method());
    }
    let secret = kept_secret(request.headers(), &app.identity);
    let who = match who(&app, secret, here).await {
        Ok(who) => who,
        Err(e) => return e.into_response(),
    };
    if let Some(who) = &who {
        request.extensions_mut().insert(who.clone());
    }
    // What is no route is a file of the page, in which nothing of the yard is told.
    let Some(route) = request.extensions().get::<MatchedPath>().cloned() else {
        return next.run(request).await;
    };
    let right = right_to(request.method().as_str(), route.as_str());
    if let Err(e) = may(right, who.as_ref()) {
        return e.into_response();
    }
    let did = right.filter(|r| !r.did.is_empty()).zip(who);
    let of = about(route.as_str(), request.uri().path());
    let response = next.run(request).await;
    if let Some((right, who)) = did.filter(|_| response.status().is_success()) {
        note(&app, &who, right.did, of).await;
    }
    response
}

fn passed_on(headers: &HeaderMap) -> bool {
    PASSED_ON.iter().any(|h| headers.contains_key(*h))
}

/// Whoever asks over a line that others can listen to is shown the way to a safe one.
fn not_safe(method: &Method) -> Response {
    if matches!(*method, Method::GET | Method::HEAD) {
        Redirect::to(TABLET).into_response()
    } else {
        Refused::NotYours("ask over https: others in the network can read this").into_response()
    }
}

async fn who(app: &Arc<App>, secret: Option<String>, here: bool) -> Result<Option<Who>, Refused> {
    if here {
        return Ok(Some(Who::at_the_machine()));
    }
    let Some(secret) = secret else { return Ok(None) };
    let now = now_ms();
    app.with(move |s| {
        let account = s.who_is_signed_in(&hashed(&secret), now)?;
        account.map(|account| Who::signed_in(s, account)).transpose()
    })
    .await
}

/// Whether somebody may ask for what a right says; what no right is about is the coach's.
fn may(right: Option<&Right>, who: Option<&Who>) -> Result<(), Refused> {
    let least = right.map_or(Least::Signed(umlauf_store::role::Role::Coach), |r| r.least);
    match (least, who) {
        (Least::Anybody, _) => Ok(()),
        (Least::Signed(role), Some(who)) if who.role >= role => Ok(()),
        (Least::Signed(_), Some(_)) => {
            Err(Refused::NotYours("this is for the coach alone; ask them to do it, or to let you"))
        }
        (Least::Signed(_), None) => Err(Refused::SignIn),
    }
}

/// Notes what somebody did. It is done: that it cannot be noted does not undo it.
async fn note(app: &Arc<App>, who: &Who, did: &str, of: String) {
    let act = Act { at_ms: now_ms(), author: who.person.clone(), did: did.to_owned(), about: of };
    if let Err(e) = app.with(move |s| s.note_act(&act)).await {
        tracing::warn!("who changed what is not noted: {e}");
    }
}

/// What is told of the yard is kept by no browser and by nothing between, unless its address allows it.
pub(crate) async fn kept_by_nobody_else(request: Request, next: Next) -> Response {
    let of_the_yard = ["/api/", "/link/"].iter().any(|p| request.uri().path().starts_with(p));
    let mut response = next.run(request).await;
    if of_the_yard && response.status() != StatusCode::NOT_MODIFIED {
        let never = header::HeaderValue::from_static("no-store");
        response.headers_mut().entry(header::CACHE_CONTROL).or_insert(never);
    }
    response
}
