//! The analysis document, `umlauf.analysis/1`: the core's figures under fixed keys.
//!
//! Times s, lengths m, speeds m/s, tempo strides/min, phases and shares 0–1 unless a key ends in
//! `_pct`. A figure that cannot be had is `null`, with the reason in `why`.

use std::collections::BTreeMap;

use serde::Serialize;
use umlauf_gait::base::gait::Gait;
use umlauf_gait::base::limb::{Limb, Side};
use umlauf_gait::base::schools::Schools;
use umlauf_gait::bouts::bout_figures::BoutFigures;
use umlauf_gait::bouts::lead_verdict::LeadVerdict;
use umlauf_gait::events::answer::{Answer, ChangeAnswer};
use umlauf_gait::events::flying_change::{FlyingChange, Verdict};
use umlauf_gait::events::tempi::{Fault, Tempi};
use umlauf_gait::events::transition::Transition;
use umlauf_gait::figures::canter_beats::Beats;
use umlauf_gait::figures::regularity;
use umlauf_gait::findings::finding::Finding;
use umlauf_gait::marks::movement::Movement;
use umlauf_gait::stats::estimate;
use umlauf_gait::strides::halt::Halt;
use umlauf_gait::{Analysis, words};
use utoipa::ToSchema;

use crate::document_work;

/// A mean over strides: `sd` is the spread between strides with the timing error taken out,
/// `ci95` is of the mean.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Estimate {
    /// Mean.
    pub value: f64,
    /// Spread between strides.
    pub sd: Option<f64>,
    /// 95 % interval of the mean.
    pub ci95: Option<[f64; 2]>,
    /// Strides.
    pub n: usize,
}

/// A stride length found another way.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct OtherLength {
    /// `ground`, `bar`, `letters`, `figure` or `withers`.
    pub source: String,
    /// Length.
    pub stride_length_m: Estimate,
}

/// A mark left out.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Dropped {
    /// Line of the file, or place in the list of marks.
    pub line: usize,
    /// Why.
    pub why: String,
}

/// A mark given to another limb.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Relabelled {
    /// Line of the file.
    pub line: usize,
    /// Limb as marked.
    pub from: String,
    /// Limb as used.
    pub to: String,
}

