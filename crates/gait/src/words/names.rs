//! Names of gaits, leads, movements and other things that sentences speak of.

use crate::base::gait::{Gait, Label};
use crate::bouts::lead_verdict::LeadVerdict;
use crate::events::flying_change::Verdict;
use crate::findings::certainty::Certainty;
use crate::findings::kind::{Asked, RegularityBand};
use crate::ground::source::Source;
use crate::marks::movement::LateralMovement;

/// Name of a gait as a sentence begins it.
pub const fn gait_name(gait: Gait) -> &'static str {
    match gait {
        Gait::Walk => "Walk",
        Gait::Trot => "Trot",
        Gait::Passage => "Passage",
        Gait::Piaffe => "Piaffe",
        Gait::Canter => "Canter",
        Gait::Gallop => "Gallop",
        Gait::FlatWalk => "Flat walk",
        Gait::RunningWalk => "Running walk",
        Gait::FoxTrot => "Fox-trot",
        Gait::Rack => "Rack",
        Gait::SteppingPace => "Stepping pace",
        Gait::Pace => "Pace",
        Gait::ReinBack => "Rein-back",
        Gait::Halt => "Halt",
        Gait::Unclear => "No clear gait",
    }
}

/// `Canter, left lead`, `Trot`.
pub fn label_name(label: Label) -> String {
    let name = gait_name(label.gait);
    match (label.hind_lead, label.fore_lead) {
        (Some(h), Some(f)) if h == f => format!("{name}, {} lead", h.word()),
        (Some(_), Some(_)) => format!("{name}, disunited"),
        _ => name.to_owned(),
    }
}

/// The lead's verdict in a word or two.
pub const fn lead_verdict_name(verdict: LeadVerdict) -> &'static str {
    match verdict {
        LeadVerdict::True => "true",
        LeadVerdict::Counter => "counter canter",
        LeadVerdict::Wrong => "wrong lead",
        LeadVerdict::Disunited => "disunited",
    }
}

/// Asks for the factor that would mend an impossible tempo.
pub(crate) fn speed_question(factor: f64) -> String {
    if factor > 1.0 {
        format!("was this filmed in slow motion, {factor:.0}×?")
    } else {
        format!("is the slow-motion factor {:.0}× too large?", 1.0 / factor)
    }
}

pub(crate) const fn band_word(band: RegularityBand) -> &'static str {
    match band {
        RegularityBand::VeryRegular => "very regular",
        RegularityBand::Regular => "regular",
        RegularityBand::Unsettled => "unsettled",
        RegularityBand::Irregular => "irregular",
    }
}

pub(crate) const fn end_word(hind: bool) -> &'static str {
    if hind { "hind" } else { "fore" }
}

pub(crate) const fn lateral_name(movement: LateralMovement) -> &'static str {
    match movement {
        LateralMovement::ShoulderIn => "Shoulder-in",
        LateralMovement::Travers => "Travers",
        LateralMovement::Renvers => "Renvers",
        LateralMovement::HalfPass => "Half-pass",
        LateralMovement::LegYield => "Leg-yield",
    }
}

pub(crate) fn asked_name(asked: Asked) -> String {
    match asked {
        Asked::Leg(limb) => format!("the leg for {limb}"),
        Asked::Canter(side) => format!("the aid to canter {}", side.word()),
        Asked::Change => "the aid to change".into(),
        Asked::HalfHalt => "the half-halt".into(),
        Asked::Turn(side) => format!("the aid to turn {}", side.word()),
    }
}

pub(crate) fn change_word(verdict: Verdict, late: usize) -> String {
    match verdict {
        Verdict::Clean => "clean".into(),
        Verdict::LateBehind => format!("late behind by {late}"),
        Verdict::LateInFront => format!("late in front by {late}"),
        Verdict::HindsTogether => "with the hinds together".into(),
        Verdict::ThroughTrot => "through trot".into(),
        Verdict::Missed => "missed".into(),
        Verdict::NotCompleted => "not completed".into(),
        Verdict::ChangedBack => "taken back".into(),
        Verdict::Withheld => "not to be told yet".into(),
    }
}

/// How sure, in words.
pub const fn certainty(sure: Certainty) -> &'static str {
    match sure {
        Certainty::Clear => "clear",
        Certainty::Likely => "likely",
        Certainty::CannotTell => "cannot tell",
    }
}

/// A way to a length, as a sentence uses it.
pub const fn source_name(source: Source) -> &'static str {
    match source {
        Source::Ground => "ground plane",
        Source::Bar => "track bar",
        Source::Letters => "letter passes",
        Source::Figure => "figure count",
        Source::Withers => "withers height",
    }
}
