//! Findings of single bouts in words: clock, leads, beats, rhythm, symmetry, air.

use crate::base::limb::Side;
use crate::base::schools::{NamingWalk, Schools};
use crate::figures::drift::Drift;
use crate::figures::regularity::Regularity;
use crate::findings::kind::{FourBeatManner, RegularityBand};
use crate::stats::estimate::Estimate;
use crate::words::names::{end_word, speed_question};
use crate::words::numbers::{counted, millis, percent, plus_minus, signed_millis};
use crate::words::sentence::Sentence;
use crate::words::{advice, cautions};

pub(crate) fn slow_motion(tempo: f64, factor: f64) -> Sentence {
    let says = format!(
        "At this speed the horse would take {tempo:.0} strides a minute: {} That would make it {:.0}.",
        speed_question(factor),
        tempo * factor
    );
    Sentence::new("slow-motion", "Is the clip's clock right?", says, format!("{tempo:.1} /min"))
}

pub(crate) fn disunited(strides: usize) -> Sentence {
    let says = "Hinds and fores canter on different leads; it is uncomfortable for both.";
    Sentence::new("disunited", "Disunited", says, counted(strides, "stride"))
        .advising(&[advice::STRIKE_OFF_AGAIN])
        .cautioning(cautions::DISUNITED)
}

pub(crate) fn wrong_lead(got: Side) -> Sentence {
    let says = format!("The horse canters on the {} lead.", got.word());
    Sentence::new("wrong-lead", "Not the lead wanted", says, format!("{} lead", got.word()))
        .advising(&[advice::STRIKE_OFF_ON_CIRCLE])
}

pub(crate) fn four_beats(
    dissociation: Estimate,
    no_air: bool,
    manner: Option<FourBeatManner>,
) -> Sentence {
    let title = match manner {
        Some(FourBeatManner::Laboured) => "Four beats, laboured",
        Some(FourBeatManner::Hurried) => "Four beats, hurried",
        None => "Four beats",
    };
    let how = match (no_air, manner) {
        (_, Some(FourBeatManner::Laboured)) => {
            ", there is no air and the tempo falls: he wants more energy"
        }
        (_, Some(FourBeatManner::Hurried)) => ", at a high tempo: he runs",
        (true, None) => ", and there is no air",
        (false, None) => "",
    };
    let says = format!("The diagonal comes apart, {} first{how}.", first_of(dissociation));
    let advice: &[_] = match manner {
        Some(FourBeatManner::Hurried) => &[advice::QUIET_CLICK],
        _ => &[advice::THREE_BIGGER, advice::MEDIUM_CANTER],
    };
    Sentence::new("four-beat-canter", title, says, millis(dissociation))
        .advising(advice)
        .cautioning(cautions::STUCK)
}

pub(crate) fn split_beats(dissociation: Estimate) -> Sentence {
    let says = format!(
        "The second beat is a little apart, {} first; collected canters do that.",
        first_of(dissociation)
    );
    Sentence::new("split-canter", "Slightly split diagonal", says, millis(dissociation))
}

pub(crate) fn three_beats(dissociation: Estimate) -> Sentence {
    let says = "The diagonal lands together.";
    Sentence::new("three-beat-canter", "Three clear beats", says, millis(dissociation))
}

pub(crate) fn beats_untold(dissociation: Estimate) -> Sentence {
    let says = "This clip cannot tell: more strides, or a higher frame rate, would settle it.";
    let title = "Three beats or four?";
    Sentence::new("canter-beats-unresolved", title, says, millis(dissociation))
}

pub(crate) fn lateral_walk(lap: Estimate) -> Sentence {
    let says = "The fore follows the hind of its side too soon; even is 25 %.";
    Sentence::new("lateral-walk", "Walk drifts to lateral", says, percent(lap))
        .advising(&[advice::THINK_OF_EACH_STEP])
}

pub(crate) fn diagonal_walk(lap: Estimate) -> Sentence {
    let says = "The fore follows the hind of its side late; even is 25 %.";
    Sentence::new("diagonal-walk", "Walk drifts to diagonal", says, percent(lap))
        .advising(&[advice::THINK_OF_EACH_STEP])
}

pub(crate) fn even_walk(rms_pct: f64, schools: &Schools) -> Sentence {
    let order = match schools.naming_walk {
        NamingWalk::Lateral => "In the order LH, LF, RH, RF",
        NamingWalk::Diagonal => "Read from the fore: LF, RH, RF, LH",
    };
    let says =
        format!("{order}; the four gaps lie this far from 25 % each, as a root mean square.");
    Sentence::new("even-walk", "Four even beats", says, format!("{rms_pct:.1} %"))
}

pub(crate) fn drift(drift: Drift) -> Sentence {
    let says = format!(
        "He gets {} by {:.0} % over this bout, too slowly to be felt.",
        if drift.per_min > 0.0 { "quicker" } else { "slower" },
        100.0 * drift.total_share.abs()
    );
    Sentence::new("tempo-drift", "The tempo drifts", says, slope(drift))
        .advising(&[advice::RIDE_TO_A_CLICK])
}

