//! What the ground tells, in words: lengths, calibrations, figures of the arena.

use crate::analysis::{Analysis, BoutFigures};
use crate::arena::{Arena, Place};
use crate::figure::{Drawn, Figure, NoFigure, Row};
use crate::finding::{Finding, Kind};
use crate::finding_ground::GroundKind;
use crate::ground_plane::{GroundPlane, MOST, Refused, Warning};
use crate::lateral_seen::Untold;
use crate::scale::{NoScale, Source};
use crate::uncertainty::Estimate;
use crate::wording::{Said, gait_name, movement_name};

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

/// `2.73 ± 0.04 m`.
pub fn metres(e: Estimate) -> String {
    match e.half_width() {
        Some(half) => format!("{:.2} ± {:.2} m", e.value, half),
        None => format!("{:.2} m", e.value),
    }
}

fn degrees(e: Estimate) -> String {
    match e.half_width() {
        Some(half) => format!("{:.0} ± {:.0}°", e.value.abs(), half),
        None => format!("{:.0}°", e.value.abs()),
    }
}

/// The first line of the Ground desk: how long the strides are and what made the speed.
pub fn headline(analysis: &Analysis) -> String {
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
        use crate::collection::Manner;
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

/// A clause for the desk's headline.
pub(crate) fn clause(kind: &GroundKind) -> String {
    match kind {
        GroundKind::Stride { length, .. } => format!("strides of {}", metres(*length)),
        GroundKind::Impossible { what, .. } => {
            format!("a stride of {:.1} withers heights, which cannot be", what.heights)
        }
        GroundKind::Disagree { .. } => "two ways to its length that disagree".into(),
        GroundKind::MoveCamera { .. } => "filmed from a bad place for lengths".into(),
        GroundKind::Lateral { seen, .. } => movement_name(seen.movement).to_lowercase(),
        GroundKind::Untold { .. } => "a lateral movement without a name".into(),
        GroundKind::Crooked { .. } => "the quarters beside the forehand".into(),
    }
}

/// A finding of the ground in words.
pub(crate) fn says(said: &mut Said, kind: &GroundKind) {
    match kind {
        GroundKind::Stride { length, speed, source, size_free } => {
            said.code = "stride-length";
            said.title = "How long the strides are".into();
            let size = size_free.map_or(String::new(), |(heights, froude)| {
                format!(
                    " That is {heights:.2} withers heights, Froude number {froude:.2} (an animal of this size strides about {:.1} hip heights at that speed).",
                    crate::plausible::alexander(froude)
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
            let name = movement_name(seen.movement);
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
                        movement_name(*other).to_lowercase(),
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

const fn side(left_positive: f64) -> &'static str {
    if left_positive > 0.0 { "left" } else { "right" }
}

fn metres_a_second(speed: Estimate) -> String {
    match speed.half_width() {
        Some(half) => format!("{:.2} ± {half:.2} m/s", speed.value),
        None => format!("{:.2} m/s", speed.value),
    }
}

/// Why points make no ground plane, and what to do.
pub fn refused(why: &Refused) -> String {
    match why {
        Refused::TooFew(0) => {
            "Click four points whose place you know: letters, poles or cones.".into()
        }
        Refused::TooFew(n) => format!("{n} of at least 4 points: click {} more.", 4 - n),
        Refused::TooMany(n) => format!("{n} points are more than {MOST}: the best {MOST} are enough."),
        Refused::Twice(a, b) => {
            format!("{a} and {b} are one point: click another, or give it another place.")
        }
        Refused::InLine(names) => format!(
            "{} lie in line, or nearly: a line gives no plane. Add a point well off it, such as a cone a few metres into the arena.",
            names.join(", ")
        ),
        Refused::Mirrored => "Left and right are changed: the picture is a mirror image, or the points have the names of the other side.".into(),
        Refused::Exchanged(a, b) => {
            format!("No camera sees the points like this, unless {a} and {b} are exchanged. Are they?")
        }
        Refused::Impossible => {
            "No camera sees the points like this: look at their names and places once more.".into()
        }
    }
}

/// What a ground plane leaves to wish for.
pub fn warning(warning: &Warning) -> String {
    match warning {
        Warning::NearlyInLine => "Three of the points lie nearly in line: lengths are less sure. A point further off the line helps.".into(),
        Warning::Misfit(name, px) => {
            format!("{name} is {px:.0} px from where the others put it: click it again, or check its place.")
        }
        Warning::Exchanged(a, b) => format!("{a} and {b} seem to be exchanged."),
    }
}

/// A ground plane in a sentence.
pub fn plane(plane: &GroundPlane) -> String {
    let fit = plane.rms_px.map_or_else(
        || "Four points fit always: a fifth would show whether they are right.".to_owned(),
        |rms| format!("The points fit to {rms:.1} px."),
    );
    let camera = plane.camera.map_or(String::new(), |c| {
        format!(
            " The camera stands {:.1} m high, {:.0} m beside the K side's line.",
            c.height_m,
            c.at.0.abs()
        )
    });
    format!("{fit}{camera}")
}

/// Why a bar or a height gives no scale.
pub const fn no_scale(why: NoScale) -> &'static str {
    match why {
        NoScale::TooFew => {
            "Click two points: both ends of the bar, or the ground and the withers above it."
        }
        NoScale::TooNear => "The points are too near to one another to measure by.",
        NoScale::OutOfOrder => {
            "The points' distances do not run in the order in which they are seen."
        }
        NoScale::NoHeight => {
            "The horse's height at the withers is not known: add it to the horse first."
        }
    }
}

/// Where on a line: `1.0 m before X`, `at F`, `12.5 m after F`.
pub fn place_on_line(arena: &Arena, from: Place, to: Place, at_m: f64) -> String {
    let length = crate::arena::distance(from, to);
    let (ux, uy) = ((to.0 - from.0) / length, (to.1 - from.1) / length);
    // The letter on the line that lies nearest to its middle: X on a diagonal or the centre line.
    let on_line = |p: Place| {
        let along = (p.0 - from.0) * ux + (p.1 - from.1) * uy;
        let off = ((p.0 - from.0) * uy - (p.1 - from.1) * ux).abs();
        (off < 0.05 && (-0.05..=length + 0.05).contains(&along)).then_some(along)
    };
    let letters = arena.letters();
    let middle = |along: f64| (along - length / 2.0).abs();
    let near = letters
        .iter()
        .filter_map(|(name, p)| on_line(*p).map(|along| (*name, along)))
        .min_by(|a, b| middle(a.1).total_cmp(&middle(b.1)));
    match near {
        Some((name, along)) if (at_m - along).abs() < 0.05 => format!("at {name}"),
        Some((name, along)) if at_m < along => format!("{:.1} m before {name}", along - at_m),
        Some((name, along)) => format!("{:.1} m past {name}", at_m - along),
        None => format!("{at_m:.1} m from its start"),
    }
}

/// A figure in a sentence: how long it is, and whether and where it fits.
pub fn figure(arena: &Arena, figure: &Figure, drawn: &Drawn) -> String {
    let way = format!("{:.2} m", drawn.length_m);
    match *figure {
        Figure::Line { .. } => {
            let angle = drawn.angle_deg.unwrap_or(0.0);
            let out = if drawn.fits { "" } else { " It leaves the arena." };
            format!("The line is {way} long, at {angle:.0}° to the long sides.{out}")
        }
        Figure::Circle { from, to, at_m, side, diameter } => {
            let hand = side.word();
            let Some((a, b)) = drawn.room else {
                return format!(
                    "A {diameter:.0} m circle on the {hand} of this line fits nowhere: it is {way} round."
                );
            };
            let (lo, hi) = (place_on_line(arena, from, to, a), place_on_line(arena, from, to, b));
            let here = if drawn.fits {
                "It fits here".to_owned()
            } else {
                format!("{} it does not fit", place_on_line(arena, from, to, at_m))
            };
            let here = here[..1].to_uppercase() + &here[1..];
            format!("{here}; on the {hand} of the line it fits from {lo} to {hi}. {way} round.")
        }
        Figure::Serpentine { loops, .. } => {
            let wide = arena.length / f64::from(loops);
            if drawn.fits {
                format!(
                    "A serpentine of {loops} loops is {way} long, each half circle {wide:.1} m across."
                )
            } else {
                format!(
                    "{loops} loops need half circles {wide:.1} m across: the arena is only {:.0} m wide.",
                    arena.width
                )
            }
        }
        Figure::Spiral { from, to, rounds, .. } => {
            let fits = if drawn.fits { "It fits" } else { "It leaves the arena" };
            format!(
                "A spiral from {from:.0} m to {to:.0} m in {rounds} rounds is {way} long. {fits}."
            )
        }
    }
}

/// Why there is no figure.
pub const fn no_figure(why: NoFigure) -> &'static str {
    match why {
        NoFigure::NoLine => "A line needs two places some way apart.",
        NoFigure::Size => "A figure of this size means nothing here.",
    }
}

/// A row of changes on a line in a sentence.
pub fn row(arena: &Arena, from: Place, to: Place, every: u32, count: u32, row: &Row) -> String {
    let name = format!("{count} changes every {every} strides take {:.1} m", row.needs_m);
    match row.begin {
        Some((a, b)) if b - a > 0.05 => format!(
            "{name}: they fit when the first falls between {} and {}.",
            place_on_line(arena, from, to, a),
            place_on_line(arena, from, to, b)
        ),
        Some((a, _)) => {
            format!("{name}: they fit just, the first {}.", place_on_line(arena, from, to, a))
        }
        None => format!(
            "{name}: too much for this line. With strides of {:.2} m at most they would fit.",
            row.longest_stride_m
        ),
    }
}

/// Strides expected on a way.
pub fn expected(name: &str, strides: Estimate) -> String {
    let range = strides.ci95.map_or(String::new(), |(lo, hi)| format!(" ({lo:.1} to {hi:.1})"));
    format!("{name}: {:.1} strides{range}", strides.value)
}

/// Whether a finding is one of the ground.
pub const fn is_ground(finding: &Finding) -> bool {
    matches!(
        finding.kind,
        Kind::Ground(_) | Kind::Speed { .. } | Kind::Tracks { .. } | Kind::NotSquare { .. }
    )
}
