//! All findings of what was measured.

use crate::analysis::analyse::Analysis;
use crate::bouts::options::Options;
use crate::findings::certainty::Certainty;
use crate::findings::finding::Finding;
use crate::findings::kind::{Kind, is_fault};
use crate::findings::of_bouts::{beats, leads, of_a_change, slow_motion, steadiness, symmetry};
use crate::findings::of_events::of_events;
use crate::findings::{of_ground, of_work};

/// The findings of an analysis: faults first, in order of time, then the plain figures.
pub fn find(analysis: &Analysis, options: &Options) -> Vec<Finding> {
    let mut out = Vec::new();
    for (k, bout) in analysis.bouts.iter().enumerate().filter(|(_, b)| b.strides > 0) {
        let mut add = |kind, sure| {
            out.push(Finding { kind, bout: k, start_s: bout.start_s, end_s: bout.end_s, sure });
        };
        if let Some(kind) = slow_motion(bout) {
            add(kind, Certainty::Likely);
            continue;
        }
        leads(bout, of_a_change(bout, analysis), &mut add);
        beats(bout, options, &mut add);
        symmetry(bout, options, &mut add);
        if let Some(drift) = bout.drift.filter(|d| d.flagged) {
            add(Kind::Drift { drift }, Certainty::Clear);
        }
        steadiness(bout, options, &mut add);
        if let Some(air) = bout.suspension {
            let sure = if air.phases.is_some() { Certainty::Clear } else { Certainty::CannotTell };
            add(Kind::Air { each: air.each, phases: air.phases }, sure);
        }
    }
    of_events(analysis, &mut out);
    out.extend(of_work::of_work(analysis, options));
    out.extend(of_ground::of_ground(analysis, options));
    out.sort_by(|a, b| {
        let last = |f: &Finding| !is_fault(&f.kind);
        last(a).cmp(&last(b)).then(a.start_s.total_cmp(&b.start_s))
    });
    out
}
