//! Bouts: runs of consecutive strides in one gait and on one lead.

use crate::base::gait::{Gait, Label};
use crate::base::thresholds::Thresholds;
use crate::base::{number, phase};
use crate::stats::descriptive::median;
use crate::strides::classify::{self, Pattern};
use crate::strides::confidence;
use crate::strides::halt::Halt;
use crate::strides::leads::{self, Instead};
use crate::strides::set_apart::{self, Ride};
use crate::strides::smooth::{self, Evidence};
use crate::strides::stride::Stride;
use crate::strides::tidy::Tidy;
use crate::strides::turn::Turn;

/// A run of strides with one label.
#[derive(Clone, Debug, PartialEq)]
pub struct Bout {
    /// Places of the first stride and one past the last in the list of strides.
    pub strides: std::ops::Range<usize>,
    /// Gait and leads.
    pub label: Label,
    /// The first footfall of its gait, when the bout follows another gait and the marks between tell.
    pub turn: Option<Turn>,
    /// How sure the label is, 0 to 1 ([`confidence`]); where the strides' order overrules their
    /// mean, the share of strides that carry the label themselves, (k + ½)/(n + 1).
    pub confidence: f64,
}

/// A stride this much longer or shorter than the ride's median is of another gait by that alone.
const UNLIKE: f64 = 0.25;

/// Sets the leads of every stretch of canter by its marks, and says what else they may be.
fn settle_leads(
    strides: &[Stride],
    labels: &mut [Label],
    tidy: &Tidy,
    mark_sd: Option<f64>,
) -> Vec<Instead> {
    let mut instead = Vec::with_capacity(strides.len());
    let mut from = 0;
    while from < labels.len() {
        let canters = labels[from].gait.is_asymmetrical();
        let here = labels[from..].iter().take_while(|l| l.gait.is_asymmetrical() == canters);
        let to = from + here.count();
        if canters {
            let (own, strides) = (&mut labels[from..to], &strides[from..to]);
            instead.extend(leads::settle(strides, own, &tidy.footfalls, &tidy.by_limb, mark_sd));
        } else {
            instead.resize(to, None);
        }
        from = to;
    }
    instead
}

/// Groups strides into bouts: runs of one smoothed label, cut where strides are missing, at `halts`
/// and at the times `cuts` (where movements begin and end). The bout's gait is read once more from its mean stride.
/// Beside the bouts stands what else the leads of each stride may be.
pub fn group(
    strides: &[Stride],
    tidy: &Tidy,
    mark_sd: Option<f64>,
    halts: &[Halt],
    cuts: &[f64],
    gaited: bool,
    limits: &Thresholds,
) -> (Vec<Bout>, Vec<Instead>) {
    let patterns: Vec<Option<Pattern>> = strides.iter().map(Pattern::of).collect();
    let own: Vec<Option<Label>> =
        patterns.iter().map(|p| p.as_ref().map(|p| classify::label(p, gaited, limits))).collect();
    let typical = median(strides.iter().map(Stride::duration).collect());
    let weight = |s: &Stride| {
        let unlike = typical.is_some_and(|t| (s.duration() / t - 1.0).abs() > UNLIKE);
        match (s.is_marked(), unlike) {
            (false, _) => 0.3,
            (true, false) => 1.0,
            (true, true) => 1.6,
        }
    };
    let evidence: Vec<Evidence> = strides
        .iter()
        .zip(own.iter().zip(&patterns))
        .map(|(s, (label, pattern))| {
            let near = pattern.zip(mark_sd).map(|(p, sd)| (p, sd / s.duration()));
            Evidence { label: *label, weight: weight(s), near }
        })
        .collect();
    let reading = Reading { mark_sd, gaited, limits };
    let mut smooth = Vec::with_capacity(strides.len());
    let mut instead = Vec::with_capacity(strides.len());
    let mut bouts: Vec<Bout> = Vec::new();
    let mut first = 0;
    for k in 1..=strides.len() {
        // A label does not reach over a hole.
        let hole = k == strides.len()
            || strides[k].start - strides[k - 1].end
                > limits.gap_strides * strides[k - 1].duration()
            || halts.iter().any(|h| h.lies_between(strides[k - 1].end, strides[k].start));
        if !hole {
            continue;
        }
        smooth.extend(smooth::smooth(&evidence[first..k], limits));
        instead.extend(settle_leads(&strides[first..k], &mut smooth[first..k], tidy, mark_sd));
        let mut start = first;
        for j in first + 1..=k {
            // A movement begins and ends with the stride nearest to its mark.
            let middle = |s: &Stride| f64::midpoint(s.start, s.end);
            let cut = j < k
                && cuts.iter().any(|c| (middle(&strides[j - 1])..middle(&strides[j])).contains(c));
            if j == k || smooth[j] != smooth[start] || cut {
                bouts.push(bout(strides, &own, start..j, smooth[start], &reading));
                start = j;
            }
        }
        first = k;
    }
    (set_apart::set_apart(bouts, &Ride { strides, own: &own, tidy, halts, reading }), instead)
}

/// The bout of a range of strides whose labels run as `run`.
pub(super) fn bout(
    strides: &[Stride],
    own: &[Option<Label>],
    range: std::ops::Range<usize>,
    run: Label,
    reading: &Reading,
) -> Bout {
    let patterns: Vec<Pattern> = strides[range.clone()].iter().filter_map(Pattern::of).collect();
    let mean = mean_pattern(&patterns);
    let label = mean.map_or(run, |p| classify::label(&p, reading.gaited, reading.limits));
    // The mean may refine a gait within its family, never overrule the strides' leads.
    let same_family = label.gait.is_asymmetrical() == run.gait.is_asymmetrical()
        && label.gait != Gait::Unclear
        && run.gait != Gait::Unclear
        && label.hind_lead == run.hind_lead
        && label.fore_lead == run.fore_lead;
    let (label, confidence) = match mean {
        Some(mean) if same_family => {
            let Reading { mark_sd, gaited, limits } = *reading;
            (label, confidence::confidence(&patterns, &mean, label, mark_sd, gaited, limits))
        }
        _ => {
            let agree = own[range.clone()].iter().filter(|l| **l == Some(run)).count();
            (run, (number::count(agree) + 0.5) / (number::count(range.len()) + 1.0))
        }
    };
    Bout { strides: range, label, turn: None, confidence }
}

/// What labels are read with.
#[derive(Clone, Copy)]
pub(super) struct Reading<'a> {
    /// Error of a mark, s, when known.
    pub mark_sd: Option<f64>,
    /// The horse is gaited.
    pub gaited: bool,
    /// Thresholds.
    pub limits: &'a Thresholds,
}

/// The pattern of the mean stride: circular means of phases, plain means of the rest.
fn mean_pattern(all: &[Pattern]) -> Option<Pattern> {
    let circular = |f: fn(&Pattern) -> f64| phase::mean(&all.iter().map(f).collect::<Vec<f64>>());
    let n = number::count(all.len());
    let duties: Vec<f64> = all.iter().filter_map(|p| p.hind_duty).collect();
    Some(Pattern {
        duration: all.iter().map(|p| p.duration).sum::<f64>() / n,
        hind_delta: circular(|p| p.hind_delta)?,
        fore_delta: circular(|p| p.fore_delta)?,
        lap: circular(|p| p.lap)?,
        hind_duty: (!duties.is_empty())
            .then(|| duties.iter().sum::<f64>() / number::count(duties.len())),
        dissociation: all.iter().map(|p| p.dissociation).sum::<f64>() / n,
    })
}
