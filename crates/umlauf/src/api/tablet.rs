//! How a tablet comes to trust the yard: a page that is served over the plain line too, and tells nothing of the yard.

use axum::http::header;
use axum::response::{IntoResponse as _, Response};
use maud::{Markup, PreEscaped, html};

use crate::api::extract::AtTheDoor;
use crate::api::report;
use crate::people::network::Network;
use crate::refused::Refused;
use crate::report::paper;

/// What a tablet sees once it trusts the yard: a tick. Until then the picture does not come.
const TRUSTED: &str = r##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 380 40" width="380" height="40"><circle cx="20" cy="20" r="16" fill="none" stroke="#1d656d" stroke-width="3"/><path d="M12 20l6 7 11-14" fill="none" stroke="#1d656d" stroke-width="3"/><text x="46" y="26" font-family="sans-serif" font-size="17" fill="#1d2823">This tablet trusts the yard. Go on.</text></svg>"##;

const STYLE: &str = "
body { font-size: 13pt; line-height: 1.4; background: #f3eee2; color: #1d2823; max-width: 46em }
h1 { font-size: 21pt } h2 { font-size: 15pt; border: 0; margin: 0 0 2mm }
.step { display: grid; grid-template-columns: 132px 1fr; gap: 6mm; align-items: center; border-top: 1px solid #cfc5af; padding: 5mm 0 }
.go { display: inline-block; padding: 3.5mm 6mm; background: #1d2823; color: #fbf8f1; text-decoration: none; font-weight: 700; border-radius: 3px }
code { font: 10.5pt/1.5 ui-monospace, monospace; overflow-wrap: anywhere }
@media (max-width: 520px) { .step { grid-template-columns: 1fr } }
";

/// A tablet in the hand, with something on its screen.
fn tablet(inside: &str) -> Markup {
    let drawn = format!(
        r##"<svg viewBox="0 0 132 96" width="132" height="96" role="img" aria-hidden="true" fill="none" stroke="#1d2823" stroke-width="2.4" stroke-linecap="round" stroke-linejoin="round"><rect x="10" y="6" width="112" height="84" rx="7" fill="#fbf8f1"/>{inside}</svg>"##
    );
    html! { (PreEscaped(drawn)) }
}

/// A seal that comes down onto the tablet.
const SEAL_COMES: &str = r##"<circle cx="66" cy="36" r="15"/><path d="M58 48l-5 18 13-8 13 8-5-18"/><path d="M60 36l5 6 9-12" stroke="#9a3f1c"/><path d="M30 78h72" stroke="#cfc5af"/>"##;

/// A line that is switched on, and a finger at it.
const SWITCHED_ON: &str = r##"<path d="M24 26h46M24 70h34" stroke="#cfc5af"/><rect x="76" y="36" width="34" height="20" rx="10" fill="#b9cbc6"/><circle cx="100" cy="46" r="7" fill="#1d656d"/><path d="M24 46h40"/>"##;

/// A wheel behind a bolt that is shut.
const LET_IN: &str = r##"<circle cx="66" cy="48" r="28"/><circle cx="66" cy="48" r="20" stroke="#cfc5af"/><path d="M66 20a28 28 0 0 1 24 14" stroke="#9a3f1c" stroke-width="5"/><path d="M42 62a28 28 0 0 1-4-14" stroke="#1d656d" stroke-width="5"/><circle cx="66" cy="20" r="3.4" fill="#1d2823"/>"##;

/// The page.
pub async fn page(door: AtTheDoor, headers: axum::http::HeaderMap) -> Result<Response, Refused> {
    let network = door.app.network.borrow().clone();
    let asked = headers.get(header::HOST).and_then(|h| h.to_str().ok()).unwrap_or_default();
    let known = network.hosts();
    // Only an address that is the machine's own is led on to.
    let host = known.iter().find(|h| *h == asked).or(known.first()).cloned();
    let mut response = report::html(paper::page("This tablet and the yard", &body(&network, host)));
    let policy = "default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src 'self' https: data:; frame-ancestors 'none'; base-uri 'none'; form-action 'none'";
    response
        .headers_mut()
        .insert(header::CONTENT_SECURITY_POLICY, header::HeaderValue::from_static(policy));
    Ok(response)
}

fn body(network: &Network, host: Option<String>) -> Markup {
    let style = html! { style { (PreEscaped(STYLE)) } };
    let Some(host) = host else {
        return html! {
            (style)
            h1 { "No tablet is let in at the moment" }
            p { "On the machine that Umlauf runs on, open Setup, “People and tablets”, and let tablets in." }
        };
    };
    let yard = format!("https://{host}/");
    let go = html! { p { a class="go" href=(yard) { "Open the yard" } } };
    let Some(fingerprint) =
        network.fingerprint.as_deref().filter(|_| network.certificate.is_some())
    else {
        return html! {
            (style)
            h1 { "One step to the yard" }
            p { "The line to it is safe: its certificate is one that tablets know." }
            (go)
        };
    };
    html! {
        (style)
        h1 { "Three steps to the yard, once for each tablet" }
        p {
            "Umlauf speaks over a line that nobody in the network can listen to. The yard has made the seal for it itself, "
            "so this tablet has to be told once to trust it. Without that the screen does not stay awake at the ringside, "
            "the microphone is shut, and the page is not kept for where the network does not reach."
        }
        p { img src={ "https://" (host) "/tablet/trusted.svg" } width="380" height="40" alt="Not trusted yet: begin with step 1."; }
        div class="step" {
            (tablet(SEAL_COMES))
            div {
                h2 { "1  Take the yard’s certificate" }
                p { a class="go" href="/tablet/yard.crt" { "Take the certificate" } }
                p { "The tablet asks whether it may: say yes. It may call it a profile or a CA certificate." }
            }
        }
        div class="step" {
            (tablet(SWITCHED_ON))
            div {
                h2 { "2  Say that you trust it" }
                p {
                    b { "iPad, iPhone: " }
                    "Settings, General, VPN & Device Management: install the profile “Umlauf yard”. Then Settings, General, About, "
                    "Certificate Trust Settings: switch it on."
                }
                p {
                    b { "Android: " }
                    "Settings, Security, Encryption & credentials, Install a certificate, CA certificate: choose the file "
                    "that was just taken. (Makers name these pages somewhat differently: search the settings for “certificate”.)"
                }
                p {
                    "Before you say yes, compare what the tablet calls its SHA-256 fingerprint with what Setup shows on the machine itself:"
                }
                p { code { (fingerprint) } }
            }
        }
        div class="step" {
            (tablet(LET_IN))
            div {
                h2 { "3  Sign in" }
                p { "The yard asks for your name and password once; the tablet keeps signed in for 30 days after it was last used." }
                (go)
            }
        }
        p class="soft" {
            "The certificate vouches for this yard’s machine in a private network only, never for another site: what it may be used for is written into it. "
            "To be rid of it, remove it on the tablet where it was put on."
        }
    }
}

/// What the tablet is to trust.
pub async fn certificate(door: AtTheDoor) -> Result<Response, Refused> {
    let pem = door.app.network.borrow().certificate.clone();
    let pem = pem.ok_or(Refused::Missing(
        "there is no certificate to take: no tablet is let in, or it is known already",
    ))?;
    let headers = [
        (header::CONTENT_TYPE, "application/x-x509-ca-cert"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"umlauf-yard.crt\""),
        (header::CACHE_CONTROL, "no-store"),
    ];
    Ok((headers, pem).into_response())
}

/// Seen only by a tablet that trusts the yard; it tells nothing, so a page of the plain line may show it.
pub async fn trusted(door: AtTheDoor) -> Result<Response, Refused> {
    if !door.peer.secure {
        return Err(Refused::Missing("this is seen over the safe line only"));
    }
    let headers = [
        ("content-type", "image/svg+xml"),
        ("cache-control", "no-store"),
        ("cross-origin-resource-policy", "cross-origin"),
    ];
    Ok((headers, TRUSTED).into_response())
}
