//! Strides grouped into bouts: labels made steady, leads settled, bouts set apart where gaits meet.

use rayon::iter::{IndexedParallelIterator, IntoParallelRefIterator, ParallelIterator};

use crate::base::gait::Label;
use crate::base::thresholds::Thresholds;
use crate::stats::descriptive::median;
use crate::strides::bout::{Bout, Reading, bout};
use crate::strides::canter::leads;
use crate::strides::canter::states::Instead;
use crate::strides::classify::{self, Pattern};
use crate::strides::halt::Halt;
use crate::strides::set_apart::{self, Ride};
use crate::strides::smooth::{self, Evidence};
use crate::strides::stride::Stride;
use crate::strides::tidy::Tidy;

/// A stride this much longer or shorter than the ride's median is of another gait by that alone.
const UNLIKE: f64 = 0.25;

/// Strides of canter last 0.5 to 0.9 s, the longest in a pirouette (common practice): a longer one
/// holds a mark that is not its own, s.
const LONGEST_CANTER_S: f64 = 1.0;

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
            let (marks, by_limb) = (&tidy.footfalls, &tidy.by_limb);
            instead.extend(leads::settle(strides, own, marks, by_limb, mark_sd, &tidy.told));
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
    let patterns: Vec<Option<Pattern>> =
        strides.par_iter().with_min_len(256).map(Pattern::of).collect();
    let own: Vec<Option<Label>> =
        patterns.iter().map(|p| p.as_ref().map(|p| classify::label(p, gaited, limits))).collect();
    let typical = median(strides.iter().map(Stride::duration).collect());
    let weight = |s: &Stride, label: &Option<Label>| {
        let unlike = typical.is_some_and(|t| (s.duration() / t - 1.0).abs() > UNLIKE);
        let canters = label.is_some_and(|l| l.gait.is_asymmetrical());
        match (s.is_marked(), unlike) {
            (false, _) => 0.3,
            _ if canters && s.duration() > LONGEST_CANTER_S => 0.3,
            (true, false) => 1.0,
            (true, true) => 1.6,
        }
    };
    let evidence: Vec<Evidence> = strides
        .iter()
        .zip(own.iter().zip(&patterns))
        .map(|(s, (label, pattern))| {
            let near = pattern.as_ref().zip(mark_sd).map(|(p, sd)| (p, sd / s.duration()));
            Evidence { label: *label, weight: weight(s, label), near }
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
                bouts.push(bout(&patterns, &own, start..j, smooth[start], &reading));
                start = j;
            }
        }
        first = k;
    }
    (
        set_apart::set_apart(
            bouts,
            &Ride { strides, patterns: &patterns, own: &own, tidy, halts, reading },
        ),
        instead,
    )
}
