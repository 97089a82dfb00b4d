//! Every sentence the analysis says, in one place: plain coach's English, figures with units and
//! error. The rest of the crate hands over facts.

use crate::analysis::{Analysis, BoutFigures, LeadVerdict, Why};
use crate::carry::{FEWEST_PAIRS, Scatter};
use crate::check::Doubt;
use crate::classify::{Gait, Label};
use crate::collection::{Manner, SpeedChange};
use crate::finding::{self, Asked, Finding, FourBeatManner, Kind, RegularityBand, Sure};
use crate::flying_change::Verdict;
use crate::lateral::LateralMovement;
use crate::limb::Side;
use crate::schools::{
    AidTiming, CollectingTempo, CounterCanter, Counting, FirstFromHalt, NamingWalk,
    PreparingChange, Schools,
};
use crate::session::{Matter, Ridden};
use crate::tempi::Fault;
use crate::tidy::DropReason;
use crate::uncertainty::Estimate;
use crate::wording_ground;

/// A finding in words.
#[derive(Clone, Debug, PartialEq)]
pub struct Said {
    /// Short name for programs.
    pub code: &'static str,
    /// A few words, as a heading.
    pub title: String,
    /// One plain sentence.
    pub says: String,
    /// The figure with unit and error.
    pub figure: String,
    /// What to ride.
    pub try_next: Vec<&'static str>,
    /// Where harm is possible.
    pub caution: Option<&'static str>,
}

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
pub fn label(label: Label) -> String {
    let name = gait_name(label.gait);
    match (label.hind_lead, label.fore_lead) {
        (Some(h), Some(f)) if h == f => format!("{name}, {} lead", h.word()),
        (Some(_), Some(_)) => format!("{name}, disunited"),
        _ => name.to_owned(),
    }
}

/// The lead's verdict in a word or two.
pub const fn lead_verdict(verdict: LeadVerdict) -> &'static str {
    match verdict {
        LeadVerdict::True => "true",
        LeadVerdict::Counter => "counter canter",
        LeadVerdict::Wrong => "wrong lead",
        LeadVerdict::Disunited => "disunited",
    }
}

