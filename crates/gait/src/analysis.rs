//! From marks to figures: the whole analysis of one list of footfalls.

use std::borrow::Cow;

use crate::aid::{self, Answer, ChangeAnswer};
use crate::aid_phase::{self, AidPhase, AidSummary};
use crate::arena::Arena;
use crate::bout;
use crate::canter::{self, CanterBeats};
use crate::check::{self, Check};
use crate::classify::{Gait, Label};
use crate::collection::{self, ForwardBack, SpeedChange};
use crate::drift::{self, Drift};
use crate::drill::{self, Drill};
use crate::evenness;
use crate::finding::{self, Finding};
use crate::flying_change::{self, FlyingChange, Verdict};
use crate::footfall::Footfall;
use crate::good_strides::{self, Run};
use crate::ground::{self, Travel};
use crate::halt::{self, Halt};
use crate::idle;
use crate::lateral::{self, BothSides, Lateral};
use crate::lateral_seen::{self, Seen, Untold};
use crate::limb::{Limb, Side};
use crate::passes::{self, Distances, Rounds};
use crate::pirouette::{self, Pirouette};
use crate::plausible::{self, Impossible};
use crate::posting::{self, Posting};
use crate::prints::{self, Prints};
use crate::regularity::{self, Regularity};
use crate::rein_back::{self, ReinBack};
use crate::relabel::Relabelled;
use crate::ride_mark::{self, Movement, RideMark};
use crate::said::{self, Said};
use crate::scale::Scale;
use crate::schools::Schools;
use crate::stance;
use crate::stride::{self, Stride};
use crate::suspension::{self, Suspension};
use crate::tempi::{self, Tempi};
use crate::tempo::{self, Stretches, Tempo};
use crate::thresholds::Thresholds;
use crate::tidy::{self, Dropped};
use crate::transition::{self, SimpleChange, Transition};
use crate::uncertainty::{Estimate, TimingError};
use crate::units::{FrameRate, Metres, Seconds};

/// What is known beside the marks.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Options {
    /// The rein ridden.
    pub rein: Option<Side>,
    /// The canter lead asked for.
    pub asked_lead: Option<Side>,
    /// Capture rate: marks without an error of their own were stepped to its frames.
    pub frame_rate: Option<FrameRate>,
    /// Error of a mark, when known better than from the frame rate.
    pub timing_sd: Option<Seconds>,
    /// Height at the withers.
    pub withers: Option<Metres>,
    /// The horse's intended gait may be a four-beat gait other than walk.
    pub gaited: bool,
    /// What the coach marked beside the footfalls.
    pub marks: Vec<RideMark>,
    /// What the coach says of stretches: gait, rein, lead asked for.
    pub said: Vec<Said>,
    /// The arena, when letters and places are meant in its coordinates.
    pub arena: Option<Arena>,
    /// The scale by which hoof positions were read.
    pub scale: Option<Scale>,
    /// Distances of the camera from track and letters.
    pub distances: Option<Distances>,
    /// Figures ridden in whole rounds.
    pub rounds: Vec<Rounds>,
    /// Schools in force: words and targets.
    pub schools: Schools,
    /// The horse's degree of collection, 1 to 4, when the coach has said it: from the second on
    /// direct transitions are expected.
    pub degree: Option<u8>,
    /// Limits of labels and verdicts.
    pub thresholds: Thresholds,
}

/// The lead against what was wanted.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LeadVerdict {
    /// The lead of the rein.
    True,
    /// The other lead, and asked for.
    Counter,
    /// Not the lead asked for (or not the rein's, when nothing was asked).
    Wrong,
    /// Hinds and fores on different leads.
    Disunited,
}

/// Why a figure is not there.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Why {
    /// The timing error is not known.
    NoTimingError,
    /// No off times in this bout.
    NoOffs,
    /// No hoof positions.
    NoPositions,
    /// No height at the withers.
    NoWithers,
    /// The gait has no such thing.
    NotInThisGait,
    /// Not every limb is marked.
    LimbMissing,
    /// Too few strides for a spread.
    TooFewStrides,
    /// The interval reaches over the limit.
    CannotTell,
    /// Neither rein nor asked lead is known.
    NoRein,
    /// All strides were used because the bout is short.
    ShortBout,
    /// It begins with a flying change.
    AfterChange,
    /// The horse stands: there are no strides.
    Standing,
    /// Nothing was marked here.
    NoMarks,
    /// The coach said the hooves are out of view.
    Unseen,
    /// The coach marked none.
    NotMarked,
}

