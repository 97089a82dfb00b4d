//! Every kind of finding in words: plain coach's English, figures with units and error.

use crate::base::gait::Gait;
use crate::base::limb::Side;
use crate::base::schools::{
    AidTiming, CollectingTempo, CounterCanter, FirstFromHalt, NamingWalk, PreparingChange, Schools,
};
use crate::events::flying_change::Verdict;
use crate::events::speed_change::{Manner, SpeedChange};
use crate::events::tempi::Fault;
use crate::findings::finding::Finding;
use crate::findings::kind::{Asked, FourBeatManner, Kind, RegularityBand};
use crate::marks::movement::LateralMovement;
use crate::stats::estimate::Estimate;
use crate::words;
use crate::words::names::{
    asked_name, change_word, end_word, gait_name, lateral_name, speed_question,
};
use crate::words::numbers::{millis, ordinal, percent, plus_minus, signed, signed_millis};
use crate::words::sentence::Sentence;

/// A finding in words.
pub fn say(finding: &Finding, schools: &Schools) -> Sentence {
    let mut said = Sentence {
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
        Kind::Ground(ref ground) => words::of_ground::says(&mut said, ground),
        ref work => work_says(&mut said, work, schools),
    }
    said
}

/// Sentences about work that the coach planned or marked.
fn work_says(said: &mut Sentence, kind: &Kind, schools: &Schools) {
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
            let name = lateral_name(movement);
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
            said.title = format!("{}, left against right", lateral_name(movement));
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
fn speed_says(said: &mut Sentence, change: &SpeedChange, walk: bool) {
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

fn change_says(
    said: &mut Sentence,
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
