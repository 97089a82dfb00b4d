//! What heads session after session.

use umlauf_gait::findings::kind::Kind;
use umlauf_gait::season::again::{Session, again};
use umlauf_gait::{Analysis, words};
use umlauf_store::horse::Horse;
use umlauf_store::{Store, StoreError};

use crate::clip::reading;
use crate::record::season::Season;
use crate::record::story::Story;

/// Sessions that are looked at, the latest: what was wrong a year ago is no news, and each is analysed.
const LATEST: usize = 12;

/// A fault found in at least half of the latest sessions. What has a story of its own is left to it.
///
/// # Errors
/// What the store meets.
pub fn read(
    store: &Store,
    horse: &Horse,
    season: &Season<'_>,
) -> Result<Option<Story>, StoreError> {
    let mut sessions = Vec::new();
    let with_bouts = |id: i64| season.ridden.bouts.iter().any(|b| b.session == id);
    let ids: Vec<i64> = season.sessions.iter().map(|s| s.id).filter(|id| with_bouts(*id)).collect();
    for id in &ids[ids.len().saturating_sub(LATEST)..] {
        let clips = store
            .clips_of_session(*id)?
            .iter()
            .map(|c| reading::analysis_of(store, c, Some(horse)))
            .collect::<Result<Vec<Analysis>, StoreError>>()?;
        sessions.push(Session::of(&clips, |clip, finding| {
            let own_story = match finding.kind {
                Kind::Stepping { .. } => horse.card.gaited,
                Kind::Lateral { .. } | Kind::BothSides { .. } => true,
                _ => false,
            };
            let said = words::finding::say(finding, &clip.schools);
            (!own_story).then_some((said.code, said.title))
        }));
    }
    // The latest title of each code stands for all: by how many strides it was late may differ.
    let latest = |code: &str| {
        let titles = sessions.iter().rev().flat_map(|s| &s.faults);
        titles.map(|f| &f.what).find(|(c, _)| *c == code).map(|(_, title)| title.clone())
    };
    let mut by_code = sessions.clone();
    for fault in by_code.iter_mut().flat_map(|s| &mut s.faults) {
        if let Some(title) = latest(fault.what.0) {
            fault.what.1 = title;
        }
    }
    Ok(again(&by_code).map(|a| {
        let says = words::record::again(&a.what.1, &a);
        Story { says, chance: None }
    }))
}
