//! Findings of what happened between and inside bouts.

use crate::events::flying_change::Verdict;
use crate::events::measured::Measured;
use crate::findings::certainty::Certainty;
use crate::findings::finding::Finding;
use crate::findings::kind::Kind;

/// What happened between and inside bouts.
pub(crate) fn of_events(measured: &Measured, out: &mut Vec<Finding>) {
    let bout_at =
        |time: f64| measured.bouts.iter().rposition(|b| b.start_s <= time + 1e-9).unwrap_or(0);
    let mut withheld_ones = Vec::new();
    let mut add = |kind, from: f64, to: f64| {
        out.push(Finding {
            kind,
            bout: bout_at(from),
            start_s: from,
            end_s: to,
            sure: Certainty::Clear,
        });
    };
    let events = &measured.events;
    for (change, answer) in &events.changes {
        if let Some(withheld) = change.withheld {
            // Where to mark, when it is known.
            let at = withheld.needs.map_or(change.time_s, |n| n.time_s);
            let (bout, sure) = (bout_at(change.time_s), Certainty::CannotTell);
            let kind = Kind::ChangeWithheld { withheld };
            withheld_ones.push(Finding { kind, bout, start_s: at, end_s: at, sure });
            continue;
        }
        let stride = measured.strides.get(change.stride);
        let (from, to) = stride.map_or((change.time_s, change.time_s), |s| (s.start, s.end));
        let kind = if change.verdict == Verdict::Clean && !answer.offered_early {
            Kind::CleanChange { suspension_before: change.suspension_before_s, to: change.to }
        } else {
            Kind::Change {
                verdict: change.verdict,
                late_by_strides: change.late_by_strides,
                late_by_s: change.late_by_s,
                steps: change.intermediate_steps,
                offered: answer.offered_early,
            }
        };
        add(kind, from.min(change.time_s), to);
    }
    for line in &events.tempi {
        let kind = Kind::Tempi {
            every: line.every,
            planned: line.planned_count,
            changes: line.changes,
            clean: line.clean,
            fault: line.faults.first().copied(),
        };
        add(kind, line.time_s, line.end_s);
    }
    for change in &events.simple {
        add(Kind::SimpleChange { steps: change.walk_steps }, change.time_s, change.time_s);
    }
    for halt in &events.halts {
        if let Some((trailing, offset)) = halt.trailing {
            add(Kind::NotSquare { trailing, offset }, halt.start_s, halt.end_s);
        }
    }
    out.extend(withheld_ones);
}