/// The first line of the desk: what was found, in one sentence.
pub fn headline(analysis: &Analysis) -> String {
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

/// A tempo in the unit of the school in force.
fn tempo_words(tempo: Estimate, gait: Gait, schools: &Schools) -> String {
    match (schools.counting, gait.beats()) {
        (Counting::Beats, Some(beats)) => {
            format!("{} beats/min", plus_minus(tempo.scaled(beats), 1.0, 0))
        }
        _ => format!("{} strides/min", plus_minus(tempo, 1.0, 1)),
    }
}

/// Asks for the factor that would mend an impossible tempo.
fn speed_question(factor: f64) -> String {
    if factor > 1.0 {
        format!("was this filmed in slow motion, {factor:.0}×?")
    } else {
        format!("is the slow-motion factor {:.0}× too large?", 1.0 / factor)
    }
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
            .find(|f| finding::is_fault(&f.kind))
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
        Kind::FourBeats { split, .. } => format!("in four beats ({} split)", millis(*split)),
        Kind::SplitBeats { split } => format!("the diagonal slightly split ({})", millis(*split)),
        Kind::ThreeBeats { .. } => "three clear beats".into(),
        Kind::BeatsUntold { .. } => "three beats or four not to be told".into(),
        Kind::LateralWalk { .. } => "drifting towards a lateral walk".into(),
        Kind::DiagonalWalk { .. } => "drifting towards a diagonal walk".into(),
        Kind::Drift { drift } => {
            format!("the tempo drifting by {:+.0} %", 100.0 * drift.total_share)
        }
        Kind::Change { verdict, late_by_strides, .. } => {
            format!("a change {}", change_word(*verdict, *late_by_strides))
        }
        Kind::CleanChange { .. } => "a clean change".into(),
        Kind::Tempi { changes, clean, .. } => format!("{clean} of {changes} changes clean"),
        Kind::SimpleChange { .. } => "a change through walk".into(),
        Kind::NotSquare { .. } => "the halt not square".into(),
        Kind::Ground(ground) => wording_ground::clause(ground),
        Kind::EvenWalk { .. } => "four even beats".into(),
        Kind::Diagonals { .. } => "in diagonal pairs".into(),
        Kind::Steadiness { band, .. } => band.map_or("", band_word).into(),
        Kind::UnevenStance { .. } => "left and right standing unevenly long".into(),
        Kind::Air { .. } => "with air".into(),
        Kind::Pirouette { lost, .. } => match lost {
            0 => "the pirouette in canter".into(),
            n => format!("{n} strides of the pirouette losing the canter"),
        },
        Kind::ReinBack { steps, .. } => format!("{steps} steps back"),
        Kind::Lateral { movement, tempo_change, .. } => format!(
            "{} against straight {:+.1} % tempo",
            movement_name(*movement).to_lowercase(),
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

const fn band_word(band: RegularityBand) -> &'static str {
    match band {
        RegularityBand::VeryRegular => "very regular",
        RegularityBand::Regular => "regular",
        RegularityBand::Unsettled => "unsettled",
        RegularityBand::Irregular => "irregular",
    }
}

const fn end_word(hind: bool) -> &'static str {
    if hind { "hind" } else { "fore" }
}

/// A finding in words.
pub fn say(finding: &Finding, schools: &Schools) -> Said {
    let mut said = Said {
        code: "",
        title: String::new(),
        says: String::new(),
        figure: String::new(),
        try_next: Vec::new(),
        caution: None,
    };
    match finding.kind {
        Kind::SlowMotion { tempo, factor } => {
            said.code = "slow-motion";
            said.title = "Is the clip's clock right?".into();
            said.says = format!(
                "At this speed the horse would take {tempo:.0} strides a minute: {} That would make it {:.0}.",
                speed_question(factor),
                tempo * factor
            );
            said.figure = format!("{tempo:.1} /min");
        }
        Kind::Disunited { strides } => {
            said.code = "disunited";
            said.title = "Disunited".into();
            said.says =
                "Hinds and fores canter on different leads; it is uncomfortable for both.".into();
            said.figure = format!("{strides} strides");
            said.try_next =
                vec!["Back to a quiet trot, then strike off on a circle, the same aid every time."];
            said.caution =
                Some("If it comes again and again on one lead, have a vet look before drilling.");
        }
        Kind::WrongLead { got } => {
            said.code = "wrong-lead";
            said.title = "Not the lead wanted".into();
            said.says = format!("The horse canters on the {} lead.", got.word());
            said.figure = format!("{} lead", got.word());
            said.try_next =
                vec!["Strike off on a circle from a quiet trot, few sitting strides first."];
        }
        Kind::FourBeats { split, no_air, manner } => {
            said.code = "four-beat-canter";
            said.title = match manner {
                Some(FourBeatManner::Laboured) => "Four beats, laboured",
                Some(FourBeatManner::Hurried) => "Four beats, hurried",
                None => "Four beats",
            }
            .into();
            said.says = format!(
                "The diagonal comes apart, {} first{}.",
                first_of(split),
                match (no_air, manner) {
                    (_, Some(FourBeatManner::Laboured)) => {
                        ", there is no air and the tempo falls: he wants more energy"
                    }
                    (_, Some(FourBeatManner::Hurried)) => ", at a high tempo: he runs",
                    (true, None) => ", and there is no air",
                    (false, None) => "",
                }
            );
            said.figure = millis(split);
            said.try_next = match manner {
                Some(FourBeatManner::Hurried) => {
                    vec!["A 20 m circle at a quiet click, until he waits; then bigger strides."]
                }
                _ => vec![
                    "Three strides bigger, then back, repeated on a circle.",
                    "Medium canter on the long side.",
                ],
            };
            said.caution =
                Some("Stuck, tight or hind legs far under: ride forward and stop the exercise.");
        }
        Kind::SplitBeats { split } => {
            said.code = "split-canter";
            said.title = "Slightly split diagonal".into();
            said.says = format!(
                "The second beat is a little apart, {} first; collected canters do that.",
                first_of(split)
            );
            said.figure = millis(split);
        }
        Kind::ThreeBeats { split } => {
            said.code = "three-beat-canter";
            said.title = "Three clear beats".into();
            said.says = "The diagonal lands together.".into();
            said.figure = millis(split);
        }
        Kind::BeatsUntold { split } => {
            said.code = "canter-beats-unresolved";
            said.title = "Three beats or four?".into();
            said.says =
                "This clip cannot tell: more strides, or a higher frame rate, would settle it."
                    .into();
            said.figure = millis(split);
        }
        Kind::LateralWalk { lap } => {
            said.code = "lateral-walk";
            said.title = "Walk drifts to lateral".into();
            said.says = "The fore follows the hind of its side too soon; even is 25 %.".into();
            said.figure = percent(lap);
            said.try_next = vec!["Slow him until he thinks about each step, then let him grow."];
        }
        Kind::DiagonalWalk { lap } => {
            said.code = "diagonal-walk";
            said.title = "Walk drifts to diagonal".into();
            said.says = "The fore follows the hind of its side late; even is 25 %.".into();
            said.figure = percent(lap);
            said.try_next = vec!["Slow him until he thinks about each step, then let him grow."];
        }
        Kind::Change { verdict, late_by_strides, late_by_s, steps, offered } => {
            change_says(&mut said, verdict, late_by_strides, steps, offered, schools);
            said.figure = late_by_s.map_or_else(
                || if steps > 0 { format!("{steps} steps") } else { "–".to_owned() },
                |s| format!("{:+.0} ms", s * 1000.0),
            );
        }
        Kind::CleanChange { air_before, to } => {
            said.code = "clean-change";
            said.title = "A clean change".into();
            said.says = format!("All four limbs go on the {} lead in one stride.", to.word());
            said.figure = air_before
                .map_or("–".to_owned(), |air| format!("{:.0} ms air before", air * 1000.0));
        }
        Kind::Tempi { every, planned, changes, clean, fault } => {
            said.code = "tempi";
            let often = match every {
                1 => "every stride".into(),
                n => format!("every {n} strides"),
            };
            said.title = match fault {
                None => format!("Changes {often}"),
                Some(_) => format!("{clean} of {changes} changes {often} clean"),
            };
            let of = planned.map_or(String::new(), |p| format!(" of {p} planned"));
            let fault = fault.map_or(String::new(), |(k, fault)| match fault {
                Fault::NotClean(verdict) => {
                    format!(" The {} is {}.", ordinal(k), change_word(verdict, 1))
                }
                Fault::OutOfCount { gap } => {
                    format!(" The {} comes after {gap} strides.", ordinal(k))
                }
            });
            said.says = format!("{changes} changes{of}, {clean} of them clean.{fault}");
            said.figure = format!("{clean} of {changes}");
        }
        Kind::SimpleChange { steps } => {
            said.code = "simple-change";
            said.title = "A change of lead through walk".into();
            said.says = if steps < 3 {
                "Fewer than three steps of walk: he is being rushed.".into()
            } else if steps > 5 {
                "More than five steps of walk: he did not wait, or did not answer.".into()
            } else {
                "Three to five steps of walk, as it should be.".into()
            };
            said.figure = format!("{steps} steps");
            said.try_next = vec!["Canter to walk from a small circle, then count the steps aloud."];
        }
        Kind::NotSquare { trailing, offset } => {
            said.code = "halt-not-square";
            said.title = "The halt is not square".into();
            said.says = format!("{trailing} stands behind its partner.");
            said.figure = format!("{:.0} cm", offset * 100.0);
            said.try_next =
                vec!["Ride the last steps of the halt from behind, and reward a square one."];
        }
        Kind::Drift { drift } => {
            said.code = "tempo-drift";
            said.title = "The tempo drifts".into();
            said.says = format!(
                "He gets {} by {:.0} % over this bout, too slowly to be felt.",
                if drift.per_min > 0.0 { "quicker" } else { "slower" },
                100.0 * drift.total_share.abs()
            );
            let (lo, hi) = drift.ci95;
            said.figure = format!("{:+.1} ({lo:+.1} to {hi:+.1}) /min a minute", drift.per_min);
            said.try_next =
                vec!["Ride to a click at the target tempo, both reins, straight and corners."];
        }
        Kind::EvenWalk { rms_pct } => {
            said.code = "even-walk";
            said.title = "Four even beats".into();
            said.says = format!(
                "{}; the four gaps lie this far from 25 % each, as a root mean square.",
                match schools.naming_walk {
                    NamingWalk::Lateral => "In the order LH, LF, RH, RF",
                    NamingWalk::Diagonal => "Read from the fore: LF, RH, RF, LH",
                }
            );
            said.figure = format!("{rms_pct:.1} %");
        }
        Kind::Diagonals { hind_first: [left, right] } => {
            said.code = "trot-diagonals";
            said.title = "How the diagonals land".into();
            said.says = format!(
                "Left hind with right fore: {}. Right hind with left fore: {}.",
                lands(left),
                lands(right)
            );
            said.figure = format!("{} · {} ms", signed_millis(left), signed_millis(right));
        }
        Kind::Steadiness { regularity, band } => {
            said.code = "regularity";
            said.title = band
                .map_or("Regularity cannot be told", |b| match b {
                    RegularityBand::VeryRegular => "Very regular",
                    RegularityBand::Regular => "Regular",
                    RegularityBand::Unsettled => "Unsettled",
                    RegularityBand::Irregular => "Irregular",
                })
                .into();
            if let Some(most) = regularity.at_most {
                said.says = format!(
                    "{} for this clip to measure; the strides differ by at most {most:.1} %.",
                    if band.is_some() { "Too regular" } else { "The strides differ too little" }
                );
                said.figure = format!("≤ {most:.1} %");
            } else {
                said.says =
                    "How much one stride differs from the next, marking error taken out.".into();
                said.figure =
                    regularity.ci95.map_or(format!("{:.1} %", regularity.value), |(lo, hi)| {
                        format!("{:.1} % ({lo:.1}–{hi:.1})", regularity.value)
                    });
            }
            if matches!(band, Some(RegularityBand::Irregular | RegularityBand::Unsettled)) {
                said.try_next =
                    vec!["Ride to a click at the target tempo, both reins, straight and corners."];
                said.caution = Some(
                    "Uneven steps that stay: stop and have a vet look. Umlauf times footfalls, it does not diagnose lameness.",
                );
            }
        }
        Kind::UnevenStance { hind, index } => {
            said.code = "uneven-stance";
            said.title = format!("Left and right {} differ", end_word(hind));
            let side = if index.value > 0.0 { Side::Left } else { Side::Right };
            said.says = format!("The {} {} stands longer.", side.word(), end_word(hind));
            said.figure = format!("{} %", plus_minus(index, 1.0, 1));
            said.caution = Some(
                "A new difference between left and right: stop and have a vet look. Umlauf times footfalls, it does not diagnose lameness.",
            );
        }
        Kind::Ground(ref ground) => wording_ground::says(&mut said, ground),
        ref work => work_says(&mut said, work, schools),
    }
    said
}

/// Sentences about work that the coach planned or marked.
fn work_says(said: &mut Said, kind: &Kind, schools: &Schools) {
    match *kind {
        Kind::Pirouette { strides, expected: (few, most), lost, best_run, tempo_ratio } => {
            said.code = "pirouette";
            said.title = if lost > 0 {
                "The pirouette loses the canter".into()
            } else {
                "A pirouette in canter".into()
            };
            let count = if strides < few {
                format!("{strides} strides where {few} to {most} are wanted: turned too quickly.")
            } else if strides > most {
                format!("{strides} strides where {few} to {most} are wanted: stuck on the spot.")
            } else {
                format!("{strides} strides, as wanted ({few} to {most}).")
            };
            let kept = if lost > 0 {
                format!(
                    " In {lost} the hinds no longer land as a couplet; {best_run} good ones in a row."
                )
            } else {
                String::new()
            };
            let tempo = tempo_ratio.map_or(String::new(), |r| {
                let slower = 100.0 * (1.0 - r);
                match schools.collecting_tempo {
                    _ if slower.abs() < 3.0 => " The tempo is that of the canter before.".to_owned(),
                    CollectingTempo::Same => format!(
                        " The tempo is {:.0} % {} than before; the same is aimed for, measured pirouettes are slower.",
                        slower.abs(),
                        if slower > 0.0 { "slower" } else { "quicker" }
                    ),
                    CollectingTempo::Slower => format!(
                        " The tempo is {:.0} % {} than before; a touch slower is aimed for.",
                        slower.abs(),
                        if slower > 0.0 { "slower" } else { "quicker" }
                    ),
                }
            });
            said.says = format!("{count}{kept}{tempo}");
            said.figure = format!("{best_run}/{strides} strides kept");
            if lost > 0 || strides > most {
                said.try_next = vec![
                    "A bigger working pirouette; haunches-in on the circle first.",
                    "Out after two or three good strides.",
                ];
                said.caution = Some(OVER_COLLECTED);
            }
        }
        Kind::ReinBack { steps, diagonal: (together, of) } => {
            said.code = "rein-back";
            said.title = "Rein-back".into();
            said.says = if of == 0 {
                "Only one hoof of each pair is marked.".into()
            } else if together == of {
                "Every step in a diagonal pair.".into()
            } else {
                format!("{together} of {of} steps in diagonal pairs; the others drag apart.")
            };
            said.figure = format!("{steps} steps");
        }
        Kind::Lateral { movement, side, tempo_change, loses } => {
            said.code = if loses { "lateral-loses-tempo" } else { "lateral-tempo" };
            let name = movement_name(movement);
            said.title = match (loses, side) {
                (true, Some(side)) => format!("{name} {} loses tempo", side.word()),
                (true, None) => format!("{name} loses tempo"),
                (false, Some(side)) => format!("{name} {}", side.word()),
                (false, None) => name.to_owned(),
            };
            said.says = match (loses, tempo_change.ci95) {
                (true, _) => "Slower than in the straight work beside it.".into(),
                (false, Some((lo, hi))) if lo > -3.0 && hi < 3.0 => {
                    "The tempo of the straight work is held.".into()
                }
                (false, _) => "Against the straight work beside it; a loss cannot be told.".into(),
            };
            said.figure = format!("{} % tempo", signed(tempo_change, 1.0, 1));
            if loses {
                said.try_next = if movement == LateralMovement::HalfPass {
                    vec![
                        "Start from the diagonal line, sideways only for the last few metres.",
                        "Half a long side lateral, then medium trot on the diagonal.",
                    ]
                } else {
                    vec![
                        "Half a long side lateral, then medium trot on the diagonal.",
                        "Short doses off the track, a few steps on an inner track.",
                    ]
                };
            }
        }
        Kind::BothSides { movement, difference, weaker } => {
            said.code = "lateral-sides";
            said.title = format!("{}, left against right", movement_name(movement));
            said.says = weaker.map_or_else(
                || "A difference between the sides cannot be told from one.".into(),
                |side| format!("To the {} the tempo falls more.", side.word()),
            );
            said.figure = format!("{} % tempo", signed(difference, 1.0, 1));
            if weaker.is_some() {
                said.try_next =
                    vec!["More but shorter bouts on that rein; start and end on the better one."];
                said.caution = Some(
                    "A new difference between the sides: stop and have a vet look. Umlauf times footfalls, it does not diagnose lameness.",
                );
            }
        }
        Kind::Speed { change, walk } => speed_says(said, &change, walk),
        Kind::ForwardBack { stride_ratio, held_pct, breaks, strides_to_change } => {
            said.code = "forward-back";
            said.title = "Forward and back".into();
            let ratio = stride_ratio.map_or("Stride length is not known here.".to_owned(), |r| {
                format!("The big stride is {r:.2} times the small one.")
            });
            let took = strides_to_change
                .map_or(String::new(), |n| format!(" Each change takes {n:.1} strides."));
            let broke = match breaks {
                0 => String::new(),
                1 => " He broke the gait once.".to_owned(),
                n => format!(" He broke the gait {n} times."),
            };
            said.says = format!("{ratio}{took}{broke}");
            said.figure = format!("tempo within {held_pct:.1} %");
            if held_pct > 5.0 {
                said.try_next =
                    vec!["Same tempo, smaller steps: spiral from 20 m to 10 m and out again."];
            }
        }
        Kind::Drill { planned: (a, b), kept: (kept, of), trend_s } => {
            said.code = "drill";
            said.title = format!("Drill: {a} strides, {b} strides");
            let trend = match trend_s {
                Some(s) if s < -0.02 => " He answers quicker from change to change.",
                Some(s) if s > 0.02 => " His answers get slower: enough for now.",
                Some(_) => " His answers stay the same.",
                None => "",
            };
            said.says = format!("{kept} of {of} whole stretches to the count.{trend}");
            said.figure = format!("{kept}/{of}");
            said.try_next = vec!["Light aid, insist once, and score each answer."];
        }
        Kind::Posting { diagonal, scatter, lag } => {
            said.code = "posting";
            said.title = "Rising trot".into();
            let on = diagonal.map_or("On no diagonal for long.".to_owned(), |side| {
                format!("The rider sits with the {} diagonal.", side.word())
            });
            let follows = match lag {
                Some(0) => " The horse follows the rider's tempo at once.".to_owned(),
                Some(1) => " The horse follows the rider's tempo a stride later.".to_owned(),
                Some(n) => format!(" The horse follows the rider's tempo {n} strides later."),
                None => String::new(),
            };
            said.says = format!("{on}{follows}");
            said.figure = format!("± {:.0} % of the stride", 100.0 * scatter);
        }
        Kind::Aids { asked, inside: (inside, of), mean_phase, scatter } => {
            said.code = "aid-timing";
            said.title = format!("When {} falls", asked_name(asked));
            said.says = format!(
                "{inside} of {of} {}; a hand at the keys lags by a fifth to a third of a second.",
                match asked {
                    Asked::Leg(limb) if limb.is_hind() => match schools.aid_timing {
                        AidTiming::HindLeaving => "as that hind is about to leave the ground",
                        AidTiming::OutsideFore => "as the outside fore is about to break over",
                    },
                    Asked::Leg(_) | Asked::Turn(_) => "as the fore is about to break over",
                    Asked::Canter(_) => "as the outside hind takes the ground",
                    Asked::Change => "between the leading fore's footfall and the end of the air",
                    Asked::HalfHalt => "while the outside hind stands",
                }
            );
            said.figure = format!("{:.2} ± {scatter:.2} of the stride", mean_phase);
        }
        Kind::Answer { from, to, strides, score, steps } => {
            said.code = if score < 5.0 { "slow-answer" } else { "answer" };
            said.title = format!("{} to {}", gait_name(from), gait_name(to).to_lowercase());
            let through = match steps {
                0 => String::new(),
                n => format!(", {n} steps in between"),
            };
            said.says = format!(
                "The answer comes {strides:.1} strides after the aid{through}; suggested score {score:.1}."
            );
            said.figure = format!("{strides:.1} strides");
            if score < 5.0 {
                said.try_next = vec![
                    "Two strides trot, walk, trot.",
                    "A light aid, insist once, score each answer.",
                ];
            }
        }
        Kind::Unasked { from, to, counter } => {
            said.code = "unasked-gait";
            let to_word = gait_name(to).to_lowercase();
            said.title = format!("To {to_word}, unasked");
            said.says = if counter && to == Gait::Trot {
                "Out of counter canter into trot: a step of learning, no crime.".into()
            } else {
                format!(
                    "From {} to {to_word} without an aid for it.",
                    gait_name(from).to_lowercase()
                )
            };
            said.figure = "–".into();
            if counter {
                said.try_next = vec![match schools.counter_canter {
                    CounterCanter::Even => "Shorter counter canter at an even pace, then home.",
                    CounterCanter::ForwardBack => {
                        "A few strides forward and back keep the counter canter alive."
                    }
                }];
            }
        }
        Kind::HaltLeft { first, trailing } => {
            said.code = "halt-left";
            said.title = format!("{first} leaves the halt first");
            let school = match (schools.first_from_halt, first.is_hind()) {
                (FirstFromHalt::Hind, true) => "From behind, as is the aim.",
                (FirstFromHalt::Hind, false) => "A fore first; the aim is a hind.",
                (FirstFromHalt::Fore, false) => {
                    "A fore first is what horses do; ask for the hind next."
                }
                (FirstFromHalt::Fore, true) => "A hind first.",
            };
            let trailed = trailing.filter(|l| l.is_hind()).map_or(String::new(), |l| {
                format!(
                    " {l} stood behind: then its diagonal fore tends to go first, and {l} next."
                )
            });
            said.says = format!("{school}{trailed}");
            said.figure = first.code().to_owned();
            if !first.is_hind() {
                said.try_next =
                    vec!["Ride the last steps of the halt from behind, and reward a square one."];
            }
        }
        Kind::HaltHeld { seconds, square } => {
            said.code = "halt";
            said.title = match square {
                Some(true) => "A square halt".into(),
                _ => "A halt".into(),
            };
            said.says = if seconds < 3.0 {
                "Shorter than the three seconds that tests ask for.".into()
            } else {
                "Held for three seconds and more.".into()
            };
            said.figure = format!("{seconds:.1} s");
        }
        Kind::Stepping { strides, lap } => {
            said.code = "stepping-pace";
            said.title = "He slips into stepping pace".into();
            said.says = format!(
                "For {strides} strides the fore follows the hind of its side too soon; even is 25 %."
            );
            said.figure = lap.map_or("–".to_owned(), percent);
            said.try_next = vec!["Slower, straighter, and out of the corner with less speed."];
        }
        Kind::Tracks { tracks, wanted, shoulder } => {
            said.code = "tracks";
            said.title = format!("{tracks} tracks");
            said.says = match wanted {
                Some(w) if w == tracks => "As many as your school wants in shoulder-in.".into(),
                Some(w) => format!("Your school wants {w} in shoulder-in."),
                None => "The hooves run on this many lines.".into(),
            };
            said.figure = shoulder.map_or("–".to_owned(), |a| {
                format!("shoulder {}°", plus_minus(a.scaled(a.value.signum()), 1.0, 0))
            });
        }
        Kind::Air { each, phases } => {
            said.code = "air";
            (said.title, said.says) = match phases {
                Some(0) => ("No air".into(), "One hoof is always on the ground.".into()),
                Some(n) => (
                    "Time in the air".into(),
                    if n == 1 {
                        "Once a stride, all hooves off."
                    } else {
                        "Twice a stride, all hooves off."
                    }
                    .into(),
                ),
                None => (
                    "Air or not?".into(),
                    "This clip cannot tell: the interval reaches over zero.".into(),
                ),
            };
            said.figure = millis(each);
        }
        _ => {}
    }
}

/// Longer or quicker, in words.
fn speed_says(said: &mut Said, change: &SpeedChange, walk: bool) {
    let share = change.tempo_share;
    let slower = change.is_slower();
    (said.code, said.title) = match (change.manner, slower) {
        (Manner::ByStride, false) => ("lengthens", "He lengthens".into()),
        (Manner::ByStride, true) => {
            ("collects", "He shortens the stride and keeps the tempo".into())
        }
        (Manner::Between, false) => ("lengthens-some", "Longer, and quicker too".into()),
        (Manner::Between, true) => ("collects-some", "Shorter, and slower too".into()),
        (Manner::ByTempo, false) => ("rushes", "He rushes".into()),
        (Manner::ByTempo, true) => ("slows", "He slows instead of collecting".into()),
        (Manner::CannotTell, _) => ("speed-untold", "Longer or quicker?".into()),
    };
    said.says = match change.manner {
        Manner::CannotTell => "This clip cannot tell: the interval reaches over a limit.".into(),
        _ => format!(
            "Speed {:+.0} %, stride length {:+.0} %: tempo made {:.0} % of the change.",
            100.0 * (change.speed_ratio - 1.0),
            100.0 * (change.length_ratio - 1.0),
            100.0 * share.value
        ),
    };
    said.figure = format!("{} % by tempo", plus_minus(share, 100.0, 0));
    said.try_next = match (change.manner, slower, walk) {
        (Manner::ByTempo, false, true) => {
            vec!["Slow him until he thinks about each step, then let him grow."]
        }
        (Manner::ByTempo, false, false) => {
            vec!["Shoulder-in first, fewer strides, and back before he runs."]
        }
        (Manner::ByTempo, true, _) => vec![
            "Same tempo, smaller steps: spiral from 20 m to 10 m (8 m at the least) and out again.",
            "Canter–walk from the small circle.",
        ],
        _ => Vec::new(),
    };
}

const OVER_COLLECTED: &str = "Stuck, no wish to go forward, hind legs far under: ride forward and stop the exercise. Young, unfit and returning horses: short doses.";

pub(crate) const fn movement_name(movement: LateralMovement) -> &'static str {
    match movement {
        LateralMovement::ShoulderIn => "Shoulder-in",
        LateralMovement::Travers => "Travers",
        LateralMovement::Renvers => "Renvers",
        LateralMovement::HalfPass => "Half-pass",
        LateralMovement::LegYield => "Leg-yield",
    }
}

