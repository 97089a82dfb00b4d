//! Who changed what.

use serde::Serialize;
use umlauf_store::{Store, StoreError};
use utoipa::ToSchema;

use crate::api::extract::{Answer, State};

/// Something that somebody did.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ActLine {
    /// When, ms of Unix time.
    pub at_ms: i64,
    /// Who.
    pub who: String,
    /// What, in words that follow the name.
    pub did: String,
}

/// What was done last.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Acts {
    /// Newest first.
    pub acts: Vec<ActLine>,
}

/// Lines that are told.
const MOST: usize = 300;

fn read(s: &Store) -> Result<Acts, StoreError> {
    let done = s.acts(MOST)?.into_iter().map(|a| {
        let about =
            if a.about.is_empty() { String::new() } else { format!(" {}", named(s, &a.about)?) };
        Ok(ActLine {
            at_ms: a.at_ms,
            who: a.author.id().to_owned(),
            did: format!("{}{about}", a.did),
        })
    });
    let marked = s.marked(MOST)?.into_iter().map(|m| {
        let (times, clip) = (m.edits, named(s, &format!("clip {}", m.clip))?);
        let times = if times == 1 { "once".to_owned() } else { format!("{times} times") };
        let did = format!("marked or set something {times} in {clip}");
        Ok(ActLine { at_ms: m.at_ms, who: m.author.id().to_owned(), did })
    });
    let mut acts = done.chain(marked).collect::<Result<Vec<ActLine>, StoreError>>()?;
    acts.sort_by_key(|a| std::cmp::Reverse(a.at_ms));
    acts.truncate(MOST);
    Ok(Acts { acts })
}

/// What a kind and a number are called today; what is gone has no name any more.
fn named(s: &Store, about: &str) -> Result<String, StoreError> {
    let Some((kind, id)) = about.split_once(' ').and_then(|(k, n)| Some((k, n.parse().ok()?)))
    else {
        return Ok(String::new());
    };
    let found = match kind {
        "horse" => s.horse(id).map(|h| h.card.name),
        "session" => s.session(id).and_then(|session| {
            Ok(format!("the session of {} on {}", s.horse(session.horse)?.card.name, session.date))
        }),
        "clip" => s.clip(id).map(|c| format!("the clip {}", c.name)),
        "person" => s.account(id).map(|a| a.person.id().to_owned()),
        "link" => Ok("a link".to_owned()),
        _ => Ok(format!("{kind} {id}")),
    };
    match found {
        Err(StoreError::NotFound { .. } | StoreError::Missing(_)) => {
            Ok(format!("a {kind} that is not there any more"))
        }
        other => other,
    }
}

/// Who changed what, newest first.
#[utoipa::path(get, path = "/api/acts", responses((status = 200, body = Acts)))]
pub async fn acts(state: State) -> Answer<Acts> {
    state.read(read).await.map(axum::Json)
}