/// The figures of one bout. Fields that could not be had are `None`, with a reason in `why`.
#[derive(Clone, Debug, PartialEq)]
pub struct BoutFigures {
    /// First stride's start, s.
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
    /// RMS of the four gaps, %.
    pub beat_evenness_rms_pct: Option<f64>,
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
    pub why: Vec<(&'static str, Why)>,
}

/// The analysis of one list of marks.
#[derive(Clone, Debug, PartialEq)]
pub struct Analysis {
    /// Marks given.
    pub footfalls: usize,
    /// What was left out.
    pub dropped: Vec<Dropped>,
    /// What was given to another limb.
    pub relabelled: Vec<Relabelled>,
    /// Timing error of the whole, s.
    pub timing_sd_s: Option<f64>,
    /// Strides in order of time.
    pub strides: Vec<Stride>,
    /// Bouts in order of time.
    pub bouts: Vec<BoutFigures>,
    /// Which strides each bout holds.
    pub bout_strides: Vec<std::ops::Range<usize>>,
    /// What happened between and inside bouts.
    pub events: Events,
    /// Schools in force.
    pub schools: Schools,
    /// Where the marks look wrong.
    pub checks: Vec<Check>,
    /// What there is to say.
    pub findings: Vec<Finding>,
}

/// Events of an analysis, each kind in order of time.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Events {
    /// Flying changes, missed ones among them, each with its answer to the aid.
    pub changes: Vec<(FlyingChange, ChangeAnswer)>,
    /// Lines of tempi.
    pub tempi: Vec<Tempi>,
    /// Changes of lead through walk.
    pub simple: Vec<SimpleChange>,
    /// Transitions, each with its answer to the aid.
    pub transitions: Vec<(Transition, Option<Answer>)>,
    /// Halts.
    pub halts: Vec<Halt>,
    /// Pirouettes that the coach marked.
    pub pirouettes: Vec<Pirouette>,
    /// Rein-backs that the coach marked.
    pub rein_backs: Vec<ReinBack>,
    /// Lateral bouts against straight work.
    pub lateral: Vec<Lateral>,
    /// Lateral movements ridden to both sides.
    pub both_sides: Vec<BothSides>,
    /// Changes of speed, with the place of the later bout.
    pub speed_changes: Vec<(usize, SpeedChange)>,
    /// Work forward and back.
    pub forward_back: Vec<ForwardBack>,
    /// Transition drills.
    pub drills: Vec<Drill>,
    /// Runs of rising trot.
    pub posting: Vec<Posting>,
    /// Aids in their strides.
    pub aids: Vec<AidPhase>,
    /// The same by kind.
    pub aid_summaries: Vec<AidSummary>,
}

