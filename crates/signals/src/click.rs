//! A click track: short clicks on given beats, to ride to or to lay beside footage.

/// Samples per second.
pub const RATE: u32 = 48_000;

/// A click.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Click {
    /// When, s from the start of the track.
    pub at: f64,
    /// The first beat of a stride sounds higher.
    pub first: bool,
}

/// Clicks at an even tempo of `strides_per_min`, `beats` a stride, from one moment to before
/// another (s).
pub fn even(from: f64, to: f64, strides_per_min: f64, beats: u32) -> Vec<Click> {
    let gap = 60.0 / strides_per_min / f64::from(beats.max(1));
    if !gap.is_finite() || gap <= 0.0 {
        return Vec::new();
    }
    (0u32..)
        .map(|k| Click { at: from + f64::from(k) * gap, first: k % beats.max(1) == 0 })
        .take_while(|c| c.at < to)
        .collect()
}

/// The track, mono at [`RATE`], `length_s` long. The attack of each click is its moment, to the
/// sample.
pub fn track(clicks: &[Click], length_s: f64) -> Vec<i16> {
    let rate = f64::from(RATE);
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "not negative")]
    let samples = (length_s.max(0.0) * rate).ceil() as usize;
    let mut out = vec![0i16; samples];
    for click in clicks.iter().filter(|c| c.at >= 0.0) {
        let pitch = if click.first { 1760.0 } else { 1174.7 };
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "not negative")]
        let start = (click.at * rate).round() as usize;
        for k in 0..1440 {
            let Some(sample) = out.get_mut(start + k) else { break };
            let t = f64::from(u32::try_from(k).unwrap_or(0)) / rate;
            let tone = (std::f64::consts::TAU * pitch * t).cos() * (-t / 0.006).exp();
            #[expect(clippy::cast_possible_truncation, reason = "within 16 bits")]
            let value = (tone * 24_000.0) as i16;
            *sample = sample.saturating_add(value);
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_metronome_at_98_strides_of_three_beats_clicks_294_times_a_minute() {
        let clicks = even(0.0, 60.0, 98.0, 3);
        assert_eq!(clicks.len(), 294);
        assert_eq!(clicks.iter().filter(|c| c.first).count(), 98);
        let track = track(&clicks, 60.0);
        assert_eq!(track.len(), 60 * 48_000);
        // The loudest sample of each click is its first, at its moment to half a sample.
        for click in &clicks {
            #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "a test")]
            let at = (click.at * 48_000.0).round() as usize;
            assert!(track[at] > 20_000, "{} at {}", track[at], click.at);
            assert!(at == 0 || track[at - 1].abs() < 200);
        }
    }
}
