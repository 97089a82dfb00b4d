//! Work that the coach planned or marked, in words: pirouettes, rein-back, lateral work, lengthening
//! and collecting, forward and back, drills.

use crate::base::limb::Side;
use crate::base::schools::{CollectingTempo, Schools};
use crate::events::speed_change::{Manner, SpeedChange};
use crate::marks::movement::LateralMovement;
use crate::stats::estimate::Estimate;
use crate::words::names::lateral_name;
use crate::words::numbers::{counted, plus_minus, signed};
use crate::words::sentence::Sentence;
use crate::words::{advice, cautions};

/// A pirouette.
pub(crate) struct Pirouette {
    pub strides: usize,
    pub expected: (usize, usize),
    pub lost: usize,
    pub best_run: usize,
    pub tempo_ratio: Option<f64>,
}

pub(crate) fn pirouette(p: &Pirouette, schools: &Schools) -> Sentence {
    let Pirouette { strides, expected: (few, most), lost, best_run, tempo_ratio } = *p;
    let title = if lost > 0 { "The pirouette loses the canter" } else { "A pirouette in canter" };
    let taken = counted(strides, "stride");
    let count = if strides < few {
        format!("{taken} where {few} to {most} are wanted: turned too quickly.")
    } else if strides > most {
        format!("{taken} where {few} to {most} are wanted: stuck on the spot.")
    } else {
        format!("{taken}, as wanted ({few} to {most}).")
    };
    let kept = if lost > 0 {
        format!(" In {lost} the hinds no longer land as a couplet; {best_run} good ones in a row.")
    } else {
        String::new()
    };
    let tempo = tempo_ratio.map_or(String::new(), |r| pirouette_tempo(r, schools));
    let figure = format!("{best_run}/{strides} strides kept");
    let out = Sentence::new("pirouette", title, format!("{count}{kept}{tempo}"), figure);
    if lost > 0 || strides > most {
        out.advising(&[advice::WORKING_PIROUETTE, advice::OUT_AFTER_GOOD_STRIDES])
            .cautioning(cautions::OVER_COLLECTED)
    } else {
        out
    }
}

fn pirouette_tempo(ratio: f64, schools: &Schools) -> String {
    let slower = 100.0 * (1.0 - ratio);
    let way = if slower > 0.0 { "slower" } else { "quicker" };
    match schools.collecting_tempo {
        _ if slower.abs() < 3.0 => " The tempo is that of the canter before.".to_owned(),
        CollectingTempo::Same => format!(
            " The tempo is {:.0} % {way} than before; the same is aimed for, measured pirouettes are slower.",
            slower.abs()
        ),
        CollectingTempo::Slower => format!(
            " The tempo is {:.0} % {way} than before; a touch slower is aimed for.",
            slower.abs()
        ),
    }
}

pub(crate) fn rein_back(steps: usize, (together, of): (usize, usize)) -> Sentence {
    let says = if of == 0 {
        "Only one hoof of each pair is marked.".to_owned()
    } else if together == of {
        "Every step in a diagonal pair.".to_owned()
    } else {
        format!("{together} of {of} steps in diagonal pairs; the others drag apart.")
    };
    Sentence::new("rein-back", "Rein-back", says, counted(steps, "step"))
}

/// Lateral work against straight work; `limit_pct` is the loss of tempo from which it is spoken of.
pub(crate) fn lateral(
    movement: LateralMovement,
    side: Option<Side>,
    tempo_change: Estimate,
    loses: bool,
    limit_pct: f64,
) -> Sentence {
    let code = if loses { "lateral-loses-tempo" } else { "lateral-tempo" };
    let name = lateral_name(movement);
    let title = match (loses, side) {
        (true, Some(side)) => format!("{name} {} loses tempo", side.word()),
        (true, None) => format!("{name} loses tempo"),
        (false, Some(side)) => format!("{name} {}", side.word()),
        (false, None) => name.to_owned(),
    };
    let says = match (loses, tempo_change.ci95) {
        (true, _) => "Slower than in the straight work beside it.",
        (false, Some((lo, hi))) if lo > -limit_pct && hi < limit_pct => {
            "The tempo of the straight work is held."
        }
        (false, _) => "Against the straight work beside it; a loss cannot be told.",
    };
    let advice: &[_] = match (loses, movement) {
        (false, _) => &[],
        (true, LateralMovement::HalfPass) => {
            &[advice::HALF_PASS_FROM_DIAGONAL, advice::LATERAL_THEN_MEDIUM]
        }
        (true, _) => &[advice::LATERAL_THEN_MEDIUM, advice::INNER_TRACK],
    };
    let figure = format!("{} % tempo", signed(tempo_change, 1.0, 1));
    Sentence::new(code, title, says, figure).advising(advice)
}

