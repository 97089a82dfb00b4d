//! Transitions between gaits: what lay between them, and which limb began the new one.

use crate::base::gait::Gait;
use crate::base::limb::{Limb, Side};
use crate::base::thresholds::Thresholds;
use crate::events::flying_change::{FlyingChange, Verdict};
use crate::marks::footfall::Footfall;
use crate::strides::bout::Bout;
use crate::strides::halt::Halt;
use crate::strides::stride::Stride;
use crate::strides::turn::Turn;

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

/// A stretch of one gait for transitions: bouts of canter on any lead run together.
#[derive(Clone, Debug)]
struct GaitStretch {
    gait: Gait,
    first: usize,
    last: usize,
    lead_in: Option<Side>,
    lead_out: Option<Side>,
    turn: Option<Turn>,
}

/// Transitions of bouts in order of time over tidy marks. Over a stretch without marks nothing is
/// said: what happened there is not known. Transitions to and from halts are told by [`of_halts`].
pub fn between(
    strides: &[Stride],
    bouts: &[Bout],
    marks: &[Footfall],
    halts: &[Halt],
    limits: &Thresholds,
) -> Between {
    let mut out = Between::default();
    let stretches = stretches(strides, bouts);
    let mut k = 0;
    while k + 1 < stretches.len() {
        let (a, b) = (&stretches[k], &stretches[k + 1]);
        let (end, start) = (strides[a.last].end, strides[b.first].start);
        let apart = |from, to| halts.iter().any(|h| h.lies_between(from, to));
        // What was told from the marks between was seen.
        let unseen = start - end > limits.gap_strides * strides[a.last].duration();
        if unseen && b.turn.is_none() || apart(end, start) {
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
                && !apart(strides[b.last].end, strides[c.first].start)
                && (!a.gait.is_one_with(c.gait) || a.gait.is_asymmetrical())
        });
        if let Some(c) = passing {
            let (time_s, first_limb) = enters(strides, c, marks);
            let steps = hind_steps(marks, leaves(strides, a), time_s);
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
                    first_limb,
                    intermediate: Some(b.gait),
                    steps,
                    lead: c.lead_in,
                }),
            }
            k += 2;
            continue;
        }
        if !a.gait.is_one_with(b.gait) {
            // Canter's first couplet before its first whole stride is told from trot and walk only
            // where something lies between.
            let plain = (start, strides[b.first].first_hind);
            let known = !b.gait.is_asymmetrical() || b.turn.is_some();
            let (time_s, first_limb) = if known { enters(strides, b, marks) } else { plain };
            out.transitions.push(Transition {
                time_s,
                from: a.gait,
                to: b.gait,
                first_limb,
                intermediate: None,
                steps: 0,
                lead: b.lead_in,
            });
        }
        k += 1;
    }
    out
}

/// Transitions into and out of halts: the gait of the nearest stretch on either side, no further
/// off than a gap. A few strides of walk or trot between another gait and the halt are passed
/// through.
pub fn of_halts(
    halts: &[Halt],
    strides: &[Stride],
    bouts: &[Bout],
    marks: &[Footfall],
    limits: &Thresholds,
) -> Vec<Transition> {
    let stretches = stretches(strides, bouts);
    let mut out = Vec::with_capacity(2 * halts.len());
    for halt in halts {
        // Strides may be missing where marks go on.
        let near = |from: f64, to: f64, k: usize| {
            let t = strides[k].duration();
            let gap = to - from;
            gap <= limits.gap_strides * t
                || gap <= 2.0 * limits.gap_strides * t && longest_gap(marks, from, to) <= t
        };
        let k = stretches.partition_point(|s| strides[s.last].end <= halt.end_s);
        let before = k
            .checked_sub(1)
            .map(|k| (k, &stretches[k]))
            .filter(|(_, s)| near(strides[s.last].end, halt.start_s, s.last));
        if let Some((k, last)) = before {
            let short = last.last + 1 - last.first <= limits.passing_strides;
            let passing = short && matches!(last.gait, Gait::Walk | Gait::Trot);
            let earlier = k.checked_sub(1).map(|k| &stretches[k]).filter(|s| {
                passing
                    && !s.gait.is_one_with(last.gait)
                    && near(strides[s.last].end, strides[last.first].start, s.last)
            });
            let steps = 2 * (last.last + 1 - last.first);
            out.push(Transition {
                time_s: halt.start_s,
                from: earlier.map_or(last.gait, |s| s.gait),
                to: Gait::Halt,
                first_limb: halt.last_on,
                intermediate: earlier.map(|_| last.gait),
                steps: if earlier.is_some() { steps } else { 0 },
                lead: None,
            });
        }
        let after = stretches.iter().find(|s| strides[s.first].start >= halt.start_s);
        let after = after.map(|s| (s, lands(halt, &strides[s.first], marks)));
        if let Some((next, time_s)) =
            after.filter(|(s, lands)| near(*lands, strides[s.first].start, s.first))
        {
            out.push(Transition {
                time_s,
                from: Gait::Halt,
                to: next.gait,
                first_limb: halt.first_off,
                intermediate: None,
                steps: 0,
                lead: next.lead_in,
            });
        }
    }
    out
}

/// The first footfall after a halt, s: of the limb that left first; where it is not marked, a swing
/// after it left.
fn lands(halt: &Halt, first: &Stride, marks: &[Footfall]) -> f64 {
    let from = marks.partition_point(|m| m.on.0 < halt.end_s);
    let within = halt.end_s + SWING * first.duration();
    let soon = marks[from..].iter().take_while(|m| m.on.0 < within);
    let own = soon.filter(|m| m.limb == halt.first_off && !m.inferred).map(|m| m.on.0).next();
    own.unwrap_or_else(|| {
        let stance = first.stance(halt.first_off).map_or(0.5, |s| s / first.duration());
        halt.end_s + (1.0 - stance) * first.duration()
    })
}

