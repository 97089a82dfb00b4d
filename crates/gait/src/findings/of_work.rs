//! Findings about work that the coach planned or marked: transitions, lateral work, pirouettes,
//! drills, aids.

use crate::base::gait::Gait;
use crate::base::limb::Side;
use crate::base::schools::ShoulderIn;
use crate::bouts::lead_verdict::LeadVerdict;
use crate::bouts::options::Options;
use crate::events::answer;
use crate::events::measured::Measured;
use crate::events::speed_change::Manner;
use crate::findings::certainty::Certainty;
use crate::findings::finding::Finding;
use crate::findings::kind::{Asked, Kind};
use crate::marks::movement::LateralMovement;
use crate::stats::estimate::Estimate;

/// Fewest aids of one kind that a finding is made of.
const FEWEST_AIDS: usize = 3;

/// Findings of work that the coach planned or marked.
pub fn of_work(measured: &Measured, options: &Options) -> Vec<Finding> {
    let mut out = Vec::new();
    movements(measured, options, &mut out);
    transitions(measured, options, &mut out);
    halts(measured, options, &mut out);
    aids(measured, &mut out);
    bouts(measured, options, &mut out);
    out
}

/// The bout under way at a time, s.
fn bout_at(measured: &Measured, time: f64) -> usize {
    measured.bouts.iter().rposition(|b| b.start_s <= time + 1e-9).unwrap_or(0)
}

fn movements(measured: &Measured, options: &Options, out: &mut Vec<Finding>) {
    let events = &measured.events;
    let mut add = |kind, start_s, end_s, sure| {
        out.push(Finding { kind, bout: bout_at(measured, start_s), start_s, end_s, sure });
    };
    for p in &events.pirouettes {
        let kind = Kind::Pirouette {
            strides: p.strides,
            expected: p.expected,
            lost: p.lost_strides,
            best_run: p.best_run,
            tempo_ratio: p.tempo_ratio,
        };
        add(kind, p.time_s, p.end_s, Certainty::Clear);
    }
    for r in &events.rein_backs {
        let kind = Kind::ReinBack { steps: r.steps, diagonal: (r.diagonal, r.pairs) };
        add(kind, r.time_s, r.end_s, Certainty::Clear);
    }
    for l in &events.lateral {
        let (loses, sure) = loss(l.tempo_change_pct, options.thresholds.lateral_loss_pct);
        let kind = Kind::Lateral {
            movement: l.movement,
            side: l.side,
            tempo_change: l.tempo_change_pct,
            loses,
            limit_pct: options.thresholds.lateral_loss_pct,
        };
        add(kind, l.time_s, l.end_s, sure);
    }
    for b in &events.both_sides {
        let difference = b.difference_pct;
        let weaker = match difference.ci95 {
            Some((_, hi)) if hi < 0.0 => Some(Side::Left),
            Some((lo, _)) if lo > 0.0 => Some(Side::Right),
            _ => None,
        };
        let bout = &measured.bouts[if weaker == Some(Side::Right) { b.right } else { b.left }];
        let sure = if weaker.is_some() { Certainty::Clear } else { Certainty::CannotTell };
        let kind = Kind::BothSides { movement: b.movement, difference, weaker };
        add(kind, bout.start_s, bout.end_s, sure);
    }
    for f in &events.forward_back {
        let kind = Kind::ForwardBack {
            stride_ratio: f.stride_ratio,
            held_pct: f.tempo_held_pct,
            breaks: f.breaks,
            strides_to_change: f.strides_to_change,
        };
        add(kind, f.time_s, f.end_s, Certainty::Clear);
    }
    for d in &events.drills {
        let kind = Kind::Drill { planned: d.planned, kept: d.kept(), trend_s: d.trend_s };
        add(kind, d.time_s, d.end_s, Certainty::Clear);
    }
    for p in &events.posting {
        let kind = Kind::Posting { diagonal: p.diagonal, scatter: p.scatter, lag: p.lag_strides };
        let sure = if p.diagonal.is_some() { Certainty::Clear } else { Certainty::CannotTell };
        add(kind, p.time_s, p.end_s, sure);
    }
}

/// Whether tempo falls by more than the limit (per cent), and how sure that is.
fn loss(change: Estimate, limit: f64) -> (bool, Certainty) {
    match change.ci95 {
        Some((_, hi)) if hi < -limit => (true, Certainty::Clear),
        Some((_, hi)) if change.value < -limit && hi < 0.0 => (true, Certainty::Likely),
        Some((lo, _)) if lo >= -limit => (false, Certainty::Clear),
        _ => (false, Certainty::CannotTell),
    }
}

