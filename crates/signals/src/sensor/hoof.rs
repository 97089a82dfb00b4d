//! A sensor worn on a hoof: when the hoof took the ground and when it left.
//!
//! A hoof that lands stops within milliseconds, and what it stands on rings: the acceleration jumps, and then it is
//! quiet. Before it leaves it turns over its toe, slowly at first.

use crate::sensor::quiet::quiet;
use crate::sensor::trace::Trace;

/// A stance that was felt.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Felt {
    /// When the hoof took the ground, s of the sensor's clock.
    pub on: f64,
    /// Its standard deviation, s.
    pub on_sd: f64,
    /// When the heel left, s.
    pub heel_off: Option<f64>,
    /// When the toe left, s.
    pub off: Option<f64>,
    /// Its standard deviation, s.
    pub off_sd: f64,
    /// Chance that it is a footfall.
    pub confidence: f64,
}

/// A landing lies so long before the quiet, or after its beginning, s.
const BEFORE: f64 = 0.12;
const AFTER: f64 = 0.02;

/// The landing begins where the acceleration jumps by this share of its greatest jump …
const BEGINS: f64 = 0.3;

/// … and nothing between is quieter than this share.
const GOES_ON: f64 = 0.12;

/// A landing's jump is so many times what is usual in the swing (median), or it is doubtful.
const CLEAR: f64 = 4.0;

/// A hoof has left at latest so long after its quiet, s.
const LEAVES: f64 = 0.12;

/// Causes that are not seen, s: a hoof slides, a boot gives.
const UNSEEN: f64 = 0.001;

/// The stances of a hoof.
pub fn stances(trace: &Trace) -> Vec<Felt> {
    let jerk = trace.jerk();
    let quiet = quiet(trace);
    let (before, after) = (trace.samples_in(BEFORE), trace.samples_in(AFTER));
    let usual = usual_in_swing(&jerk, &quiet);
    let mut out: Vec<Felt> = vec![];
    for (k, stance) in quiet.iter().enumerate() {
        let earliest = if k > 0 { quiet[k - 1].end } else { 0 };
        let from = stance.start.saturating_sub(before).max(earliest);
        let to = (stance.start + after).min(jerk.len());
        // What was quiet from the beginning has no landing.
        if from == 0 || from >= to {
            continue;
        }
        let Some(peak) = (from..to).max_by(|a, b| jerk[*a].total_cmp(&jerk[*b])) else { continue };
        let first = beginning(&jerk, from, peak);
        let next = quiet.get(k + 1).map_or(jerk.len(), |n| n.start);
        let until = (stance.end + trace.samples_in(LEAVES)).min(next).min(jerk.len());
        // The toe leaves with a jerk, when the limb pulls it away.
        let toe = (stance.end..until).max_by(|a, b| jerk[*a].total_cmp(&jerk[*b]));
        let ends = stance.end < jerk.len();
        let clear = jerk[peak] > CLEAR * usual;
        out.push(Felt {
            on: trace.between(first),
            on_sd: trace.step_sd().hypot(UNSEEN),
            heel_off: ends.then(|| trace.between(stance.end)),
            off: toe.filter(|_| ends).map(|t| trace.between(t)),
            off_sd: trace.step_sd().hypot(OFF_UNSEEN),
            confidence: if clear { 0.99 } else { 0.7 },
        });
    }
    alike(out)
}

/// What an off is known by (project default), s.
const OFF_UNSEEN: f64 = 0.012;

/// The first sample of the burst that has its peak at a sample.
fn beginning(jerk: &[f64], from: usize, peak: usize) -> usize {
    let (begins, goes_on) = (BEGINS * jerk[peak], GOES_ON * jerk[peak]);
    let mut first = peak;
    let mut still = 0;
    for k in (from..peak).rev() {
        if jerk[k] > begins {
            first = k;
            still = 0;
        } else if jerk[k] < goes_on {
            still += 1;
            if still > 2 {
                break;
            }
        }
    }
    first
}

fn usual_in_swing(jerk: &[f64], quiet: &[std::ops::Range<usize>]) -> f64 {
    let mut swings: Vec<f64> =
        quiet.windows(2).flat_map(|w| jerk[w[0].end..w[1].start].iter().copied()).collect();
    swings.sort_by(f64::total_cmp);
    swings.get(swings.len() / 2).copied().unwrap_or(0.0)
}

/// Without stances that are much shorter than usual, when most are alike.
fn alike(mut felt: Vec<Felt>) -> Vec<Felt> {
    let long = |f: &Felt| f.heel_off.map(|off| off - f.on);
    let mut lengths: Vec<f64> = felt.iter().filter_map(long).collect();
    if lengths.len() < 4 {
        return felt;
    }
    lengths.sort_by(f64::total_cmp);
    let usual = lengths[lengths.len() / 2];
    felt.retain(|f| long(f).is_none_or(|l| l > 0.4 * usual));
    felt
}
