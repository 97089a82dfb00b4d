//! Whether clicked points can be a ground plane at all: points in line, a mirror image, exchanged
//! names, and maps that no camera makes.

use nalgebra::{Matrix2, Vector2};

use crate::ground::arena::Place;
use crate::ground::camera::{self, CameraPose};
use crate::ground::homography::{Homography, Pair, Pixel};
use crate::stats::quantiles::chi_squared_quantile;

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

/// Most points of one plane.
pub const MOST: usize = 20;

/// Triangles flatter than this many standard deviations of a click are a line (project default).
pub(crate) const FLAT_SDS: f64 = 4.0;

/// … and flatter than this are nearly one (project default).
pub(crate) const NEARLY_SDS: f64 = 9.0;

/// Focal lengths of cameras, in widths of the picture (project default): a fish-eye to a long lens.
const FOCAL_WIDTHS: (f64, f64) = (0.35, 25.0);

/// Heights of cameras, m (project default): a hand at the knee to a mast.
const HEIGHTS_M: (f64, f64) = (0.15, 15.0);

pub(crate) fn away(a: (f64, f64), b: (f64, f64)) -> f64 {
    (a.0 - b.0).hypot(a.1 - b.1)
}

pub(crate) fn fit(points: &[Known], clicks: Clicks) -> Option<Homography> {
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

pub(crate) fn residuals(map: &Homography, points: &[Known]) -> Vec<f64> {
    let one = |p: &Known| map.to_picture(p.place).map_or(f64::INFINITY, |q| away(p.seen, q));
    points.iter().map(one).collect()
}

/// Σ (distance / its standard deviation)².
pub(crate) fn misfit(map: &Homography, points: &[Known], clicks: Clicks) -> f64 {
    let one = |p: &Known| {
        let (u, v) = map.to_picture(p.place)?;
        let off = Vector2::new(u - p.seen.0, v - p.seen.1);
        Some((off.transpose() * covariance(map, p, clicks)?.try_inverse()? * off)[0])
    };
    points.iter().map(|p| one(p).unwrap_or(f64::INFINITY)).sum()
}

/// How far the best four points are from having three in line: the lowest triangle of theirs, in
/// standard deviations of a click (picture) or of 2 cm (ground), whichever is less.
pub(crate) fn openness(points: &[Known], clicks: Clicks) -> f64 {
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
pub(crate) fn possible(map: &Homography, points: &[Known], clicks: Clicks) -> bool {
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

pub(crate) fn can_be(camera: &CameraPose, clicks: Clicks) -> bool {
    let widths = camera.focal_px / clicks.size.0;
    (FOCAL_WIDTHS.0..FOCAL_WIDTHS.1).contains(&widths)
        && (HEIGHTS_M.0..HEIGHTS_M.1).contains(&camera.height_m)
}

/// Why points make no view of the ground: two names exchanged, a mirror image, or neither.
pub(crate) fn blame(points: &[Known], clicks: Clicks) -> Refused {
    let fits = |p: &[Known]| {
        fit(p, clicks).is_some_and(|map| {
            let limit = chi_squared_quantile(
                (crate::base::number::count(2 * p.len()) - 8.0).max(1.0),
                0.999,
            );
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
pub(crate) fn doubt(points: &[Known], clicks: Clicks, residuals: &[f64]) -> Warning {
    let free = crate::base::number::count(2 * points.len()) - 8.0;
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
