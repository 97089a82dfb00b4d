//! Answers to aids: how long from the aid to what it asked for, in seconds and strides.

use crate::base::gait::Gait;
use crate::events::flying_change::{FlyingChange, Verdict};
use crate::events::transition::Transition;
use crate::marks::aid::Aid;
use crate::marks::ride_mark::{MarkKind, RideMark};
use crate::strides::stride::Stride;

/// An answer.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Answer {
    /// Seconds from the aid to the first footfall of what was asked.
    pub seconds: f64,
    /// The same in strides of the gait before.
    pub strides: f64,
    /// Suggested score, 0 to 10.
    pub score: f64,
}

/// An aid is answered by nothing that comes later than this, s (project default).
const LONGEST_S: f64 = 10.0;

/// Most that a progressive transition scores once direct ones are expected (common practice).
const PROGRESSIVE: f64 = 6.0;
/// A change that comes later than this many strides after its aid was not given for it.
const CHANGE_WITHIN: f64 = 3.0;

/// Suggested score of an answer, 0 to 10: 10 within one stride, falling evenly to 5 at three and
/// to 0 at eight (project default).
pub fn answer_score(strides: f64) -> f64 {
    if strides <= 1.0 {
        10.0
    } else if strides <= 3.0 {
        10.0 - 2.5 * (strides - 1.0)
    } else {
        (5.0 - (strides - 3.0)).max(0.0)
    }
}

/// Whether the coach marks aids for gaits in this clip at all: only then is a transition without
/// one unasked.
pub fn marks_gaits(marks: &[RideMark]) -> bool {
    let gait = |a: &Aid| matches!(a, Aid::Walk | Aid::Trot | Aid::Canter(_) | Aid::Halt);
    !asked(marks, gait).is_empty()
}

/// What there is to say of a flying change and its aid.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct ChangeAnswer {
    /// Strides from the aid to the change; `None` without one.
    pub strides_from_aid: Option<f64>,
    /// It came before any aid, although changes are asked for in this clip.
    pub offered_early: bool,
}

/// Times of aids that ask for something, sorted.
fn asked(marks: &[RideMark], wanted: impl Fn(&Aid) -> bool) -> Vec<f64> {
    let mut out: Vec<f64> = marks
        .iter()
        .filter(|m| matches!(&m.kind, MarkKind::Aid(aid) if wanted(aid)))
        .map(|m| m.time)
        .collect();
    out.sort_by(f64::total_cmp);
    out
}

/// Duration of the stride under way at a time, or of the last one before it, s.
fn stride_at(strides: &[Stride], time: f64) -> Option<f64> {
    let k = strides.partition_point(|s| s.start <= time);
    strides.get(k.saturating_sub(1)).map(Stride::duration)
}

/// The answer of a transition: from the latest aid that asked for its gait (and lead), not before
/// `not_before` (the transition before it). `degree` of collection: from the second on direct
/// transitions are expected, and a progressive one scores no more than 6.
pub fn answer(
    transition: &Transition,
    not_before: f64,
    marks: &[RideMark],
    strides: &[Stride],
    degree: Option<u8>,
) -> Option<Answer> {
    let fits = |aid: &Aid| match aid {
        // A gaited horse has more than one walk.
        Aid::Walk => {
            matches!(transition.to, Gait::Walk | Gait::FlatWalk | Gait::RunningWalk)
        }
        Aid::Trot => transition.to == Gait::Trot,
        Aid::Halt => transition.to == Gait::Halt,
        Aid::Canter(lead) => {
            transition.to.is_asymmetrical() && (lead.is_none() || *lead == transition.lead)
        }
        _ => false,
    };
    let time = asked(marks, fits).into_iter().rfind(|t| {
        *t <= transition.time_s && *t >= not_before && transition.time_s - t <= LONGEST_S
    })?;
    let seconds = transition.time_s - time;
    let in_strides = seconds / stride_at(strides, time)?;
    let score = answer_score(in_strides);
    // A progressive transition is right at first and not enough later.
    let direct_expected = degree.is_some_and(|d| d >= 2);
    let score =
        if transition.steps > 0 && direct_expected { score.min(PROGRESSIVE) } else { score };
    Some(Answer { seconds, strides: in_strides, score })
}

/// Sets changes against the aids for them: each change's answer, and the aids that were not
/// answered within three strides, as missed changes.
pub fn change_answers(
    changes: &[FlyingChange],
    marks: &[RideMark],
    strides: &[Stride],
) -> (Vec<ChangeAnswer>, Vec<FlyingChange>) {
    let aids = asked(marks, |a| *a == Aid::Change);
    let mut answered = vec![false; aids.len()];
    let answers = changes
        .iter()
        .map(|change| {
            let found = aids.iter().enumerate().rev().find(|(k, t)| {
                let stride = stride_at(strides, **t).unwrap_or(1.0);
                !answered[*k]
                    && **t <= change.time_s
                    && (change.time_s - **t) / stride <= CHANGE_WITHIN
            });
            match found {
                Some((k, t)) => {
                    let stride = stride_at(strides, *t).unwrap_or(1.0);
                    let strides_from_aid = Some((change.time_s - t) / stride);
                    answered[k] = true;
                    ChangeAnswer { strides_from_aid, offered_early: false }
                }
                None => ChangeAnswer { strides_from_aid: None, offered_early: !aids.is_empty() },
            }
        })
        .collect();
    let missed = aids
        .iter()
        .zip(&answered)
        .filter(|(_, answered)| !**answered)
        .filter_map(|(t, _)| missed(*t, strides))
        .collect();
    (answers, missed)
}

/// A missed change: its time is the aid's.
fn missed(time: f64, strides: &[Stride]) -> Option<FlyingChange> {
    let k = strides.partition_point(|s| s.start <= time).checked_sub(1)?;
    let stride = &strides[k];
    if time > stride.end + CHANGE_WITHIN * stride.duration() {
        return None;
    }
    // Without a change the lead is that of the hinds under way.
    let delta = stride.phase_between(crate::base::limb::Limb::RH, crate::base::limb::Limb::LH)?;
    let from = crate::strides::classify::pair_lead(delta, 0.0, 0.5)?;
    Some(FlyingChange {
        time_s: time,
        stride: k,
        from,
        to: from.opposite(),
        verdict: Verdict::Missed,
        late_by_strides: 0,
        late_by_s: None,
        intermediate_steps: 0,
        strides_since_last: None,
        withheld: None,
        suspension_before_s: None,
        tempo_before: None,
        tempo_at: Some(60.0 / stride.duration()),
        tempo_after: None,
    })
}
