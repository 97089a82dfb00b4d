//! Footfall captions: the stances of a clip as WebVTT, for any player that shows subtitles.

use std::fmt::Write as _;

use crate::marks::footfall::Footfall;

/// A footfall without a known end is shown for this long, s.
const SHOWN_S: f64 = 0.12;

/// A WebVTT file with one cue a stance, in order of time. `on_film` turns true seconds into
/// seconds of the film that the captions run beside; what would begin before 0 is left out.
///
/// ```
/// use umlauf_gait::base::units::Seconds;
/// use umlauf_gait::marks::captions::webvtt;
/// use umlauf_gait::{Footfall, Limb};
/// let text = webvtt(&[Footfall::new(Limb::LH, Seconds(1.5))], |s| s);
/// assert!(text.starts_with("WEBVTT") && text.contains("00:00:01.500"));
/// ```
pub fn webvtt(footfalls: &[Footfall], on_film: impl Fn(f64) -> f64) -> String {
    let mut sorted: Vec<&Footfall> = footfalls.iter().filter(|f| on_film(f.on.0) >= 0.0).collect();
    sorted.sort_by(|a, b| a.on.0.total_cmp(&b.on.0));
    let mut out = String::from("WEBVTT\n");
    for f in sorted {
        let off = f.off.map_or(f.on.0 + SHOWN_S, |o| o.0.max(f.on.0 + 0.001));
        let (from, to) = (stamp(on_film(f.on.0)), stamp(on_film(off)));
        // Each limb keeps its own place: left limbs left, fores above hinds.
        let line = if f.limb.is_hind() { 88 } else { 80 };
        let place = if f.limb.side() == crate::base::limb::Side::Left { 35 } else { 65 };
        // Writing to a string cannot fail.
        let _ = writeln!(out, "\n{from} --> {to} line:{line}% position:{place}%\n{}", f.limb);
    }
    out
}

/// `00:01:02.345`, hours beyond 99 with more digits.
fn stamp(seconds: f64) -> String {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "never negative")]
    let ms = (seconds.max(0.0) * 1000.0).round() as u64;
    format!("{:02}:{:02}:{:02}.{:03}", ms / 3_600_000, ms / 60_000 % 60, ms / 1000 % 60, ms % 1000)
}