fn transitions(measured: &Measured, options: &Options, out: &mut Vec<Finding>) {
    let judged = answer::marks_gaits(&options.marks);
    for (t, answer) in &measured.events.transitions {
        let kind = match answer {
            Some(answer) => Kind::Answer {
                from: t.from,
                to: t.to,
                strides: answer.strides,
                score: answer.score,
                steps: t.steps,
            },
            None if judged && t.from != Gait::Halt => {
                let before = measured.bouts.iter().rfind(|b| {
                    b.strides > 0 && b.start_s < t.time_s - 1e-9 && b.label.gait == t.from
                });
                let counter = before.is_some_and(|b| b.lead_verdict == Some(LeadVerdict::Counter));
                Kind::Unasked { from: t.from, to: t.to, counter }
            }
            None => continue,
        };
        let bout = bout_at(measured, t.time_s);
        let before = answer.map_or(1.0, |a| a.seconds);
        out.push(Finding {
            kind,
            bout,
            start_s: t.time_s - before,
            end_s: t.time_s,
            sure: Certainty::Clear,
        });
    }
}

fn halts(measured: &Measured, options: &Options, out: &mut Vec<Finding>) {
    for halt in &measured.events.halts {
        let bout = bout_at(measured, halt.start_s);
        let mut add = |kind, start_s, end_s| {
            out.push(Finding { kind, bout, start_s, end_s, sure: Certainty::Clear });
        };
        let seconds = halt.end_s - halt.start_s;
        add(
            Kind::HaltHeld {
                seconds,
                square: halt.square,
                least_s: options.thresholds.halt_held_s,
            },
            halt.start_s,
            halt.end_s,
        );
        let trailing = halt.trailing.map(|(limb, _)| limb);
        add(Kind::HaltLeft { first: halt.first_off, trailing }, halt.end_s, halt.end_s);
    }
}

fn aids(measured: &Measured, out: &mut Vec<Finding>) {
    for summary in &measured.events.aid_summaries {
        let Some(asked) = Asked::of(&summary.asked) else { continue };
        if summary.judged < FEWEST_AIDS {
            continue;
        }
        let kind = Kind::Aids {
            asked,
            inside: (summary.inside, summary.judged),
            mean_phase: summary.mean_phase,
            scatter: summary.scatter,
        };
        let bout = bout_at(measured, summary.from_s);
        let (start_s, end_s) = (summary.from_s, summary.to_s);
        out.push(Finding { kind, bout, start_s, end_s, sure: Certainty::Clear });
    }
}

fn bouts(measured: &Measured, options: &Options, out: &mut Vec<Finding>) {
    for (k, bout) in measured.bouts.iter().enumerate().filter(|(_, b)| b.strides > 0) {
        let mut add = |kind, sure| {
            out.push(Finding { kind, bout: k, start_s: bout.start_s, end_s: bout.end_s, sure });
        };
        if options.gaited && bout.label.gait == Gait::SteppingPace {
            let (_, most) = bout.lap.and_then(|l| l.ci95).unwrap_or((0.0, 1.0));
            let sure = if most < options.thresholds.walk_lateral {
                Certainty::Clear
            } else {
                Certainty::Likely
            };
            add(Kind::Stepping { strides: bout.strides, lap: bout.lap }, sure);
        }
        let lateral = bout.movement.as_ref().and_then(|m| m.kind.lateral());
        if let Some((movement, tracks)) = lateral.zip(bout.prints.tracks) {
            let wanted = (movement == LateralMovement::ShoulderIn).then_some(
                match options.schools.shoulder_in {
                    ShoulderIn::Three => 3,
                    ShoulderIn::Four => 4,
                },
            );
            let shoulder = bout.prints.shoulder_angle_deg;
            add(Kind::Tracks { tracks, wanted, shoulder }, Certainty::Clear);
        }
    }
    for (k, change) in &measured.events.speed_changes {
        let bout = &measured.bouts[*k];
        let sure = if change.manner == Manner::CannotTell {
            Certainty::CannotTell
        } else {
            Certainty::Clear
        };
        out.push(Finding {
            kind: Kind::Speed { change: *change, walk: bout.label.gait == Gait::Walk },
            bout: *k,
            start_s: bout.start_s,
            end_s: bout.end_s,
            sure,
        });
    }
}