/// What came in and what was done to it.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Input {
    /// Marks given.
    pub footfalls: usize,
    /// Marks left out.
    pub dropped: Vec<Dropped>,
    /// Marks given to another limb.
    pub relabelled: Vec<Relabelled>,
    /// Standard deviation of a mark, s.
    pub timing_sd_s: Option<f64>,
    /// The same in words.
    pub timing_says: String,
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
pub struct Bout {
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

/// Something that happened between or inside bouts.
#[derive(Clone, Debug, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Event {
    /// A flying change.
    FlyingChange {
        /// The footfall that begins the first stride in which either pair has swapped.
        time_s: f64,
        /// Lead before.
        from: String,
        /// Lead after.
        to: String,
        /// `clean`, `late_behind`, `late_in_front`, `hinds_together`, `through_trot`, `missed`,
        /// `not_completed` or `changed_back`.
        verdict: String,
        /// Strides late.
        late_by_strides: usize,
        /// Seconds late.
        late_by_s: Option<f64>,
        /// Trot steps between.
        intermediate_steps: usize,
        /// Strides since the change before.
        strides_since_last: Option<usize>,
        /// Strides from the aid.
        strides_from_aid: Option<f64>,
        /// It came before the aid.
        offered_early: bool,
        /// Signed suspension of the stride before.
        suspension_before_s: Option<f64>,
        /// Tempo of the three strides before.
        tempo_before: Option<f64>,
        /// Tempo of the changing stride.
        tempo_at: Option<f64>,
        /// Tempo of the three strides after.
        tempo_after: Option<f64>,
        /// Error of a mark.
        time_sd_s: Option<f64>,
    },
    /// A transition between gaits.
    Transition {
        /// First footfall of the new gait.
        time_s: f64,
        /// Gait before.
        from: String,
        /// Gait after.
        to: String,
        /// Limb that begins it.
        first_limb: String,
        /// `none`, `walk` or `trot`.
        intermediate: String,
        /// Steps of it.
        intermediate_steps: usize,
        /// From the aid.
        answer_s: Option<f64>,
        /// The same in strides.
        answer_strides: Option<f64>,
        /// Suggested score of the answer, 0 to 10.
        answer_score: Option<f64>,
        /// Lead picked up.
        lead: Option<String>,
    },
    /// A halt.
    Halt {
        /// The last hoof takes the ground.
        time_s: f64,
        /// How long all four stand.
        duration_s: f64,
        /// Both pairs side by side.
        square: Option<bool>,
        /// Limb that stands behind.
        trailing_limb: Option<String>,
        /// By how much.
        offset_m: Option<f64>,
        /// Limb that leaves first.
        first_off: String,
    },
    /// A line of tempi.
    Tempi {
        /// First change.
        time_s: f64,
        /// Every how many strides.
        planned_every: usize,
        /// Changes planned.
        planned_count: Option<usize>,
        /// Changes ridden.
        changes: usize,
        /// Clean ones.
        clean: usize,
        /// Strides from one to the next.
        gaps: Vec<usize>,
        /// Faults.
        faults: Vec<TempiFault>,
    },
    /// A change of lead through walk.
    SimpleChange {
        /// First footfall of the new canter.
        time_s: f64,
        /// Lead before.
        from: String,
        /// Lead after.
        to: String,
        /// Steps of walk.
        walk_steps: usize,
    },
    /// A pirouette.
    Pirouette {
        /// First stride's start.
        time_s: f64,
        /// Last stride's end.
        end_s: f64,
        /// Strides.
        strides: usize,
        /// Fewest and most.
        expected: [usize; 2],
        /// Strides that lost the canter.
        lost_strides: usize,
        /// Most good strides in a row.
        best_run: usize,
        /// Tempo against the canter before.
        tempo_ratio: Option<f64>,
        /// Split of the diagonal, hind first positive.
        split_s: Option<f64>,
        /// The same in the canter before.
        split_before_s: Option<f64>,
        /// Angle turned, left positive.
        angle_deg: Option<f64>,
    },
    /// A rein-back.
    ReinBack {
        /// First footfall.
        time_s: f64,
        /// Last footfall.
        end_s: f64,
        /// Steps.
        steps: usize,
        /// Steps whose two hooves land together.
        diagonal_steps: usize,
        /// Steps with both hooves marked.
        paired_steps: usize,
        /// Spread of the time from step to step.
        step_spread_pct: Option<f64>,
        /// Largest distance of a print from its line.
        off_line_m: Option<f64>,
    },
    /// Lateral work against straight work.
    Lateral {
        /// Start of the bout.
        time_s: f64,
        /// End of the bout.
        end_s: f64,
        /// What was ridden.
        movement: String,
        /// To which side.
        side: Option<String>,
        /// `straight before`, `straight after` or `straight before and after`.
        against: String,
        /// Change of tempo, %.
        tempo_change_pct: f64,
        /// The same with its interval.
        tempo_change: Estimate,
        /// Change of stride length, %.
        stride_change: Option<Estimate>,
        /// Regularity here.
        regularity_pct: Option<f64>,
        /// Regularity of the straight work.
        regularity_straight_pct: Option<f64>,
    },
    /// Work forward and back.
    ForwardBack {
        /// From.
        time_s: f64,
        /// To.
        end_s: f64,
        /// Stride length, big by small.
        stride_ratio: Option<f64>,
        /// Tempo of the big strides against the small ones, %.
        tempo_change_pct: Option<f64>,
        /// Tempo held within, %.
        tempo_held_pct: f64,
        /// Breaks of gait.
        breaks: usize,
        /// Changes between big and small.
        changes: usize,
        /// Strides that each took.
        strides_to_change: Option<f64>,
    },
    /// A transition drill.
    Drill {
        /// First footfall.
        time_s: f64,
        /// Last footfall.
        end_s: f64,
        /// Strides planned of either gait.
        planned: [usize; 2],
        /// Gait of each stretch.
        gaits: Vec<String>,
        /// Strides ridden, pair by pair.
        ridden: Vec<Vec<f64>>,
        /// Answer of each change to its aid, s.
        answers_s: Vec<Option<f64>>,
        /// Score of each answer, 0 to 10.
        scores: Vec<Option<f64>>,
        /// Slope of the answers, s a change.
        answers_trend_s: Option<f64>,
    },
    /// Rising trot.
    Posting {
        /// First sit.
        time_s: f64,
        /// Last sit.
        end_s: f64,
        /// Sits marked.
        sits: usize,
        /// Diagonal that stands while the rider sits, by its fore.
        diagonal: Option<String>,
        /// Place of the sit after that diagonal's hind, share of the stride.
        mean_phase: f64,
        /// Its circular spread.
        scatter: f64,
        /// Strides by which the horse follows the rider.
        lag_strides: Option<usize>,
        /// Correlation at that lag.
        correlation: Option<f64>,
    },
    /// An aid in its stride.
    Aid {
        /// When.
        time_s: f64,
        /// What was asked.
        asked: String,
        /// Place in the stride, 0 to 1.
        phase: Option<f64>,
        /// Inside its window.
        in_window: Option<bool>,
    },
    /// A change of speed between two bouts of one gait.
    SpeedChange {
        /// Start of the later bout.
        time_s: f64,
        /// Place of the later bout.
        bout: usize,
        /// Speed after by before.
        speed_ratio: f64,
        /// Stride length after by before.
        length_ratio: f64,
        /// Share of the change that tempo made.
        tempo_share: Estimate,
        /// `lengthens`, `collects`, `between`, `rushes`, `slows` or `cannot tell`.
        verdict: String,
    },
}

