//! What handlers take out of a request, with refusals as problems.

use std::sync::Arc;

use axum::extract::{FromRequest, FromRequestParts};

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

pub(crate) type State = axum::extract::State<Arc<App>>;

pub(crate) type Answer<T> = Result<axum::Json<T>, Refused>;