/// Longest time without a mark between two moments, s.
fn longest_gap(marks: &[Footfall], from: f64, to: f64) -> f64 {
    let first = marks.partition_point(|m| m.on.0 < from);
    let own = marks[first..].iter().filter(|m| !m.inferred).map(|m| m.on.0);
    let mut last = from;
    let mut longest: f64 = 0.0;
    for time in own.take_while(|t| *t < to).chain([to]) {
        longest = longest.max(time - last);
        last = time;
    }
    longest
}

/// No limb swings longer than this share of a stride.
const SWING: f64 = 0.8;

fn stretches(strides: &[Stride], bouts: &[Bout]) -> Vec<GaitStretch> {
    let mut out: Vec<GaitStretch> = Vec::new();
    for bout in bouts.iter().filter(|b| b.label.gait != Gait::Unclear) {
        let lead = bout.label.hind_lead.filter(|h| bout.label.fore_lead == Some(*h));
        let (first, last) = (bout.strides.start, bout.strides.end - 1);
        let joined = out.last_mut().filter(|s| {
            s.gait.is_one_with(bout.label.gait)
                && strides[first].start - strides[s.last].end < 0.5 * strides[first].duration()
        });
        if let Some(s) = joined {
            s.last = last;
            s.lead_out = lead.or(s.lead_out);
        } else {
            out.push(GaitStretch {
                gait: bout.label.gait,
                first,
                last,
                lead_in: lead,
                lead_out: lead,
                turn: bout.turn,
            });
        }
    }
    out
}

/// After this moment footfalls of hinds are no longer of the stretch: in canter the second hind of
/// its last couplet that was really marked, else its end.
fn leaves(strides: &[Stride], stretch: &GaitStretch) -> f64 {
    if !stretch.gait.is_asymmetrical() {
        return strides[stretch.last].end - MOMENT;
    }
    let hinds = [Limb::LH.index(), Limb::RH.index()];
    let couplet = strides[stretch.first..=stretch.last].iter().rev().find_map(|s| {
        let marked = hinds.iter().all(|k| !s.inferred[*k]);
        let [Some(a), Some(b)] = hinds.map(|k| s.on[k]) else { return None };
        (marked && (a - b).abs() < COUPLET * s.duration()).then(|| a.max(b))
    });
    couplet.unwrap_or(strides[stretch.last].end) + MOMENT
}

/// The first footfall of a stretch and its limb, which may stand before the first whole stride that
/// was cut: in canter the first hind of its first couplet, in trot the hind of its first diagonal.
fn enters(strides: &[Stride], stretch: &GaitStretch, marks: &[Footfall]) -> (f64, Limb) {
    if let Some(turn) = stretch.turn {
        return (turn.time_s, turn.limb);
    }
    let first = &strides[stretch.first];
    let t = first.duration();
    let mut entry = (first.start, first.first_hind);
    if matches!(stretch.gait, Gait::Trot | Gait::Passage | Gait::Piaffe) {
        // Strides across the transition are of neither gait: there may be more than one.
        while let Some(earlier) = diagonal_before(entry, t, marks) {
            entry = earlier;
        }
        return entry;
    }
    if !stretch.gait.is_asymmetrical() {
        return entry;
    }
    loop {
        let before = marks.partition_point(|m| m.on.0 < entry.0 - MOMENT);
        let mut hinds = marks[..before].iter().rev().filter(|m| m.limb.is_hind() && !m.inferred);
        let (Some(second), Some(one)) = (hinds.next(), hinds.next()) else { return entry };
        let couplet = second.limb != one.limb && second.on.0 - one.on.0 < COUPLET * t;
        if !couplet || !(0.7..1.3).contains(&((entry.0 - one.on.0) / t)) {
            return entry;
        }
        entry = (one.on.0, one.limb);
    }
}

/// The diagonal half a stride before one of a trot, when its two limbs land together
/// as in trot and not a quarter of a stride apart as in walk.
fn diagonal_before((start, hind): (f64, Limb), t: f64, marks: &[Footfall]) -> Option<(f64, Limb)> {
    let before = marks.partition_point(|m| m.on.0 < start - MOMENT);
    let mut earlier = marks[..before].iter().rev().filter(|m| !m.inferred);
    let other = earlier.clone().find(|m| m.limb.is_hind())?;
    let fore = earlier.find(|m| m.limb == other.limb.diagonal())?;
    let half_a_stride = (0.3..0.7).contains(&((start - other.on.0) / t));
    let together = (other.on.0 - fore.on.0).abs() < DIAGONAL * t;
    (other.limb != hind && half_a_stride && together).then_some((other.on.0, other.limb))
}

/// Limbs of a diagonal nearer than this share of a stride land as one (project default; a trot's
/// dissociation is under a twentieth, a walk's diagonals are a quarter apart).
const DIAGONAL: f64 = 0.10;

/// Two hinds nearer than this share of a stride land as a couplet.
const COUPLET: f64 = 0.385;

/// Shorter than any distance between footfalls, s.
const MOMENT: f64 = 1e-6;

/// Footfalls of hinds from one moment to before another: each is a step.
fn hind_steps(marks: &[Footfall], from: f64, to: f64) -> usize {
    let first = marks.partition_point(|m| m.on.0 < from);
    let own = marks[first..].iter().take_while(|m| m.on.0 < to - MOMENT);
    own.filter(|m| m.limb.is_hind() && !m.inferred).count()
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
        withheld: None,
        suspension_before_s: None,
        tempo_before: None,
        tempo_at: None,
        tempo_after: None,
    }
}
