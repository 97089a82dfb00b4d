//! Shifts of a camera steadied by those about them: a camera has mass.

/// Shifts with their errors, steadied by those about them: least squares with what a change of the
/// speed costs, outliers weighed down.
pub fn steadied(seen: &[(f64, f64)]) -> Vec<f64> {
    let n = seen.len();
    let mut out: Vec<f64> = seen.iter().map(|s| s.0).collect();
    if n < 3 {
        return out;
    }
    // How unsteady the hand is shows where the shifts are known well.
    let mut changes: Vec<f64> = seen
        .windows(3)
        .filter(|w| w.iter().all(|s| s.1 < 0.3))
        .map(|w| (w[2].0 - 2.0 * w[1].0 + w[0].0).abs())
        .collect();
    changes.sort_by(f64::total_cmp);
    let change = changes.get(changes.len() / 2).map_or(0.3, |c| 1.5 * c).max(0.1);
    let stiff = 1.0 / (change * change);
    let mut weights: Vec<f64> = seen.iter().map(|s| 1.0 / (s.1 * s.1)).collect();
    for _ in 0..6 {
        let right: Vec<f64> = seen.iter().zip(&weights).map(|(s, w)| w * s.0).collect();
        out = with_steady_speed(&weights, stiff, right);
        for ((w, s), o) in weights.iter_mut().zip(seen).zip(&out) {
            let far = (s.0 - o) / (3.0 * s.1.hypot(0.2));
            *w = 1.0 / (s.1 * s.1 * (1.0 + far * far).powi(2));
        }
    }
    out
}

/// Solves (W + λ D'D) x = b, D the second differences: a band of five, by Cholesky.
fn with_steady_speed(weights: &[f64], stiff: f64, mut b: Vec<f64>) -> Vec<f64> {
    let n = weights.len();
    let mut band: Vec<[f64; 3]> = weights.iter().map(|w| [w + 1e-9, 0.0, 0.0]).collect();
    for k in 0..n - 2 {
        for (i, di) in [1.0, -2.0, 1.0].into_iter().enumerate() {
            for (j, dj) in [1.0, -2.0, 1.0].into_iter().enumerate().take(i + 1) {
                band[k + i][i - j] += stiff * di * dj;
            }
        }
    }
    // Row i holds the entries with columns i, i − 1 and i − 2.
    for i in 0..n {
        for d in (0..=2.min(i)).rev() {
            let j = i - d;
            let mut sum = band[i][d];
            for m in 1..=2 {
                if d + m <= 2 && m <= j {
                    sum -= band[i][d + m] * band[j][m];
                }
            }
            band[i][d] = if d == 0 { sum.max(1e-12).sqrt() } else { sum / band[j][0] };
        }
    }
    for i in 0..n {
        for d in 1..=2.min(i) {
            b[i] -= band[i][d] * b[i - d];
        }
        b[i] /= band[i][0];
    }
    for i in (0..n).rev() {
        for d in 1..=2 {
            if i + d < n {
                b[i] -= band[i + d][d] * b[i + d];
            }
        }
        b[i] /= band[i][0];
    }
    b
}