pub(crate) fn tempo_change(drift: Drift) -> Sentence {
    let says = format!(
        "Within ten seconds the tempo gets {} by {:.0} %: that can be felt.",
        if drift.in_ten_s > 0.0 { "quicker" } else { "slower" },
        100.0 * drift.in_ten_s.abs()
    );
    Sentence::new("tempo-change", "The tempo does not hold", says, slope(drift))
        .advising(&[advice::RIDE_TO_A_CLICK])
}

fn slope(drift: Drift) -> String {
    let (lo, hi) = drift.ci95;
    format!("{:+.1} ({lo:+.1} to {hi:+.1}) /min a minute", drift.per_min)
}

pub(crate) fn diagonals([left, right]: [Estimate; 2]) -> Sentence {
    let says = format!(
        "Left hind with right fore: {}. Right hind with left fore: {}.",
        lands(left),
        lands(right)
    );
    let figure = format!("{} · {} ms", signed_millis(left), signed_millis(right));
    Sentence::new("trot-diagonals", "How the diagonals land", says, figure)
}

pub(crate) fn steadiness(regularity: Regularity, band: Option<RegularityBand>) -> Sentence {
    let title = band.map_or("Regularity cannot be told", |b| match b {
        RegularityBand::VeryRegular => "Very regular",
        RegularityBand::Regular => "Regular",
        RegularityBand::Unsettled => "Unsettled",
        RegularityBand::Irregular => "Irregular",
    });
    let (says, figure) = if let Some(most) = regularity.at_most {
        let says = format!(
            "{} for this clip to measure; the strides differ by at most {most:.1} %.",
            if band.is_some() { "Too regular" } else { "The strides differ too little" }
        );
        (says, format!("≤ {most:.1} %"))
    } else {
        let says = "How much one stride differs from the next, marking error taken out.";
        let value = regularity.value;
        let figure = regularity
            .ci95
            .map_or(format!("{value:.1} %"), |(lo, hi)| format!("{value:.1} % ({lo:.1}–{hi:.1})"));
        (says.to_owned(), figure)
    };
    let out = Sentence::new("regularity", title, says, figure);
    if matches!(band, Some(RegularityBand::Irregular | RegularityBand::Unsettled)) {
        out.advising(&[advice::RIDE_TO_A_CLICK]).cautioning(cautions::UNEVEN_STEPS)
    } else {
        out
    }
}

pub(crate) fn uneven_stance(hind: bool, index: Estimate) -> Sentence {
    let side = if index.value > 0.0 { Side::Left } else { Side::Right };
    let title = format!("Left and right {} differ", end_word(hind));
    let says = format!("The {} {} stands longer.", side.word(), end_word(hind));
    Sentence::new("uneven-stance", title, says, format!("{} %", plus_minus(index, 1.0, 1)))
        .cautioning(cautions::LEFT_AND_RIGHT)
}

pub(crate) fn uneven_steps(index: Estimate) -> Sentence {
    let side = if index.value > 0.0 { Side::Left } else { Side::Right };
    let says = format!("The step onto the {} hind takes longer.", side.word());
    let figure = format!("{} %", plus_minus(index, 1.0, 1));
    Sentence::new("uneven-steps", "Left and right steps differ", says, figure)
        .cautioning(cautions::LEFT_AND_RIGHT)
}

pub(crate) fn suspension(each: Estimate, phases: Option<usize>) -> Sentence {
    let (title, says) = match phases {
        Some(0) => ("No air", "One hoof is always on the ground."),
        Some(1) => ("Time in the air", "Once a stride, all hooves off."),
        Some(_) => ("Time in the air", "Twice a stride, all hooves off."),
        None => ("Air or not?", "This clip cannot tell: the interval reaches over zero."),
    };
    Sentence::new("air", title, says, millis(each))
}

pub(crate) fn stepping(strides: usize, lap: Option<Estimate>) -> Sentence {
    let says = format!(
        "For {} the fore follows the hind of its side too soon; even is 25 %.",
        counted(strides, "stride")
    );
    let figure = lap.map_or("–".to_owned(), percent);
    Sentence::new("stepping-pace", "He slips into stepping pace", says, figure)
        .advising(&[advice::OUT_OF_CORNER_SLOWER])
}

fn first_of(dissociation: Estimate) -> &'static str {
    if dissociation.value >= 0.0 { "hind" } else { "fore" }
}

/// Which of a diagonal pair lands first, if the interval tells.
fn lands(hind_first: Estimate) -> &'static str {
    match hind_first.ci95 {
        Some((lo, _)) if lo > 0.0 => "hind first",
        Some((_, hi)) if hi < 0.0 => "fore first",
        _ => "together as far as this clip can tell",
    }
}