/// A fault in a line of tempi.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct TempiFault {
    /// Number of the change, from 1.
    pub change: usize,
    /// What it was.
    pub what: String,
}

/// A finding.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct FindingSaid {
    /// Name for programs.
    pub code: String,
    /// A heading of a few words.
    pub title: String,
    /// Whether it asks for attention.
    pub fault: bool,
    /// Place of its bout in `bouts`.
    pub bout: usize,
    /// From.
    pub start_s: f64,
    /// To.
    pub end_s: f64,
    /// A plain sentence.
    pub says: String,
    /// The figure with unit and error.
    pub figure: String,
    /// `clear`, `likely` or `cannot tell`.
    pub sure: String,
    /// What to ride.
    pub r#try: Vec<String>,
    /// Where harm is possible.
    pub caution: Option<String>,
}

/// The whole document.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct Document {
    /// Always `umlauf.analysis/1`.
    pub schema: String,
    /// What was found, in one sentence.
    pub headline: String,
    /// What came in.
    pub input: Input,
    /// Bouts in order of time.
    pub bouts: Vec<Bout>,
    /// Events in order of time.
    pub events: Vec<Event>,
    /// Findings, faults first.
    pub findings: Vec<FindingSaid>,
}

/// Puts an analysis into the document.
pub fn document(analysis: &Analysis) -> Document {
    Document {
        schema: "umlauf.analysis/1".into(),
        headline: words::headline::of_clip(analysis),
        input: Input {
            footfalls: analysis.footfalls,
            dropped: analysis
                .dropped
                .iter()
                .map(|d| Dropped { line: d.line, why: words::missing::dropped(&d.reason) })
                .collect(),
            relabelled: analysis
                .relabelled
                .iter()
                .map(|r| Relabelled {
                    line: r.line,
                    from: r.from.code().into(),
                    to: r.to.code().into(),
                })
                .collect(),
            timing_sd_s: analysis.timing_sd_s,
            timing_says: words::missing::timing(analysis.timing_sd_s),
        },
        bouts: analysis.bouts.iter().map(bout).collect(),
        events: events(analysis),
        findings: analysis.findings.iter().map(|f| finding(f, &analysis.schools)).collect(),
    }
}

pub(crate) fn estimate(e: &estimate::Estimate) -> Estimate {
    Estimate { value: e.value, sd: e.sd, ci95: e.ci95.map(|(lo, hi)| [lo, hi]), n: e.n }
}

pub(crate) fn opt(e: &Option<estimate::Estimate>) -> Option<Estimate> {
    e.as_ref().map(estimate)
}

fn per_limb<A, T>(of: &[Option<A>; 4], f: impl Fn(&A) -> T) -> PerLimb<T> {
    let get = |limb: Limb| of[limb.index()].as_ref().map(&f);
    PerLimb { lf: get(Limb::LF), rf: get(Limb::RF), lh: get(Limb::LH), rh: get(Limb::RH) }
}

fn side(side: Option<Side>) -> Option<String> {
    side.map(|s| s.word().to_owned())
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

const fn verdict(v: LeadVerdict) -> &'static str {
    match v {
        LeadVerdict::True => "true",
        LeadVerdict::Counter => "counter",
        LeadVerdict::Wrong => "wrong",
        LeadVerdict::Disunited => "disunited",
    }
}

