//! The ground plane: four or more points of known place, clicked in a picture that stands still,
//! turn hoof clicks into metres. The map's own error and that of each click reach every figure.
//!
//! Points nearly in line, a mirror image and labels that were mixed up are caught: a map from
//! above keeps the order of turn, all points lie before the camera, and the map must belong to
//! a camera that can be.

use nalgebra::{Matrix2, SMatrix, Vector2};

use crate::arena::Place;
use crate::camera::{self, CameraPose};
use crate::homography::{Homography, Pair, Pixel};
use crate::regularity::chi_squared_quantile;
use crate::scale::Error;

/// A point of known place, clicked.
#[derive(Clone, Debug, PartialEq)]
pub struct Known {
    /// What it is called: a letter, or the coach's word for a cone.
    pub name: String,
    /// Where it stands, m.
    pub place: Place,
    /// Where it is seen, px.
    pub seen: Pixel,
}

/// What the clicks are worth.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Clicks {
    /// Standard deviation of a click along each axis, px.
    pub sd_px: f64,
    /// Standard deviation of the known places along each axis, m.
    pub place_sd_m: f64,
    /// Width and height of the picture, px.
    pub size: (f64, f64),
}

/// Why points make no ground plane.
#[derive(Clone, Debug, PartialEq)]
pub enum Refused {
    /// Fewer than four.
    TooFew(usize),
    /// More than [`MOST`].
    TooMany(usize),
    /// Two of them are one.
    Twice(String, String),
    /// Three of every four lie in line, or nearly: these.
    InLine(Vec<String>),
    /// Left and right are changed: a mirror image, or the sides' names are.
    Mirrored,
    /// No camera sees the points like this; exchanging these two mends it.
    Exchanged(String, String),
    /// No camera sees the points like this.
    Impossible,
}

/// What a ground plane leaves to wish for.
#[derive(Clone, Debug, PartialEq)]
pub enum Warning {
    /// Three of the points that carry it are nearly in line.
    NearlyInLine,
    /// The points fit worse than clicks explain; this one is the furthest out, px.
    Misfit(String, f64),
    /// The points fit worse than clicks explain; exchanging these two mends it.
    Exchanged(String, String),
}

/// A ground plane.
#[derive(Clone, Debug, PartialEq)]
pub struct GroundPlane {
    /// The map.
    map: Homography,
    /// Standard deviation of a click, px.
    click_px: f64,
    /// Distance of each point from where the map puts it, px.
    pub residuals_px: Vec<f64>,
    /// Root mean square of the same over what is free; `None` with four points, which always fit.
    pub rms_px: Option<f64>,
    /// The camera, when the map tells.
    pub camera: Option<CameraPose>,
    /// What to look at again.
    pub warnings: Vec<Warning>,
}

/// Most points of one plane.
pub const MOST: usize = 20;
/// Triangles flatter than this many standard deviations of a click are a line (project default).
const FLAT_SDS: f64 = 4.0;
/// … and flatter than this are nearly one (project default).
const NEARLY_SDS: f64 = 9.0;
/// Focal lengths of cameras, in widths of the picture (project default): a fish-eye to a long lens.
const FOCAL_WIDTHS: (f64, f64) = (0.35, 25.0);
/// Heights of cameras, m (project default): a hand at the knee to a mast.
const HEIGHTS_M: (f64, f64) = (0.15, 15.0);