/// Analyses marks given in any order. O(n log n).
pub fn analyse(marks: &[Footfall], options: &Options) -> Analysis {
    let limits = &options.thresholds;
    let tidy = tidy::tidy(marks, limits);
    let strides = stride::cut(&tidy, limits);
    let movements = ride_mark::movements(&options.marks);
    let words = options.said.iter().flat_map(|s| [s.from_s, s.to_s]);
    let cuts: Vec<f64> = movements.iter().flat_map(|m| [m.from_s, m.to_s]).chain(words).collect();
    let marked = tidy.footfalls.iter().filter(|m| !m.inferred);
    let timing = timing_error(marked.map(|m| m.sd.map(|s| s.0)), options);
    let mark_sd = timing.map(|t| t.sd);
    let groups = bout::group(&strides, &tidy, mark_sd, &cuts, options.gaited, limits);
    let groups = said::apply(groups, &strides, &options.said);
    let checks = check::checks(&tidy.footfalls, &strides, &groups);
    let mut events = events(&strides, &groups, &tidy.footfalls, &movements, mark_sd, options);
    let mut bouts: Vec<BoutFigures> = groups
        .iter()
        .map(|g| {
            let own = &strides[g.strides.clone()];
            figures(own, g, movement_of(own, &movements), options)
        })
        .collect();
    for bout in &mut bouts {
        // Which lead is wanted after a change only the coach knows.
        if bout.lead_verdict != Some(LeadVerdict::Disunited)
            && follows_change(bout, &events, &strides)
        {
            bout.lead_verdict = None;
            bout.why.push(("lead_verdict", Why::AfterChange));
        }
    }
    events.lateral = lateral::lateral(&bouts);
    events.both_sides = lateral::both_sides(&events.lateral);
    events.speed_changes = collection::speed_changes(&bouts, limits);
    events.forward_back = collection::forward_back(&strides, &bouts, &movements);
    let mut bout_strides: Vec<std::ops::Range<usize>> =
        groups.into_iter().map(|g| g.strides).collect();
    idle::insert(&mut bouts, &mut bout_strides, &mut events, &strides, &tidy.footfalls, options);
    let mut analysis = Analysis {
        schools: options.schools,
        footfalls: marks.len(),
        timing_sd_s: mark_sd,
        dropped: tidy.dropped,
        relabelled: tidy.relabelled,
        bout_strides,
        strides,
        bouts,
        events,
        checks,
        findings: Vec::new(),
    };
    analysis.findings = finding::findings(&analysis, options);
    analysis
}

/// Whether a canter begins with a flying change, late strides of it included.
fn follows_change(bout: &BoutFigures, events: &Events, strides: &[Stride]) -> bool {
    bout.label.gait.is_asymmetrical()
        && events.changes.iter().any(|(c, _)| {
            let last = (c.stride + c.late_by_strides).min(strides.len() - 1);
            c.verdict != Verdict::Missed
                && (c.time_s - 1e-9..strides[last].end).contains(&bout.start_s)
        })
}

/// The movement ridden in the middle of a bout's strides.
fn movement_of(strides: &[Stride], movements: &[ride_mark::Stretch]) -> Option<Movement> {
    let middle = f64::midpoint(strides.first()?.start, strides.last()?.end);
    let here = movements.iter().rev().find(|m| (m.from_s..m.to_s).contains(&middle));
    here.map(|m| m.movement.clone())
}

fn events(
    strides: &[Stride],
    bouts: &[bout::Bout],
    marks: &[Footfall],
    movements: &[ride_mark::Stretch],
    mark_sd: Option<f64>,
    options: &Options,
) -> Events {
    let limits = &options.thresholds;
    let mut labels = vec![Label::UNCLEAR; strides.len()];
    for bout in bouts {
        labels[bout.strides.clone()].fill(bout.label);
    }
    let between = transition::between(strides, bouts, marks, limits);
    let mut changes = flying_change::changes(strides, &labels, limits);
    changes.extend(between.through_trot);
    changes.sort_by(|a, b| a.time_s.total_cmp(&b.time_s));
    let tempi = tempi::tempi(&changes, &ride_mark::tempi_plans(movements));
    let (answers, missed) = aid::change_answers(&changes, &options.marks, strides);
    let mut changes: Vec<(FlyingChange, ChangeAnswer)> = changes.into_iter().zip(answers).collect();
    changes.extend(missed.into_iter().map(|m| (m, ChangeAnswer::default())));
    changes.sort_by(|a, b| a.0.time_s.total_cmp(&b.0.time_s));
    let typical = strides.get(strides.len() / 2).map(Stride::duration);
    let halts = halt::halts(marks, typical, limits);
    let mut found = between.transitions;
    found.extend(transition::of_halts(&halts, strides, bouts, limits));
    found.sort_by(|a, b| a.time_s.total_cmp(&b.time_s));
    let mut not_before = f64::NEG_INFINITY;
    let transitions = found.into_iter().map(|t| {
        let answer = aid::answer(&t, not_before, &options.marks, strides);
        not_before = t.time_s;
        (t, answer)
    });
    let (ride, rein) = (&options.marks, options.rein);
    let aids = aid_phase::aid_phases(strides, &labels, ride, rein, &options.schools, limits);
    Events {
        pirouettes: pirouette::pirouettes(strides, &labels, movements, mark_sd, limits),
        rein_backs: rein_back::rein_backs(marks, movements),
        drills: drill::drills(marks, movements, ride),
        posting: posting::posting(strides, &labels, ride),
        aid_summaries: aid_phase::summaries(&aids),
        aids,
        transitions: transitions.collect(),
        halts,
        simple: between.simple,
        changes,
        tempi,
        ..Events::default()
    }
}

