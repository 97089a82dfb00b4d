//! Findings of single bouts: leads, beats, symmetry, drift, regularity, air.

use crate::base::gait::Gait;
use crate::bouts::bout_figures::BoutFigures;
use crate::bouts::lead_verdict::LeadVerdict;
use crate::bouts::options::Options;
use crate::events::flying_change::{FlyingChange, Verdict};
use crate::events::measured::Measured;
use crate::figures::canter_beats::BeatClass;
use crate::findings::certainty::Certainty;
use crate::findings::kind::{FourBeatManner, Kind, RegularityBand};
use crate::stats::estimate::Estimate;

/// Tempi outside 30–125 (symmetrical) or 60–165 (asymmetrical) strides/min are no horse's
/// (project default, wide enough for ponies, passage, rack and pirouettes).
pub(crate) fn slow_motion(bout: &BoutFigures) -> Option<Kind> {
    let tempo = bout.tempo?.tempo.value;
    let range = if bout.label.gait.is_asymmetrical() { 60.0..=165.0 } else { 30.0..=125.0 };
    if range.contains(&tempo) {
        return None;
    }
    let factor =
        [2.0, 4.0, 8.0, 0.5, 0.25, 0.125].into_iter().find(|f| range.contains(&(tempo * f)))?;
    Some(Kind::SlowMotion { tempo, factor })
}

/// Whether the disunited strides of a bout are those of a late change, which is told as such.
pub(crate) fn of_a_change(bout: &BoutFigures, measured: &Measured) -> bool {
    let inside = |time: f64| (bout.start_s - 1e-9..bout.end_s).contains(&time);
    let late = |c: &FlyingChange| c.late_by_strides > 0 || c.verdict == Verdict::NotCompleted;
    measured.events.changes.iter().any(|(c, _)| late(c) && inside(c.time_s))
}

pub(crate) fn leads(bout: &BoutFigures, of_a_change: bool, add: &mut impl FnMut(Kind, Certainty)) {
    let sure = if bout.confidence >= 0.9 { Certainty::Clear } else { Certainty::Likely };
    match (bout.lead_verdict, bout.label.hind_lead) {
        (Some(LeadVerdict::Disunited), _) if of_a_change => {}
        (Some(LeadVerdict::Disunited), _) => add(Kind::Disunited { strides: bout.strides }, sure),
        (Some(LeadVerdict::Wrong), Some(got)) => add(Kind::WrongLead { got }, sure),
        _ => {}
    }
}

/// Four beats with falling tempo and no air are laboured; with high tempo they are hurried.
fn four_beat_manner(bout: &BoutFigures, no_air: bool, options: &Options) -> Option<FourBeatManner> {
    let falls = bout.drift.is_some_and(|d| d.ci95.1 < 0.0);
    if no_air && falls {
        return Some(FourBeatManner::Laboured);
    }
    let (lo, _) = bout.tempo?.tempo.ci95?;
    (lo > options.thresholds.hurried_canter).then_some(FourBeatManner::Hurried)
}

/// Four beats are likely when the figure lies beyond their limit and its interval holds no three.
fn likely_four(dissociation: Estimate, options: &Options) -> bool {
    let limits = &options.thresholds;
    let three = limits.three_beat_split_s;
    dissociation.value.abs() > limits.four_beat_split_s
        && dissociation.ci95.is_some_and(|(lo, hi)| lo > three || hi < -three)
}

