//! How tablets reach this machine.

use qrcode::QrCode;
use qrcode::render::svg;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::api::extract::{Answer, Json, State};
use crate::choices::OPEN;
use crate::problem::Problem;
use crate::refused::Refused;

/// How tablets reach this machine.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct NetworkView {
    /// Whether tablets in the yard's network are let in.
    pub open: bool,
    /// Whether the command line has decided that.
    pub fixed: bool,
    /// Whether a coach has a password, without which nobody is let in.
    pub password_set: bool,
    /// Addresses to open on a tablet, the likeliest first.
    pub addresses: Vec<String>,
    /// The first of them as a QR code, an SVG.
    pub qr: Option<String>,
    /// Fingerprint (SHA-256) of what a tablet is told to trust.
    pub fingerprint: Option<String>,
    /// What is in the way.
    pub trouble: Option<String>,
}

/// How tablets reach this machine.
#[utoipa::path(get, path = "/api/network", responses((status = 200, body = NetworkView)))]
pub async fn network(state: State) -> Answer<NetworkView> {
    let (open, password_set) =
        state.read(|s| Ok((s.choice(OPEN)?.is_some(), s.has_coach()?))).await?;
    let now = state.network.borrow().clone();
    let addresses: Vec<String> =
        now.hosts().iter().map(|host| format!("http://{host}/tablet")).collect();
    Ok(axum::Json(NetworkView {
        open: if now.fixed { !addresses.is_empty() } else { open },
        fixed: now.fixed,
        password_set,
        qr: addresses.first().and_then(|address| qr(address)),
        addresses,
        fingerprint: now.fingerprint,
        trouble: now.trouble,
    }))
}

/// An address as a QR code: ink on chalk, as readers expect it, with the quiet rim that they need.
pub(crate) fn qr(address: &str) -> Option<String> {
    let code = QrCode::new(address).ok()?;
    let mut drawn = code.render::<svg::Color<'_>>();
    drawn.min_dimensions(200, 200).quiet_zone(true);
    Some(drawn.dark_color(svg::Color("#1d2823")).light_color(svg::Color("#fbf8f1")).build())
}

/// Whether tablets are let in.
#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Open {
    /// Whether they are.
    open: bool,
}

/// Lets tablets in the yard's network in, or no more.
#[utoipa::path(put, path = "/api/network", request_body = Open,
    responses((status = 200, body = NetworkView), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn open_network(state: State, Json(new): Json<Open>) -> Answer<NetworkView> {
    if state.network.borrow().fixed {
        return Err(Refused::invalid(
            "Umlauf was started with --address, which decides this; start it without to decide it here",
        ));
    }
    let mut told = state.network.subscribe();
    state
        .ask(move |s| {
            if new.open && !s.has_coach()? {
                return Err(Refused::invalid("give the coach a password first"));
            }
            Ok(s.set_choice(OPEN, new.open.then_some("yes"))?)
        })
        .await?;
    told.borrow_and_update();
    state.network_asked.notify_one();
    // It is told as it is then; a machine in no network says so after a moment.
    let _ = tokio::time::timeout(std::time::Duration::from_secs(3), told.changed()).await;
    network(state).await
}
