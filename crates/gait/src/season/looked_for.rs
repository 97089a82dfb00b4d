//! Everything that was looked for in a session, found or not: one look for each figure, bout by bout
//! and over all bouts of a gait and rein. What is looked for often is found by chance; so the looks
//! are counted (Holm) before anything heads a page.

use crate::analysis::analyse::Analysis;
use crate::base::gait::Label;
use crate::base::limb::Side;
use crate::base::number::count;
use crate::bouts::bout_figures::BoutFigures;
use crate::events::lateral_tempo::{Lateral, StraightWork};
use crate::findings::certainty::Certainty;
use crate::marks::movement::{LateralMovement, MovementKind};
use crate::season::sought::Sought;
use crate::stats::families::{Counted, among_all};
use crate::stats::pooled::Known;

/// A bout of a session: the place of its analysis, and its own in it.
pub type Place = (usize, usize);

/// One look.
#[derive(Clone, Debug, PartialEq)]
pub struct Look {
    /// For what.
    pub sought: Sought,
    /// Bouts it rests on.
    pub places: Vec<Place>,
    /// How far the figure lies from what is right, in its unit, …
    pub found: Known,
    /// … and on which side of it.
    pub sign: f64,
    /// Up to here nothing is wrong.
    pub fine: f64,
    /// From here on it is spoken of.
    pub limit: f64,
    /// Chance of as much without the fault.
    pub chance: f64,
    /// What it counts for among the looks of its kind: a bout 1, bouts taken together as much as all
    /// of them.
    pub weight: f64,
    /// The same, counting everything that was looked for.
    pub among_all: f64,
    /// Size that would have been told four times in five.
    pub shown_from: f64,
}

/// Tempo differs from bout to bout by about this without a reason, share (project default).
const BOUT_TO_BOUT: f64 = 0.010;

/// The same of the stride length (project default).
const LENGTH_FROM_BOUT_TO_BOUT: f64 = 0.015;

/// Strides of a bout that is looked at by itself.
const FEWEST: usize = 6;

/// Everything that was looked for in a session's clips.
pub fn looked_for(clips: &[Analysis]) -> Vec<Look> {
    let mut out = Vec::new();
    let bouts: Vec<(Place, &BoutFigures)> = clips
        .iter()
        .enumerate()
        .flat_map(|(a, of)| of.bouts.iter().enumerate().map(move |(k, b)| ((a, k), b)))
        .filter(|(_, b)| b.strides > 0)
        .collect();
    for sought in Sought::OF_A_HORSE {
        of_the_horse(sought, clips, &bouts, &mut out);
    }
    for (a, clip) in clips.iter().enumerate() {
        of_a_stretch(a, clip, &mut out);
    }
    lateral_sides(clips, &mut out);
    let counted: Vec<Counted> = out
        .iter()
        .map(|l| Counted { kind: l.sought.kind(), chance: l.chance, weight: l.weight })
        .collect();
    for (look, among_all) in out.iter_mut().zip(among_all(&counted)) {
        look.among_all = among_all;
    }
    // The first of Holm's steps is what a look must pass when nothing else is found.
    let mut weights = [0.0; Sought::KINDS];
    for look in &out {
        weights[look.sought.kind()] += look.weight;
    }
    let kinds = count(weights.iter().filter(|w| **w > 0.0).count());
    for look in &mut out {
        let share = look.weight / weights[look.sought.kind()] / kinds;
        let in_all = clips[look.places[0].0].thresholds.chance_in_a_ride;
        look.shown_from = look.limit.max(look.fine + look.found.shown_from(share * in_all));
    }
    out
}

fn look(sought: Sought, places: Vec<Place>, found: Known, (fine, limit): (f64, f64)) -> Look {
    // A size has two signs, and either would have been told.
    let two = sought.is_signed();
    let sign = if two { found.value.signum() } else { 1.0 };
    let found = Known { value: sign * found.value, ..found };
    let chance = (if two { 2.0 } else { 1.0 } * found.chance_above(fine)).min(1.0);
    let weight = count(places.len());
    Look {
        sought,
        places,
        found,
        sign,
        fine,
        limit,
        chance,
        weight,
        among_all: 1.0,
        shown_from: limit,
    }
}

/// Looks for something that belongs to a horse and gait: in each bout, over the bouts of each rein,
/// over all.
fn of_the_horse(
    sought: Sought,
    clips: &[Analysis],
    bouts: &[(Place, &BoutFigures)],
    out: &mut Vec<Look>,
) {
    let mut known: Vec<(Place, Label, Option<Side>, Known)> = Vec::new();
    for (place, bout) in bouts {
        if let Some(found) = sought.read(bout) {
            known.push((*place, bout.label, bout.rein, found));
        }
    }
    let mut together = |own: &[&(Place, Label, Option<Side>, Known)]| {
        let values: Vec<Known> = own.iter().map(|k| k.3).collect();
        let places: Vec<Place> = own.iter().map(|k| k.0).collect();
        let Some(found) = Known::together(&values) else { return };
        let limits = sought.limits(&clips[places[0].0].thresholds);
        out.push(look(sought, places, found, limits));
    };
    // Fewer strides tell of a horse only together with others.
    for one in known.iter().filter(|k| clips[k.0.0].bouts[k.0.1].strides >= FEWEST) {
        together(&[one]);
    }
    let mut seen: Vec<Label> = Vec::new();
    for (_, label, ..) in &known {
        if seen.contains(label) {
            continue;
        }
        seen.push(*label);
        let of = |rein: Option<Option<Side>>| -> Vec<_> {
            known.iter().filter(|k| k.1 == *label && rein.is_none_or(|r| k.2 == r)).collect()
        };
        let all = of(None);
        if all.len() > 1 {
            together(&all);
        }
        for rein in [Some(Side::Left), Some(Side::Right)] {
            let own = of(Some(rein));
            if own.len() > 1 && own.len() < all.len() {
                together(&own);
            }
        }
    }
}