pub(crate) fn beats(bout: &BoutFigures, options: &Options, add: &mut impl FnMut(Kind, Certainty)) {
    if bout.label.gait == Gait::Canter
        && !bout.label.is_disunited()
        && let Some(canter) = bout.canter
        && canter.dissociation.ci95.is_some()
    {
        let dissociation = canter.dissociation;
        let no_air = bout.suspension.is_some_and(|s| s.phases == Some(0));
        match canter.verdict {
            Some(BeatClass::Four) => {
                let manner = four_beat_manner(bout, no_air, options);
                add(Kind::FourBeats { dissociation, no_air, manner }, Certainty::Clear);
            }
            Some(BeatClass::Split) => add(Kind::SplitBeats { dissociation }, Certainty::Clear),
            Some(BeatClass::Three) => add(Kind::ThreeBeats { dissociation }, Certainty::Clear),
            None if likely_four(dissociation, options) => {
                let manner = four_beat_manner(bout, no_air, options);
                add(Kind::FourBeats { dissociation, no_air, manner }, Certainty::Likely);
            }
            None => add(Kind::BeatsUntold { dissociation }, Certainty::CannotTell),
        }
    }
    if bout.label.gait == Gait::Walk
        && let Some(lap) = bout.lap
        && let Some((lo, hi)) = lap.ci95
    {
        let limits = &options.thresholds;
        if lap.value < limits.walk_lateral {
            let sure = if hi < limits.walk_lateral { Certainty::Clear } else { Certainty::Likely };
            add(Kind::LateralWalk { lap }, sure);
        } else if lap.value > limits.walk_diagonal {
            let sure = if lo > limits.walk_diagonal { Certainty::Clear } else { Certainty::Likely };
            add(Kind::DiagonalWalk { lap }, sure);
        } else if let Some(rms_pct) = bout.beat_evenness_pct.map(|e| e.value) {
            let inside = lo >= limits.walk_lateral && hi <= limits.walk_diagonal;
            add(
                Kind::EvenWalk { rms_pct },
                if inside { Certainty::Clear } else { Certainty::Likely },
            );
        }
    }
    if bout.label.gait == Gait::Trot
        && let [Some(left), Some(right)] = bout.dissociation
        && left.ci95.is_some()
        && right.ci95.is_some()
    {
        add(Kind::Diagonals { hind_first: [left, right] }, Certainty::Clear);
    }
}

pub(crate) fn symmetry(
    bout: &BoutFigures,
    options: &Options,
    add: &mut impl FnMut(Kind, Certainty),
) {
    if bout.label.gait.is_asymmetrical() || bout.strides < 6 {
        return;
    }
    let limits = &options.thresholds;
    let mut told = |index: Option<Estimate>, limit: f64, kind: &dyn Fn(Estimate) -> Kind| {
        if let Some(index) = index
            && let Some((lo, hi)) = index.ci95
            && (lo > 0.0 || hi < 0.0)
            && index.value.abs() >= limit
        {
            let beyond = lo > limit || hi < -limit;
            add(kind(index), if beyond { Certainty::Clear } else { Certainty::Likely });
        }
    };
    let stance = limits.stance_asymmetry_pct;
    for (index, hind) in [(bout.stance_symmetry[0], false), (bout.stance_symmetry[1], true)] {
        told(index, stance, &|index| Kind::UnevenStance { hind, index });
    }
    told(bout.step_asymmetry, limits.step_asymmetry_pct, &|index| Kind::UnevenSteps { index });
}

pub(crate) fn steadiness(
    bout: &BoutFigures,
    options: &Options,
    add: &mut impl FnMut(Kind, Certainty),
) {
    let Some(regularity) = bout.regularity else { return };
    let [very, regular, unsettled] = options.thresholds.regularity_bands_pct;
    let band_of = |cv: f64| {
        if cv < very {
            RegularityBand::VeryRegular
        } else if cv < regular {
            RegularityBand::Regular
        } else if cv < unsettled {
            RegularityBand::Unsettled
        } else {
            RegularityBand::Irregular
        }
    };
    let (band, sure) = match (regularity.ci95, regularity.at_most) {
        (Some((lo, hi)), _) if band_of(lo) == band_of(hi) => (Some(band_of(hi)), Certainty::Clear),
        (Some(_), _) => (Some(band_of(regularity.value)), Certainty::Likely),
        (None, Some(most)) if band_of(most) == RegularityBand::VeryRegular => {
            (Some(RegularityBand::VeryRegular), Certainty::Clear)
        }
        _ => (None, Certainty::CannotTell),
    };
    add(Kind::Steadiness { regularity, band }, sure);
}