impl GroundPlane {
    /// A ground plane from points.
    ///
    /// # Errors
    /// [`Refused`] when they make none.
    pub fn new(points: &[Known], clicks: Clicks) -> Result<Self, Refused> {
        let n = points.len();
        if n < 4 {
            return Err(Refused::TooFew(n));
        }
        if n > MOST {
            return Err(Refused::TooMany(n));
        }
        for (k, a) in points.iter().enumerate() {
            let same = |b: &&Known| away(a.seen, b.seen) < 1.0 || away(a.place, b.place) < 0.01;
            if let Some(b) = points[..k].iter().find(same) {
                return Err(Refused::Twice(b.name.clone(), a.name.clone()));
            }
        }
        let spread = openness(points, clicks);
        if spread < FLAT_SDS {
            return Err(Refused::InLine(points.iter().map(|p| p.name.clone()).collect()));
        }
        let map = fit(points, clicks).ok_or_else(|| blame(points, clicks))?;
        if !possible(&map, points, clicks) {
            return Err(blame(points, clicks));
        }
        let mut warnings = Vec::new();
        if spread < NEARLY_SDS {
            warnings.push(Warning::NearlyInLine);
        }
        let residuals_px = residuals(&map, points);
        let free = crate::phase::count(2 * n) - 8.0;
        let chi2 = misfit(&map, points, clicks);
        let limit = if free > 0.0 { chi_squared_quantile(free, 0.999) } else { None };
        let misfits = limit.is_some_and(|limit| chi2 > limit);
        if misfits {
            warnings.push(doubt(points, clicks, &residuals_px));
        }
        let camera = map.matrix().and_then(|m| camera::pose(&m, clicks.size));
        let camera = camera.filter(|c| can_be(c, clicks));
        let rms = |sum: f64| (sum / free).sqrt();
        Ok(Self {
            rms_px: (free > 0.0).then(|| rms(residuals_px.iter().map(|r| r * r).sum())),
            map: if misfits { map.widened((chi2 / free).sqrt()) } else { map },
            click_px: clicks.sd_px,
            residuals_px,
            camera,
            warnings,
        })
    }

    /// The place on the ground that a pixel shows; `None` above the horizon.
    pub fn place(&self, pixel: Pixel) -> Option<Place> {
        self.map.to_ground(pixel)
    }

    /// The map.
    pub fn map(&self) -> &Homography {
        &self.map
    }

    /// Error of a place read from a click.
    pub fn error(&self, place: Place) -> Option<Error> {
        let own: Matrix2<f64> = self.map.metres_per_pixel(place)? * self.click_px;
        let common: SMatrix<f64, 2, 8> = self.map.place_spread(place)?;
        Some(Error {
            own: [[own[(0, 0)], own[(0, 1)]], [own[(1, 0)], own[(1, 1)]]],
            common: (0..8).map(|k| [common[(0, k)], common[(1, k)]]).collect(),
        })
    }

    /// Angle between the line of sight to a place and a way along `direction`, degrees 0–90, when
    /// the camera is known.
    pub fn view_angle_deg(&self, place: Place, direction: (f64, f64)) -> Option<f64> {
        let camera = self.camera?;
        let sight = (place.0 - camera.at.0, place.1 - camera.at.1);
        let cross = (sight.0 * direction.1 - sight.1 * direction.0).abs();
        let along = (sight.0 * direction.0 + sight.1 * direction.1).abs();
        Some(cross.atan2(along).to_degrees())
    }
}

fn away(a: (f64, f64), b: (f64, f64)) -> f64 {
    (a.0 - b.0).hypot(a.1 - b.1)
}

fn fit(points: &[Known], clicks: Clicks) -> Option<Homography> {
    let even = |p: &Known| Pair::clicked(p.place, p.seen, clicks.sd_px);
    let first = Homography::fit(&points.iter().map(even).collect::<Vec<_>>())?;
    if clicks.place_sd_m <= 0.0 {
        return Some(first);
    }
    let pairs: Option<Vec<Pair>> = points
        .iter()
        .map(|p| {
            let whiten = covariance(&first, p, clicks)?.try_inverse()?.cholesky()?.l().transpose();
            Some(Pair { ground: p.place, seen: p.seen, whiten })
        })
        .collect();
    Homography::fit(&pairs?)
}

/// Covariance of a point in the picture, px²: its click, and its place, which moves in the picture
/// by what a metre is there.
fn covariance(map: &Homography, p: &Known, clicks: Clicks) -> Option<Matrix2<f64>> {
    let px_per_m = map.metres_per_pixel(p.place)?.try_inverse()?;
    let place = px_per_m * px_per_m.transpose() * (clicks.place_sd_m * clicks.place_sd_m);
    Some(Matrix2::identity() * (clicks.sd_px * clicks.sd_px) + place)
}

