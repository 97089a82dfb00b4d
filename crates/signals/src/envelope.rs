//! The sound's envelope: how loud each short stretch is, for drawing under the strip.

/// Root mean square of mono samples (−1 to 1) in windows of `window` samples, scaled so that the
/// usual loud hoofbeat (99.5th percentile of the windows, at least a quarter of the loudest) is 1,
/// and clipped there. A last partial window counts by its own length. Empty for no samples or a
/// window of 0.
pub fn envelope(samples: &[f32], window: usize) -> Vec<f32> {
    if window == 0 {
        return Vec::new();
    }
    let mut out: Vec<f32> = samples
        .chunks(window)
        .map(|chunk| {
            let power: f64 = chunk.iter().map(|s| f64::from(*s) * f64::from(*s)).sum();
            #[expect(
                clippy::cast_precision_loss,
                clippy::cast_possible_truncation,
                reason = "a drawing of a few hundred samples a point"
            )]
            let rms = (power / chunk.len() as f64).sqrt() as f32;
            if rms.is_finite() { rms } else { 0.0 }
        })
        .collect();
    let mut sorted = out.clone();
    sorted.sort_by(f32::total_cmp);
    let usual = sorted.get(sorted.len().saturating_sub(1) * 995 / 1000).copied().unwrap_or(0.0);
    // Few beats in a long silence: the loudest of them still sets the scale.
    let loud = usual.max(0.25 * sorted.last().copied().unwrap_or(0.0));
    if loud > 0.0 {
        for v in &mut out {
            *v = (*v / loud).min(1.0);
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::envelope;

    #[test]
    fn a_beat_stands_out_of_silence_at_its_place() {
        let mut samples = vec![0.001f32; 8000];
        for k in 0..40 {
            samples[4000 + k] = if k % 2 == 0 { 0.8 } else { -0.8 };
        }
        let e = envelope(&samples, 40);
        assert_eq!(e.len(), 200);
        let loudest = e.iter().enumerate().max_by(|a, b| a.1.total_cmp(b.1)).map(|(k, _)| k);
        assert_eq!(loudest, Some(100));
        assert!(e[99] < 0.01 && (e[100] - 1.0).abs() < 1e-6);
    }
}
