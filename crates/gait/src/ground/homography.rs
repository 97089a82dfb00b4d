//! The map from the flat ground to a picture of it, and back: a homography, fitted by the
//! normalised direct linear transform (Hartley 1997, IEEE PAMI 19:580; value from memory) and,
//! with more than four points, refined to the least squared distance in the picture.

use nalgebra::{DMatrix, Matrix2, Matrix3, SMatrix, SVector, Vector2, Vector3};

use crate::ground::arena::Place;

/// A point of the picture: pixels from its left and upper edges.
pub type Pixel = (f64, f64);

/// A point known on the ground and seen in the picture.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pair {
    /// On the ground, m.
    pub ground: Place,
    /// In the picture.
    pub seen: Pixel,
    /// Whitens a distance in the picture: W with WᵀW the inverse of its covariance, 1/px.
    pub whiten: Matrix2<f64>,
}

impl Pair {
    /// A pair whose click has one standard deviation along both axes, px.
    pub fn clicked(ground: Place, seen: Pixel, sd_px: f64) -> Self {
        Self { ground, seen, whiten: Matrix2::identity() / sd_px }
    }
}

/// Eight numbers that are free in a homography whose ninth is 1.
type Params = SVector<f64, 8>;

/// What a point's place in the picture changes by with each of them.
type Slopes = SMatrix<f64, 2, 8>;

/// A fitted map with the spread of its parameters.
#[derive(Clone, Debug, PartialEq)]
pub struct Homography {
    /// Centred and scaled ground → centred and scaled picture.
    inner: Matrix3<f64>,
    ground: Scaling,
    picture: Scaling,
    /// Lower triangle L with L·Lᵀ the covariance of the eight parameters.
    spread: SMatrix<f64, 8, 8>,
}

/// Moves points to their middle and brings them to a mean distance of √2 from it.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Scaling {
    middle: (f64, f64),
    scale: f64,
}

impl Scaling {
    fn of(points: impl Iterator<Item = (f64, f64)> + Clone) -> Option<Self> {
        let n = crate::base::number::count(points.clone().count());
        let sum = points.clone().fold((0.0, 0.0), |s, p| (s.0 + p.0, s.1 + p.1));
        let middle = (sum.0 / n, sum.1 / n);
        let away: f64 = points.map(|p| (p.0 - middle.0).hypot(p.1 - middle.1)).sum::<f64>() / n;
        (away > 0.0 && away.is_finite()).then(|| Self { middle, scale: 2f64.sqrt() / away })
    }

    fn apply(self, p: (f64, f64)) -> (f64, f64) {
        ((p.0 - self.middle.0) * self.scale, (p.1 - self.middle.1) * self.scale)
    }

    fn undo(self, p: (f64, f64)) -> (f64, f64) {
        (p.0 / self.scale + self.middle.0, p.1 / self.scale + self.middle.1)
    }

    fn matrix(self) -> Matrix3<f64> {
        let (s, (x, y)) = (self.scale, self.middle);
        Matrix3::new(s, 0.0, -s * x, 0.0, s, -s * y, 0.0, 0.0, 1.0)
    }
}

impl Homography {
    /// Fits four or more pairs; `None` with fewer, or when they leave the map open (in line).
    pub fn fit(pairs: &[Pair]) -> Option<Self> {
        if pairs.len() < 4 {
            return None;
        }
        let ground = Scaling::of(pairs.iter().map(|p| p.ground))?;
        let picture = Scaling::of(pairs.iter().map(|p| p.seen))?;
        let scaled: Vec<Pair> = pairs
            .iter()
            .map(|p| Pair {
                ground: ground.apply(p.ground),
                seen: picture.apply(p.seen),
                whiten: p.whiten / picture.scale,
            })
            .collect();
        let mut h = direct(&scaled)?;
        if pairs.len() > 4 {
            h = refined(h, &scaled);
        }
        // The parameters' covariance is the inverse of Σ (WJ)ᵀ(WJ).
        let mut information = SMatrix::<f64, 8, 8>::zeros();
        for p in &scaled {
            let (_, slopes) = seen_with_slopes(&h, p.ground)?;
            let white = p.whiten * slopes;
            information += white.transpose() * white;
        }
        let spread = information.try_inverse()?.cholesky()?.l();
        let whole = Self { inner: h, ground, picture, spread };
        spread.iter().all(|v| v.is_finite()).then_some(whole)
    }