fn residuals(map: &Homography, points: &[Known]) -> Vec<f64> {
    let one = |p: &Known| map.to_picture(p.place).map_or(f64::INFINITY, |q| away(p.seen, q));
    points.iter().map(one).collect()
}

/// Σ (distance / its standard deviation)².
fn misfit(map: &Homography, points: &[Known], clicks: Clicks) -> f64 {
    let one = |p: &Known| {
        let (u, v) = map.to_picture(p.place)?;
        let off = Vector2::new(u - p.seen.0, v - p.seen.1);
        Some((off.transpose() * covariance(map, p, clicks)?.try_inverse()? * off)[0])
    };
    points.iter().map(|p| one(p).unwrap_or(f64::INFINITY)).sum()
}

/// How far the best four points are from having three in line: the lowest triangle of theirs, in
/// standard deviations of a click (picture) or of 2 cm (ground), whichever is less.
fn openness(points: &[Known], clicks: Clicks) -> f64 {
    let n = points.len();
    let height = |a: usize, b: usize, c: usize| {
        let flat = |p: [(f64, f64); 3]| {
            let [a, b, c] = p;
            let area = ((b.0 - a.0) * (c.1 - a.1) - (b.1 - a.1) * (c.0 - a.0)).abs();
            area / away(a, b).max(away(b, c)).max(away(a, c))
        };
        let seen = flat([points[a].seen, points[b].seen, points[c].seen]) / clicks.sd_px;
        let place = flat([points[a].place, points[b].place, points[c].place]);
        seen.min(place / clicks.place_sd_m.max(0.02))
    };
    let mut best = 0.0f64;
    for a in 0..n {
        for b in a + 1..n {
            for c in b + 1..n {
                let first = height(a, b, c);
                if first <= best {
                    continue;
                }
                for d in c + 1..n {
                    let others = height(a, b, d).min(height(a, c, d)).min(height(b, c, d));
                    best = best.max(first.min(others));
                }
            }
        }
    }
    best
}

/// Whether a map can be a view of the ground from above: all points before the camera, the order
/// of turn kept, and a camera that can be (as far as the points tell).
fn possible(map: &Homography, points: &[Known], clicks: Clicks) -> bool {
    before(map, points) && !turned(map, points) && is_a_camera(map, points, clicks)
}

fn before(map: &Homography, points: &[Known]) -> bool {
    points.iter().all(|p| map.depth(p.place) > 0.0)
}

/// Seen from above, x to the right and y ahead; in the picture y runs down.
fn turned(map: &Homography, points: &[Known]) -> bool {
    points.iter().filter_map(|p| map.metres_per_pixel(p.place)).any(|m| m.determinant() > 0.0)
}

/// Whether the map belongs to a camera. Where the clicks leave its focal length open nothing is
/// held against it.
fn is_a_camera(map: &Homography, points: &[Known], clicks: Clicks) -> bool {
    let Some(m) = map.matrix() else { return false };
    let Some(q) = camera::inverse_focal_squared(&m, clicks.size) else { return true };
    // How far q moves when each click moves by its error.
    let mut variance = 0.0;
    for k in 0..points.len() {
        for axis in 0..2 {
            let mut moved = points.to_vec();
            if axis == 0 {
                moved[k].seen.0 += clicks.sd_px;
            } else {
                moved[k].seen.1 += clicks.sd_px;
            }
            let other = fit(&moved, Clicks { place_sd_m: 0.0, ..clicks }).and_then(|h| h.matrix());
            if let Some(o) = other.and_then(|m| camera::inverse_focal_squared(&m, clicks.size)) {
                variance += (o - q) * (o - q);
            }
        }
    }
    let sd = variance.sqrt();
    let of = |widths: f64| (clicks.size.0 * widths).powi(-2);
    if q - 4.0 * sd > of(FOCAL_WIDTHS.0) || q + 4.0 * sd < of(FOCAL_WIDTHS.1) {
        return false;
    }
    if q <= 0.0 || sd > 0.3 * q {
        return true;
    }
    camera::pose(&m, clicks.size).is_none_or(|c| (HEIGHTS_M.0..HEIGHTS_M.1).contains(&c.height_m))
}