fn asked_name(asked: Asked) -> String {
    match asked {
        Asked::Leg(limb) => format!("the leg for {limb}"),
        Asked::Canter(side) => format!("the aid to canter {}", side.word()),
        Asked::Change => "the aid to change".into(),
        Asked::HalfHalt => "the half-halt".into(),
        Asked::Turn(side) => format!("the aid to turn {}", side.word()),
    }
}

fn change_says(
    said: &mut Said,
    verdict: Verdict,
    late: usize,
    steps: usize,
    offered: bool,
    schools: &Schools,
) {
    const COLLECT: [&str; 2] = [
        "Collect over a few strides first, and ask while the canter still has air.",
        "Canter, trot, a 10 m circle, then the other canter.",
    ];
    const FRESH: [&str; 2] = [
        "Freshen the canter before the diagonal.",
        "Canter, trot, a 10 m circle, then the other canter.",
    ];
    let strides = if late == 1 { "1 stride".to_owned() } else { format!("{late} strides") };
    (said.code, said.title, said.says) = match verdict {
        Verdict::Clean => (
            "change-offered",
            "A change was offered".into(),
            "It came before the aid, and clean: that is no fault of his.".into(),
        ),
        Verdict::LateBehind => (
            "late-behind",
            "A change late behind".into(),
            format!("In front first, behind {strides} later."),
        ),
        Verdict::LateInFront => (
            "late-in-front",
            "A change late in front".into(),
            format!("Behind first, in front {strides} later."),
        ),
        Verdict::HindsTogether => (
            "hinds-together",
            "A change with the hinds together".into(),
            "The hinds land at the same time in the changing stride.".into(),
        ),
        Verdict::ThroughTrot => (
            "change-through-trot",
            "A change through trot".into(),
            format!("{steps} steps of trot between the leads."),
        ),
        Verdict::Missed => (
            "change-missed",
            "A change was missed".into(),
            "Asked for, and not given within three strides.".into(),
        ),
        Verdict::NotCompleted => (
            "change-not-completed",
            "A change was not completed".into(),
            "One pair changed and changed back.".into(),
        ),
        Verdict::ChangedBack => (
            "changed-back",
            "He changed and changed back".into(),
            "All four were back on the old lead within two strides.".into(),
        ),
    };
    if offered {
        said.try_next =
            vec!["Keep the lead across the diagonal into counter canter, change only on the aid."];
    } else if verdict != Verdict::Clean {
        said.try_next = match schools.preparing_change {
            PreparingChange::Forward => FRESH.to_vec(),
            PreparingChange::Collect => COLLECT.to_vec(),
        };
    }
}

