//! What handlers take out of a request, with refusals as problems.

use std::ops::Deref;
use std::sync::Arc;

use axum::extract::{FromRequest, FromRequestParts};
use axum::http::request::Parts;
use axum::http::{HeaderMap, header};
use umlauf_store::person::Person;

use crate::app::App;
use crate::people::who::{Peer, Who};
use crate::refused::Refused;

/// JSON in, with refusals as problems.
#[derive(FromRequest)]
#[from_request(via(axum::Json), rejection(Refused))]
pub struct Json<T>(pub T);

/// Parts of the address, with refusals as problems.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Path), rejection(Refused))]
pub struct Path<T>(pub T);

/// Options of the address, with refusals as problems.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Query), rejection(Refused))]
pub struct Query<T>(pub T);

/// The yard, and who asks: a handler reaches the one only together with the other, so that none can
/// read or write without knowing for whom.
#[derive(Clone)]
pub struct State {
    app: Arc<App>,
    /// By which name marks and changes are kept.
    pub who: Person,
    /// What they may do, and of which horses.
    pub rights: Who,
}

impl FromRequestParts<Arc<App>> for State {
    type Rejection = Refused;

    async fn from_request_parts(parts: &mut Parts, app: &Arc<App>) -> Result<Self, Refused> {
        let rights = parts.extensions.get::<Who>().cloned().ok_or(Refused::SignIn)?;
        Ok(Self { app: Arc::clone(app), who: rights.person.clone(), rights })
    }
}

/// Whoever stands at the door, let in already or not: for what anybody may ask.
#[derive(Clone)]
pub struct AtTheDoor {
    /// The program.
    pub app: Arc<App>,
    /// Who it is, if that is known.
    pub who: Option<Who>,
    /// Where they ask from.
    pub peer: Peer,
    /// What their device keeps to be known again.
    pub secret: Option<String>,
    /// What their device calls itself.
    pub device: String,
}

impl FromRequestParts<Arc<App>> for AtTheDoor {
    type Rejection = Refused;

    async fn from_request_parts(parts: &mut Parts, app: &Arc<App>) -> Result<Self, Refused> {
        let peer = parts.extensions.get::<Peer>().copied().ok_or(Refused::SignIn)?;
        let agent = parts.headers.get(header::USER_AGENT).and_then(|h| h.to_str().ok());
        let small = ["Mobile", "Android", "Tablet", "iPad"];
        let small = small.iter().any(|s| agent.is_some_and(|a| a.contains(s)));
        Ok(Self {
            app: Arc::clone(app),
            who: parts.extensions.get::<Who>().cloned(),
            peer,
            secret: kept_secret(&parts.headers, &app.identity),
            device: if small { "a tablet or phone" } else { "a computer" }.to_owned(),
        })
    }
}

/// Name of the cookie that a device keeps for a yard: yards at one address do not overwrite one another's.
pub fn cookie(yard: &str) -> String {
    format!("umlauf-{}", yard.get(..8).unwrap_or("yard"))
}

/// What a device keeps to be known again.
pub fn kept_secret(headers: &HeaderMap, yard: &str) -> Option<String> {
    let name = cookie(yard);
    let all = headers.get_all(header::COOKIE).into_iter().filter_map(|h| h.to_str().ok());
    let mut pairs = all.flat_map(|h| h.split(';')).filter_map(|pair| pair.trim().split_once('='));
    pairs.find(|(n, v)| *n == name && v.len() <= 64).map(|(_, v)| v.to_owned())
}

impl Deref for State {
    type Target = Arc<App>;

    fn deref(&self) -> &Arc<App> {
        &self.app
    }
}

pub(crate) type Answer<T> = Result<axum::Json<T>, Refused>;
