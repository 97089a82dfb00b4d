//! The figures of one bout.

use crate::base::gait::Label;
use crate::base::limb::Side;
use crate::bouts::lead_verdict::LeadVerdict;
use crate::bouts::missing::Missing;
use crate::figures::canter_beats::CanterBeats;
use crate::figures::drift::Drift;
use crate::figures::good_strides::Run;
use crate::figures::regularity::Regularity;
use crate::figures::suspension::Suspension;
use crate::figures::tempo::Tempo;
use crate::ground::hoof_prints::Prints;
use crate::ground::lateral_seen::{Seen, Untold};
use crate::ground::plausibility::Impossible;
use crate::ground::travel::Travel;
use crate::marks::movement::Movement;
use crate::stats::estimate::Estimate;

/// The figures of one bout. Fields that could not be had are `None`, with a reason in `why`.
#[derive(Clone, Debug, PartialEq)]
pub struct BoutFigures {
    /// First footfall of the gait where it follows another, else the first stride's start, s.
    pub start_s: f64,
    /// Last stride's end, s.
    pub end_s: f64,
    /// Strides in the bout.
    pub strides: usize,
    /// Gait and leads.
    pub label: Label,
    /// 0 to 1.
    pub confidence: f64,
    /// The rein ridden, when it was said.
    pub rein: Option<Side>,
    /// Lead against rein and asked lead.
    pub lead_verdict: Option<LeadVerdict>,
    /// Stride duration and tempo.
    pub tempo: Option<Tempo>,
    /// Slow drift of tempo.
    pub drift: Option<Drift>,
    /// Spread of stride durations.
    pub regularity: Option<Regularity>,
    /// Circular mean phases, by [`Limb::index`].
    pub phases: [Option<f64>; 4],
    /// Lateral advanced placement.
    pub lap: Option<Estimate>,
    /// LH–RF and RH–LF, s, hind first positive.
    pub dissociation: [Option<Estimate>; 2],
    /// RMS of the four gaps about a quarter, %, with its noise taken out.
    pub beat_evenness_pct: Option<Estimate>,
    /// Left step against right step, %.
    pub step_asymmetry: Option<Estimate>,
    /// Canter beats.
    pub canter: Option<CanterBeats>,
    /// Suspension.
    pub suspension: Option<Suspension>,
    /// Duty factors, by [`Limb::index`].
    pub duty: [Option<Estimate>; 4],
    /// Stance symmetry of the fores and the hinds, %.
    pub stance_symmetry: [Option<Estimate>; 2],
    /// Speed and stride length, by the best way there is.
    pub travel: Option<Travel>,
    /// Steps of the fores, left to right and right to left, m.
    pub step_lengths: [Option<Estimate>; 2],
    /// The same by the other ways there are.
    pub other_ways: Vec<Travel>,
    /// A stride length that cannot be for this gait and height.
    pub impossible: Option<Impossible>,
    /// The lateral movement that the prints show, or why it has no name.
    pub lateral_seen: Option<Result<Seen, Untold>>,
    /// Froude number v²/(g·h), h the hip's height, 0.78 of the withers' (Griffin et al. 2004,
    /// J Exp Biol 207:4215; value from memory).
    pub froude: Option<f64>,
    /// Stride length per hip height.
    pub relative_stride_length: Option<f64>,
    /// What the prints tell.
    pub prints: Prints,
    /// Runs of good strides.
    pub good_runs: Option<Vec<Run>>,
    /// Movement ridden, as the coach marked it.
    pub movement: Option<Movement>,
    /// Standard deviation of one mark in this bout, s.
    pub mark_sd_s: Option<f64>,
    /// Reasons for what is missing.
    pub why: Vec<(&'static str, Missing)>,
}
