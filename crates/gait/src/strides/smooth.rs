//! Labels of strides made steady: the most likely run of labels (Viterbi 1967, IEEE Trans Inf
//! Theory 13:260) when a stride's own label is usually right and horses seldom change gait.
//!
//! A change of lead costs little, so that one-stride events stay (one-tempi alternate every
//! stride); a change of gait costs more, so that one bad mark does not cut a bout.

use crate::base::gait::{Gait, Label};
use crate::base::limb::Side;
use crate::base::phase;
use crate::base::thresholds::Thresholds;
use crate::strides::classify::Pattern;

/// What one stride says of its label.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Evidence<'a> {
    /// Its own label; `None` when it has none.
    pub label: Option<Label>,
    /// How much it is worth: 1 for a stride fully marked, less with inferred marks, more when its
    /// duration too is unlike the others'.
    pub weight: f64,
    /// The stride's pattern and the error of a mark as a share of it, when both are known: a pattern
    /// near a border says little of the side it is on.
    pub near: Option<(&'a Pattern, f64)>,
}

/// Log-likelihood lost when a fully marked stride's own label is not believed.
const DISBELIEF: f64 = 6.0;

/// Spread of a stride's duration within one gait, share (project default).
const STRIDE_SPREAD: f64 = 0.04;

/// Log-likelihood lost by a change of lead,
const NEW_LEAD: f64 = 1.2;

/// and by a change of gait.
const NEW_GAIT: f64 = 4.5;

/// Between one stride and the next.
fn change(a: Label, b: Label) -> f64 {
    if a == b {
        0.0
    } else if a.gait.is_asymmetrical() && b.gait.is_asymmetrical() {
        // A split that hovers at gallop's limit must not cut a canter.
        if a.gait == b.gait { NEW_LEAD } else { NEW_GAIT }
    } else {
        NEW_GAIT
    }
}

/// How far a stride's own label speaks against a state: no more than the marks' error leaves unlikely.
fn doubt(evidence: Evidence, state: Label, limits: &Thresholds) -> f64 {
    let most = by_label(evidence, state);
    let (Some((pattern, mark)), Some(own)) = (evidence.near, evidence.label) else { return most };
    if state.gait == Gait::Unclear || own.gait.is_asymmetrical() && state.gait.is_asymmetrical() {
        return most;
    }
    // Two marks in the phase of a pair; the placement is the mean of two such phases.
    let errors = [std::f64::consts::SQRT_2 * mark, mark];
    match off(pattern, state, errors, limits) {
        // It lies within: what speaks against it is stance or duration.
        0.0 => most,
        squares => most.min(0.5 * squares),
    }
}

/// How far a pattern lies from where a label's pairs and placement lie: squares of standard errors.
fn off(p: &Pattern, state: Label, [pair, placement]: [f64; 2], limits: &Thresholds) -> f64 {
    let about = |value: f64, centre: f64, half: f64, error: f64| {
        ((phase::signed(value - centre).abs() - half).max(0.0) / error).powi(2)
    };
    if state.gait.is_asymmetrical() {
        let (least, most) = (limits.couplet_min, limits.couplet_max);
        let middle = |lead: Option<Side>| match lead {
            Some(Side::Right) => 1.0 - f64::midpoint(least, most),
            _ => f64::midpoint(least, most),
        };
        let half = 0.5 * (most - least);
        return about(p.hind_delta, middle(state.hind_lead), half, pair)
            + about(p.fore_delta, middle(state.fore_lead), half, pair);
    }
    let alternate = 0.5 - limits.couplet_max;
    let pairs =
        about(p.hind_delta, 0.5, alternate, pair) + about(p.fore_delta, 0.5, alternate, pair);
    let (single, pace) = ((limits.single_foot_min, limits.single_foot_max), limits.pace_max);
    let (least, most) = match state.gait {
        Gait::Trot | Gait::Passage | Gait::Piaffe => (limits.two_beat_min, limits.two_beat_max),
        Gait::Pace => (-pace, pace),
        Gait::SteppingPace => (pace, single.0),
        Gait::Rack | Gait::RunningWalk | Gait::FlatWalk => single,
        Gait::FoxTrot => (single.1, limits.two_beat_min),
        _ => (pace, limits.two_beat_min),
    };
    let lap = about(p.lap, f64::midpoint(least, most), 0.5 * (most - least), placement);
    // The mean of two stances, as the placement is of two phases.
    let stance = p.hind_duty.map_or(0.0, |duty| match state.gait {
        Gait::Rack => (duty - 0.5).max(0.0) / placement,
        Gait::RunningWalk | Gait::FlatWalk => (0.5 - duty).max(0.0) / placement,
        _ => 0.0,
    });
    // One stride that is a little quick or slow is of the gait about it.
    let short = |limit: f64| (limit / p.duration - 1.0).max(0.0) / STRIDE_SPREAD;
    let long = |limit: f64| (1.0 - limit / p.duration).max(0.0) / STRIDE_SPREAD;
    let duration = match state.gait {
        Gait::FlatWalk => short(limits.flat_walk_stride_s),
        Gait::RunningWalk => long(limits.flat_walk_stride_s),
        Gait::Passage | Gait::Piaffe => short(limits.passage_stride_s),
        Gait::Trot => long(limits.passage_stride_s),
        _ => 0.0,
    };
    pairs + lap + stance * stance + duration * duration
}