fn can_be(camera: &CameraPose, clicks: Clicks) -> bool {
    let widths = camera.focal_px / clicks.size.0;
    (FOCAL_WIDTHS.0..FOCAL_WIDTHS.1).contains(&widths)
        && (HEIGHTS_M.0..HEIGHTS_M.1).contains(&camera.height_m)
}

/// Why points make no view of the ground: two names exchanged, a mirror image, or neither.
fn blame(points: &[Known], clicks: Clicks) -> Refused {
    let fits = |p: &[Known]| {
        fit(p, clicks).is_some_and(|map| {
            let limit =
                chi_squared_quantile((crate::phase::count(2 * p.len()) - 8.0).max(1.0), 0.999);
            possible(&map, p, clicks) && limit.is_none_or(|l| misfit(&map, p, clicks) < l)
        })
    };
    let mirror: Vec<Known> =
        points.iter().map(|p| Known { seen: (-p.seen.0, p.seen.1), ..p.clone() }).collect();
    let flipped: Vec<Known> = mirror
        .iter()
        .map(|p| Known { seen: (p.seen.0 + clicks.size.0, p.seen.1), ..p.clone() })
        .collect();
    if fits(&flipped) {
        return Refused::Mirrored;
    }
    exchanges(points).find(|(_, _, other)| fits(other)).map_or(Refused::Impossible, |(a, b, _)| {
        Refused::Exchanged(points[a].name.clone(), points[b].name.clone())
    })
}

/// Every way to exchange the places of two points.
fn exchanges(points: &[Known]) -> impl Iterator<Item = (usize, usize, Vec<Known>)> {
    let n = points.len();
    (0..n).flat_map(move |a| (a + 1..n).map(move |b| (a, b))).map(move |(a, b)| {
        let mut other = points.to_vec();
        other[a].place = points[b].place;
        other[b].place = points[a].place;
        (a, b, other)
    })
}

/// The likeliest reason for a misfit.
fn doubt(points: &[Known], clicks: Clicks, residuals: &[f64]) -> Warning {
    let free = crate::phase::count(2 * points.len()) - 8.0;
    let limit = chi_squared_quantile(free, 0.999).unwrap_or(f64::INFINITY);
    let mends = |p: &[Known]| {
        fit(p, clicks)
            .is_some_and(|map| possible(&map, p, clicks) && misfit(&map, p, clicks) < limit)
    };
    if let Some((a, b, _)) = exchanges(points).find(|(_, _, other)| mends(other)) {
        return Warning::Exchanged(points[a].name.clone(), points[b].name.clone());
    }
    // With one left out the others fit best when it is the one that is wrong.
    let without = |k: usize| {
        let others: Vec<Known> =
            points.iter().enumerate().filter(|(j, _)| *j != k).map(|(_, p)| p.clone()).collect();
        let map = fit(&others, clicks)?;
        let out =
            map.to_picture(points[k].place).map_or(f64::INFINITY, |q| away(q, points[k].seen));
        Some((misfit(&map, &others, clicks), out))
    };
    let worst = (0..points.len())
        .filter_map(|k| without(k).map(|(left, out)| (k, left, out)))
        .min_by(|a, b| a.1.total_cmp(&b.1));
    match worst.filter(|_| points.len() > 5) {
        Some((k, _, out)) => Warning::Misfit(points[k].name.clone(), out),
        None => {
            let k = (0..points.len())
                .max_by(|a, b| residuals[*a].total_cmp(&residuals[*b]))
                .unwrap_or(0);
            Warning::Misfit(points[k].name.clone(), residuals[k])
        }
    }
}
