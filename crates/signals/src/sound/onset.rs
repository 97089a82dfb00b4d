//! The moment at which a beat begins, to a fraction of a millisecond.
//!
//! What went before predicts the sound (an autoregression), and a hoof is what it does not predict: the
//! beat begins where the errors of the prediction change their size, by Akaike's criterion for two
//! stretches of one variance each (Sleeman and van Eck 1999, Phys Earth Planet Inter 113:265; value from
//! memory). Beats need not sound alike, and nothing delays them.

use crate::number::count;

/// A beginning.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Onset {
    /// Sample at which the beat begins.
    pub sample: usize,
    /// Standard deviation of it, samples.
    pub sd: f64,
    /// How much louder the errors are after it than before, in decibels.
    pub rise_db: f64,
}

/// Samples that predict the next.
const ORDER: usize = 8;

/// The beginning of a beat in `samples`, somewhere in the `range`; `before` samples ahead of it tell how
/// the sound was. `None` when there is too little to read.
pub fn onset(samples: &[f32], range: std::ops::Range<usize>, before: usize) -> Option<Onset> {
    let from = range.start.checked_sub(before)?;
    if range.end > samples.len() || range.len() < 8 || before < 8 * ORDER {
        return None;
    }
    let noise: Vec<f64> = samples[from..range.start].iter().map(|s| f64::from(*s)).collect();
    let weights = prediction(&noise)?;
    let mut errors = Vec::with_capacity(range.len());
    for k in range.clone() {
        let predicted: f64 =
            weights.iter().enumerate().map(|(j, w)| w * f64::from(samples[k - 1 - j])).sum();
        let e = f64::from(samples[k]) - predicted;
        errors.push(e * e);
    }
    let n = errors.len();
    let mut sums = vec![0.0; n + 1];
    for (k, e) in errors.iter().enumerate() {
        sums[k + 1] = sums[k] + e;
    }
    let edge = 4;
    let cost = |k: usize| {
        let (a, b) = (count(k), count(n - k));
        let least = 1e-20;
        a * (sums[k] / a + least).ln() + b * ((sums[n] - sums[k]) / b + least).ln()
    };
    let costs: Vec<f64> = (edge..n - edge).map(cost).collect();
    let best = (0..costs.len()).min_by(|a, b| costs[*a].total_cmp(&costs[*b]))?;
    // Half the difference of the criterion is a logarithm of how much less likely a moment is.
    let (mut weight, mut square) = (0.0, 0.0);
    for (k, c) in costs.iter().enumerate() {
        let w = (-0.5 * (c - costs[best])).exp();
        weight += w;
        square += w * (count(k) - count(best)).powi(2);
    }
    let at = best + edge;
    let louder = ((sums[n] - sums[at]) / count(n - at) + 1e-20) / (sums[at] / count(at) + 1e-20);
    Some(Onset {
        sample: range.start + at,
        sd: (square / weight).sqrt().max(0.5),
        rise_db: 10.0 * louder.log10(),
    })
}

/// Weights of the last samples in the next by Burg's method (Burg 1975; value from memory).
fn prediction(x: &[f64]) -> Option<[f64; ORDER]> {
    let n = x.len();
    let mut forward = x.to_vec();
    let mut backward = x.to_vec();
    let mut a = [0.0; ORDER];
    if x.iter().map(|v| v * v).sum::<f64>() <= 0.0 {
        return Some(a);
    }
    for m in 0..ORDER {
        let (mut both, mut power) = (0.0, 0.0);
        for k in m + 1..n {
            both += forward[k] * backward[k - 1];
            power += forward[k] * forward[k] + backward[k - 1] * backward[k - 1];
        }
        if power <= 0.0 {
            break;
        }
        let reflection = 2.0 * both / power;
        let old = a;
        a[m] = reflection;
        for j in 0..m {
            a[j] = old[j] - reflection * old[m - 1 - j];
        }
        for k in (m + 1..n).rev() {
            let (f, b) = (forward[k], backward[k - 1]);
            forward[k] = f - reflection * b;
            backward[k] = b - reflection * f;
        }
    }
    a.iter().all(|v| v.is_finite()).then_some(a)
}
