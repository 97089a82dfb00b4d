//! One bout, as the document writes it.

use std::collections::BTreeMap;

use serde::Serialize;
use umlauf_gait::base::limb::Limb;
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::bouts::lead_verdict::LeadVerdict;
use umlauf_gait::figures::canter_beats::Beats;
use umlauf_gait::figures::regularity;
use umlauf_gait::marks::movement::Movement;
use umlauf_gait::words;
use utoipa::ToSchema;

use crate::document::estimate::{Estimate, estimate, opt, side};

/// A stride length found another way.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct OtherLength {
    /// `ground`, `bar`, `letters`, `figure` or `withers`.
    pub source: String,
    /// Length.
    pub stride_length_m: Estimate,
}

/// Slow drift of tempo.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Drift {
    /// Strides/min per minute.
    pub value: f64,
    /// 95 % interval.
    pub ci95: [f64; 2],
    /// Beyond its limit.
    pub flagged: bool,
}

/// Spread of stride durations, % of the mean.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Regularity {
    /// Corrected coefficient of variation.
    pub value: f64,
    /// 95 % interval when resolved.
    pub ci95: Option<[f64; 2]>,
    /// Upper bound when not.
    pub at_most: Option<f64>,
    /// Whether the clip can tell.
    pub resolved: bool,
}

/// Mean phases from the start of the stride.
#[derive(Clone, Debug, Serialize, ToSchema)]
#[serde(rename_all = "UPPERCASE")]
pub struct PerLimb<T> {
    /// Left fore.
    pub lf: Option<T>,
    /// Right fore.
    pub rf: Option<T>,
    /// Left hind.
    pub lh: Option<T>,
    /// Right hind.
    pub rh: Option<T>,
}

/// Hind before fore (positive) on each diagonal, s.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Dissociation {
    /// LH and RF.
    #[serde(rename = "LH-RF")]
    pub lh_rf: Option<Estimate>,
    /// RH and LF.
    #[serde(rename = "RH-LF")]
    pub rh_lf: Option<Estimate>,
}

/// Strides by class of beats.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct CanterBeats {
    /// Diagonal together.
    pub three: usize,
    /// Slightly apart.
    pub split: usize,
    /// Four beats.
    pub four: usize,
    /// Not to be told.
    pub unresolved: usize,
}

/// Left against right stance, %.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct StanceSymmetry {
    /// Fores.
    pub fore: Option<Estimate>,
    /// Hinds.
    pub hind: Option<Estimate>,
}

/// One bout.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct BoutSaid {
    /// First stride's start.
    pub start_s: f64,
    /// Last stride's end.
    pub end_s: f64,
    /// Strides.
    pub strides: usize,
    /// Gait.
    pub gait: String,
    /// `Canter, left lead`: gait and lead in words.
    pub label: String,
    /// 0 to 1.
    pub confidence: f64,
    /// `left` or `right`.
    pub hind_lead: Option<String>,
    /// `left` or `right`.
    pub fore_lead: Option<String>,
    /// `left`, `right` or `disunited`.
    pub lead: Option<String>,
    /// Rein ridden, when it was said: `left` or `right`.
    pub rein: Option<String>,
    /// `true`, `counter`, `wrong` or `disunited`.
    pub lead_verdict: Option<String>,
    /// Stride duration.
    pub stride_duration_s: Option<Estimate>,
    /// Strides/min.
    pub tempo: Option<Estimate>,
    /// Beats/min, for a metronome.
    pub beats_per_min: Option<f64>,
    /// Drift of tempo.
    pub drift_per_min: Option<Drift>,
    /// Regularity.
    pub regularity_cv_pct: Option<Regularity>,
    /// Mean phases.
    pub phases: PerLimb<f64>,
    /// Fore after the hind of its side.
    pub lateral_advanced_placement: Option<Estimate>,
    /// Dissociation of the diagonals.
    pub diagonal_dissociation_s: Dissociation,
    /// RMS of four gaps against 25 %.
    pub beat_evenness_rms_pct: Option<f64>,
    /// Its 95 % interval, %.
    pub beat_evenness_ci95_pct: Option<[f64; 2]>,
    /// Left step against right.
    pub step_asymmetry_pct: Option<Estimate>,
    /// Canter beats.
    pub canter_beats: Option<CanterBeats>,
    /// Split of the canter's diagonal, hind first positive.
    pub canter_split_s: Option<Estimate>,
    /// One aerial phase, signed.
    pub suspension_s: Option<Estimate>,
    /// Moments of air in a stride.
    pub aerial_phases_per_stride: Option<usize>,
    /// Stance shares.
    pub duty_factor: PerLimb<Estimate>,
    /// Left against right stance.
    pub stance_symmetry_pct: StanceSymmetry,
    /// Speed.
    pub speed: Option<Estimate>,
    /// Stride length.
    pub stride_length_m: Option<Estimate>,
    /// Where the length comes from.
    pub stride_length_source: Option<String>,
    /// Hind print ahead of the fore print.
    pub overtrack_m: Option<Estimate>,
    /// Tracks in lateral work.
    pub tracks: Option<u8>,
    /// Forehand's axis against the track.
    pub shoulder_angle_deg: Option<Estimate>,
    /// Body against the track.
    pub body_angle_deg: Option<Estimate>,
    /// Forehand's axis against the quarters', to the left positive.
    pub bend_deg: Option<Estimate>,
    /// How far the hinds run to the left of the fores.
    pub hinds_beside_m: Option<Estimate>,
    /// How far the strides stray from a straight line, root mean square.
    pub strays_m: Option<f64>,
    /// Steps of the fores, left to right and right to left.
    pub step_lengths_m: [Option<Estimate>; 2],
    /// The same length by the other ways there are.
    pub other_lengths: Vec<OtherLength>,
    /// Runs of good strides.
    pub good_stride_runs: Option<Vec<usize>>,
    /// Movement.
    pub movement: Option<String>,
    /// v²/(g·h).
    pub froude: Option<f64>,
    /// Stride length per hip height.
    pub relative_stride_length: Option<f64>,
    /// Reasons for what is missing, by key.
    pub why: BTreeMap<String, String>,
}