    /// The map as a matrix from ground (m) to picture (px), its last entry 1.
    pub fn matrix(&self) -> Option<[[f64; 3]; 3]> {
        let m = self.whole()?;
        (m[(2, 2)] != 0.0).then(|| {
            let m = m / m[(2, 2)];
            std::array::from_fn(|r| std::array::from_fn(|c| m[(r, c)]))
        })
    }

    fn whole(&self) -> Option<Matrix3<f64>> {
        Some(self.picture.matrix().try_inverse()? * self.inner * self.ground.matrix())
    }

    /// Where a place on the ground is seen; `None` behind the camera.
    pub fn to_picture(&self, place: Place) -> Option<Pixel> {
        let p = self.ground.apply(place);
        let (seen, _) = seen_with_slopes(&self.inner, p)?;
        (self.depth(place) > 0.0).then(|| self.picture.undo(seen))
    }

    /// The last homogeneous coordinate of a place in the picture: positive before the camera when
    /// it is so for the points the map was fitted to.
    pub fn depth(&self, place: Place) -> f64 {
        let p = self.ground.apply(place);
        self.inner[(2, 0)] * p.0 + self.inner[(2, 1)] * p.1 + self.inner[(2, 2)]
    }

    /// Which place on the ground a pixel shows; `None` at or above the horizon.
    pub fn to_ground(&self, pixel: Pixel) -> Option<Place> {
        let p = self.picture.apply(pixel);
        let back = self.inner.try_inverse()? * Vector3::new(p.0, p.1, 1.0);
        let place = self.ground.undo((back.x / back.z, back.y / back.z));
        let real = place.0.is_finite() && place.1.is_finite();
        (real && self.depth(place) > 0.0).then_some(place)
    }

    /// How a place on the ground moves with its pixel: m/px.
    pub fn metres_per_pixel(&self, place: Place) -> Option<Matrix2<f64>> {
        let p = self.ground.apply(place);
        let inverse = ground_slopes(&self.inner, p)?.try_inverse()?;
        Some(inverse * (self.picture.scale / self.ground.scale))
    }

    /// How a place, read from a fixed pixel, moves with each of eight independent standard
    /// deviations of the map's parameters, m.
    pub fn place_spread(&self, place: Place) -> Option<SMatrix<f64, 2, 8>> {
        let p = self.ground.apply(place);
        let (_, slopes) = seen_with_slopes(&self.inner, p)?;
        let inverse = ground_slopes(&self.inner, p)?.try_inverse()?;
        Some(inverse * slopes * self.spread * (-1.0 / self.ground.scale))
    }

    /// The spread times a factor: the points fit worse than their clicks explain.
    pub fn widened(mut self, by: f64) -> Self {
        self.spread *= by;
        self
    }
}

/// Where the map takes a ground point, and how that moves with the parameters.
fn seen_with_slopes(h: &Matrix3<f64>, (x, y): Place) -> Option<(Pixel, Slopes)> {
    let to = h * Vector3::new(x, y, 1.0);
    if to.z == 0.0 {
        return None;
    }
    let (u, v, w) = (to.x / to.z, to.y / to.z, to.z);
    let row = |k: usize| match k {
        0 => [x / w, y / w, 1.0 / w, 0.0, 0.0, 0.0, -u * x / w, -u * y / w],
        _ => [0.0, 0.0, 0.0, x / w, y / w, 1.0 / w, -v * x / w, -v * y / w],
    };
    let (a, b) = (row(0), row(1));
    Some(((u, v), Slopes::from_fn(|r, c| if r == 0 { a[c] } else { b[c] })))
}

