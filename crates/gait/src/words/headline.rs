//! The first line of a clip.

use crate::analysis::analyse::Analysis;
use crate::base::gait::Gait;
use crate::bouts::bout_figures::BoutFigures;
use crate::events::flying_change::Verdict;
use crate::events::speed_change::Manner;
use crate::findings::finding::Finding;
use crate::findings::kind::Kind;
use crate::words::names::{band_word, change_word, gait_name, lateral_name, speed_question};
use crate::words::numbers::{counted, millis, ordinal, tempo_words};
use crate::words::of_ground;

/// The first line of the desk: what was found, in one sentence.
pub fn of_clip(analysis: &Analysis) -> String {
    if analysis.bouts.iter().all(|b| b.strides == 0) {
        return match analysis.footfalls {
            0 => "No footfall marked yet: step to the first hoof that lands and press its key."
                .to_owned(),
            1 => "One footfall marked. A stride needs each hind twice.".to_owned(),
            n => format!(
                "{n} footfalls marked, no whole stride yet: a stride needs each hind twice."
            ),
        };
    }
    if let Some(Finding { kind: Kind::SlowMotion { tempo, factor }, .. }) =
        analysis.findings.iter().find(|f| matches!(f.kind, Kind::SlowMotion { .. }))
    {
        return format!("{tempo:.0} strides/min is no horse's tempo: {}", speed_question(*factor));
    }
    if let Some(said) = changes_phrase(analysis) {
        return said;
    }
    let mut longest: Vec<(usize, &BoutFigures)> =
        analysis.bouts.iter().enumerate().filter(|(_, b)| b.strides > 0).collect();
    if longest.len() > 3 {
        longest.sort_by_key(|(_, b)| std::cmp::Reverse(b.strides));
        longest.truncate(2);
        longest.sort_by_key(|(k, _)| *k);
    }
    let parts: Vec<String> = longest
        .iter()
        .enumerate()
        .map(|(place, (k, b))| {
            let said = bout_phrase(analysis, *k, b, longest.len() == 1);
            if place == 0 { said } else { said[..1].to_lowercase() + &said[1..] }
        })
        .collect();
    format!("{}.", parts.join("; then "))
}

/// Flying changes come first: how many, and which were not clean.
fn changes_phrase(analysis: &Analysis) -> Option<String> {
    let changes = &analysis.events.changes;
    let faults: Vec<String> = changes
        .iter()
        .enumerate()
        .filter(|(_, (c, _))| c.verdict != Verdict::Clean)
        .map(|(k, (c, _))| {
            format!("the {} {}", ordinal(k + 1), change_word(c.verdict, c.late_by_strides))
        })
        .collect();
    let canter = analysis
        .bouts
        .iter()
        .filter(|b| b.label.gait.is_asymmetrical())
        .max_by_key(|b| b.strides)
        .and_then(|b| b.tempo)
        .map_or(String::new(), |t| {
            format!("; canter at {}", tempo_words(t.tempo, Gait::Canter, &analysis.schools))
        });
    let what = match (changes.len(), faults.as_slice()) {
        (0, _) => return None,
        (1, []) => "One clean flying change".to_owned(),
        (n, []) => format!("{n} clean flying changes"),
        (1, _) => {
            format!(
                "A flying change {}",
                changes
                    .first()
                    .map_or(String::new(), |(c, _)| { change_word(c.verdict, c.late_by_strides) })
            )
        }
        (n, [a]) => format!("{n} flying changes, {a}"),
        (n, [a, b]) => format!("{n} flying changes, {a} and {b}"),
        (n, many) => format!("{n} flying changes, {} of them not clean", many.len()),
    };
    Some(format!("{what}{canter}."))
}

fn bout_phrase(analysis: &Analysis, k: usize, bout: &BoutFigures, alone: bool) -> String {
    let name = match (bout.label.hind_lead, bout.label.fore_lead) {
        (Some(h), Some(f)) if h == f => {
            format!("{} on the {} lead", gait_name(bout.label.gait), h.word())
        }
        (Some(_), Some(_)) => format!("{}, disunited", gait_name(bout.label.gait)),
        _ => gait_name(bout.label.gait).to_owned(),
    };
    let tempo = bout.tempo.map_or(String::new(), |t| {
        format!(" at {}", tempo_words(t.tempo, bout.label.gait, &analysis.schools))
    });
    let steady = steady_strides(bout);
    let strides = if alone {
        format!(" over {steady} steady {}", if steady == 1 { "stride" } else { "strides" })
    } else {
        String::new()
    };
    let mut own = analysis.findings.iter().filter(|f| f.bout == k);
    let note =
        own.clone()
            .find(|f| f.kind.is_fault())
            .or_else(|| {
                own.find(|f| {
                    matches!(
                        f.kind,
                        Kind::SplitBeats { .. } | Kind::ThreeBeats { .. } | Kind::EvenWalk { .. }
                    )
                })
            })
            .or_else(|| {
                analysis.findings.iter().find(|f| {
                    f.bout == k && matches!(f.kind, Kind::Steadiness { band: Some(_), .. })
                })
            });
    let note = note.map_or(String::new(), |f| format!(", {}", clause(&f.kind)));
    format!("{name}{tempo}{strides}{note}")
}