fn change_word(verdict: Verdict, late: usize) -> String {
    match verdict {
        Verdict::Clean => "clean".into(),
        Verdict::LateBehind => format!("late behind by {late}"),
        Verdict::LateInFront => format!("late in front by {late}"),
        Verdict::HindsTogether => "with the hinds together".into(),
        Verdict::ThroughTrot => "through trot".into(),
        Verdict::Missed => "missed".into(),
        Verdict::NotCompleted => "not completed".into(),
        Verdict::ChangedBack => "taken back".into(),
    }
}

fn ordinal(n: usize) -> String {
    const WORDS: [&str; 9] =
        ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth"];
    n.checked_sub(1)
        .and_then(|k| WORDS.get(k))
        .map_or_else(|| format!("{n}th"), |word| (*word).to_owned())
}

/// How sure, in words.
pub const fn sure(sure: Sure) -> &'static str {
    match sure {
        Sure::Clear => "clear",
        Sure::Likely => "likely",
        Sure::CannotTell => "cannot tell",
    }
}

/// Why a figure is missing.
pub const fn why(why: Why) -> &'static str {
    match why {
        Why::NoTimingError => "no frame rate and no timing error given, so errors are not known",
        Why::NoOffs => "no off times in this bout",
        Why::NoPositions => "no hoof positions, letter passes or figure to measure by",
        Why::NoWithers => "no height at the withers given",
        Why::NotInThisGait => "this gait has no such figure",
        Why::LimbMissing => "not every limb it needs is marked",
        Why::TooFewStrides => "needs at least four strides",
        Why::CannotTell => "the interval reaches over the limit: this clip cannot tell",
        Why::NoRein => "neither rein nor asked lead is given",
        Why::ShortBout => "short bout: first and last stride are used too",
        Why::AfterChange => "the canter begins with a flying change: the lead wanted is not known",
        Why::NotMarked => "the coach marked none",
        Why::Standing => "the horse stands: there are no strides",
        Why::NoMarks => "no marks in this stretch",
        Why::Unseen => "the hooves are out of view here",
    }
}

