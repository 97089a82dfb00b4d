//! Three terms fitted to values: normal equations, by elimination (Gauss).

/// The factors of three terms by which they are nearest to values, in the unit of the values; of `points` each is terms,
/// value and weight. `least` is added to the squares of each term, so that one that nothing tells of stays near 0.
///
/// ```
/// use umlauf_signals::least_squares::fitted;
/// let line = (0..9).map(|k| ([1.0, f64::from(k), 0.0], 2.0 + 3.0 * f64::from(k), 1.0));
/// let [level, slope, none] = fitted(line, 1e-9);
/// assert!((level - 2.0).abs() < 1e-6 && (slope - 3.0).abs() < 1e-6 && none.abs() < 1e-6);
/// ```
pub fn fitted(points: impl Iterator<Item = ([f64; 3], f64, f64)>, least: f64) -> [f64; 3] {
    let (mut a, mut b) = ([[0.0f64; 3]; 3], [0.0f64; 3]);
    for (own, value, weight) in points {
        for (i, p) in own.iter().enumerate() {
            for (j, q) in own.iter().enumerate() {
                a[i][j] += weight * p * q;
            }
            b[i] += weight * p * value;
        }
    }
    for (i, row) in a.iter_mut().enumerate() {
        row[i] += least;
    }
    for i in 0..3 {
        for j in i + 1..3 {
            let by = a[j][i] / a[i][i];
            let above = a[i];
            a[j].iter_mut().zip(above).skip(i).for_each(|(x, y)| *x -= by * y);
            b[j] -= by * b[i];
        }
    }
    let third = b[2] / a[2][2];
    let second = (b[1] - a[1][2] * third) / a[1][1];
    let first = (b[0] - a[0][1] * second - a[0][2] * third) / a[0][0];
    [first, second, third]
}
