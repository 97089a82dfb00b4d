//! Stretches of a clip without strides, as bouts of their own: halts, and stretches where nothing
//! was marked.

use std::ops::Range;

use crate::base::gait::{Gait, Label};
use crate::bouts::bout_figures::BoutFigures;
use crate::bouts::missing::Missing;
use crate::bouts::options::Options;
use crate::events::measured::Events;
use crate::ground::hoof_prints::Prints;
use crate::marks::footfall::Footfall;
use crate::marks::ride_mark::{MarkKind, RideMark};
use crate::strides::nearby::first_at;
use crate::strides::stride::Stride;

/// Puts halts, and holes between strides longer than [`crate::base::thresholds::Thresholds::gap_strides`]
/// without a mark in them, between the bouts, and moves the places of bouts that events hold.
pub fn insert_standing(
    bouts: &mut Vec<BoutFigures>,
    bout_strides: &mut Vec<Range<usize>>,
    events: &mut Events,
    strides: &[Stride],
    marks: &[Footfall],
    options: &Options,
) {
    let mut stretches: Vec<(f64, f64, Gait, Missing)> =
        events.halts.iter().map(|h| (h.start_s, h.end_s, Gait::Halt, Missing::Standing)).collect();
    let mut k = 0;
    let holes = marks.windows(2).filter_map(|w| {
        let (from, to) = (w[0].on.0, w[1].on.0);
        k = first_at(strides, k, |s| s.start > from);
        let stride = strides.get(k.saturating_sub(1)).map_or(1.0, Stride::duration);
        let halted = events.halts.iter().any(|h| h.end_s > from && h.start_s < to);
        (to - from > options.thresholds.gap_strides * stride && !halted).then_some((from, to))
    });
    stretches.extend(holes.map(|(from, to)| {
        let why = if unseen(&options.marks, from, to) { Missing::Unseen } else { Missing::NoMarks };
        (from, to, Gait::Unclear, why)
    }));
    stretches.sort_by(|a, b| a.0.total_cmp(&b.0));
    for (start_s, end_s, gait, why) in stretches {
        let place = bouts.partition_point(|b| b.start_s <= start_s);
        let stride = bout_strides.get(place).map_or(strides.len(), |r| r.start);
        bouts.insert(place, standing(start_s, end_s, gait, why));
        bout_strides.insert(place, stride..stride);
        let moved = |k: &mut usize| *k += usize::from(*k >= place);
        events.lateral.iter_mut().for_each(|l| moved(&mut l.bout));
        events.speed_changes.iter_mut().for_each(|(k, _)| moved(k));
        for both in &mut events.both_sides {
            moved(&mut both.left);
            moved(&mut both.right);
        }
    }
}

/// Whether the coach said that the hooves were out of view in the middle of a stretch.
fn unseen(marks: &[RideMark], from: f64, to: f64) -> bool {
    let middle = f64::midpoint(from, to);
    let last = marks
        .iter()
        .filter(|m| m.time <= middle)
        .filter(|m| matches!(m.kind, MarkKind::UnseenStart | MarkKind::UnseenEnd))
        .max_by(|a, b| a.time.total_cmp(&b.time));
    last.is_some_and(|m| m.kind == MarkKind::UnseenStart)
}

fn standing(start_s: f64, end_s: f64, gait: Gait, why: Missing) -> BoutFigures {
    const FIGURES: [&str; 8] = [
        "strides",
        "tempo",
        "stride_duration_s",
        "regularity_cv_pct",
        "drift_per_min",
        "phases",
        "duty_factor",
        "speed",
    ];
    BoutFigures {
        start_s,
        end_s,
        strides: 0,
        label: Label { gait, ..Label::UNCLEAR },
        confidence: if gait == Gait::Halt { 1.0 } else { 0.0 },
        rein: None,
        lead_verdict: None,
        tempo: None,
        drift: None,
        regularity: None,
        phases: [None; 4],
        lap: None,
        dissociation: [None; 2],
        beat_evenness_pct: None,
        step_asymmetry: None,
        canter: None,
        suspension: None,
        duty: [None; 4],
        stance_symmetry: [None; 2],
        travel: None,
        step_lengths: [None; 2],
        other_ways: Vec::new(),
        impossible: None,
        lateral_seen: None,
        froude: None,
        relative_stride_length: None,
        prints: Prints::default(),
        good_runs: None,
        movement: None,
        mark_sd_s: None,
        why: FIGURES.into_iter().map(|key| (key, why)).collect(),
    }
}
