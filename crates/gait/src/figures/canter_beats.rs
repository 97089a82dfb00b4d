//! The beats of the canter: the dissociation of the diagonal pair, stride by stride.

use crate::base::limb::Side;
use crate::base::thresholds::Thresholds;
use crate::stats::estimate::Estimate;
use crate::stats::stride_mean::StrideMean;
use crate::strides::classify::diagonal;
use crate::strides::stride::Stride;

/// How many strides were three-beat, slightly split, four-beat, or not to be told.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Beats {
    /// Diagonal together.
    pub three: usize,
    /// Slightly apart.
    pub split: usize,
    /// Four beats.
    pub four: usize,
    /// The stride's interval crosses a limit.
    pub unresolved: usize,
}

/// A class of canter beats.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum BeatClass {
    /// Three clear beats.
    Three,
    /// The diagonal slightly split.
    Split,
    /// Four beats.
    Four,
}

/// The canter's beats over a bout.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct CanterBeats {
    /// Dissociation of the diagonal, s: trailing fore after leading hind; positive when the hind
    /// lands first.
    pub dissociation: Estimate,
    /// Strides by class; `None` when the timing error is not known.
    pub beats: Option<Beats>,
    /// Class of the mean, when its whole interval lies inside one.
    pub verdict: Option<BeatClass>,
}

/// Beats of canter strides on hind lead `lead`. A gap between two footfalls is known to ± 2√2·σ;
/// a stride gets a class only when that whole interval lies in it.
pub fn canter_beats(
    strides: &[Stride],
    lead: Side,
    over: &StrideMean,
    limits: &Thresholds,
) -> Option<CanterBeats> {
    let (hind, fore) = diagonal(lead);
    let gaps: Vec<f64> = strides.iter().filter_map(|s| s.gap_short(hind, fore)).collect();
    let dissociation = over.of(&gaps, 2.0)?;
    let beats = over.timing.map(|timing| {
        let half = 2.0 * std::f64::consts::SQRT_2 * timing.sd;
        let mut beats = Beats::default();
        for d in &gaps {
            match class(d - half, d + half, limits) {
                Some(BeatClass::Three) => beats.three += 1,
                Some(BeatClass::Split) => beats.split += 1,
                Some(BeatClass::Four) => beats.four += 1,
                None => beats.unresolved += 1,
            }
        }
        beats
    });
    let verdict = dissociation.ci95.and_then(|(lo, hi)| class(lo, hi, limits));
    Some(CanterBeats { dissociation, beats, verdict })
}

/// The class in which the whole interval lies.
pub fn class(lo: f64, hi: f64, limits: &Thresholds) -> Option<BeatClass> {
    let (three, four) = (limits.three_beat_split_s, limits.four_beat_split_s);
    let inside = |a: f64, b: f64| (lo >= a && hi <= b) || (lo >= -b && hi <= -a);
    if lo >= -three && hi <= three {
        Some(BeatClass::Three)
    } else if inside(three, four) {
        Some(BeatClass::Split)
    } else if inside(four, f64::INFINITY) {
        Some(BeatClass::Four)
    } else {
        None
    }
}