/// Looks for what happens in one stretch: drift, a change of speed, crookedness, lateral work.
fn of_a_stretch(a: usize, clip: &Analysis, out: &mut Vec<Look>) {
    let limits = &clip.thresholds;
    for (k, bout) in clip.bouts.iter().enumerate() {
        if let Some(drift) = bout.drift {
            let per_min = 0.5 * (drift.ci95.1 - drift.ci95.0);
            let share = (drift.total_share / drift.per_min).abs();
            let error = if share.is_finite() { per_min * share / 1.96 } else { f64::INFINITY };
            let dof = count(bout.strides);
            let found = Known { value: drift.total_share.abs(), error, dof };
            let of = look(Sought::Drift, vec![(a, k)], found, Sought::Drift.limits(limits));
            let sign = drift.total_share.signum();
            out.push(Look { chance: drift.by_chance, sign, ..of });
        }
        if let Some(beside) = bout.prints.hinds_beside_m.and_then(Known::of)
            && bout.lateral_seen.is_none()
            && bout.movement.as_ref().is_none_or(|m| m.kind == MovementKind::Straight)
        {
            let crooked = Sought::Crooked;
            out.push(look(crooked, vec![(a, k)], beside, crooked.limits(limits)));
        }
    }
    for (k, change) in &clip.events.speed_changes {
        let Some(found) = Known::of(change.too_much_tempo()) else { continue };
        let (tempo, length) = (1.0 - change.fine, change.fine);
        let natural = (tempo * BOUT_TO_BOUT).hypot(length * LENGTH_FROM_BOUT_TO_BOUT);
        let found = found.and(std::f64::consts::SQRT_2 * natural);
        out.push(look(Sought::ByTempo, vec![(a, *k)], found, (0.0, 0.0)));
    }
    for l in &clip.events.lateral {
        if let Some(found) = lateral_loss(l) {
            let sought = Sought::LateralLoss(l.movement, l.side);
            out.push(look(sought, vec![(a, l.bout)], found, (0.0, limits.lateral_loss_pct)));
        }
    }
}

/// Loss of tempo in lateral work, per cent, with what differs from bout to bout anyway.
fn lateral_loss(l: &Lateral) -> Option<Known> {
    let neighbours = if l.against == StraightWork::Both { 2.0 } else { 1.0 };
    let natural = 100.0 * BOUT_TO_BOUT * f64::sqrt(1.0 + 1.0 / neighbours);
    let change = Known::of(l.tempo_change_pct)?;
    Some(Known { value: -change.value, ..change }.and(natural))
}

/// Looks for lateral work that loses tempo over all its bouts to one side, and on one side more than
/// on the other.
fn lateral_sides(clips: &[Analysis], out: &mut Vec<Look>) {
    let of = |movement: LateralMovement, side: Option<Side>| -> (Vec<Place>, Vec<Known>) {
        clips
            .iter()
            .enumerate()
            .flat_map(|(a, clip)| clip.events.lateral.iter().map(move |l| (a, l)))
            .filter(|(_, l)| l.movement == movement && l.side == side)
            .filter_map(|(a, l)| Some(((a, l.bout), lateral_loss(l)?)))
            .unzip()
    };
    for movement in LateralMovement::ALL {
        let sides = [Side::Left, Side::Right].map(|side| (side, of(movement, Some(side))));
        for (side, (places, values)) in &sides {
            if values.len() > 1
                && let Some(found) = Known::together(values)
            {
                let limit = clips[places[0].0].thresholds.lateral_loss_pct;
                let sought = Sought::LateralLoss(movement, Some(*side));
                out.push(look(sought, places.clone(), found, (0.0, limit)));
            }
        }
        let [(_, (at_left, left)), (_, (at_right, right))] = &sides;
        if let (Some(l), Some(r)) = (Known::together(left), Known::together(right)) {
            let (weaker, places) =
                if l.value > r.value { (Side::Left, at_left) } else { (Side::Right, at_right) };
            let limit = clips[places[0].0].thresholds.lateral_loss_pct;
            let value = (l.value - r.value).abs();
            let found = Known { value, error: l.error.hypot(r.error), dof: l.dof.min(r.dof) };
            let sought = Sought::WeakerSide(movement, weaker);
            out.push(look(sought, places.clone(), found, (0.0, limit)));
        }
    }
}

/// Whether a fault stands when everything that was looked for is counted. What is seen as such (a
/// lead, a change, a gait) needs no count: it must be clear.
pub fn stands(looks: &[Look], clips: &[Analysis], analysis: usize, finding: usize) -> bool {
    let clip = &clips[analysis];
    let of = &clip.findings[finding];
    let Some((sought, sign)) = Sought::of(&of.kind) else {
        return of.sure == Certainty::Clear;
    };
    looks.iter().any(|l| {
        l.sought == sought
            && l.sign * sign > 0.0
            && l.places.contains(&(analysis, of.bout))
            && l.found.value >= l.limit
            && l.among_all <= clip.thresholds.chance_in_a_ride
    })
}