/// Why a mark was left out.
pub fn dropped(reason: &DropReason) -> String {
    match reason {
        DropReason::Double { limb, apart_s } => {
            format!("second mark of {limb} only {:.0} ms after the first", apart_s * 1000.0)
        }
        DropReason::OffAfterNext { limb } => {
            format!("stance of {limb} outlasts its next footfall; its end is not used")
        }
    }
}

/// What the clip's marks are worth, in words; `sd_s` of one mark.
pub fn timing(sd_s: Option<f64>) -> String {
    let Some(sd) = sd_s else {
        return "timing error not known: give the frame rate".to_owned();
    };
    let ms = sd * 1000.0;
    let good = if ms <= 3.0 {
        "good enough for canter beats"
    } else if ms <= 6.0 {
        "good for tempo and lead, coarse for canter beats"
    } else {
        "tempo and lead only; film at 120 frames/s or more for beats"
    };
    format!("footfalls known to ±{ms:.1} ms: {good}")
}

fn first_of(split: Estimate) -> &'static str {
    if split.value >= 0.0 { "hind" } else { "fore" }
}

/// Which of a diagonal pair lands first, if the interval tells.
fn lands(hind_first: Estimate) -> &'static str {
    match hind_first.ci95 {
        Some((lo, _)) if lo > 0.0 => "hind first",
        Some((_, hi)) if hi < 0.0 => "fore first",
        _ => "together as far as this clip can tell",
    }
}

