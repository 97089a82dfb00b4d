//! The first line of the Ground desk.

use crate::analysis::analyse::Analysis;
use crate::bouts::bout_figures::BoutFigures;
use crate::findings::ground_kind::GroundKind;
use crate::findings::kind::Kind;
use crate::words::names::{gait_name, source_name};
use crate::words::numbers::metres;

/// The first line of the Ground desk: how long the strides are and what made the speed.
pub fn of_ground(analysis: &Analysis) -> String {
    let found = |want: &dyn Fn(&GroundKind) -> bool| {
        analysis.findings.iter().find_map(|f| match &f.kind {
            Kind::Ground(kind) if want(kind) => Some(kind),
            _ => None,
        })
    };
    if let Some(GroundKind::Impossible { what, gait }) =
        found(&|k| matches!(k, GroundKind::Impossible { .. }))
    {
        return format!(
            "A {} stride of {:.1} withers heights cannot be: is the {} right?",
            gait_name(*gait).to_lowercase(),
            what.heights,
            source_name(what.source)
        );
    }
    let told: Vec<&BoutFigures> = analysis.bouts.iter().filter(|b| b.travel.is_some()).collect();
    if told.is_empty() {
        let marked = analysis.bouts.iter().any(|b| b.strides > 0);
        return if marked {
            "No length yet: give this clip a scale, then click each hoof once where it stands."
        } else {
            "No length yet: time a few strides first, then give this clip a scale."
        }
        .to_owned();
    }
    let change = analysis.events.speed_changes.first().map(|(_, c)| c);
    let parts: Vec<String> = told
        .iter()
        .take(2)
        .filter_map(|b| {
            let travel = b.travel?;
            let name = gait_name(b.label.gait).to_lowercase();
            Some(format!(
                "{name} {} at {:.1} m/s",
                metres(travel.stride_length),
                travel.speed.value
            ))
        })
        .collect();
    let source = told[0].travel.map_or("", |t| source_name(t.source));
    let made = change.map_or(String::new(), |c| {
        use crate::events::speed_change::Manner;
        let share = 100.0 * (1.0 - c.tempo_share.value);
        let word = match (c.manner, c.is_slower()) {
            (Manner::ByStride, false) => "he lengthens",
            (Manner::ByStride, true) => "he collects",
            (Manner::Between, false) => "longer, and quicker too",
            (Manner::Between, true) => "shorter, and slower too",
            (Manner::ByTempo, false) => "he rushes",
            (Manner::ByTempo, true) => "he slows",
            (Manner::CannotTell, _) => return "; longer or quicker cannot be told".into(),
        };
        format!(": {word}, {share:.0} % of the change by the stride")
    });
    format!("Stride by {source}: {}{made}.", parts.join(", then "))
}
