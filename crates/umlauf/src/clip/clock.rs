//! The clip's true clock: is it slow motion, and what is a mark worth?

use serde::Serialize;
use umlauf_footage::probe::slow_factor;
use umlauf_gait::base::units::{FrameRate, SlowFactor};
use umlauf_gait::findings::kind::Kind;
use umlauf_gait::{Analysis, words};
use umlauf_store::clip::Clip;
use utoipa::ToSchema;

/// A plain question with its evidence.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct SlowQuestion {
    /// The factor asked about.
    pub factor: f64,
    /// The question and why it is asked.
    pub says: String,
}

/// Capture rate: frames per true second.
pub fn capture_rate(clip: &Clip) -> Option<FrameRate> {
    let slow = SlowFactor::new(clip.settings.slow_factor).unwrap_or(SlowFactor::NORMAL);
    FrameRate::new(clip.footage.frame_rate? * slow.get()).ok()
}

/// What one footfall of this clip is worth, in words, before any is marked.
/// `scatter` is the coach's own, s, when it was measured.
pub fn timing_says(clip: &Clip, scatter: Option<f64>) -> String {
    let frame = capture_rate(clip).map(|rate| rate.mark_sd().0);
    words::missing::timing(match (frame, scatter) {
        (Some(frame), own) => Some(frame.hypot(own.unwrap_or(0.0))),
        (None, own) => own,
    })
}

/// Asks once, when the camera's own note or the horse's tempo says that the file runs slower than
/// the world did.
pub fn question(clip: &Clip, analysis: &Analysis) -> Option<SlowQuestion> {
    let settings = &clip.settings;
    if !settings.slow_confirmed && settings.slow_factor == 1.0 {
        let tagged = clip.footage.tagged_rate.zip(clip.footage.frame_rate);
        if let Some((captured, stored)) = tagged
            && let Some(factor) = slow_factor(captured, stored)
        {
            return Some(SlowQuestion {
                factor,
                says: format!(
                    "The camera notes that it filmed {captured:.0} frames a second and stored {stored:.0}: slow motion, {factor}×?"
                ),
            });
        }
    }
    // An impossible tempo is asked about whatever was said before: a wrong factor is the
    // commonest gross error.
    analysis.findings.iter().find_map(|f| match f.kind {
        Kind::SlowMotion { tempo, factor } => {
            let wanted = factor * settings.slow_factor;
            let question = if wanted == 1.0 {
                "was it filmed at normal speed?".to_owned()
            } else {
                format!("was it filmed in slow motion, {wanted}×?")
            };
            Some(SlowQuestion {
                factor: wanted,
                says: format!(
                    "At this speed the horse would take {tempo:.0} strides a minute: {question}"
                ),
            })
        }
        _ => None,
    })
}