fn signed(e: Estimate, scale: f64, digits: usize) -> String {
    let half = e.half_width().map_or(String::new(), |h| format!(" ± {:.digits$}", h * scale));
    format!("{:+.digits$}{half}", e.value * scale)
}

fn signed_millis(e: Estimate) -> String {
    let half = e.half_width().map_or(String::new(), |h| format!(" ± {:.0}", h * 1000.0));
    format!("{:+.0}{half}", e.value * 1000.0)
}

fn millis(e: Estimate) -> String {
    format!("{} ms", plus_minus(e, 1000.0, 0))
}

fn percent(e: Estimate) -> String {
    format!("{} %", plus_minus(e, 100.0, 1))
}

fn plus_minus(e: Estimate, scale: f64, digits: usize) -> String {
    match e.half_width() {
        Some(half) => format!("{:.digits$} ± {:.digits$}", e.value * scale, half * scale),
        None => format!("{:.digits$}", e.value * scale),
    }
}

/// A session in one sentence: what was ridden, and what matters most.
pub fn session(
    ridden: &[Ridden],
    matters: &[Matter],
    clips: &[Analysis],
    untimed: usize,
) -> String {
    if clips.is_empty() {
        return "No footage in this session yet.".into();
    }
    let Some(most) = ridden.first() else {
        return "Filmed, not timed yet: open a clip and mark the first footfalls.".into();
    };
    let on = most.rein.map_or(String::new(), |r| format!(" on the {} rein", r.word()));
    let what = format!("Mostly {}{on}", label(most.label).to_lowercase());
    let first = matters.first().map(|m| &clips[m.analysis].findings[m.finding]);
    let fault = first.filter(|f| finding::is_fault(&f.kind));
    let next = match fault {
        Some(f) => {
            let title = say(f, &Schools::default()).title;
            let mut letters = title.chars();
            let first: String = letters.next().into_iter().flat_map(char::to_lowercase).collect();
            format!("; what matters most: {first}{}", letters.as_str())
        }
        None => "; nothing asks for attention".into(),
    };
    let waiting = match untimed {
        0 => String::new(),
        1 => " One clip waits to be timed.".into(),
        n => format!(" {n} clips wait to be timed."),
    };
    format!("{what}{next}.{waiting}")
}

/// The coach's own scatter.
pub fn scatter(found: Option<Scatter>) -> String {
    let Some(found) = found else {
        return format!(
            "Mark at least {FEWEST_PAIRS} of the same footfalls again: fewer do not tell your scatter."
        );
    };
    let ms = |s: f64| format!("{:.1}", 1000.0 * s);
    format!(
        "Your hand scatters by {} ms a mark ({} to {}), from {} footfalls marked twice.",
        ms(found.sd_s),
        ms(found.ci95.0),
        ms(found.ci95.1),
        found.pairs
    )
}

/// A place where the marks look wrong.
pub fn check(doubt: Doubt) -> String {
    match doubt {
        Doubt::Missing(limb) => format!("{} due here, not marked", limb.name()),
        Doubt::OutOfPlace(limb) => format!(
            "{} far from its place in the other strides: right limb, right frame?",
            limb.name()
        ),
    }
}
