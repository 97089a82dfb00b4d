//! Findings of the ground in words.

use crate::findings::ground_kind::GroundKind;
use crate::ground::lateral_seen::Untold;
use crate::ground::source::Source;
use crate::stats::estimate::Estimate;
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
pub(crate) fn says(said: &mut Sentence, kind: &GroundKind) {
    match kind {
        GroundKind::Stride { length, speed, source, size_free } => {
            said.code = "stride-length";
            said.title = "How long the strides are".into();
            let size = size_free.map_or(String::new(), |(heights, froude)| {
                format!(
                    " That is {heights:.2} withers heights, Froude number {froude:.2} (an animal of this size strides about {:.1} hip heights at that speed).",
                    crate::ground::plausibility::alexander(froude)
                )
            });
            said.says = format!(
                "{} a stride at {}, by {}.{size}",
                metres(*length),
                metres_a_second(*speed),
                source_name(*source)
            );
            said.figure = metres(*length);
        }
        GroundKind::Impossible { what, gait } => {
            said.code = "length-impossible";
            said.title = "This length cannot be".into();
            said.says = format!(
                "A {} stride of {:.1} withers heights is {} than any horse's. Is the {} wrong, the horse's height, or the clip's speed?",
                gait_name(*gait).to_lowercase(),
                what.heights,
                if what.too_long { "longer" } else { "shorter" },
                source_name(what.source)
            );
            said.figure = format!("{:.1} heights", what.heights);
            said.try_next = vec![match what.source {
                Source::Ground => {
                    "Look at the points of the ground plane: is each name at its place?"
                }
                Source::Bar => {
                    "Measure the bar again, and click its ends where they touch the ground."
                }
                Source::Letters => {
                    "Check which letters were passed, and the two distances of the camera."
                }
                Source::Figure => {
                    "Check the diameter really ridden, and that the stretch is whole rounds."
                }
                Source::Withers => {
                    "Check the horse's height, and that it stands square to the camera."
                }
            }];
        }
        GroundKind::Disagree { used, other } => {
            said.code = "ways-disagree";
            said.title = "Two ways to one length disagree".into();
            said.says = format!(
                "By {} the stride is {}, by {} {}: one of them is wrong.",
                source_name(used.0),
                metres(used.1),
                source_name(other.0),
                metres(other.1)
            );
            let apart = (used.1.value / other.1.value - 1.0) * 100.0;
            said.figure = format!("{apart:+.0} %");
        }
        GroundKind::MoveCamera { angle_deg, share } => {
            said.code = "move-camera";
            said.title = "Move the camera".into();
            let why = angle_deg.filter(|a| *a < 40.0).map_or_else(
                || "From here a hoof's place is hard to click".to_owned(),
                |a| format!("The camera looks along the track ({a:.0}° to it)"),
            );
            said.says = format!(
                "{why}: one stride is known only to ± {:.0} %. Stand square to the track, higher or nearer.",
                100.0 * share
            );
            said.figure = format!("± {:.0} % a stride", 100.0 * share);
        }
        GroundKind::Lateral { seen, said: told } => {
            let name = lateral_name(seen.movement);
            let body = Estimate { value: seen.body_deg, sd: None, ci95: None, n: 1 };
            let bend = match seen.bend_deg {
                b if b.abs() < 8.0 => "straight".to_owned(),
                b => format!("bent {} by {:.0}°", side(b), b.abs()),
            };
            let angle = degrees(body);
            match told {
                Some(other) if *other != seen.movement => {
                    said.code = "other-movement";
                    said.title = format!("The prints show {}", name.to_lowercase());
                    said.says = format!(
                        "Marked as {}; the body goes {angle} to the track, {bend}: that is {}.",
                        lateral_name(*other).to_lowercase(),
                        name.to_lowercase()
                    );
                }
                _ => {
                    said.code = "movement-seen";
                    said.title = format!("{name}, by the prints");
                    said.says = format!("The body goes {angle} to the track, {bend}.");
                }
            }
            said.figure = format!("{:.0}° body", seen.body_deg.abs());
        }
        GroundKind::Untold { why } => {
            said.code = "movement-untold";
            said.title = "Which lateral movement?".into();
            said.says = match why {
                Untold::Vague => {
                    "The horse goes on more than its two tracks; the clicks leave bend or angle open. Cannot tell."
                }
                Untold::NoWall => {
                    "Bent towards where it goes: travers, renvers or half-pass. Without the arena's walls: cannot tell."
                }
                Untold::NoName => {
                    "Sideways and bent, but not as in shoulder-in, travers, renvers or half-pass. Cannot tell."
                }
            }
            .into();
        }
        GroundKind::Crooked { beside } => {
            said.code = "crooked";
            said.title = "The quarters beside the forehand".into();
            said.says = format!(
                "On the straight the hinds run {:.0} cm to the {} of the fores.",
                100.0 * beside.value.abs(),
                side(beside.value)
            );
            let half =
                beside.half_width().map_or(String::new(), |h| format!(" ± {:.0}", 100.0 * h));
            said.figure = format!("{:.0}{half} cm", 100.0 * beside.value.abs());
            said.try_next = vec![
                "Bring the forehand in front of the quarters: a hint of shoulder-in on the straight.",
            ];
        }
    }
}

pub(crate) const fn side(left_positive: f64) -> &'static str {
    if left_positive > 0.0 { "left" } else { "right" }
}
