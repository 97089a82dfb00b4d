//! Limbs of suggestions told anew about those that the coach has said.

use std::collections::{BTreeSet, HashMap};

use umlauf_gait::base::limb::Limb;
use umlauf_signals::picture::sides::{Named, Stance, limbs_about};
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::Origin;

use crate::suggest::found::{Kept, ToldFrom};

/// Changes of the limbs of open suggestions, when those that are answered are what the coach says they are.
/// Nothing that was answered is changed.
pub fn told_anew(kept: &Kept, marks: &[Mark]) -> Vec<Change> {
    let Some(near) = kept.near_side() else { return Vec::new() };
    let by_id: HashMap<&str, &Mark> = marks.iter().map(|m| (m.id.as_str(), m)).collect();
    let parts: BTreeSet<usize> = kept.told_from.iter().map(|t| t.part).collect();
    let mut out = Vec::new();
    for part in parts {
        // A mark that the coach has removed was no footfall.
        let own: Vec<(&ToldFrom, &Mark)> = kept
            .told_from
            .iter()
            .filter(|t| t.part == part)
            .filter_map(|t| Some((t, *by_id.get(t.id.as_str())?)))
            .collect();
        let said: Vec<(usize, Limb)> = own
            .iter()
            .enumerate()
            .filter(|(_, (_, m))| !m.origin.is_open())
            .map(|(k, (_, m))| (k, m.limb))
            .collect();
        if said.is_empty() {
            continue;
        }
        let stances: Vec<Stance> = own.iter().map(|(t, _)| t.stance()).collect();
        let named = limbs_about(&stances, near, &said);
        out.extend(own.iter().zip(named).filter_map(|((_, mark), named)| renamed(mark, named)));
    }
    out
}

fn renamed(mark: &Mark, named: Named) -> Option<Change> {
    let Origin::Suggested { detector, sd_s, why, .. } = &mark.origin else { return None };
    if !mark.origin.is_open() || mark.limb == named.limb {
        return None;
    }
    let origin = Origin::Suggested {
        detector: detector.clone(),
        sd_s: *sd_s,
        sure: Some(named.sure),
        why: why.clone(),
        answer: umlauf_store::origin::Answer::Open,
    };
    let after = Mark { limb: named.limb, origin, ..mark.clone() };
    Some(Change { before: Some(mark.clone()), after: Some(after) })
}