/// The error of the marks taken together: root mean square of their own, or of the whole clip's
/// where they have none. `None` when any mark's is unknown.
fn timing_error(own: impl Iterator<Item = Option<f64>>, options: &Options) -> Option<TimingError> {
    let from_rate = options.frame_rate.map(|f| f.mark_sd().0);
    let common = options.timing_sd.map(|s| s.0).or(from_rate);
    let (mut sum, mut n, mut tapped) = (0.0, 0.0, options.timing_sd.is_some());
    for sd in own {
        tapped |= sd.is_some();
        let sd = sd.or(common)?;
        sum += sd * sd;
        n += 1.0;
    }
    let sd = if n > 0.0 { f64::sqrt(sum / n) } else { common? };
    Some(TimingError { sd, grid: options.frame_rate.filter(|_| !tapped) })
}

/// The strides that means rest on: all but the first and the last, unless the bout is short.
fn steady(strides: &[Stride]) -> &[Stride] {
    if strides.len() >= 4 { &strides[1..strides.len() - 1] } else { strides }
}

/// The strides whose every footfall was marked.
fn marked(strides: &[Stride]) -> Cow<'_, [Stride]> {
    if strides.iter().all(Stride::is_marked) {
        Cow::Borrowed(strides)
    } else {
        Cow::Owned(strides.iter().filter(|s| s.is_marked()).cloned().collect())
    }
}

