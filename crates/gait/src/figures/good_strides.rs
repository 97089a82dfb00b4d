//! Runs of good strides: how many in a row before it falls apart, and where.

use crate::base::gait::{Gait, Label};
use crate::base::limb::Limb;
use crate::base::thresholds::Thresholds;
use crate::figures::canter_beats::{self, BeatClass};
use crate::strides::classify::diagonal;
use crate::strides::stride::Stride;

/// A run of good strides.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Run {
    /// Place of its first stride in the bout.
    pub first: usize,
    /// Strides.
    pub strides: usize,
}

/// Runs of good strides in a bout. A stride is good when nothing is known against it: its
/// duration lies within [`Thresholds::good_stride_share`] of the bout's median, and it keeps its
/// gait's pattern: the hinds of a canter land as a couplet and not in four beats, those of a walk
/// neither drift towards lateral nor diagonal pairs. Limits are widened by 2√2·σ, the error of a
/// gap between two marks of `mark_sd` (s); strides with an inferred mark neither break a run nor
/// count. `None` for no clear gait, fewer than four strides, or an unknown timing error.
pub fn runs(
    strides: &[Stride],
    label: Label,
    mark_sd: Option<f64>,
    limits: &Thresholds,
) -> Option<Vec<Run>> {
    let half = 2.0 * std::f64::consts::SQRT_2 * mark_sd?;
    if strides.len() < 4 || label.gait == Gait::Unclear {
        return None;
    }
    let mut durations: Vec<f64> = strides.iter().map(Stride::duration).collect();
    let middle = durations.len() / 2;
    let median = *durations.select_nth_unstable_by(middle, f64::total_cmp).1;
    let mut out: Vec<Run> = Vec::new();
    let mut open = false;
    for (k, stride) in strides.iter().enumerate() {
        if !stride.is_marked() {
            continue;
        }
        let steady = (stride.duration() - median).abs() <= limits.good_stride_share * median + half;
        if steady && keeps_pattern(stride, label, half, limits) {
            match out.last_mut().filter(|_| open) {
                Some(run) => run.strides += 1,
                None => out.push(Run { first: k, strides: 1 }),
            }
            open = true;
        } else {
            open = false;
        }
    }
    Some(out)
}

fn keeps_pattern(stride: &Stride, label: Label, half: f64, limits: &Thresholds) -> bool {
    let slack = half / stride.duration();
    if let Some(lead) = label.hind_lead {
        let (hind, fore) = diagonal(lead);
        let four = stride.gap_short(hind, fore).is_some_and(|split| {
            canter_beats::class(split - half, split + half, limits) == Some(BeatClass::Four)
        });
        return couplet_kept(stride, slack, limits)
            && !(label.gait == Gait::Canter && !label.is_disunited() && four);
    }
    if label.gait.beats() == Some(4.0) {
        let lap = [(Limb::LH, Limb::LF), (Limb::RH, Limb::RF)]
            .into_iter()
            .filter_map(|(hind, fore)| stride.phase_between(hind, fore));
        let (lo, hi) = (limits.walk_lateral - slack, limits.walk_diagonal + slack);
        return lap.into_iter().all(|p| (lo..=hi).contains(&p)) || label.gait == Gait::FoxTrot;
    }
    true
}

/// Whether the hinds land as a couplet, as in canter: neither together nor alternating, by more
/// than `slack` (share of a stride). True when a hind is not marked: nothing is known against it.
pub fn couplet_kept(stride: &Stride, slack: f64, limits: &Thresholds) -> bool {
    stride.phase_between(Limb::RH, Limb::LH).is_none_or(|delta| {
        let apart = delta.min(1.0 - delta);
        (limits.couplet_min - slack..=limits.couplet_max + slack).contains(&apart)
    })
}
