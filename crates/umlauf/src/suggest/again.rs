//! Limbs of suggestions told anew about those that the coach has said.

use std::collections::{BTreeSet, HashMap};

use umlauf_gait::base::limb::{Limb, Side};
use umlauf_signals::picture::sides::{Named, limbs, limbs_about};
use umlauf_signals::picture::stance::Stance;
use umlauf_store::marks::{Change, Mark};
use umlauf_store::origin::{Answer, Origin};

use crate::suggest::found::{Kept, ToldFrom};

/// Changes of the limbs of open suggestions, when those that are answered are what the coach says they are.
/// Nothing that was answered is changed. Nothing changes while nothing is answered.
pub fn told_anew(kept: &Kept, marks: &[Mark]) -> Vec<Change> {
    let Some(near) = kept.near_side() else { return Vec::new() };
    let by_id: HashMap<&str, &Mark> = marks.iter().map(|m| (m.id.as_str(), m)).collect();
    let numbers: BTreeSet<usize> = kept.told_from.iter().map(|t| t.part).collect();
    // A mark that the coach has removed was no footfall.
    let of = |part: usize| {
        let own = kept.told_from.iter().filter(move |t| t.part == part);
        own.filter_map(|t| Some((t, *by_id.get(t.id.as_str())?))).collect::<Vec<_>>()
    };
    let parts: Vec<Vec<(&ToldFrom, &Mark)>> = numbers.into_iter().map(of).collect();
    if parts.iter().flatten().all(|(_, m)| m.origin.is_open()) {
        return Vec::new();
    }
    // Left and right of the whole clip may have been changed by the coach.
    let agree = |near: Side| -> usize {
        let told = |part: &Vec<(&ToldFrom, &Mark)>| {
            let named = limbs(&stances(part), near);
            part.iter().zip(named).filter(|((_, m), n)| m.limb == n.limb).count()
        };
        parts.iter().map(told).sum()
    };
    let near = if agree(near.opposite()) > agree(near) { near.opposite() } else { near };
    let mut out = Vec::new();
    for part in parts {
        let said: Vec<(usize, Limb)> = part
            .iter()
            .enumerate()
            .filter(|(_, (_, m))| !m.origin.is_open())
            .map(|(k, (_, m))| (k, m.limb))
            .collect();
        let named = limbs_about(&stances(&part), near, &said);
        out.extend(part.iter().zip(named).filter_map(|((_, mark), named)| renamed(mark, named)));
    }
    out
}

fn stances(part: &[(&ToldFrom, &Mark)]) -> Vec<Stance> {
    part.iter().map(|(t, _)| t.stance()).collect()
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
        answer: Answer::Open,
    };
    let after = Mark { limb: named.limb, origin, ..mark.clone() };
    Some(Change { before: Some(mark.clone()), after: Some(after) })
}