fn per_limb<A, T>(of: &[Option<A>; 4], f: impl Fn(&A) -> T) -> PerLimb<T> {
    let get = |limb: Limb| of[limb.index()].as_ref().map(&f);
    PerLimb { lf: get(Limb::LF), rf: get(Limb::RF), lh: get(Limb::LH), rh: get(Limb::RH) }
}

fn spread(r: &regularity::Regularity) -> Regularity {
    Regularity {
        value: r.value,
        ci95: r.ci95.map(|(lo, hi)| [lo, hi]),
        at_most: r.at_most,
        resolved: r.resolved,
    }
}

fn beats(b: Beats) -> CanterBeats {
    CanterBeats { three: b.three, split: b.split, four: b.four, unresolved: b.unresolved }
}

pub(crate) const fn verdict(v: LeadVerdict) -> &'static str {
    match v {
        LeadVerdict::True => "true",
        LeadVerdict::Counter => "counter",
        LeadVerdict::Wrong => "wrong",
        LeadVerdict::Disunited => "disunited",
    }
}

pub(crate) fn bout(b: &BoutFigures) -> BoutSaid {
    let label = b.label;
    let lead = match (label.hind_lead, label.fore_lead) {
        (Some(h), Some(f)) if h == f => Some(h.word().to_owned()),
        (Some(_), Some(_)) => Some("disunited".to_owned()),
        _ => None,
    };
    let tempo = b.tempo;
    BoutSaid {
        start_s: b.start_s,
        end_s: b.end_s,
        strides: b.strides,
        gait: label.gait.code().into(),
        label: words::names::label_name(label),
        confidence: b.confidence,
        hind_lead: side(label.hind_lead),
        fore_lead: side(label.fore_lead),
        lead,
        rein: side(b.rein),
        lead_verdict: b.lead_verdict.map(|v| verdict(v).to_owned()),
        stride_duration_s: tempo.map(|t| estimate(&t.duration)),
        tempo: tempo.map(|t| estimate(&t.tempo)),
        beats_per_min: tempo.zip(label.gait.beats()).map(|(t, beats)| t.tempo.value * beats),
        drift_per_min: b.drift.map(|d| Drift {
            value: d.per_min,
            ci95: [d.ci95.0, d.ci95.1],
            flagged: d.flagged,
        }),
        regularity_cv_pct: b.regularity.as_ref().map(spread),
        phases: per_limb(&b.phases, |p| *p),
        lateral_advanced_placement: opt(&b.lap),
        diagonal_dissociation_s: Dissociation {
            lh_rf: opt(&b.dissociation[0]),
            rh_lf: opt(&b.dissociation[1]),
        },
        beat_evenness_rms_pct: b.beat_evenness_pct.map(|e| e.value),
        beat_evenness_ci95_pct: b.beat_evenness_pct.and_then(|e| e.ci95).map(|(lo, hi)| [lo, hi]),
        step_asymmetry_pct: opt(&b.step_asymmetry),
        canter_beats: b.canter.and_then(|c| c.beats).map(beats),
        canter_split_s: b.canter.map(|c| estimate(&c.dissociation)),
        suspension_s: b.suspension.map(|s| estimate(&s.each)),
        aerial_phases_per_stride: b
            .suspension
            .map_or_else(|| label.gait.aerial_phases().filter(|n| *n == 0), |s| s.phases),
        duty_factor: per_limb(&b.duty, estimate),
        stance_symmetry_pct: StanceSymmetry {
            fore: opt(&b.stance_symmetry[0]),
            hind: opt(&b.stance_symmetry[1]),
        },
        speed: b.travel.map(|t| estimate(&t.speed)),
        stride_length_m: b.travel.map(|t| estimate(&t.stride_length)),
        stride_length_source: b.travel.map(|t| t.source.word().to_owned()),
        overtrack_m: opt(&b.prints.overtrack_m),
        tracks: b.prints.tracks,
        shoulder_angle_deg: opt(&b.prints.shoulder_angle_deg),
        body_angle_deg: opt(&b.prints.body_angle_deg),
        bend_deg: opt(&b.prints.bend_deg),
        hinds_beside_m: opt(&b.prints.hinds_beside_m),
        strays_m: b.prints.strays_m,
        step_lengths_m: [opt(&b.step_lengths[0]), opt(&b.step_lengths[1])],
        other_lengths: b
            .other_ways
            .iter()
            .map(|t| OtherLength {
                source: t.source.word().to_owned(),
                stride_length_m: estimate(&t.stride_length),
            })
            .collect(),
        good_stride_runs: b.good_runs.as_ref().map(|runs| runs.iter().map(|r| r.strides).collect()),
        movement: b.movement.as_ref().map(movement),
        froude: b.froude,
        relative_stride_length: b.relative_stride_length,
        why: b
            .why
            .iter()
            .map(|(key, why)| ((*key).to_owned(), words::missing::missing(*why).to_owned()))
            .collect(),
    }
}

fn movement(m: &Movement) -> String {
    let name = m.kind.name();
    m.side.map_or_else(|| name.clone(), |side| format!("{name} {}", side.word()))
}
