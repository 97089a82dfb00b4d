//! All findings of what was measured.

use crate::bouts::options::Options;
use crate::events::measured::Measured;
use crate::findings::certainty::Certainty;
use crate::findings::finding::Finding;
use crate::findings::kind::Kind;
use crate::findings::of_bouts::{beats, leads, of_a_change, slow_motion, steadiness, symmetry};
use crate::findings::of_events::of_events;
use crate::findings::{of_ground, of_work};
use crate::stats::two_samples::holm;

/// The findings of what was measured: faults first, in order of time, then the plain figures.
pub fn find(measured: &Measured, options: &Options) -> Vec<Finding> {
    let mut out = Vec::new();
    let drifts = drifting(measured, options);
    for (k, bout) in measured.bouts.iter().enumerate().filter(|(_, b)| b.strides > 0) {
        let mut add = |kind, sure| {
            out.push(Finding { kind, bout: k, start_s: bout.start_s, end_s: bout.end_s, sure });
        };
        if let Some(kind) = slow_motion(bout) {
            add(kind, Certainty::Likely);
            continue;
        }
        leads(bout, of_a_change(bout, measured), &mut add);
        beats(bout, options, &mut add);
        symmetry(bout, options, &mut add);
        if let Some(drift) = bout.drift.filter(|_| drifts[k]) {
            let slow = drift.is_slow(&options.thresholds);
            let kind = if slow { Kind::Drift { drift } } else { Kind::TempoChange { drift } };
            add(kind, Certainty::Clear);
        }
        steadiness(bout, options, &mut add);
        if let Some(air) = bout.suspension {
            let sure = if air.phases.is_some() { Certainty::Clear } else { Certainty::CannotTell };
            add(Kind::Suspension { each: air.each, phases: air.phases }, sure);
        }
    }
    of_events(measured, &mut out);
    out.extend(of_work::of_work(measured, options));
    out.extend(of_ground::of_ground(measured, options));
    out.sort_by(|a, b| {
        let last = |f: &Finding| !f.kind.is_fault();
        last(a).cmp(&last(b)).then(a.start_s.total_cmp(&b.start_s))
    });
    out
}

/// Which bouts are said to drift: those flagged that also stand when it is counted in how many bouts
/// a drift was looked for, so that a long ride does not find one by chance.
fn drifting(measured: &Measured, options: &Options) -> Vec<bool> {
    let chances: Vec<f64> =
        measured.bouts.iter().map(|b| b.drift.map_or(f64::NAN, |d| d.by_chance)).collect();
    let looked: Vec<f64> = chances.iter().copied().filter(|p| p.is_finite()).collect();
    let mut adjusted = holm(&looked).into_iter();
    measured
        .bouts
        .iter()
        .map(|b| {
            let Some(drift) = b.drift else { return false };
            let among_all = adjusted.next().unwrap_or(1.0);
            drift.flagged && among_all <= options.thresholds.chance_in_a_ride
        })
        .collect()
}
