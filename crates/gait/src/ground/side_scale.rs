//! A scale along one line of travel, seen from the side: a track bar, or the height at the withers.

use crate::base::units::Metres;
use crate::ground::arena::Place;
use crate::ground::homography::Pixel;
use crate::ground::place_error::PlaceError;
use crate::ground::source::Source;

/// A scale along a line of travel seen from the side: no depth, places run along x with y = 0.
#[derive(Clone, Debug, PartialEq)]
pub struct SideScale {
    /// Its kind.
    pub(super) source: Source,
    /// A point of the line, px.
    origin: Pixel,
    /// Its direction, a unit vector in the picture.
    along: (f64, f64),
    /// Metres along a line of the picture, s px from the origin: (a·s + b)/(c·s + 1).
    line: [f64; 3],
    /// Standard deviations of the three, a column each.
    spread: Vec<[f64; 3]>,
    /// Standard deviation of the scale for reasons other than clicks, share.
    model: f64,
    click_px: f64,
}

/// A point of a track bar, clicked.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BarPoint {
    /// Distance from the first, m.
    pub at_m: f64,
    /// Where it is seen, px.
    pub seen: Pixel,
}

/// Why a bar or a height gives no scale.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum NoScale {
    /// A bar needs two points, a height two clicks.
    TooFew,
    /// The points are too near to one another in the picture.
    TooNear,
    /// Their order along the line is not the order in the picture.
    OutOfOrder,
    /// The height at the withers is not known.
    NoHeight,
}

/// What a bar leaves open beyond its clicks: the hooves do not run exactly over it, and the camera
/// does not stand exactly square (project default, share as a standard deviation).
const BAR_MODEL: f64 = 0.01;

/// ±8 % as 95 % limits (project default).
const WITHERS_MODEL: f64 = 0.08 / 1.96;

/// Points nearer than this are no bar, px.
const LEAST_PX: f64 = 20.0;

impl SideScale {
    /// A track bar: with two points one scale for the whole line, with three or more also how it
    /// shrinks with distance.
    ///
    /// # Errors
    /// [`NoScale`].
    pub fn bar(points: &[BarPoint], click_px: f64) -> Result<Self, NoScale> {
        let mut points = points.to_vec();
        points.sort_by(|a, b| a.at_m.total_cmp(&b.at_m));
        let (Some(first), Some(last)) = (points.first(), points.last()) else {
            return Err(NoScale::TooFew);
        };
        let (dx, dy) = (last.seen.0 - first.seen.0, last.seen.1 - first.seen.1);
        let length = dx.hypot(dy);
        if points.len() < 2 {
            return Err(NoScale::TooFew);
        }
        if length < LEAST_PX || last.at_m - first.at_m <= 0.0 {
            return Err(NoScale::TooNear);
        }
        let (origin, along) = (first.seen, (dx / length, dy / length));
        let place =
            |p: &BarPoint| (p.seen.0 - origin.0) * along.0 + (p.seen.1 - origin.1) * along.1;
        let from = first.at_m;
        let pairs: Vec<(f64, f64)> = points.iter().map(|p| (place(p), p.at_m - from)).collect();
        if pairs.windows(2).any(|w| w[1].0 <= w[0].0) {
            return Err(NoScale::OutOfOrder);
        }
        let line = fit_line(&pairs).ok_or(NoScale::TooNear)?;
        let spread = (0..pairs.len())
            .map(|k| {
                let mut moved = pairs.clone();
                moved[k].0 += click_px;
                let other = fit_line(&moved).unwrap_or(line);
                std::array::from_fn(|j| other[j] - line[j])
            })
            .collect();
        let source = Source::Bar;
        Ok(Self { source, origin, along, line, spread, model: BAR_MODEL, click_px })
    }

    /// The height at the withers, clicked from the ground under them to the withers, the horse
    /// square to the camera.
    ///
    /// # Errors
    /// [`NoScale`].
    pub fn withers(
        height: Option<Metres>,
        ground: Pixel,
        withers: Pixel,
        click_px: f64,
    ) -> Result<Self, NoScale> {
        let height = height.filter(|h| h.0 > 0.0).ok_or(NoScale::NoHeight)?;
        let px = (withers.0 - ground.0).hypot(withers.1 - ground.1);
        if px < LEAST_PX {
            return Err(NoScale::TooNear);
        }
        let scale = height.0 / px;
        Ok(Self {
            source: Source::Withers,
            origin: ground,
            along: (1.0, 0.0),
            line: [scale, 0.0, 0.0],
            spread: vec![[scale * 2f64.sqrt() * click_px / px, 0.0, 0.0]],
            model: WITHERS_MODEL,
            click_px,
        })
    }

    fn metres(&self, s: f64, [a, b, c]: [f64; 3]) -> Option<f64> {
        let below = c * s + 1.0;
        (below > 0.05).then(|| (a * s + b) / below)
    }

    /// Metres per pixel at a place along the line.
    fn slope(&self, s: f64) -> f64 {
        let [a, b, c] = self.line;
        (a - b * c) / (c * s + 1.0).powi(2)
    }

    pub(super) fn place(&self, pixel: Pixel) -> Option<Place> {
        let s = (pixel.0 - self.origin.0) * self.along.0 + (pixel.1 - self.origin.1) * self.along.1;
        Some((self.metres(s, self.line)?, 0.0))
    }

    pub(super) fn error(&self, place: Place) -> Option<PlaceError> {
        let [a, b, c] = self.line;
        let s = (place.0 - b) / (a - c * place.0);
        let slope = self.slope(s);
        let mut common: Vec<[f64; 2]> = Vec::with_capacity(self.spread.len() + 1);
        for d in &self.spread {
            let moved = [a + d[0], b + d[1], c + d[2]];
            common.push([self.metres(s, moved)? - place.0, 0.0]);
        }
        common.push([place.0 * self.model, 0.0]);
        let (ux, uy) = self.along;
        let own = [[slope * ux * self.click_px, slope * uy * self.click_px], [0.0, 0.0]];
        Some(PlaceError { own, common })
    }
}

/// The line through points (px along, m): straight through two, projective through more.
fn fit_line(pairs: &[(f64, f64)]) -> Option<[f64; 3]> {
    let (first, last) = (pairs.first()?, pairs.last()?);
    if pairs.len() == 2 {
        let a = (last.1 - first.1) / (last.0 - first.0);
        return Some([a, first.1 - a * first.0, 0.0]).filter(|l| l[0].is_finite());
    }
    // m·(c·s + 1) = a·s + b, least squares, s and m scaled to 1.
    let (sx, sm) = (last.0 - first.0, last.1 - first.1);
    let rows = nalgebra::DMatrix::from_fn(pairs.len(), 3, |r, k| {
        let (s, m) = ((pairs[r].0 - first.0) / sx, (pairs[r].1 - first.1) / sm);
        [s, 1.0, -m * s][k]
    });
    let right = nalgebra::DVector::from_fn(pairs.len(), |r, _| (pairs[r].1 - first.1) / sm);
    let found = rows.svd(true, true).solve(&right, 1e-12).ok()?;
    // Back to pixels from the origin, which the first point is.
    let (a, b, c) = (found[0] * sm / sx, found[1] * sm + first.1, found[2] / sx);
    [a, b, c].iter().all(|v| v.is_finite()).then_some([a, b, c])
}
