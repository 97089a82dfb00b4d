//! The bouts that a side means.

use umlauf_store::yard::Session;
use umlauf_store::{Store, StoreError};

use crate::compare::side::{Asked, When};
use crate::digest::{self, RiddenBout};

/// A side's bouts with their session.
pub(crate) struct Chosen {
    pub(crate) session: Session,
    pub(crate) horse: String,
    pub(crate) withers_m: Option<f64>,
    /// What was asked about a movement, in words.
    pub(crate) about: Option<String>,
    /// The movement whose bouts were asked for.
    pub(crate) inside: Option<String>,
    pub(crate) bouts: Vec<RiddenBout>,
    /// All bouts of the session in the gait of these.
    pub(crate) all: Vec<RiddenBout>,
}

pub(crate) fn choose(store: &Store, asked: &Asked) -> Result<Chosen, StoreError> {
    let session = match asked {
        Asked::Bout(clip, _) | Asked::Clip(clip, _) => {
            let session = store.clip(*clip)?.session;
            session.ok_or(StoreError::Missing("this clip belongs to no session yet"))?
        }
        Asked::Session(session, ..) => *session,
    };
    let session = store.session(session)?;
    let horse = store.horse(session.horse)?;
    let all = digest::of_horse(store, &horse, std::slice::from_ref(&session))?.bouts;
    let mut about = None;
    let mut inside = None;
    let bouts: Vec<RiddenBout> = match asked {
        Asked::Bout(clip, place) => {
            let one = |b: &&RiddenBout| b.clip == *clip && b.place == *place;
            all.iter().filter(one).cloned().collect()
        }
        Asked::Clip(clip, gait) => {
            let own = |b: &&RiddenBout| b.clip == *clip && b.digest.label.gait == *gait;
            all.iter().filter(own).cloned().collect()
        }
        Asked::Session(_, gait, which) => {
            inside = which
                .movement
                .as_ref()
                .filter(|(when, _)| *when == When::In)
                .map(|(_, m)| m.clone());
            about = which.movement.as_ref().map(|(when, m)| match when {
                When::In => m.clone(),
                When::Before => format!("before the {m}"),
                When::After => format!("after the {m}"),
            });
            which.choose(all.clone(), *gait)
        }
    };
    let Some(first) = bouts.first() else {
        return Err(StoreError::Missing("there are no such bouts: time some strides first"));
    };
    let gait = first.digest.label.gait;
    let all = all.into_iter().filter(|b| b.digest.label.gait == gait).collect();
    let card = horse.card;
    Ok(Chosen { session, horse: card.name, withers_m: card.withers_m, about, inside, bouts, all })
}
