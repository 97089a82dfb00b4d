//! Flying changes, transitions, halts and tempi put into the document.

use umlauf_gait::Analysis;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::events::answer::{Answer, ChangeAnswer};
use umlauf_gait::events::flying_change::{FlyingChange, Verdict};
use umlauf_gait::events::tempi::{Fault, Tempi};
use umlauf_gait::events::transition::Transition;
use umlauf_gait::strides::halt::Halt;

use crate::document::estimate::side;
use crate::document::event::{Event, Needs, TempiFault};
use crate::document::events_of_work;

const fn change_verdict(v: Verdict) -> &'static str {
    match v {
        Verdict::Clean => "clean",
        Verdict::LateBehind => "late_behind",
        Verdict::LateInFront => "late_in_front",
        Verdict::HindsTogether => "hinds_together",
        Verdict::ThroughTrot => "through_trot",
        Verdict::Missed => "missed",
        Verdict::NotCompleted => "not_completed",
        Verdict::ChangedBack => "changed_back",
        Verdict::Withheld => "withheld",
    }
}

/// All events in order of time.
pub(crate) fn events(analysis: &Analysis) -> Vec<Event> {
    let all = &analysis.events;
    let mut out: Vec<(f64, Event)> = Vec::new();
    for (c, answer) in &all.changes {
        out.push((c.time_s, flying_change(c, answer, analysis.timing_sd_s)));
    }
    for (t, answer) in &all.transitions {
        out.push((t.time_s, transition(t, answer.as_ref())));
    }
    for h in &all.halts {
        out.push((h.start_s, halt(h)));
    }
    for t in &all.tempi {
        out.push((t.time_s, tempi(t)));
    }
    for c in &all.simple {
        let event = Event::SimpleChange {
            time_s: c.time_s,
            from: c.from.word().into(),
            to: c.to.word().into(),
            walk_steps: c.walk_steps,
        };
        out.push((c.time_s, event));
    }
    out.extend(events_of_work::events(analysis));
    out.sort_by(|a, b| a.0.total_cmp(&b.0));
    out.into_iter().map(|(_, event)| event).collect()
}

fn flying_change(c: &FlyingChange, answer: &ChangeAnswer, time_sd_s: Option<f64>) -> Event {
    Event::FlyingChange {
        time_s: c.time_s,
        from: c.from.word().into(),
        to: c.to.word().into(),
        verdict: change_verdict(c.verdict).into(),
        needs: c.withheld.and_then(|w| w.needs).map(|n| Needs {
            limb: n.limb.code().into(),
            stride: n.stride,
            time_s: n.time_s,
        }),
        late_by_strides: c.late_by_strides,
        late_by_s: c.late_by_s,
        intermediate_steps: c.intermediate_steps,
        strides_since_last: c.strides_since_last,
        strides_from_aid: answer.strides_from_aid,
        offered_early: answer.offered_early,
        suspension_before_s: c.suspension_before_s,
        tempo_before: c.tempo_before,
        tempo_at: c.tempo_at,
        tempo_after: c.tempo_after,
        time_sd_s,
    }
}

fn transition(t: &Transition, answer: Option<&Answer>) -> Event {
    Event::Transition {
        time_s: t.time_s,
        from: t.from.code().into(),
        to: t.to.code().into(),
        first_limb: t.first_limb.code().into(),
        intermediate: t.intermediate.map_or("none", Gait::code).into(),
        intermediate_steps: t.steps,
        answer_s: answer.map(|a| a.seconds),
        answer_strides: answer.map(|a| a.strides),
        answer_score: answer.map(|a| a.score),
        lead: side(t.lead),
    }
}

fn halt(h: &Halt) -> Event {
    Event::Halt {
        time_s: h.start_s,
        duration_s: h.end_s - h.start_s,
        square: h.square,
        trailing_limb: h.trailing.map(|(limb, _)| limb.code().into()),
        offset_m: h.trailing.map(|(_, offset)| offset),
        first_off: h.first_off.code().into(),
    }
}

fn tempi(t: &Tempi) -> Event {
    let what = |fault: Fault| match fault {
        Fault::NotClean { verdict, .. } => change_verdict(verdict).to_owned(),
        Fault::OutOfCount { gap } => format!("out_of_count_{gap}"),
    };
    let faults = t.faults.iter().map(|(k, f)| TempiFault { change: *k, what: what(*f) });
    Event::Tempi {
        time_s: t.time_s,
        planned_every: t.every,
        planned_count: t.planned_count,
        changes: t.changes,
        clean: t.clean,
        gaps: t.gaps.clone(),
        faults: faults.collect(),
    }
}
