//! The five ways to metres: what each has, and what it is worth.

use umlauf_gait::ground::plane_checks::Warning;
use umlauf_gait::ground::scale::Scale;
use umlauf_gait::ground::source::Source;
use umlauf_gait::ground::travel;
use umlauf_gait::{Analysis, Options, words};
use umlauf_store::clip::Clip;

use crate::clip::calibration::{Calibration, Tried};
use crate::ground::view::{CameraAt, Way};

pub(crate) fn ways(
    clip: &Clip,
    own: &Calibration,
    options: &Options,
    analysis: &Analysis,
) -> (Vec<Way>, Option<Scale>, Option<CameraAt>) {
    let tried = [
        (Source::Ground, own.plane(clip)),
        (Source::Bar, own.bar(clip)),
        (Source::Withers, own.withers(clip, options)),
    ];
    let (mut out, mut best, mut camera) = (Vec::new(), None, None);
    for (source, tried) in tried {
        let mut way = empty_way(source);
        match tried {
            Tried::Empty => way.says = hint(source).to_owned(),
            Tried::Refused(why) => {
                "refused".clone_into(&mut way.state);
                way.says = words::scales::refused(&why);
            }
            Tried::NoScale(why) => {
                "refused".clone_into(&mut way.state);
                way.says = words::scales::no_scale(why).to_owned();
            }
            Tried::Scale(scale) => {
                way.error_pct = stride_error(&scale, analysis);
                if let Scale::Ground(plane) = &scale {
                    way.says = words::scales::plane(plane);
                    way.warnings = plane.warnings.iter().map(words::scales::warning).collect();
                    // Points close to a line carry the map badly even when they fit.
                    if plane.warnings.is_empty() && way.error_pct.is_some_and(|e| e > 6.0) {
                        way.warnings.push(words::scales::warning(&Warning::NearlyInLine));
                    }
                    way.residuals_px.clone_from(&plane.residuals_px);
                    camera = plane.camera.map(|c| CameraAt {
                        x_m: c.at.0,
                        y_m: c.at.1,
                        height_m: c.height_m,
                    });
                } else {
                    way.says = scale_says(source).to_owned();
                }
                let state = if best.is_none() { "used" } else { "ready" };
                state.clone_into(&mut way.state);
                if best.is_none() {
                    best = Some(scale);
                }
            }
        }
        out.push(way);
    }
    let found = |source: Source| {
        analysis
            .bouts
            .iter()
            .flat_map(|b| b.travel.iter().chain(&b.other_ways))
            .find(|t| t.source == source)
            .copied()
    };
    for source in [Source::Letters, Source::Figure] {
        let mut way = empty_way(source);
        hint(source).clone_into(&mut way.says);
        if let Some(travel) = found(source) {
            let used = analysis.bouts.iter().any(|b| b.travel.is_some_and(|t| t.source == source));
            if used { "used" } else { "ready" }.clone_into(&mut way.state);
            way.error_pct =
                travel.stride_length.half_width().map(|h| 100.0 * h / travel.stride_length.value);
            way.says =
                format!("Stride {} by this way.", words::numbers::metres(travel.stride_length));
            if source == Source::Letters && own.distances.is_none() {
                way.warnings.push(
                    "Without the camera's two distances it may be up to 11 % too long.".into(),
                );
            }
        } else if source == Source::Letters && own.distances.is_some() {
            "ready".clone_into(&mut way.state);
        } else if source == Source::Figure && !own.rounds.is_empty() {
            "refused".clone_into(&mut way.state);
            way.says = "No bout lies in the rounds given: time strides there.".into();
        }
        out.push(way);
    }
    out.sort_by_key(|w| {
        ["ground", "bar", "letters", "figure", "withers"].iter().position(|s| *s == w.source)
    });
    (out, best, camera)
}

fn empty_way(source: Source) -> Way {
    Way {
        source: source.word().to_owned(),
        name: words::names::source_name(source).to_owned(),
        state: "empty".to_owned(),
        says: String::new(),
        warnings: Vec::new(),
        error_pct: None,
        residuals_px: Vec::new(),
    }
}

const fn hint(source: Source) -> &'static str {
    match source {
        Source::Ground => {
            "Click four or more points of known place: letters, poles, cones. The camera must stand still."
        }
        Source::Bar => {
            "Click poles or cones a known distance apart along the line of travel, the camera square to it."
        }
        Source::Letters => {
            "On the Timing desk, mark the moments at which the horse passes two letters. The camera may pan."
        }
        Source::Figure => {
            "Say from when to when whole rounds of a figure were ridden, and how wide it really was."
        }
        Source::Withers => "Click the ground under the withers, then the withers. Rough: ± 8 %.",
    }
}

const fn scale_says(source: Source) -> &'static str {
    match source {
        Source::Bar => {
            "Lengths along the bar's line; the horse must go over it, the camera square to it."
        }
        _ => "Rough, ± 8 %: good for telling a walk from a run, not for progress.",
    }
}

/// 95 % error of one stride by a scale where the horse goes, %.
fn stride_error(scale: &Scale, analysis: &Analysis) -> Option<f64> {
    let bout = analysis.bouts.iter().find(|b| b.travel.is_some())?;
    let length = bout.travel?.stride_length.value;
    let (at, direction) = match scale {
        Scale::Ground(_) => bout.prints.way?,
        Scale::Side(_) => ((0.0, 0.0), (1.0, 0.0)),
    };
    travel::scale_error(scale, at, direction, length).map(|s| 196.0 * s)
}