pub(crate) fn both_sides(
    movement: LateralMovement,
    difference: Estimate,
    weaker: Option<Side>,
) -> Sentence {
    let title = format!("{}, left against right", lateral_name(movement));
    let says = weaker.map_or_else(
        || "A difference between the sides cannot be told from one.".to_owned(),
        |side| format!("To the {} the tempo falls more.", side.word()),
    );
    let figure = format!("{} % tempo", signed(difference, 1.0, 1));
    let out = Sentence::new("lateral-sides", title, says, figure);
    match weaker {
        Some(_) => out.advising(&[advice::MORE_ON_THAT_REIN]).cautioning(cautions::SIDES),
        None => out,
    }
}

/// Longer or quicker.
pub(crate) fn speed(change: &SpeedChange, walk: bool) -> Sentence {
    let share = change.tempo_share;
    let slower = change.is_slower();
    let (code, title) = match (change.manner, slower) {
        (Manner::ByStride, false) => ("lengthens", "He lengthens"),
        (Manner::ByStride, true) => ("collects", "He shortens the stride and keeps the tempo"),
        (Manner::Between, false) => ("lengthens-some", "Longer, and quicker too"),
        (Manner::Between, true) => ("collects-some", "Shorter, and slower too"),
        (Manner::ByTempo, false) => ("rushes", "He rushes"),
        (Manner::ByTempo, true) => ("slows", "He slows instead of collecting"),
        (Manner::CannotTell, _) => ("speed-untold", "Longer or quicker?"),
    };
    let says = match change.manner {
        Manner::CannotTell => {
            "This clip cannot tell: the interval reaches over a limit.".to_owned()
        }
        _ => format!(
            "Speed {:+.0} %, stride length {:+.0} %: tempo made {:.0} % of the change.",
            100.0 * (change.speed_ratio - 1.0),
            100.0 * (change.length_ratio - 1.0),
            100.0 * share.value
        ),
    };
    let advice: &[_] = match (change.manner, slower, walk) {
        (Manner::ByTempo, false, true) => &[advice::THINK_OF_EACH_STEP],
        (Manner::ByTempo, false, false) => &[advice::SHOULDER_IN_FIRST],
        (Manner::ByTempo, true, _) => {
            &[advice::SPIRAL_NO_SMALLER, advice::CANTER_WALK_SMALL_CIRCLE]
        }
        _ => &[],
    };
    let figure = format!("{} % by tempo", plus_minus(share, 100.0, 0));
    Sentence::new(code, title, says, figure).advising(advice)
}

pub(crate) fn forward_back(
    stride_ratio: Option<f64>,
    held_pct: f64,
    breaks: usize,
    strides_to_change: Option<f64>,
) -> Sentence {
    let ratio = stride_ratio.map_or("Stride length is not known here.".to_owned(), |r| {
        format!("The big stride is {r:.2} times the small one.")
    });
    let took =
        strides_to_change.map_or(String::new(), |n| format!(" Each change takes {n:.1} strides."));
    let broke = match breaks {
        0 => String::new(),
        1 => " He broke the gait once.".to_owned(),
        n => format!(" He broke the gait {n} times."),
    };
    let figure = format!("tempo within {held_pct:.1} %");
    let out =
        Sentence::new("forward-back", "Forward and back", format!("{ratio}{took}{broke}"), figure);
    if held_pct > 5.0 { out.advising(&[advice::SPIRAL]) } else { out }
}

pub(crate) fn drill(
    (a, b): (usize, usize),
    (kept, of): (usize, usize),
    trend_s: Option<f64>,
) -> Sentence {
    let trend = match trend_s {
        Some(s) if s < -0.02 => " He answers quicker from change to change.",
        Some(s) if s > 0.02 => " His answers get slower: enough for now.",
        Some(_) => " His answers stay the same.",
        None => "",
    };
    let title = format!("Drill: {a} strides, {b} strides");
    let says = format!("{kept} of {of} whole stretches to the count.{trend}");
    Sentence::new("drill", title, says, format!("{kept}/{of}"))
        .advising(&[advice::SCORE_EACH_ANSWER])
}

pub(crate) fn tracks(tracks: u8, wanted: Option<u8>, shoulder: Option<Estimate>) -> Sentence {
    let says = match wanted {
        Some(w) if w == tracks => "As many as your school wants in shoulder-in.".to_owned(),
        Some(w) => format!("Your school wants {w} in shoulder-in."),
        None => "The hooves run on this many lines.".to_owned(),
    };
    let figure = shoulder.map_or("–".to_owned(), |a| {
        format!("shoulder {}°", plus_minus(a.scaled(a.value.signum()), 1.0, 0))
    });
    Sentence::new("tracks", format!("{tracks} tracks"), says, figure)
}
