//! Bouts: runs of consecutive strides in one gait and on one lead.

use crate::base::gait::{Gait, Label};
use crate::base::thresholds::Thresholds;
use crate::base::{number, phase};
use crate::strides::classify::{self, Pattern};
use crate::strides::confidence;
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

/// The bout of a range of strides whose patterns and own labels are given, and whose labels run as
/// `run`.
pub(super) fn bout(
    patterns: &[Option<Pattern>],
    own: &[Option<Label>],
    range: std::ops::Range<usize>,
    run: Label,
    reading: &Reading,
) -> Bout {
    let patterns: Vec<Pattern> = patterns[range.clone()].iter().flatten().copied().collect();
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
