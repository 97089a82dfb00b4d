//! What handlers take out of a request, with refusals as problems.

use std::ops::Deref;
use std::sync::Arc;

use axum::extract::{FromRequest, FromRequestParts};
use axum::http::request::Parts;
use umlauf_store::person::Person;

use crate::app::App;
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
    /// The coach of this machine, until others take part.
    pub who: Person,
}

impl FromRequestParts<Arc<App>> for State {
    type Rejection = Refused;

    async fn from_request_parts(_: &mut Parts, app: &Arc<App>) -> Result<Self, Refused> {
        Ok(Self { app: Arc::clone(app), who: Person::coach() })
    }
}

impl Deref for State {
    type Target = Arc<App>;

    fn deref(&self) -> &Arc<App> {
        &self.app
    }
}

pub(crate) type Answer<T> = Result<axum::Json<T>, Refused>;
