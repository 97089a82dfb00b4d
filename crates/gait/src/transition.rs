//! Transitions between gaits: what lay between them, and which limb began the new one.

use crate::bout::Bout;
use crate::classify::Gait;
use crate::flying_change::{FlyingChange, Verdict};
use crate::footfall::Footfall;
use crate::limb::{Limb, Side};
use crate::stride::Stride;
use crate::thresholds::Thresholds;

/// A transition.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Transition {
    /// First footfall of the new gait, s.
    pub time_s: f64,
    /// Gait before.
    pub from: Gait,
    /// Gait after.
    pub to: Gait,
    /// The limb whose footfall begins the new gait.
    pub first_limb: Limb,
    /// A gait passed through, walk or trot.
    pub intermediate: Option<Gait>,
    /// Its steps: each hind footfall is one.
    pub steps: usize,
    /// Lead picked up.
    pub lead: Option<Side>,
}

/// A change of lead through walk.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SimpleChange {
    /// First footfall of the new canter, s.
    pub time_s: f64,
    /// Lead before.
    pub from: Side,
    /// Lead after.
    pub to: Side,
    /// Steps of walk between.
    pub walk_steps: usize,
}

/// What lies between bouts.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Between {
    /// Changes of lead through trot.
    pub through_trot: Vec<FlyingChange>,
    /// Changes of lead through walk.
    pub simple: Vec<SimpleChange>,
    /// Transitions between gaits.
    pub transitions: Vec<Transition>,
}

/// Canter and gallop are one for transitions; disunited strides are part of their canter.
fn same_gait(a: Gait, b: Gait) -> bool {
    a == b || (a.is_asymmetrical() && b.is_asymmetrical())
}

/// A stretch of one gait for transitions: bouts of canter on any lead run together.
#[derive(Clone, Debug)]
struct Stretch {
    gait: Gait,
    first: usize,
    last: usize,
    lead_in: Option<Side>,
    lead_out: Option<Side>,
}

/// Transitions of bouts in order of time over tidy marks. Over a stretch without marks nothing is
/// said: what happened there is not known.
pub fn between(
    strides: &[Stride],
    bouts: &[Bout],
    marks: &[Footfall],
    limits: &Thresholds,
) -> Between {
    let mut out = Between::default();
    let stretches = stretches(strides, bouts);
    let mut k = 0;
    while k + 1 < stretches.len() {
        let (a, b) = (&stretches[k], &stretches[k + 1]);
        let (end, start) = (strides[a.last].end, strides[b.first].start);
        if start - end > limits.gap_strides * strides[a.last].duration() {
            k += 1;
            continue;
        }
        // A few strides of another gait in passing belong to the transition around them.
        let passing = stretches.get(k + 2).filter(|c| {
            let strides_between = b.last + 1 - b.first;
            matches!(b.gait, Gait::Walk | Gait::Trot)
                && c.gait != b.gait
                && strides[c.first].start - strides[b.last].end
                    <= limits.gap_strides * strides[b.last].duration()
                && strides_between <= limits.passing_strides
                && (!same_gait(a.gait, c.gait) || a.gait.is_asymmetrical())
        });
        if let Some(c) = passing {
            let steps = hind_steps(marks, end, strides[c.first].start);
            let time_s = strides[c.first].start;
            match (a.lead_out, c.lead_in, b.gait) {
                (Some(from), Some(to), Gait::Walk) if from != to => {
                    out.simple.push(SimpleChange { time_s, from, to, walk_steps: steps });
                }
                (Some(from), Some(to), Gait::Trot) if from != to => {
                    out.through_trot.push(through_trot(strides, c.first, from, to, steps));
                }
                _ => out.transitions.push(Transition {
                    time_s,
                    from: a.gait,
                    to: c.gait,
                    first_limb: strides[c.first].first_hind,
                    intermediate: Some(b.gait),
                    steps,
                    lead: c.lead_in,
                }),
            }
            k += 2;
            continue;
        }
        if !same_gait(a.gait, b.gait) {
            out.transitions.push(Transition {
                time_s: start,
                from: a.gait,
                to: b.gait,
                first_limb: strides[b.first].first_hind,
                intermediate: None,
                steps: 0,
                lead: b.lead_in,
            });
        }
        k += 1;
    }
    out
}

fn stretches(strides: &[Stride], bouts: &[Bout]) -> Vec<Stretch> {
    let mut out: Vec<Stretch> = Vec::new();
    for bout in bouts.iter().filter(|b| b.label.gait != Gait::Unclear) {
        let lead = bout.label.hind_lead.filter(|h| bout.label.fore_lead == Some(*h));
        let (first, last) = (bout.strides.start, bout.strides.end - 1);
        let joined = out.last_mut().filter(|s| {
            same_gait(s.gait, bout.label.gait)
                && strides[first].start - strides[s.last].end < 0.5 * strides[first].duration()
        });
        if let Some(s) = joined {
            s.last = last;
            s.lead_out = lead.or(s.lead_out);
        } else {
            out.push(Stretch { gait: bout.label.gait, first, last, lead_in: lead, lead_out: lead });
        }
    }
    out
}

/// Footfalls of hinds from one moment to before another: each is a step.
fn hind_steps(marks: &[Footfall], from: f64, to: f64) -> usize {
    let first = marks.partition_point(|m| m.on.0 < from - 1e-9);
    marks[first..].iter().take_while(|m| m.on.0 < to - 1e-9).filter(|m| m.limb.is_hind()).count()
}

fn through_trot(
    strides: &[Stride],
    stride: usize,
    from: Side,
    to: Side,
    steps: usize,
) -> FlyingChange {
    FlyingChange {
        time_s: strides[stride].start,
        stride,
        from,
        to,
        verdict: Verdict::ThroughTrot,
        late_by_strides: 0,
        late_by_s: None,
        intermediate_steps: steps,
        strides_since_last: None,
        suspension_before_s: None,
        tempo_before: None,
        tempo_at: None,
        tempo_after: None,
    }
}
