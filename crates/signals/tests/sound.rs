//! Clicks and envelopes against arithmetic: moments to the sample, pitches by their crossings, loudness
//! that does not hang on the recording's level.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]
#![allow(
    clippy::cast_precision_loss,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "seconds of sound"
)]

use proptest::prelude::*;
use umlauf_signals::click::{Click, RATE, even, track};
use umlauf_signals::envelope::envelope;

/// Where a track becomes loud after a silence of 20 ms, samples.
fn attacks(track: &[i16]) -> Vec<usize> {
    let quiet = RATE as usize / 50;
    let mut silent = quiet;
    let mut out = Vec::new();
    for (k, v) in track.iter().enumerate() {
        if v.abs() > 300 {
            if silent >= quiet {
                out.push(k);
            }
            silent = 0;
        } else {
            silent += 1;
        }
    }
    out
}

/// Pitch of a tone from its crossings of zero, Hz.
fn pitch(tone: &[i16]) -> f64 {
    let crossings: Vec<usize> =
        (1..tone.len()).filter(|&k| (tone[k - 1] >= 0) != (tone[k] >= 0)).collect();
    let span = (crossings[crossings.len() - 1] - crossings[0]) as f64;
    (crossings.len() - 1) as f64 / 2.0 / span * f64::from(RATE)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 120, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn clicks_fall_at_their_tempo_from_first_to_last(
        from in 0.0..3.0f64, length in 0.5..20.0f64, tempo in 30.0..150.0f64, beats in 1..=4u32,
    ) {
        let to = from + length;
        let clicks = even(from, to, tempo, beats);
        let gap = 60.0 / tempo / f64::from(beats);
        prop_assert_eq!(clicks.len(), (length / gap).ceil() as usize);
        for (k, click) in clicks.iter().enumerate() {
            prop_assert!((click.at - from - k as f64 * gap).abs() < 1e-9);
            prop_assert_eq!(click.first, k % beats as usize == 0);
            prop_assert!(click.at < to);
        }
        let track = track(&clicks, to + 0.1);
        prop_assert_eq!(track.len(), ((to + 0.1) * f64::from(RATE)).ceil() as usize);
        if gap > 0.1 {
            let found = attacks(&track);
            prop_assert_eq!(found.len(), clicks.len());
            for (k, click) in found.iter().zip(&clicks) {
                prop_assert!((*k as f64 - click.at * f64::from(RATE)).abs() <= 1.0, "{} {:?}", k, click);
            }
        }
    }

    #[test]
    fn loudness_does_not_hang_on_the_level_of_the_recording(
        samples in prop::collection::vec(-1.0..1.0f32, 50..600), window in 1..40usize,
        gain in 0.01..1.0f32,
    ) {
        let e = envelope(&samples, window);
        prop_assert_eq!(e.len(), samples.len().div_ceil(window));
        prop_assert!(e.iter().all(|v| (0.0..=1.0).contains(v)));
        // The loudest window sets the scale.
        prop_assert!(e.iter().any(|v| *v > 0.999));
        let quieter: Vec<f32> = samples.iter().map(|s| s * gain).collect();
        for (a, b) in e.iter().zip(envelope(&quieter, window)) {
            prop_assert!((a - b).abs() < 1e-4, "{} {}", a, b);
        }
        let turned: Vec<f32> = samples.iter().map(|s| -s).collect();
        prop_assert_eq!(envelope(&turned, window), e);
    }

    #[test]
    fn damaged_samples_do_no_harm(
        samples in prop::collection::vec(
            prop_oneof![-1.0..1.0f32, Just(f32::NAN), Just(f32::INFINITY), Just(-1e30)], 0..80),
        window in 0..20usize,
    ) {
        let e = envelope(&samples, window);
        prop_assert!(e.iter().all(|v| v.is_finite() && (0.0..=1.0).contains(v)), "{:?}", e);
    }
}

#[test]
fn the_first_beat_of_a_stride_sounds_a_fifth_higher() {
    let of = |first: bool| {
        let track = track(&[Click { at: 0.0, first }], 0.05);
        pitch(&track[..960])
    };
    let (high, low) = (of(true), of(false));
    assert!((high - 1760.0).abs() < 20.0 && (low - 1174.7).abs() < 20.0, "{high} {low}");
    // An equal-tempered fifth, 2^(7/12).
    assert!((high / low - 2f64.powf(7.0 / 12.0)).abs() < 0.02, "{}", high / low);
}

#[test]
fn a_click_dies_away_and_clicks_over_one_another_do_not_overflow() {
    let one = track(&[Click { at: 0.01, first: true }], 0.2);
    let peak = |from: f64, to: f64| {
        let at = |s: f64| (s * f64::from(RATE)) as usize;
        one[at(from)..at(to)].iter().map(|v| v.abs()).max().unwrap()
    };
    assert!(peak(0.0, 0.0099) == 0 && peak(0.01, 0.012) > 20_000);
    // e^(−5) after 30 ms, nothing after the click's end.
    assert!(peak(0.039, 0.0399) < 250 && peak(0.041, 0.2) == 0);
    let many = vec![Click { at: 0.0, first: true }; 50];
    assert_eq!(track(&many, 0.05).iter().max(), Some(&i16::MAX));
    // Clicks outside the track are not in it.
    let outside = [Click { at: -1.0, first: true }, Click { at: 9.0, first: false }];
    assert!(track(&outside, 0.5).iter().all(|v| *v == 0));
    assert!(track(&outside, -3.0).is_empty());
}

#[test]
fn a_tempo_that_is_none_gives_no_clicks() {
    for tempo in [f64::INFINITY, -80.0, f64::NAN] {
        assert!(even(0.0, 10.0, tempo, 3).is_empty(), "{tempo}");
    }
    assert!(even(5.0, 5.0, 80.0, 2).is_empty() && even(5.0, 1.0, 80.0, 2).is_empty());
    // No beats are one.
    assert_eq!(even(0.0, 60.0, 80.0, 0).len(), 80);
}

#[test]
fn few_beats_in_a_long_silence_keep_their_scale() {
    // Three beats of 40 samples in 40,000: fewer than one window in two hundred.
    let mut samples = vec![0.0005f32; 40_000];
    for (k, loud) in [(8_000, 0.5), (16_000, 0.25), (24_000, 0.5)] {
        for s in &mut samples[k..k + 40] {
            *s = loud;
        }
    }
    let e = envelope(&samples, 40);
    assert!(e[200] > 0.999 && e[600] > 0.999);
    assert!(e[400] > 0.49, "{}", e[400]);
    assert!(e.iter().enumerate().all(|(k, v)| [200, 400, 600].contains(&k) || *v < 0.01));
}