fn steady_strides(bout: &BoutFigures) -> usize {
    if bout.strides >= 4 { bout.strides - 2 } else { bout.strides }
}

fn clause(kind: &Kind) -> String {
    match kind {
        Kind::SlowMotion { .. } => "at no horse's tempo".into(),
        Kind::Disunited { .. } => "hinds and fores on different leads".into(),
        Kind::WrongLead { .. } => "not the lead wanted".into(),
        Kind::FourBeats { dissociation, .. } => {
            format!("in four beats ({} split)", millis(*dissociation))
        }
        Kind::SplitBeats { dissociation } => {
            format!("the diagonal slightly split ({})", millis(*dissociation))
        }
        Kind::ThreeBeats { .. } => "three clear beats".into(),
        Kind::BeatsUntold { .. } => "three beats or four not to be told".into(),
        Kind::LateralWalk { .. } => "drifting towards a lateral walk".into(),
        Kind::DiagonalWalk { .. } => "drifting towards a diagonal walk".into(),
        Kind::Drift { drift } => {
            format!("the tempo drifting by {:+.0} %", 100.0 * drift.total_share)
        }
        Kind::TempoChange { drift } => {
            format!("the tempo changing by {:+.0} % within ten seconds", 100.0 * drift.in_ten_s)
        }
        Kind::Change { verdict, late_by_strides, .. } => {
            format!("a change {}", change_word(*verdict, *late_by_strides))
        }
        Kind::CleanChange { .. } => "a clean change".into(),
        Kind::ChangeWithheld { .. } => "a change not to be told yet".into(),
        Kind::Tempi { changes, clean, .. } => format!("{clean} of {changes} changes clean"),
        Kind::SimpleChange { .. } => "a change through walk".into(),
        Kind::NotSquare { .. } => "the halt not square".into(),
        Kind::Ground(ground) => of_ground::clause(ground),
        Kind::EvenWalk { .. } => "four even beats".into(),
        Kind::Diagonals { .. } => "in diagonal pairs".into(),
        Kind::Steadiness { band, .. } => band.map_or("", band_word).into(),
        Kind::UnevenStance { .. } => "left and right standing unevenly long".into(),
        Kind::UnevenSteps { .. } => "left and right steps taking unlike times".into(),
        Kind::Suspension { .. } => "with air".into(),
        Kind::Pirouette { lost, .. } => match lost {
            0 => "the pirouette in canter".into(),
            n => format!("{} of the pirouette losing the canter", counted(*n, "stride")),
        },
        Kind::ReinBack { steps, .. } => format!("{} back", counted(*steps, "step")),
        Kind::Lateral { movement, tempo_change, .. } => format!(
            "{} against straight {:+.1} % tempo",
            lateral_name(*movement).to_lowercase(),
            tempo_change.value
        ),
        Kind::BothSides { weaker, .. } => {
            weaker.map_or(String::new(), |w| format!("weaker to the {}", w.word()))
        }
        Kind::Speed { change, .. } => match (change.manner, change.is_slower()) {
            (Manner::ByTempo, false) => "rushing".into(),
            (Manner::ByTempo, true) => "slowing instead of collecting".into(),
            (_, false) => "longer than before".into(),
            (_, true) => "shorter than before".into(),
        },
        Kind::ForwardBack { held_pct, .. } => format!("tempo held within {held_pct:.1} %"),
        Kind::Drill { kept: (kept, of), .. } => {
            format!("{kept} of {of} drill stretches to the count")
        }
        Kind::Posting { .. } => "in rising trot".into(),
        Kind::Aids { inside: (inside, of), .. } => format!("{inside} of {of} aids in time"),
        Kind::Answer { strides, .. } => format!("answering after {strides:.1} strides"),
        Kind::Unasked { to, .. } => format!("to {} unasked", gait_name(*to).to_lowercase()),
        Kind::HaltLeft { first, .. } => format!("{first} leaving the halt first"),
        Kind::HaltHeld { seconds, .. } => format!("halted for {seconds:.1} s"),
        Kind::Stepping { .. } => "slipping into stepping pace".into(),
        Kind::Tracks { tracks, .. } => format!("on {tracks} tracks"),
    }
}
