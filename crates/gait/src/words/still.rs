//! What a still shows, in words.

use crate::stats::estimate::Estimate;
use crate::still::frame_check::Frame;
use crate::still::nose::{Nose, nose};
use crate::still::working_frame::{AgainstWorking, Outline};

/// Said with every still.
pub const CAUTION: &str = "One still is one instant: compare several. A frame is never pulled together in front; the horse closes it from behind, in small doses. What looks like pain is a vet's to judge.";

/// Sentences about a still, the most important first.
pub fn still(frame: &Frame, against: Option<&AgainstWorking>) -> Vec<String> {
    let mut out = Vec::new();
    if let Some(a) = against {
        out.push(outline(a));
    }
    if let Some(angle) = frame.nose_deg {
        let degrees = plus_minus(Estimate { value: angle.value.abs(), ..angle }, angle);
        out.push(match nose(angle) {
            Nose::InFront => format!("The nose line is {degrees}° in front of the vertical."),
            Nose::On => format!("The nose line is on the vertical (within {degrees}°)."),
            Nose::Behind => format!("The nose line is {degrees}° behind the vertical."),
            Nose::CannotTell => "Before or behind the vertical: this still cannot tell.".into(),
        });
    }
    if let Some(uphill) = frame.uphill_deg {
        let (lo, hi) = uphill.ci95.unwrap_or((uphill.value, uphill.value));
        let word = if lo > 0.0 {
            "The withers stand higher than the croup"
        } else if hi < 0.0 {
            "The croup stands higher than the withers"
        } else {
            "Withers and croup stand level, as far as this still tells"
        };
        out.push(format!("{word} ({:+.0}°).", uphill.value));
    }
    if let Some(base) = frame.base {
        out.push(format!(
            "Hind hoof to fore hoof: {:.2} withers heights (a square halt has about 0.75).",
            base.value
        ));
    }
    if let Some(line) = frame.line_share {
        let heel = frame.heel_deg.map_or(String::new(), |h| match h.value {
            v if v > 8.0 => " The heel is in front of the hip: a chair seat.".into(),
            v if v < -8.0 => " The heel is behind the hip: a fork seat.".into(),
            _ => " The heel is under the hip.".into(),
        });
        out.push(format!(
            "Ear, shoulder, hip and heel leave one line by {:.0} % of its length.{heel}",
            100.0 * line.value
        ));
    }
    if let Some(rein) = frame.rein_deg {
        let (lo, hi) = rein.ci95.unwrap_or((rein.value, rein.value));
        out.push(if lo > 0.0 {
            format!("The hand is above the line from elbow to bit by {:.0}°.", rein.value)
        } else if hi < 0.0 {
            format!("The hand is below the line from elbow to bit by {:.0}°.", -rein.value)
        } else {
            "Elbow, hand and bit are in one line, as far as this still tells.".into()
        });
    }
    out
}

/// The outline against the working frame in a sentence.
pub fn outline(a: &AgainstWorking) -> String {
    let (front, back) = (a.front_pct.value, a.back_pct.value);
    match a.outline {
        Outline::NeckOnly => format!(
            "Only the neck has shortened ({front:+.0} %, back {back:+.0} %): it was pulled in. That is no collection."
        ),
        Outline::Closed => {
            let base = a
                .base_pct
                .map_or(String::new(), |b| format!(", base of support {:+.0} %", b.value));
            format!("The whole frame has closed: front {front:+.0} %, back {back:+.0} %{base}.")
        }
        Outline::Longer => format!("The frame is longer: front {front:+.0} %, back {back:+.0} %."),
        Outline::AsWorking => {
            format!(
                "The frame is this horse's working frame: front {front:+.0} %, back {back:+.0} %."
            )
        }
        Outline::CannotTell => format!(
            "Front {front:+.0} %, back {back:+.0} % against the working frame: this still cannot tell which has closed."
        ),
    }
}

fn plus_minus(e: Estimate, of: Estimate) -> String {
    match of.half_width() {
        Some(half) => format!("{:.0} ± {half:.0}", e.value),
        None => format!("{:.0}", e.value),
    }
}