fn figures(
    all: &[Stride],
    bout: &bout::Bout,
    movement: Option<Movement>,
    options: &Options,
) -> BoutFigures {
    let limits = &options.thresholds;
    let strides = &*marked(steady(all));
    let label = bout.label;
    let sds = strides.iter().flat_map(|s| {
        Limb::ALL.into_iter().filter(|l| s.on[l.index()].is_some()).map(|l| s.sd[l.index()])
    });
    let timing = timing_error(sds, options);
    let stretches = Stretches::of(steady(all));
    let tempo = tempo::tempo(&stretches, timing);
    let (t, spread) =
        tempo.map_or((1.0, 0.0), |t| (t.duration.value, t.duration.sd.unwrap_or(0.0)));
    let symmetrical = !label.gait.is_asymmetrical() && label.gait != Gait::Unclear;
    let scale = options.scale.as_ref();
    // The last steady stride ends with the prints of the one after it.
    let printed = &*marked(if all.len() >= 4 { &all[1..] } else { all });
    let prints = prints::prints(printed, label.gait, scale);
    let mut ways = ways(printed, (all[0].start, all[all.len() - 1].end), tempo, timing, options);
    let travel = if ways.is_empty() { None } else { Some(ways.remove(0)) };
    // Positions of an uncalibrated table may lie in any frame.
    let arena = options.arena.filter(|_| scale.is_some_and(Scale::is_arena));
    // Diagonal pairs are a rein-back only when the horse is seen, or said, to go backwards.
    let backwards =
        prints.backwards == Some(true) || movement.as_ref().is_some_and(|m| m.name == "rein-back");
    let label = if backwards { Label { gait: Gait::ReinBack, ..Label::UNCLEAR } } else { label };
    let hip = options.withers.map(|h| plausible::HIP * h.0);
    let two_beat = matches!(label.gait, Gait::Trot | Gait::Passage | Gait::Piaffe | Gait::ReinBack);
    let dissociation = |hind| {
        (two_beat || label.gait.is_asymmetrical())
            .then(|| evenness::dissociation(strides, hind, timing, t, spread))
            .flatten()
    };
    // In canter only one diagonal lands together.
    let diagonals = [Limb::LH, Limb::RH].map(|hind| {
        let its_own = label.hind_lead.is_none_or(|side| side == hind.side());
        if its_own { dissociation(hind) } else { None }
    });

    let mut out = BoutFigures {
        start_s: all[0].start,
        end_s: all[all.len() - 1].end,
        strides: all.len(),
        label,
        confidence: bout.confidence,
        rein: rein_at(all[0].start, all[all.len() - 1].end, options),
        lead_verdict: lead_verdict(label, all[0].start, all[all.len() - 1].end, options),
        tempo,
        drift: drift::drift(strides, all[all.len() - 1].end - all[0].start, limits),
        regularity: regularity::regularity(&stretches.durations, timing),
        phases: Limb::ALL.map(|l| evenness::mean_phase(strides, l)),
        lap: symmetrical
            .then(|| evenness::lateral_advanced_placement(strides, timing, t, spread))
            .flatten(),
        dissociation: diagonals,
        beat_evenness_rms_pct: (label.gait.beats() == Some(4.0) && symmetrical)
            .then(|| evenness::four_beat_rms_pct(strides))
            .flatten(),
        step_asymmetry: symmetrical
            .then(|| evenness::step_asymmetry(strides, timing, t, spread))
            .flatten(),
        canter: label
            .hind_lead
            .and_then(|lead| canter::canter_beats(strides, lead, timing, t, spread, limits)),
        suspension: suspension::suspension(strides, label, timing, t, spread),
        duty: Limb::ALL.map(|l| stance::duty(strides, l, timing, spread)),
        stance_symmetry: [Limb::LF, Limb::LH].map(|l| stance::symmetry(strides, l, timing, spread)),
        travel,
        impossible: travel
            .zip(options.withers)
            .and_then(|(t, h)| plausible::check(label.gait, &t, h.0)),
        step_lengths: [Limb::LF, Limb::RF].map(|from| ground::steps(printed, from, scale)),
        other_ways: ways,
        lateral_seen: lateral_seen::seen(&prints, prints.way, arena),
        froude: hip.zip(travel).map(|(h, v)| v.speed.value * v.speed.value / (9.81 * h)),
        relative_stride_length: hip.zip(travel).map(|(h, v)| v.stride_length.value / h),
        prints,
        good_runs: good_strides::runs(all, label, timing.map(|t| t.sd), limits),
        movement,
        mark_sd_s: timing.map(|t| t.sd),
        why: Vec::new(),
    };
    out.why = reasons(&out, strides, timing.is_some());
    out
}

/// Every way to a bout's stride length, best first.
fn ways(
    strides: &[Stride],
    bout: (f64, f64),
    tempo: Option<Tempo>,
    timing: Option<TimingError>,
    options: &Options,
) -> Vec<Travel> {
    let mut ways: Vec<Travel> =
        ground::travel(strides, options.scale.as_ref()).into_iter().collect();
    if let Some(tempo) = tempo {
        let arena = options.arena.unwrap_or(Arena::LARGE);
        let sd = timing.map_or(0.0, |t| t.sd);
        ways.extend(passes::letters(bout, tempo, &options.marks, arena, options.distances, sd));
        ways.extend(passes::rounds(bout, tempo, &options.rounds));
    }
    ways.sort_by_key(|w| w.source);
    ways
}

/// The rein said of the middle of a stretch, or of the whole clip.
fn rein_at(start: f64, end: f64, options: &Options) -> Option<Side> {
    said::at(&options.said, f64::midpoint(start, end), |s| s.rein).or(options.rein)
}

/// Lead against rein and asked lead. The lead asked for decides; without one, the rein's.
fn lead_verdict(label: Label, start: f64, end: f64, options: &Options) -> Option<LeadVerdict> {
    let (hind, fore) = (label.hind_lead?, label.fore_lead?);
    if hind != fore {
        return Some(LeadVerdict::Disunited);
    }
    // A word on the stretch stands over an aid before it, and that over the whole clip's.
    let middle = f64::midpoint(start, end);
    let asked = said::at(&options.said, middle, |s| s.lead)
        .or_else(|| aid::asked_lead(&options.marks, start))
        .or(options.asked_lead);
    match (rein_at(start, end, options), asked) {
        (_, Some(asked)) if asked != hind => Some(LeadVerdict::Wrong),
        (Some(rein), _) if rein == hind => Some(LeadVerdict::True),
        (Some(_), Some(_)) => Some(LeadVerdict::Counter),
        (Some(_), None) => Some(LeadVerdict::Wrong),
        (None, _) => None,
    }
}

