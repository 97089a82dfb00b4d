//! Measures one bout: every figure from its steady strides.

use std::borrow::Cow;

use crate::base::gait::{Gait, Label};
use crate::base::limb::Limb;
use crate::bouts::bout_figures::BoutFigures;
use crate::bouts::lead_verdict::{lead_verdict, rein_at};
use crate::bouts::options::Options;
use crate::bouts::reasons::reasons;
use crate::figures::stretches::Stretches;
use crate::figures::tempo::{self, Tempo};
use crate::figures::{
    canter_beats, drift, evenness, good_strides, regularity, stance, stride_wander, suspension,
};
use crate::ground::arena::Arena;
use crate::ground::scale::Scale;
use crate::ground::travel::{self, Travel};
use crate::ground::{hoof_prints, lateral_seen, letters_and_rounds, plausibility};
use crate::marks::movement::{Movement, MovementKind};
use crate::stats::stride_mean::StrideMean;
use crate::stats::timing_error::TimingError;
use crate::strides::bout;
use crate::strides::stride::Stride;

/// The error of the marks taken together: root mean square of their own, or of the whole clip's
/// where they have none. A mark with an error of its own leaves the frame grid, the others stay on
/// it. `None` when any mark's error is unknown.
pub(crate) fn timing_error(
    own: impl Iterator<Item = Option<f64>>,
    options: &Options,
) -> Option<TimingError> {
    let from_rate = options.frame_rate.map(|f| f.mark_sd().0);
    let common = options.timing_sd.map(|s| s.0).or(from_rate);
    let (mut sum, mut n, mut stepped) = (0.0, 0.0, 0.0);
    for sd in own {
        stepped += if sd.is_none() && options.timing_sd.is_none() { 1.0 } else { 0.0 };
        let sd = sd.or(common)?;
        sum += sd * sd;
        n += 1.0;
    }
    let sd = if n > 0.0 { f64::sqrt(sum / n) } else { common? };
    let on_grid = if n > 0.0 { stepped / n } else { 0.0 };
    Some(TimingError { sd, grid: options.frame_rate.filter(|_| on_grid > 0.0), on_grid })
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

pub(crate) fn measure(
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
    let ((stretches, wander, tempo), phases) = rayon::join(
        || {
            let stretches = Stretches::of(steady(all), all.last().filter(|_| all.len() >= 4));
            let wander = stride_wander::stride_wander(&stretches, timing);
            let tempo = tempo::tempo(&stretches, timing, wander.as_ref());
            (stretches, wander, tempo)
        },
        || Limb::ALL.map(|l| evenness::mean_phase(strides, l)),
    );
    let (stride_s, spread_s) =
        tempo.map_or((1.0, 0.0), |t| (t.duration.value, t.duration.sd.unwrap_or(0.0)));
    let over = &StrideMean { timing, stride_s, spread_s };
    let symmetrical = !label.gait.is_asymmetrical() && label.gait != Gait::Unclear;
    let scale = options.scale.as_ref();
    // The last steady stride ends with the prints of the one after it.
    let printed = &*marked(if all.len() >= 4 { &all[1..] } else { all });
    let prints = hoof_prints::hoof_prints(printed, label.gait, scale);
    let mut ways = ways(printed, (all[0].start, all[all.len() - 1].end), tempo, timing, options);
    let travel = if ways.is_empty() { None } else { Some(ways.remove(0)) };
    // Positions of an uncalibrated table may lie in any frame.
    let arena = options.arena.filter(|_| scale.is_some_and(Scale::is_arena));
    // Diagonal pairs are a rein-back only when the horse is seen, or said, to go backwards.
    let backwards = prints.backwards == Some(true)
        || movement.as_ref().is_some_and(|m| m.kind == MovementKind::ReinBack);
    let label = if backwards { Label { gait: Gait::ReinBack, ..Label::UNCLEAR } } else { label };
    let hip = options.withers.map(|h| plausibility::HIP * h.0);
    let two_beat = matches!(label.gait, Gait::Trot | Gait::Passage | Gait::Piaffe | Gait::ReinBack);
    let dissociation = |hind| {
        (two_beat || label.gait.is_asymmetrical())
            .then(|| evenness::dissociation(strides, hind, over))
            .flatten()
    };
    // In canter only one diagonal lands together.
    let diagonals = [Limb::LH, Limb::RH].map(|hind| {
        let its_own = label.hind_lead.is_none_or(|side| side == hind.side());
        if its_own { dissociation(hind) } else { None }
    });
    // The two halves of the work of a long bout.
    let (
        (drift, regularity, four_beats, step_asymmetry, lap, good_runs),
        (duty, stances, suspension),
    ) = rayon::join(
        || {
            let footfall = wander.as_ref().map(|w| w.footfall);
            let seconds = all[all.len() - 1].end - all[0].start;
            (
                drift::drift(strides, seconds, footfall, limits),
                regularity::regularity(&stretches.durations, timing, wander.as_ref()),
                (label.gait.beats() == Some(4.0) && symmetrical)
                    .then(|| evenness::four_beat_rms_pct(strides, over))
                    .flatten(),
                symmetrical.then(|| evenness::step_asymmetry(strides, over)).flatten(),
                symmetrical.then(|| evenness::lateral_advanced_placement(strides, over)).flatten(),
                good_strides::runs(all, label, timing.map(|t| t.sd), limits),
            )
        },
        || {
            (
                stance::duties(strides, over),
                [Limb::LF, Limb::LH].map(|l| stance::symmetry(strides, l, over)),
                suspension::suspension(strides, label, over),
            )
        },
    );

    let mut out = BoutFigures {
        start_s: all[0].start,
        end_s: all[all.len() - 1].end,
        strides: all.len(),
        label,
        confidence: bout.confidence,
        rein: rein_at(all[0].start, all[all.len() - 1].end, options),
        lead_verdict: lead_verdict(label, all[0].start, all[all.len() - 1].end, options),
        tempo,
        drift,
        regularity,
        phases,
        lap,
        dissociation: diagonals,
        beat_evenness_pct: four_beats,
        step_asymmetry,
        canter: label
            .hind_lead
            .and_then(|lead| canter_beats::canter_beats(strides, lead, over, limits)),
        suspension,
        duty,
        stance_symmetry: stances,
        travel,
        impossible: travel
            .zip(options.withers)
            .and_then(|(t, h)| plausibility::impossible(label.gait, &t, h.0)),
        step_lengths: [Limb::LF, Limb::RF].map(|from| travel::steps(printed, from, scale)),
        other_ways: ways,
        lateral_seen: lateral_seen::seen(&prints, prints.way, arena),
        froude: hip.zip(travel).map(|(h, v)| v.speed.value * v.speed.value / (9.81 * h)),
        relative_stride_length: hip.zip(travel).map(|(h, v)| v.stride_length.value / h),
        prints,
        good_runs,
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
        travel::travel(strides, options.scale.as_ref()).into_iter().collect();
    if let Some(tempo) = tempo {
        let arena = options.arena.unwrap_or(Arena::LARGE);
        let sd = timing.map_or(0.0, |t| t.sd);
        ways.extend(letters_and_rounds::by_letters(
            bout,
            tempo,
            &options.marks,
            arena,
            options.distances,
            sd,
        ));
        ways.extend(letters_and_rounds::by_rounds(bout, tempo, &options.rounds));
    }
    ways.sort_by_key(|w| w.source);
    ways
}
