//! Findings of the ground in words: lengths, ways that disagree, what the prints show.

use crate::base::gait::Gait;
use crate::findings::ground_kind::GroundKind;
use crate::ground::lateral_seen::{Seen, Untold};
use crate::ground::plausibility::{Impossible, alexander};
use crate::ground::source::Source;
use crate::marks::movement::LateralMovement;
use crate::stats::estimate::Estimate;
use crate::words::advice;
use crate::words::names::{gait_name, lateral_name, source_name};
use crate::words::numbers::{degrees, metres, metres_a_second};
use crate::words::sentence::Sentence;

/// A clause for the desk's headline.
pub(crate) fn clause(kind: &GroundKind) -> String {
    match kind {
        GroundKind::Stride { length, .. } => format!("strides of {}", metres(*length)),
        GroundKind::Impossible { what, .. } => {
            format!("a stride of {:.1} withers heights, which cannot be", what.heights)
        }
        GroundKind::Disagree { .. } => "two ways to its length that disagree".into(),
        GroundKind::MoveCamera { .. } => "filmed from a bad place for lengths".into(),
        GroundKind::Lateral { seen, .. } => lateral_name(seen.movement).to_lowercase(),
        GroundKind::Untold { .. } => "a lateral movement without a name".into(),
        GroundKind::Crooked { .. } => "the quarters beside the forehand".into(),
    }
}

/// A finding of the ground in words.
pub(crate) fn say(kind: &GroundKind) -> Sentence {
    match kind {
        GroundKind::Stride { length, speed, source, size_free } => {
            stride(*length, *speed, *source, *size_free)
        }
        GroundKind::Impossible { what, gait } => impossible(what, *gait),
        GroundKind::Disagree { used, other } => disagree(*used, *other),
        GroundKind::MoveCamera { angle_deg, share } => move_camera(*angle_deg, *share),
        GroundKind::Lateral { seen, said } => lateral(seen, *said),
        GroundKind::Untold { why } => untold(*why),
        GroundKind::Crooked { beside } => crooked(*beside),
    }
}

fn stride(
    length: Estimate,
    speed: Estimate,
    source: Source,
    size_free: Option<(f64, f64)>,
) -> Sentence {
    let size = size_free.map_or(String::new(), |(heights, froude)| {
        format!(
            " That is {heights:.2} withers heights, Froude number {froude:.2} (an animal of this size strides about {:.1} hip heights at that speed).",
            alexander(froude)
        )
    });
    let says = format!(
        "{} a stride at {}, by {}.{size}",
        metres(length),
        metres_a_second(speed),
        source_name(source)
    );
    Sentence::new("stride-length", "How long the strides are", says, metres(length))
}

fn impossible(what: &Impossible, gait: Gait) -> Sentence {
    let says = format!(
        "A {} stride of {:.1} withers heights is {} than any horse's. Is the {} wrong, the horse's height, or the clip's speed?",
        gait_name(gait).to_lowercase(),
        what.heights,
        if what.too_long { "longer" } else { "shorter" },
        source_name(what.source)
    );
    let look = match what.source {
        Source::Ground => advice::CHECK_PLANE_POINTS,
        Source::Bar => advice::CHECK_BAR,
        Source::Letters => advice::CHECK_LETTERS,
        Source::Figure => advice::CHECK_ROUNDS,
        Source::Withers => advice::CHECK_HEIGHT,
    };
    let figure = format!("{:.1} heights", what.heights);
    Sentence::new("length-impossible", "This length cannot be", says, figure).advising(&[look])
}

fn disagree(used: (Source, Estimate), other: (Source, Estimate)) -> Sentence {
    let says = format!(
        "By {} the stride is {}, by {} {}: one of them is wrong.",
        source_name(used.0),
        metres(used.1),
        source_name(other.0),
        metres(other.1)
    );
    let apart = (used.1.value / other.1.value - 1.0) * 100.0;
    let title = "Two ways to one length disagree";
    Sentence::new("ways-disagree", title, says, format!("{apart:+.0} %"))
}

fn move_camera(angle_deg: Option<f64>, share: f64) -> Sentence {
    let why = angle_deg.filter(|a| *a < 40.0).map_or_else(
        || "From here a hoof's place is hard to click".to_owned(),
        |a| format!("The camera looks along the track ({a:.0}° to it)"),
    );
    let says = format!(
        "{why}: one stride is known only to ± {:.0} %. Stand square to the track, higher or nearer.",
        100.0 * share
    );
    let figure = format!("± {:.0} % a stride", 100.0 * share);
    Sentence::new("move-camera", "Move the camera", says, figure)
}

/// A lateral movement that the prints show; `marked` is what the coach said was ridden.
fn lateral(seen: &Seen, marked: Option<LateralMovement>) -> Sentence {
    let name = lateral_name(seen.movement);
    let angle = degrees(Estimate { value: seen.body_deg, sd: None, ci95: None, n: 1 });
    let bend = match seen.bend_deg {
        b if b.abs() < 8.0 => "straight".to_owned(),
        b => format!("bent {} by {:.0}°", side(b), b.abs()),
    };
    let figure = format!("{:.0}° body", seen.body_deg.abs());
    match marked.filter(|m| *m != seen.movement) {
        Some(other) => {
            let says = format!(
                "Marked as {}; the body goes {angle} to the track, {bend}: that is {}.",
                lateral_name(other).to_lowercase(),
                name.to_lowercase()
            );
            let title = format!("The prints show {}", name.to_lowercase());
            Sentence::new("other-movement", title, says, figure)
        }
        None => {
            let says = format!("The body goes {angle} to the track, {bend}.");
            Sentence::new("movement-seen", format!("{name}, by the prints"), says, figure)
        }
    }
}

fn untold(why: Untold) -> Sentence {
    let says = match why {
        Untold::Vague => {
            "The horse goes on more than its two tracks; the clicks leave bend or angle open. Cannot tell."
        }
        Untold::NoWall => {
            "Bent towards where it goes: travers, renvers or half-pass. Without the arena's walls: cannot tell."
        }
        Untold::NoName => {
            "Sideways and bent, but not as in shoulder-in, travers, renvers or half-pass. Cannot tell."
        }
    };
    Sentence::new("movement-untold", "Which lateral movement?", says, "")
}

fn crooked(beside: Estimate) -> Sentence {
    let cm = 100.0 * beside.value.abs();
    let says = format!(
        "On the straight the hinds run {cm:.0} cm to the {} of the fores.",
        side(beside.value)
    );
    let half = beside.half_width().map_or(String::new(), |h| format!(" ± {:.0}", 100.0 * h));
    let figure = format!("{cm:.0}{half} cm");
    Sentence::new("crooked", "The quarters beside the forehand", says, figure)
        .advising(&[advice::FOREHAND_IN_FRONT])
}

const fn side(left_positive: f64) -> &'static str {
    if left_positive > 0.0 { "left" } else { "right" }
}
