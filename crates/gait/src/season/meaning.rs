//! What a fault means for the horse, and how far it goes beyond its error: what heads a page is ranked
//! by both, not by its kind alone.

use crate::analysis::analyse::Analysis;
use crate::base::number::count;
use crate::findings::finding::Finding;
use crate::findings::ground_kind::GroundKind;
use crate::findings::kind::Kind;
use crate::season::sought::Sought;
use crate::stats::estimate::Estimate;
use crate::stats::pooled::Known;

/// What a fault means (project default; the order is common practice): unlike sides may be pain, a gait
/// that is lost or impure comes before how well it is ridden, tempo and straightness last. Nothing
/// can be said before the clip's clock is right. 0 for what is no fault, or none of the horse's.
pub fn meaning(kind: &Kind) -> f64 {
    if !kind.is_fault() {
        return 0.0;
    }
    match kind {
        Kind::SlowMotion { .. } => 100.0,
        Kind::UnevenStance { .. } | Kind::UnevenSteps { .. } => 8.0,
        Kind::Disunited { .. } | Kind::Stepping { .. } => 7.5,
        Kind::Change { .. } => 6.5,
        Kind::Tempi { .. } => 5.5,
        Kind::WrongLead { .. } => 6.0,
        Kind::FourBeats { .. } | Kind::LateralWalk { .. } | Kind::DiagonalWalk { .. } => 6.0,
        Kind::Unasked { .. } => 5.0,
        Kind::Lateral { .. } | Kind::Speed { .. } | Kind::Answer { .. } => 4.0,
        Kind::BothSides { .. } | Kind::Pirouette { .. } => 3.8,
        Kind::TempoChange { .. } | Kind::Steadiness { .. } | Kind::ForwardBack { .. } => 2.5,
        Kind::Drift { .. } | Kind::SimpleChange { .. } | Kind::NotSquare { .. } => 2.0,
        Kind::Ground(ground) => match ground {
            GroundKind::Crooked { .. } => 2.0,
            GroundKind::Lateral { .. } => 1.5,
            GroundKind::Impossible { .. } | GroundKind::Disagree { .. } => 1.0,
            // Of the camera, not of the horse.
            GroundKind::MoveCamera { .. }
            | GroundKind::Stride { .. }
            | GroundKind::Untold { .. } => 0.0,
        },
        Kind::SplitBeats { .. }
        | Kind::ThreeBeats { .. }
        | Kind::BeatsUntold { .. }
        | Kind::EvenWalk { .. }
        | Kind::CleanChange { .. }
        | Kind::ChangeWithheld { .. }
        | Kind::Diagonals { .. }
        | Kind::Suspension { .. }
        | Kind::ReinBack { .. }
        | Kind::Drill { .. }
        | Kind::Posting { .. }
        | Kind::Aids { .. }
        | Kind::HaltLeft { .. }
        | Kind::HaltHeld { .. }
        | Kind::Tracks { .. } => 0.0,
    }
}

/// How far a fault goes beyond its error, in limits from which it is spoken of: 1 at the limit, 2 at
/// most. Of what is seen and not measured, by its count: strides late, strides disunited.
pub fn beyond(finding: &Finding, clip: &Analysis) -> f64 {
    let by_figure = |of: Estimate| -> Option<f64> {
        let (sought, _) = Sought::of(&finding.kind)?;
        let (_, limit) = sought.limits(&clip.thresholds);
        let off = Known::of(of)?;
        let centre = if sought == Sought::WalkBeats { 0.25 } else { 0.0 };
        Some(((off.value - centre).abs() - off.error) / limit)
    };
    let strides = |n: usize| Some(1.0 + 0.1 * count(n));
    let size = match &finding.kind {
        Kind::FourBeats { dissociation, .. } => by_figure(*dissociation),
        Kind::LateralWalk { lap } | Kind::DiagonalWalk { lap } => by_figure(*lap),
        Kind::UnevenStance { index, .. } | Kind::UnevenSteps { index } => by_figure(*index),
        Kind::Lateral { tempo_change, .. } => by_figure(*tempo_change),
        Kind::BothSides { difference, .. } => by_figure(*difference),
        Kind::Speed { change, .. } => by_figure(change.tempo_share),
        Kind::Ground(GroundKind::Crooked { beside }) => by_figure(*beside),
        Kind::Drift { drift } | Kind::TempoChange { drift } => {
            let wide = 0.25 * (drift.ci95.1 - drift.ci95.0) / drift.per_min.abs();
            Some(drift.total_share.abs() * (1.0 - wide) / clip.thresholds.drift_share)
        }
        Kind::Steadiness { regularity, .. } => {
            regularity.ci95.map(|(lo, _)| lo / clip.thresholds.regularity_bands_pct[1])
        }
        Kind::Change { late_by_strides, .. } => strides(*late_by_strides),
        Kind::Disunited { strides: n } | Kind::Stepping { strides: n, .. } => strides(*n),
        Kind::Answer { score, .. } => Some(1.0 + 0.2 * (5.0 - score)),
        _ => None,
    };
    size.unwrap_or(1.0).clamp(0.5, 2.0)
}