/// How the picture point moves with the ground point.
fn ground_slopes(h: &Matrix3<f64>, (x, y): Place) -> Option<Matrix2<f64>> {
    let to = h * Vector3::new(x, y, 1.0);
    if to.z == 0.0 {
        return None;
    }
    let (u, v) = (to.x / to.z, to.y / to.z);
    Some(Matrix2::new(
        (h[(0, 0)] - u * h[(2, 0)]) / to.z,
        (h[(0, 1)] - u * h[(2, 1)]) / to.z,
        (h[(1, 0)] - v * h[(2, 0)]) / to.z,
        (h[(1, 1)] - v * h[(2, 1)]) / to.z,
    ))
}

/// The direct linear transform on scaled pairs: the null vector of two rows a pair.
fn direct(pairs: &[Pair]) -> Option<Matrix3<f64>> {
    // Nine rows at least, so that the decomposition holds the null vector of four pairs too.
    let mut rows = DMatrix::<f64>::zeros((2 * pairs.len()).max(9), 9);
    for (k, p) in pairs.iter().enumerate() {
        let ((x, y), (u, v)) = (p.ground, p.seen);
        let weight = p.whiten.norm();
        let two = [
            [x, y, 1.0, 0.0, 0.0, 0.0, -u * x, -u * y, -u],
            [0.0, 0.0, 0.0, x, y, 1.0, -v * x, -v * y, -v],
        ];
        for (r, row) in two.iter().enumerate() {
            for (c, value) in row.iter().enumerate() {
                rows[(2 * k + r, c)] = value * weight;
            }
        }
    }
    let svd = rows.svd(false, true);
    let v = svd.v_t?;
    let least = svd.singular_values.iter().enumerate().min_by(|a, b| a.1.total_cmp(b.1))?.0;
    let h = Matrix3::from_fn(|r, c| v[(least, 3 * r + c)]);
    // The middle of the points is before the camera, so the last entry cannot be 0 there.
    (h[(2, 2)].abs() > 1e-9).then(|| h / h[(2, 2)])
}

/// Levenberg–Marquardt on the weighted squared distance in the picture.
fn refined(start: Matrix3<f64>, pairs: &[Pair]) -> Matrix3<f64> {
    let cost = |h: &Matrix3<f64>| {
        pairs.iter().try_fold(0.0, |sum, p| {
            let ((u, v), _) = seen_with_slopes(h, p.ground)?;
            let off = p.whiten * Vector2::new(u - p.seen.0, v - p.seen.1);
            Some(sum + off.norm_squared())
        })
    };
    let mut h = start;
    let Some(mut best) = cost(&h) else { return start };
    let mut damping = 1e-3;
    for _ in 0..100 {
        let mut information = SMatrix::<f64, 8, 8>::zeros();
        let mut pull = Params::zeros();
        for p in pairs {
            let Some(((u, v), slopes)) = seen_with_slopes(&h, p.ground) else { return h };
            let off = p.whiten * Vector2::new(p.seen.0 - u, p.seen.1 - v);
            let white = p.whiten * slopes;
            information += white.transpose() * white;
            pull += white.transpose() * off;
        }
        for k in 0..8 {
            information[(k, k)] *= 1.0 + damping;
        }
        let Some(step) = information.cholesky().map(|c| c.solve(&pull)) else { return h };
        let next = Matrix3::from_fn(|r, c| {
            let k = 3 * r + c;
            if k < 8 { h[(r, c)] + step[k] } else { 1.0 }
        });
        match cost(&next).filter(|c| *c <= best) {
            Some(better) => {
                let small = step.norm() < 1e-13 || (best - better) <= 1e-15 * best;
                h = next;
                best = better;
                damping = (damping / 10.0).max(1e-12);
                if small {
                    break;
                }
            }
            None if damping > 1e8 => break,
            None => damping *= 10.0,
        }
    }
    h
}
