//! Footfalls that somebody has labelled already: the others of a film told about them.

use std::collections::BTreeSet;

use umlauf_gait::Footfall;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_signals::picture::sides::limbs_about;
use umlauf_signals::picture::stance::Stance;
use umlauf_signals::sound::pattern::labelled;

use crate::suggest::suggestion::Suggestion;

/// A footfall this near to a labelled one is the same, s.
const SAME: f64 = 0.045;

/// A limb that is carried on from a labelled stride is right so often (project default).
const CARRIED_ON: f64 = 0.9;

/// Tells limbs anew about those that are known: of hooves that were seen by what is seen, of beats by their pattern.
pub fn about_known(told: &mut [Suggestion], near: Option<Side>, known: &[Footfall]) {
    if let Some(near) = near {
        seen_about(told, near, known);
    }
    heard_about(told, known);
    for k in known {
        if let Some(s) = same(told, k) {
            told[s].limb = Some(k.limb.to_string());
            told[s].why = String::new();
            told[s].confidence = 1.0;
        }
    }
}

/// The suggestion that a known footfall is: of those near enough one of its limb first.
fn same(told: &[Suggestion], known: &Footfall) -> Option<usize> {
    let far = |k: &usize| {
        let other = told[*k].limb.as_deref() != Some(known.limb.code());
        (told[*k].on_s - known.on.0).abs() + if other { 0.5 * SAME } else { 0.0 }
    };
    (0..told.len())
        .filter(|k| (told[*k].on_s - known.on.0).abs() < SAME)
        .min_by(|a, b| far(a).total_cmp(&far(b)))
}

fn seen_about(told: &mut [Suggestion], near: Side, known: &[Footfall]) {
    let parts: BTreeSet<usize> = told.iter().filter_map(|s| Some(s.told_from?.0)).collect();
    for part in parts {
        let own: Vec<(usize, Stance)> = told
            .iter()
            .enumerate()
            .filter_map(|(k, s)| s.told_from.filter(|t| t.0 == part).map(|t| (k, t.1)))
            .collect();
        let said: Vec<(usize, Limb)> = known
            .iter()
            .filter_map(|f| {
                let at = same(told, f)?;
                Some((own.iter().position(|(k, _)| *k == at)?, f.limb))
            })
            .collect();
        if said.is_empty() {
            continue;
        }
        let stances: Vec<Stance> = own.iter().map(|o| o.1).collect();
        for ((k, _), named) in own.iter().zip(limbs_about(&stances, near, &said)) {
            told[*k].limb = Some(named.limb.to_string());
        }
    }
}

fn heard_about(told: &mut [Suggestion], known: &[Footfall]) {
    let open: Vec<usize> = (0..told.len()).filter(|k| told[*k].limb.is_none()).collect();
    // Beside a film that was seen, a beat without a limb is a noise or a hoof that is not seen: no pattern names it.
    if open.len() < told.len() {
        return;
    }
    let beats: Vec<f64> = told.iter().map(|s| s.on_s).collect();
    let known: Vec<(Limb, f64)> = known.iter().map(|f| (f.limb, f.on.0)).collect();
    for (s, limb) in told.iter_mut().zip(labelled(&beats, &known)) {
        if let Some(limb) = limb {
            s.limb = Some(limb.to_string());
            s.confidence *= CARRIED_ON;
        }
    }
}
