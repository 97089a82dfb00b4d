//! Events of work that the coach planned or marked, as the document writes them.

use umlauf_gait::events::aid_phase::AidPhase;
use umlauf_gait::events::drill::Drill;
use umlauf_gait::events::forward_back::ForwardBack;
use umlauf_gait::events::lateral_tempo::{Lateral, StraightWork};
use umlauf_gait::events::measured::Events;
use umlauf_gait::events::pirouette::Pirouette;
use umlauf_gait::events::posting::Posting;
use umlauf_gait::events::rein_back::ReinBack;
use umlauf_gait::events::speed_change::{Manner, SpeedChange};
use umlauf_gait::{Analysis, Side};

use crate::document::estimate::{estimate, opt};
use crate::document::event::Event;

/// All of them, each with its time.
pub fn events(analysis: &Analysis) -> Vec<(f64, Event)> {
    let all: &Events = &analysis.events;
    let mut out: Vec<(f64, Event)> = Vec::new();
    out.extend(all.pirouettes.iter().map(|p| (p.time_s, pirouette(p))));
    out.extend(all.rein_backs.iter().map(|r| (r.time_s, rein_back(r))));
    out.extend(all.lateral.iter().map(|l| (l.time_s, lateral(l))));
    out.extend(all.forward_back.iter().map(|f| (f.time_s, forward_back(f))));
    out.extend(all.drills.iter().map(|d| (d.time_s, drill(d))));
    out.extend(all.posting.iter().map(|p| (p.time_s, posting(p))));
    out.extend(all.aids.iter().map(|a| (a.time_s, aid(a))));
    out.extend(all.speed_changes.iter().filter_map(|(k, change)| {
        let bout = analysis.bouts.get(*k)?;
        Some((bout.start_s, speed_change(bout.start_s, *k, change)))
    }));
    out
}

fn side(side: Option<Side>) -> Option<String> {
    side.map(|s| s.word().to_owned())
}

fn pirouette(p: &Pirouette) -> Event {
    Event::Pirouette {
        time_s: p.time_s,
        end_s: p.end_s,
        strides: p.strides,
        expected: [p.expected.0, p.expected.1],
        lost_strides: p.lost_strides,
        best_run: p.best_run,
        tempo_ratio: p.tempo_ratio,
        split_s: p.dissociation_s,
        split_before_s: p.dissociation_before_s,
        angle_deg: p.angle_deg,
    }
}

fn rein_back(r: &ReinBack) -> Event {
    Event::ReinBack {
        time_s: r.time_s,
        end_s: r.end_s,
        steps: r.steps,
        diagonal_steps: r.diagonal,
        paired_steps: r.pairs,
        step_spread_pct: r.spread_pct,
        off_line_m: r.off_line_m,
    }
}

fn lateral(l: &Lateral) -> Event {
    let against = match l.against {
        StraightWork::Before => "straight before",
        StraightWork::After => "straight after",
        StraightWork::Both => "straight before and after",
    };
    Event::Lateral {
        time_s: l.time_s,
        end_s: l.end_s,
        movement: l.movement.name().into(),
        side: side(l.side),
        against: against.into(),
        tempo_change_pct: l.tempo_change_pct.value,
        tempo_change: estimate(&l.tempo_change_pct),
        stride_change: opt(&l.stride_change_pct),
        regularity_pct: l.regularity_pct.map(|(here, _)| here),
        regularity_straight_pct: l.regularity_pct.map(|(_, straight)| straight),
    }
}

fn forward_back(f: &ForwardBack) -> Event {
    Event::ForwardBack {
        time_s: f.time_s,
        end_s: f.end_s,
        stride_ratio: f.stride_ratio,
        tempo_change_pct: f.tempo_change_pct,
        tempo_held_pct: f.tempo_held_pct,
        breaks: f.breaks,
        changes: f.changes,
        strides_to_change: f.strides_to_change,
    }
}

fn drill(d: &Drill) -> Event {
    Event::Drill {
        time_s: d.time_s,
        end_s: d.end_s,
        planned: [d.planned.0, d.planned.1],
        gaits: d.runs.iter().map(|r| r.0.code().to_owned()).collect(),
        ridden: d.ridden(),
        answers_s: d.answers_s.clone(),
        scores: d.scores.clone(),
        answers_trend_s: d.trend_s,
    }
}

fn posting(p: &Posting) -> Event {
    Event::Posting {
        time_s: p.time_s,
        end_s: p.end_s,
        sits: p.sits,
        diagonal: side(p.diagonal),
        mean_phase: p.mean_phase,
        scatter: p.scatter,
        lag_strides: p.lag_strides,
        correlation: p.correlation,
    }
}

fn aid(a: &AidPhase) -> Event {
    Event::Aid { time_s: a.time_s, asked: a.asked.name(), phase: a.phase, in_window: a.in_window }
}

fn speed_change(time_s: f64, bout: usize, c: &SpeedChange) -> Event {
    let verdict = match (c.manner, c.is_slower()) {
        (Manner::ByStride, false) => "lengthens",
        (Manner::ByStride, true) => "collects",
        (Manner::Between, _) => "between",
        (Manner::ByTempo, false) => "rushes",
        (Manner::ByTempo, true) => "slows",
        (Manner::CannotTell, _) => "cannot tell",
    };
    Event::SpeedChange {
        time_s,
        bout,
        speed_ratio: c.speed_ratio,
        length_ratio: c.length_ratio,
        tempo_share: estimate(&c.tempo_share),
        verdict: verdict.into(),
    }
}
