//! What a link shows, without signing in: one report, or one film.

use axum::extract::Request;
use axum::response::Response;
use maud::html;
use umlauf_store::link::{Link, Shows};

use crate::api::extract::{AtTheDoor, Path};
use crate::api::link::words;
use crate::api::media::served;
use crate::api::report;
use crate::dates::now_ms;
use crate::films::kind_of_film;
use crate::people::secret::hashed;
use crate::refused::Refused;
use crate::report::paper::{self, Reader};
use crate::report::session;
use crate::share::film::{self, State};

/// The link that a secret opens, as long as it has not ended and what it shows is there.
async fn opened(door: &AtTheDoor, secret: &str) -> Result<Link, Refused> {
    let token = hashed(secret);
    let link = door
        .app
        .read(move |s| {
            let link = s.link_by(&token, now_ms())?;
            let horse = match link.as_ref().map(|l| l.shows) {
                Some(Shows::Report(session)) => s.horse_of_shown_session(session)?,
                Some(Shows::Film { clip, .. }) => s.horse_of_shown_clip(clip)?,
                None => None,
            };
            Ok(link.filter(|_| horse.is_some()))
        })
        .await?;
    link.ok_or(Refused::Missing("this link has ended; ask whoever sent it for a new one"))
}

/// The report, or a page with the film.
pub async fn shown(door: AtTheDoor, Path(secret): Path<String>) -> Result<Response, Refused> {
    let link = opened(&door, &secret).await?;
    let state = match link.shows {
        Shows::Film { .. } => film::state(&door.app, &link).await,
        Shows::Report(_) => State::Ready,
    };
    // After it is known that there is such a link: whoever has none keeps nobody waiting.
    let turn = match link.shows {
        Shows::Report(_) => Some(door.app.one_report.acquire().await),
        Shows::Film { .. } => None,
    };
    let text = door
        .app
        .read(move |s| match link.shows {
            Shows::Report(id) => session::of_session(s, id, Reader::Rider),
            Shows::Film { .. } => {
                let title = words(s, link.shows)?;
                let body = html! {
                    h1 { (title) }
                    @match &state {
                        State::Ready => {
                            video controls="" playsinline="" preload="metadata" style="width: 100%; max-height: 80vh; background: #000"
                                src={ "/link/" (secret) "/film" } {}
                        }
                        State::Making => {
                            meta http-equiv="refresh" content="5";
                            p { "The film is being made ready; this page looks again by itself." }
                        }
                        State::Failed(why) => p { "This film cannot be made ready: " (why) }
                    }
                    p class="soft" {
                        "This link ends by itself on " (crate::dates::of_ms(link.ends_ms)) ". Whoever has it sees this film; pass it on to nobody who should not."
                    }
                };
                Ok(paper::page(&title, &body))
            }
        })
        .await?;
    drop(turn);
    Ok(report::html(text))
}

/// The film.
pub async fn film(
    door: AtTheDoor,
    Path(secret): Path<String>,
    request: Request,
) -> Result<Response, Refused> {
    let link = opened(&door, &secret).await?;
    let file = film::film(&door.app, &link).await?;
    let ending = file.extension().and_then(|e| e.to_str()).unwrap_or_default();
    let kind = kind_of_film(ending).unwrap_or("application/octet-stream");
    served(&file, kind, "no-store", request).await
}