fn by_label(evidence: Evidence, state: Label) -> f64 {
    match evidence.label {
        None => 0.0,
        Some(own) if own == state => 0.0,
        // An unclear stride says little about which gait it is.
        Some(own) if own.gait == Gait::Unclear => 0.5 * DISBELIEF * evidence.weight,
        // No stretch is believed unclear but for want of anything better.
        Some(_) if state.gait == Gait::Unclear => 1.5 * DISBELIEF * evidence.weight,
        Some(_) => DISBELIEF * evidence.weight,
    }
}

/// The most likely labels of strides in a row. O(n·k²) for k different labels, k ≤ 13.
pub fn smooth(evidence: &[Evidence], limits: &Thresholds) -> Vec<Label> {
    let mut states: Vec<Label> = Vec::new();
    for label in evidence.iter().filter_map(|e| e.label) {
        if !states.contains(&label) {
            states.push(label);
        }
    }
    if states.is_empty() {
        return vec![Label::UNCLEAR; evidence.len()];
    }
    // Cost of the best run that ends in each state, and whence it came.
    let mut cost: Vec<f64> = states.iter().map(|s| doubt(evidence[0], *s, limits)).collect();
    let mut from: Vec<u8> = Vec::with_capacity(evidence.len() * states.len());
    for e in &evidence[1..] {
        let mut next = Vec::with_capacity(states.len());
        for to in &states {
            let mut best = (f64::INFINITY, 0u8);
            for (k, c) in (0u8..).zip(&cost) {
                let through = c + change(states[usize::from(k)], *to);
                if through < best.0 {
                    best = (through, k);
                }
            }
            next.push(best.0 + doubt(*e, *to, limits));
            from.push(best.1);
        }
        cost = next;
    }
    let mut k = (0..states.len()).min_by(|a, b| cost[*a].total_cmp(&cost[*b])).unwrap_or(0);
    let mut out = vec![states[k]; evidence.len()];
    for (place, whence) in from.chunks(states.len()).enumerate().rev() {
        k = usize::from(whence[k]);
        out[place] = states[k];
    }
    out
}

#[cfg(test)]
mod tests {
    use super::{Evidence, smooth};
    use crate::base::gait::{Gait, Label};
    use crate::base::limb::Side;
    use crate::base::thresholds::Thresholds;

    fn canter(side: Side) -> Label {
        Label { gait: Gait::Canter, hind_lead: Some(side), fore_lead: Some(side) }
    }

    fn seen(labels: &[Label]) -> Vec<Evidence<'_>> {
        labels.iter().map(|l| Evidence { label: Some(*l), weight: 1.0, near: None }).collect()
    }

    #[test]
    fn one_odd_stride_does_not_cut_a_trot() {
        let trot = Label { gait: Gait::Trot, hind_lead: None, fore_lead: None };
        let mut labels = vec![trot; 9];
        labels[4] = Label::UNCLEAR;
        labels[6] = Label { gait: Gait::Walk, ..trot };
        assert_eq!(smooth(&seen(&labels), &Thresholds::default()), vec![trot; 9]);
    }

    #[test]
    fn one_tempi_stay() {
        let line: Vec<Label> =
            (0..12).map(|k| canter(if k % 2 == 0 { Side::Left } else { Side::Right })).collect();
        assert_eq!(smooth(&seen(&line), &Thresholds::default()), line);
    }

    #[test]
    fn a_change_of_gait_stays_where_it_is() {
        let walk = Label { gait: Gait::Walk, hind_lead: None, fore_lead: None };
        let mut labels = vec![walk; 6];
        labels.extend([canter(Side::Left); 5]);
        assert_eq!(smooth(&seen(&labels), &Thresholds::default()), labels);
    }
}
