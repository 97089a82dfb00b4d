//! All findings of what was measured.

use crate::bouts::options::Options;
use crate::events::measured::Measured;
use crate::findings::certainty::Certainty;
use crate::findings::finding::Finding;
use crate::findings::kind::Kind;
use crate::findings::of_bouts::{beats, leads, of_a_change, slow_motion, steadiness, symmetry};
use crate::findings::of_events::of_events;
use crate::findings::{of_ground, of_work};

/// The findings of what was measured: faults first, in order of time, then the plain figures.
pub fn find(measured: &Measured, options: &Options) -> Vec<Finding> {
    let mut out = Vec::new();
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
        if let Some(drift) = bout.drift.filter(|d| d.flagged) {
            add(Kind::Drift { drift }, Certainty::Clear);
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