fn reasons(b: &BoutFigures, strides: &[Stride], timed: bool) -> Vec<(&'static str, Why)> {
    let mut why = Vec::new();
    let mut say = |missing: bool, key, reason| {
        if missing {
            why.push((key, reason));
        }
    };
    let asymmetrical = b.label.gait.is_asymmetrical();
    let symmetrical = !asymmetrical && b.label.gait != Gait::Unclear;
    let has_offs = strides.iter().any(|s| s.off.iter().any(Option::is_some));
    let offs = if has_offs { Why::LimbMissing } else { Why::NoOffs };
    let pattern = |fits: bool| if fits { Why::LimbMissing } else { Why::NotInThisGait };

    say(b.strides < 4, "strides", Why::ShortBout);
    say(!timed, "intervals", Why::NoTimingError);
    say(
        b.regularity.is_none(),
        "regularity_cv_pct",
        if timed { Why::TooFewStrides } else { Why::NoTimingError },
    );
    say(b.movement.is_none(), "movement", Why::NotMarked);
    say(b.drift.is_none(), "drift_per_min", Why::TooFewStrides);
    say(
        b.lead_verdict.is_none(),
        "lead_verdict",
        if asymmetrical { Why::NoRein } else { Why::NotInThisGait },
    );
    say(b.lap.is_none(), "lateral_advanced_placement", pattern(symmetrical));
    say(b.step_asymmetry.is_none(), "step_asymmetry_pct", pattern(symmetrical));
    say(
        b.beat_evenness_rms_pct.is_none(),
        "beat_evenness_rms_pct",
        pattern(symmetrical && b.label.gait.beats() == Some(4.0)),
    );
    say(
        b.dissociation.iter().all(Option::is_none),
        "diagonal_dissociation_s",
        pattern(b.label.gait.beats() == Some(2.0)),
    );
    say(
        b.canter.is_none_or(|c| c.beats.is_none()),
        "canter_beats",
        if !asymmetrical {
            Why::NotInThisGait
        } else if timed {
            Why::LimbMissing
        } else {
            Why::NoTimingError
        },
    );
    let air = b.label.gait.aerial_phases() == Some(0);
    say(b.suspension.is_none(), "suspension_s", if air { Why::NotInThisGait } else { offs });
    say(
        b.suspension.is_none_or(|s| s.phases.is_none()) && !air,
        "aerial_phases_per_stride",
        if b.suspension.is_some() { Why::CannotTell } else { offs },
    );
    say(b.duty.iter().any(Option::is_none), "duty_factor", offs);
    say(b.stance_symmetry.iter().any(Option::is_none), "stance_symmetry_pct", offs);
    for key in ["speed", "stride_length_m", "stride_length_source"] {
        say(b.travel.is_none(), key, Why::NoPositions);
    }
    let size = if b.travel.is_none() { Why::NoPositions } else { Why::NoWithers };
    say(b.froude.is_none(), "froude", size);
    say(b.relative_stride_length.is_none(), "relative_stride_length", size);
    let prints = &b.prints;
    let placed = strides.iter().any(|s| s.at.iter().any(Option::is_some));
    let print = if placed { Why::LimbMissing } else { Why::NoPositions };
    say(prints.overtrack_m.is_none(), "overtrack_m", print);
    say(prints.tracks.is_none(), "tracks", print);
    say(prints.body_angle_deg.is_none(), "body_angle_deg", print);
    let shoulder = if placed && asymmetrical { Why::NotInThisGait } else { print };
    say(prints.shoulder_angle_deg.is_none(), "shoulder_angle_deg", shoulder);
    let runs = match b.label.gait {
        Gait::Unclear => Why::NotInThisGait,
        _ if timed => Why::TooFewStrides,
        _ => Why::NoTimingError,
    };
    say(b.good_runs.is_none(), "good_stride_runs", runs);
    why
}
