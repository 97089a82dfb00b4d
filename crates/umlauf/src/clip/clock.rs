//! The clip's true clock: is it slow motion, and what is a mark worth?

use serde::Serialize;
use umlauf_footage::probe::slow_factor;
use umlauf_gait::base::units::{FileMicros, FrameRate, SlowFactor};
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

/// How much slower a clip runs than the world, as far as is known before anyone was asked: what the coach
/// has said, or else what the camera notes.
pub fn likely_slow_factor(clip: &Clip) -> f64 {
    let settings = &clip.settings;
    if settings.slow_confirmed || settings.slow_factor != 1.0 {
        return settings.slow_factor;
    }
    let tagged = clip.footage.tagged_rate.zip(clip.footage.frame_rate);
    tagged.and_then(|(captured, stored)| slow_factor(captured, stored)).unwrap_or(1.0)
}

/// Where a moment of the wall clock (ms since 1970) stands on a clip's film, µs of the file's own
/// clock; `None` when it is not known when the clip began, or the moment lies outside it. A film in
/// slow motion runs longer than what it shows.
pub fn on_film(clip: &Clip, at_ms: i64) -> Option<FileMicros> {
    #[expect(clippy::cast_precision_loss, reason = "a few hours in ms")]
    let since_ms = at_ms.checked_sub(clip.began_ms?)? as f64;
    let at_s = since_ms / 1000.0 * clip.settings.slow_factor;
    #[expect(clippy::cast_possible_truncation, reason = "within the clip")]
    let us = (at_s * 1e6).round() as i64;
    (0.0..=clip.length_s).contains(&at_s).then_some(FileMicros(us))
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

#[cfg(test)]
mod tests {
    use super::on_film;
    use umlauf_gait::base::units::FileMicros;
    use umlauf_store::clip::{Clip, Footage, ProxyState, Settings};

    /// Two minutes of film that began at `began_ms`.
    fn clip(began_ms: Option<i64>, slow_factor: f64) -> Clip {
        Clip {
            id: 1,
            session: None,
            name: String::new(),
            footage: Footage {
                content: String::new(),
                file: String::new(),
                bytes: 0,
                codec: String::new(),
                width: 0,
                height: 0,
                rotation: 0,
                frame_rate: Some(30.0),
                tagged_rate: None,
                recorded: None,
            },
            length_s: 120.0,
            settings: Settings { slow_factor, ..Settings::default() },
            proxy: ProxyState::Ready,
            proxy_shift_us: 0,
            remark: String::new(),
            revision: 0,
            removed: false,
            began_ms,
        }
    }

    #[test]
    fn an_entry_of_the_log_stands_where_it_happened_on_the_film() {
        let began = 1_794_650_400_000;
        let at = |slow, after_ms| on_film(&clip(Some(began), slow), began + after_ms);
        assert_eq!(at(1.0, 12_500), Some(FileMicros(12_500_000)));
        assert_eq!(at(4.0, 12_500), Some(FileMicros(50_000_000)));
        // A quarter of an hour later the film was over, in slow motion already after half a minute.
        assert_eq!((at(1.0, 900_000), at(4.0, 31_000), at(1.0, -1)), (None, None, None));
        assert_eq!(at(4.0, 30_000), Some(FileMicros(120_000_000)));
        assert_eq!(on_film(&clip(None, 1.0), began), None);
    }
}
