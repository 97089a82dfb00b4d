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
                    let at = |k: usize| k as f64 * cells as f64 / SIDE as f64;
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
        // Half way between two sizes by their ratio.
        let seen = footprint / fine * std::f64::consts::SQRT_2;
        let level = (1..9).filter(|k| seen >= f64::from(1u32 << k)).count();
        let (side, of) = &self.levels[level];
        let wide = fine * f64::from(1u32 << level);
        between(of, *side, x / wide, y / wide)
    }
}

/// Between four points of a square that repeats; its side is a power of two.
fn between(of: &[f32], side: usize, x: f64, y: f64) -> f32 {
    // The whole number below, by hand: called for every pixel of a film.
    let parts = |v: f64| {
        #[expect(clippy::cast_possible_truncation, reason = "a place in metres")]
        let whole = v as i64 - i64::from(v < 0.0);
        #[expect(clippy::cast_precision_loss, reason = "a place in metres")]
        let rest = v - whole as f64;
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "wrapped")]
        let (place, rest) = ((whole as usize) & (side - 1), rest as f32);
        (place, rest)
    };
    let ((i0, u), (j0, v)) = (parts(x), parts(y));
    let (i1, j1) = ((i0 + 1) & (side - 1), (j0 + 1) & (side - 1));
    let upper = of[j0 * side + i0] * (1.0 - u) + of[j0 * side + i1] * u;
    let lower = of[j1 * side + i0] * (1.0 - u) + of[j1 * side + i1] * u;
    upper * (1.0 - v) + lower * v
}
