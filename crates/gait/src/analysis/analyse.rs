//! From marks to figures: the whole analysis of one list of footfalls.

use std::collections::HashSet;
use std::ops::Deref;

use rayon::iter::{IntoParallelRefIterator, ParallelIterator};

use crate::analysis::standing_stretches;
use crate::base::gait::Gait;
use crate::base::schools::Schools;
use crate::base::thresholds::Thresholds;
use crate::bouts::bout_figures::BoutFigures;
use crate::bouts::known::Known;
use crate::bouts::lead_verdict::LeadVerdict;
use crate::bouts::measure::{measure, timing_error};
use crate::bouts::missing::Missing;
use crate::bouts::options::Options;
use crate::events::flying_change::Verdict;
use crate::events::measured::{Events, Measured, events};
use crate::events::withheld::Open;
use crate::events::{forward_back, lateral_tempo, speed_change};
use crate::findings::all;
use crate::findings::finding::Finding;
use crate::marking::doubtful_marks::{self, DoubtfulMark};
use crate::marks::footfall::Footfall;
use crate::marks::movement::Movement;
use crate::marks::ride_mark;
use crate::strides::bout::Bout;
use crate::strides::canter::holes;
use crate::strides::halt;
use crate::strides::stride::Stride;
use crate::strides::tidy;
use crate::strides::{coach_gait, cut, group};

/// The analysis of one list of marks: what was measured, and what there is to say of it. What was
/// measured is read through it (`analysis.bouts` is `analysis.measured.bouts`).
#[derive(Clone, Debug, PartialEq)]
pub struct Analysis {
    /// Strides, bouts and events.
    pub measured: Measured,
    /// Schools in force.
    pub schools: Schools,
    /// Limits of labels and verdicts in force.
    pub thresholds: Thresholds,
    /// Where the marks look wrong.
    pub doubtful: Vec<DoubtfulMark>,
    /// What there is to say.
    pub findings: Vec<Finding>,
}

impl Deref for Analysis {
    type Target = Measured;

    fn deref(&self) -> &Measured {
        &self.measured
    }
}

/// Analyses marks given in any order. O(n log n).
///
/// ```
/// use umlauf_gait::base::gait::Gait;
/// use umlauf_gait::base::units::Seconds;
/// use umlauf_gait::{Footfall, Limb, Options, analyse};
/// // Ten strides of trot: diagonal pairs, half a stride apart.
/// let trot: Vec<Footfall> = (0..20)
///     .flat_map(|k| {
///         let on = Seconds(0.38 * f64::from(k));
///         let pair = if k % 2 == 0 { [Limb::LH, Limb::RF] } else { [Limb::RH, Limb::LF] };
///         pair.map(|limb| Footfall::new(limb, on))
///     })
///     .collect();
/// let analysis = analyse(&trot, &Options::default());
/// let bout = &analysis.bouts[0];
/// assert_eq!(bout.label.gait, Gait::Trot);
/// let tempo = bout.tempo.expect("a tempo").tempo.value;
/// assert!((tempo - 60.0 / 0.76).abs() < 1e-6);
/// ```
pub fn analyse(marks: &[Footfall], options: &Options) -> Analysis {
    analyse_knowing(marks, options, None)
}

