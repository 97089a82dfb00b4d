//! What handlers take out of a request, with refusals as problems.

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

/// Who asks: the coach of this machine, until others take part. For handlers that write, or read
/// what is private.
#[derive(Clone, Debug)]
pub struct Who(pub Person);

impl<S: Send + Sync> FromRequestParts<S> for Who {
    type Rejection = Refused;

    async fn from_request_parts(_: &mut Parts, _: &S) -> Result<Self, Refused> {
        Ok(Self(Person::coach()))
    }
}

pub(crate) type State = axum::extract::State<Arc<App>>;

pub(crate) type Answer<T> = Result<axum::Json<T>, Refused>;