fn bout(b: &BoutFigures) -> Bout {
    let label = b.label;
    let lead = match (label.hind_lead, label.fore_lead) {
        (Some(h), Some(f)) if h == f => Some(h.word().to_owned()),
        (Some(_), Some(_)) => Some("disunited".to_owned()),
        _ => None,
    };
    let tempo = b.tempo;
    Bout {
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
        beat_evenness_rms_pct: b.beat_evenness_rms_pct,
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
    m.side.map_or_else(|| m.name.clone(), |side| format!("{} {}", m.name, side.word()))
}

const fn change_verdict(v: Verdict) -> &'static str {
    match v {
        Verdict::Clean => "clean",
        Verdict::LateBehind => "late_behind",
        Verdict::LateInFront => "late_in_front",
        Verdict::HindsTogether => "hinds_together",
        Verdict::ThroughTrot => "through_trot",
        Verdict::Missed => "missed",
        Verdict::NotCompleted => "not_completed",
        Verdict::ChangedBack => "changed_back",
    }
}

/// All events in order of time.
fn events(analysis: &Analysis) -> Vec<Event> {
    let all = &analysis.events;
    let mut out: Vec<(f64, Event)> = Vec::new();
    for (c, answer) in &all.changes {
        out.push((c.time_s, flying_change(c, answer, analysis.timing_sd_s)));
    }
    for (t, answer) in &all.transitions {
        out.push((t.time_s, transition(t, answer.as_ref())));
    }
    for h in &all.halts {
        out.push((h.start_s, halt(h)));
    }
    for t in &all.tempi {
        out.push((t.time_s, tempi(t)));
    }
    for c in &all.simple {
        let event = Event::SimpleChange {
            time_s: c.time_s,
            from: c.from.word().into(),
            to: c.to.word().into(),
            walk_steps: c.walk_steps,
        };
        out.push((c.time_s, event));
    }
    out.extend(document_work::events(analysis));
    out.sort_by(|a, b| a.0.total_cmp(&b.0));
    out.into_iter().map(|(_, event)| event).collect()
}

fn flying_change(c: &FlyingChange, answer: &ChangeAnswer, time_sd_s: Option<f64>) -> Event {
    Event::FlyingChange {
        time_s: c.time_s,
        from: c.from.word().into(),
        to: c.to.word().into(),
        verdict: change_verdict(c.verdict).into(),
        late_by_strides: c.late_by_strides,
        late_by_s: c.late_by_s,
        intermediate_steps: c.intermediate_steps,
        strides_since_last: c.strides_since_last,
        strides_from_aid: answer.strides_from_aid,
        offered_early: answer.offered_early,
        suspension_before_s: c.suspension_before_s,
        tempo_before: c.tempo_before,
        tempo_at: c.tempo_at,
        tempo_after: c.tempo_after,
        time_sd_s,
    }
}

fn transition(t: &Transition, answer: Option<&Answer>) -> Event {
    Event::Transition {
        time_s: t.time_s,
        from: t.from.code().into(),
        to: t.to.code().into(),
        first_limb: t.first_limb.code().into(),
        intermediate: t.intermediate.map_or("none", Gait::code).into(),
        intermediate_steps: t.steps,
        answer_s: answer.map(|a| a.seconds),
        answer_strides: answer.map(|a| a.strides),
        answer_score: answer.map(|a| a.score),
        lead: side(t.lead),
    }
}

fn halt(h: &Halt) -> Event {
    Event::Halt {
        time_s: h.start_s,
        duration_s: h.end_s - h.start_s,
        square: h.square,
        trailing_limb: h.trailing.map(|(limb, _)| limb.code().into()),
        offset_m: h.trailing.map(|(_, offset)| offset),
        first_off: h.first_off.code().into(),
    }
}

fn tempi(t: &Tempi) -> Event {
    let what = |fault: Fault| match fault {
        Fault::NotClean { verdict, .. } => change_verdict(verdict).to_owned(),
        Fault::OutOfCount { gap } => format!("out_of_count_{gap}"),
    };
    let faults = t.faults.iter().map(|(k, f)| TempiFault { change: *k, what: what(*f) });
    Event::Tempi {
        time_s: t.time_s,
        planned_every: t.every,
        planned_count: t.planned_count,
        changes: t.changes,
        clean: t.clean,
        gaps: t.gaps.clone(),
        faults: faults.collect(),
    }
}

pub(crate) fn finding(f: &Finding, schools: &Schools) -> FindingSaid {
    let said = words::finding::say(f, schools);
    FindingSaid {
        code: said.code.to_owned(),
        title: said.title,
        fault: f.kind.is_fault(),
        bout: f.bout,
        start_s: f.start_s,
        end_s: f.end_s,
        says: said.says,
        figure: said.figure,
        sure: words::names::certainty(f.sure).to_owned(),
        r#try: said.advice.iter().map(|a| a.says.to_owned()).collect(),
        caution: said.caution.map(str::to_owned),
    }
}