/// The same, with what is `known` of bouts measured before under the same options, which is what is
/// known afterwards.
pub(crate) fn analyse_knowing(
    marks: &[Footfall],
    options: &Options,
    known: Option<&mut Known>,
) -> Analysis {
    let limits = &options.thresholds;
    let mut tidy = tidy::tidy(marks, limits);
    let marked = tidy.footfalls.iter().filter(|m| !m.inferred);
    let timing = timing_error(marked.map(|m| m.sd.map(|s| s.0)), options);
    let mark_sd = timing.map(|t| t.sd);
    let mut strides = cut::cut(&tidy, limits);
    if holes::mend(marks, &mut tidy, &strides, mark_sd, limits) {
        strides = cut::cut(&tidy, limits);
    }
    let halts = halt::halts(&tidy.footfalls, &strides, limits);
    let strides = halt::without_halts(strides, &halts);
    let movements = ride_mark::movements(&options.marks);
    let words = options.said.iter().flat_map(|s| [s.from_s, s.to_s]);
    let cuts: Vec<f64> = movements.iter().flat_map(|m| [m.from_s, m.to_s]).chain(words).collect();
    let (groups, instead) =
        group::group(&strides, &tidy, mark_sd, &halts, &cuts, options.gaited, limits);
    let mut groups = coach_gait::apply(groups, &strides, &options.said);
    let (doubtful, mut bouts) = rayon::join(
        || doubtful_marks::doubtful_marks(&tidy.footfalls, &strides, &groups),
        || measured(&strides, &groups, &movements, options, known),
    );
    // A bout begins where its gait does, which may be before its first whole stride.
    for (group, bout) in groups.iter().zip(&mut bouts) {
        bout.start_s = group.turn.map_or(bout.start_s, |turn| bout.start_s.min(turn.time_s));
    }
    // Only the bout as a whole tells that diagonal pairs go backwards.
    for (group, bout) in groups.iter_mut().zip(&bouts) {
        if bout.label.gait == Gait::ReinBack {
            group.label = bout.label;
        }
    }
    // Where a mark had to be left out or moved something was mistaken. Marks without a row cannot be
    // found again.
    let times = |lines: HashSet<usize>| {
        let of_lines = marks.iter().filter(|m| m.line != 0 && lines.contains(&m.line));
        let mut times: Vec<f64> = of_lines.map(|m| m.on.0).collect();
        times.sort_by(f64::total_cmp);
        times
    };
    let slips = times(tidy.dropped.iter().map(|d| d.line).collect());
    let moved = times(tidy.relabelled.iter().map(|r| r.line).collect());
    let open = Open { instead: &instead, slips: &slips, moved: &moved };
    let mut events =
        events(&strides, &groups, &open, &tidy.footfalls, halts, &movements, mark_sd, options);
    for bout in &mut bouts {
        // Which lead is wanted after a change only the coach knows.
        if bout.lead_verdict != Some(LeadVerdict::Disunited)
            && follows_change(bout, &events, &strides)
        {
            bout.lead_verdict = None;
            bout.why.push(("lead_verdict", Missing::AfterChange));
        }
    }
    events.lateral = lateral_tempo::lateral(&bouts);
    events.both_sides = lateral_tempo::both_sides(&events.lateral);
    events.speed_changes = speed_change::speed_changes(&bouts, limits);
    events.forward_back = forward_back::forward_back(&strides, &bouts, &movements);
    let mut bout_strides: Vec<std::ops::Range<usize>> =
        groups.into_iter().map(|g| g.strides).collect();
    standing_stretches::insert_standing(
        &mut bouts,
        &mut bout_strides,
        &mut events,
        &strides,
        &tidy.footfalls,
        options,
    );
    let measured = Measured {
        footfalls: marks.len(),
        timing_sd_s: mark_sd,
        dropped: tidy.dropped,
        relabelled: tidy.relabelled,
        bout_strides,
        strides,
        bouts,
        events,
    };
    let findings = all::find(&measured, options);
    let (schools, thresholds) = (options.schools, options.thresholds.clone());
    Analysis { measured, schools, thresholds, doubtful, findings }
}

/// The figures of bouts, side by side; those that are known are not measured again.
fn measured(
    strides: &[Stride],
    groups: &[Bout],
    movements: &[ride_mark::MovementStretch],
    options: &Options,
    known: Option<&mut Known>,
) -> Vec<BoutFigures> {
    let own = |g: &Bout| &strides[g.strides.clone()];
    let anew = |g: &Bout| measure(own(g), g, movement_of(own(g), movements), options);
    let Some(known) = known else { return groups.par_iter().map(anew).collect() };
    let before = std::mem::take(known);
    let figures: Vec<BoutFigures> = groups
        .par_iter()
        .map(|g| {
            let movement = movement_of(own(g), movements);
            before.of(own(g), g, movement.as_ref()).cloned().unwrap_or_else(|| anew(g))
        })
        .collect();
    for (g, figures) in groups.iter().zip(&figures) {
        known.insert(own(g), g, movement_of(own(g), movements), figures.clone());
    }
    figures
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
fn movement_of(strides: &[Stride], movements: &[ride_mark::MovementStretch]) -> Option<Movement> {
    let middle = f64::midpoint(strides.first()?.start, strides.last()?.end);
    let here = movements.iter().rev().find(|m| (m.from_s..m.to_s).contains(&middle));
    here.map(|m| m.movement.clone())
}
