//! The grain of sand and grass: noise in octaves, and the same at half, a quarter … of the size, so that
//! far ground does not glitter.

use rand::{Rng as _, SeedableRng as _};
use rand_chacha::ChaCha8Rng;

/// A square of noise that repeats, mean 0, deviation 1, at several sizes.
#[derive(Clone, Debug)]
pub struct Grain {
    levels: Vec<(usize, Vec<f32>)>,
}

/// Points a side.
const SIDE: usize = 1024;

impl Grain {
    /// Grain from a seed; `smooth` is how much weaker each finer octave is than the one before (0 to 1).
    pub fn new(seed: u64, smooth: f64) -> Self {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let mut sum = vec![0.0f32; SIDE * SIDE];
        let mut weight = 1.0f32;
        let mut cells = 16;
        while cells <= SIDE {
            let own: Vec<f32> =
                (0..cells * cells).map(|_| rng.random_range(-1.0f32..1.0)).collect();
            for y in 0..SIDE {
                for x in 0..SIDE {
                    #[expect(clippy::cast_precision_loss, reason = "a thousand points")]
                    let at = |k: usize| k as f32 * cells as f32 / SIDE as f32;
                    sum[y * SIDE + x] += weight * between(&own, cells, at(x), at(y));
                }
            }
            #[expect(clippy::cast_possible_truncation, reason = "a share")]
            let less = smooth as f32;
            weight *= less;
            cells *= 2;
        }
        #[expect(clippy::cast_precision_loss, reason = "a million points")]
        let n = sum.len() as f32;
        let mean = sum.iter().sum::<f32>() / n;
        let sd = (sum.iter().map(|v| (v - mean) * (v - mean)).sum::<f32>() / n).sqrt();
        sum.iter_mut().for_each(|v| *v = (*v - mean) / sd);
        let mut levels = vec![(SIDE, sum)];
        while levels[levels.len() - 1].0 > 4 {
            let (side, of) = &levels[levels.len() - 1];
            let half = side / 2;
            let mean = |k: usize| {
                let (x, y) = (2 * (k % half), 2 * (k / half));
                0.25 * (of[y * side + x]
                    + of[y * side + x + 1]
                    + of[(y + 1) * side + x]
                    + of[(y + 1) * side + x + 1])
            };
            let smaller = (0..half * half).map(mean).collect();
            levels.push((half, smaller));
        }
        Self { levels }
    }

    /// The grain at a place, m, where a point of it is `fine` m wide and a pixel of the picture sees
    /// `footprint` m.
    pub fn at(&self, x: f64, y: f64, fine: f64, footprint: f64) -> f32 {
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "clamped")]
        let level = (footprint / fine).log2().round().clamp(0.0, 8.0) as usize;
        let (side, of) = &self.levels[level];
        let wide = fine * f64::from(1u32 << level);
        #[expect(clippy::cast_precision_loss, reason = "a thousand points")]
        let period = *side as f64;
        let wrap = |v: f64| {
            let turned = (v / wide).rem_euclid(period);
            #[expect(clippy::cast_possible_truncation, reason = "a place in the square")]
            let place = turned as f32;
            place
        };
        between(of, *side, wrap(x), wrap(y))
    }
}

/// Between four points of a square that repeats.
fn between(of: &[f32], side: usize, x: f32, y: f32) -> f32 {
    #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "not negative")]
    let (i, j) = (x as usize, y as usize);
    let (u, v) = (x - x.floor(), y - y.floor());
    let (i0, j0) = (i % side, j % side);
    let (i1, j1) = ((i + 1) % side, (j + 1) % side);
    let upper = of[j0 * side + i0] * (1.0 - u) + of[j0 * side + i1] * u;
    let lower = of[j1 * side + i0] * (1.0 - u) + of[j1 * side + i1] * u;
    upper * (1.0 - v) + lower * v
}
