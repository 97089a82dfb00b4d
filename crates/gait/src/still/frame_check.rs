//! The frame check: the horse's outline and the rider's line on one still, from clicked points.
//!
//! Lengths are in withers heights, so that stills from any distance compare; angles are against
//! the vertical of the picture (or of the hooves' line, when all four are clicked). Nothing here
//! is a verdict on a horse: one still is one instant.

use crate::stats::estimate::Estimate;
use crate::still::points::{Point, Points};

/// What a still shows. Angles in degrees, lengths in withers heights.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Frame {
    /// Front line of the face against the vertical: positive in front of it, negative behind.
    pub nose_deg: Option<Estimate>,
    /// Withers to poll.
    pub front: Option<Estimate>,
    /// Withers to croup.
    pub back: Option<Estimate>,
    /// Front by back length.
    pub front_by_back: Option<Estimate>,
    /// Withers above the croup, against the horizontal: positive uphill.
    pub uphill_deg: Option<Estimate>,
    /// Hind hooves to fore hooves along the ground.
    pub base: Option<Estimate>,
    /// Rider's hip to ear against the vertical: positive leaning forward.
    pub lean_deg: Option<Estimate>,
    /// Rider's heel against the plumb line through the hip, degrees: positive in front of it.
    pub heel_deg: Option<Estimate>,
    /// Largest distance of shoulder and hip from the line ear–heel, share of it.
    pub line_share: Option<Estimate>,
    /// Bend of the line elbow–hand–bit at the hand, degrees: positive when the hand is above it.
    pub rein_deg: Option<Estimate>,
    /// Whether the picture was levelled by the hooves.
    pub levelled: bool,
}

/// A point on a body is clicked this well in a picture 1280 wide, px (project default).
const BODY_SD_PX: f64 = 3.0;

/// What a still of a picture `width` px wide shows.
pub fn frame(points: &Points, width: f64) -> Frame {
    let sd = BODY_SD_PX * (width / 1280.0).max(0.25);
    let plain = measure(points);
    // Every click moves by its error, one at a time; what each figure moves by adds up in squares.
    let mut out = plain;
    let mut sums = [0.0f64; 10];
    for point in points.keys() {
        for axis in 0..2 {
            let mut moved = points.clone();
            if let Some(p) = moved.get_mut(point) {
                if axis == 0 {
                    p.0 += sd;
                } else {
                    p.1 += sd;
                }
            }
            let other = measure(&moved);
            for (sum, (a, b)) in sums.iter_mut().zip(fields(&plain).into_iter().zip(fields(&other)))
            {
                if let (Some(a), Some(b)) = (a, b) {
                    *sum += (a.value - b.value).powi(2);
                }
            }
        }
    }
    for (field, sum) in fields_mut(&mut out).into_iter().zip(sums) {
        if let Some(e) = field {
            let half = 1.96 * sum.sqrt();
            e.ci95 = Some((e.value - half, e.value + half));
        }
    }
    out
}

pub(crate) const fn fields(f: &Frame) -> [Option<Estimate>; 10] {
    [
        f.nose_deg,
        f.front,
        f.back,
        f.front_by_back,
        f.uphill_deg,
        f.base,
        f.lean_deg,
        f.heel_deg,
        f.line_share,
        f.rein_deg,
    ]
}

pub(crate) const fn fields_mut(f: &mut Frame) -> [&mut Option<Estimate>; 10] {
    [
        &mut f.nose_deg,
        &mut f.front,
        &mut f.back,
        &mut f.front_by_back,
        &mut f.uphill_deg,
        &mut f.base,
        &mut f.lean_deg,
        &mut f.heel_deg,
        &mut f.line_share,
        &mut f.rein_deg,
    ]
}

/// The figures without their errors.
fn measure(points: &Points) -> Frame {
    // Upright coordinates: x to the side the horse faces, y up.
    let facing = facing(points);
    let raw = |p: Point| points.get(&p).map(|(x, y)| (x * facing, -y));
    let mid = |a: Point, b: Point| match (raw(a), raw(b)) {
        (Some(p), Some(q)) => Some((f64::midpoint(p.0, q.0), f64::midpoint(p.1, q.1))),
        (p, q) => p.or(q),
    };
    let (fore, hind) = (mid(Point::Lf, Point::Rf), mid(Point::Lh, Point::Rh));
    let all_hooves =
        [Point::Lf, Point::Rf, Point::Lh, Point::Rh].iter().all(|p| points.contains_key(p));
    // The middles of both pairs lie in the horse's own plane: with all four the ground is level.
    let tilt = match (fore, hind) {
        (Some(f), Some(h)) if all_hooves && (f.0 - h.0).abs() > 1.0 => (f.1 - h.1).atan2(f.0 - h.0),
        _ => 0.0,
    };
    let level = |(x, y): (f64, f64)| {
        let (s, c) = (-tilt).sin_cos();
        (x * c - y * s, x * s + y * c)
    };
    let at = |p: Point| raw(p).map(level);
    let (fore, hind) = (fore.map(level), hind.map(level));
    let ground_under = |x: f64| match (fore, hind) {
        (Some(f), Some(h)) if (f.0 - h.0).abs() > 1.0 => {
            Some(h.1 + (f.1 - h.1) * (x - h.0) / (f.0 - h.0))
        }
        (f, h) => f.or(h).map(|p| p.1),
    };
    let height =
        at(Point::Withers).and_then(|w| ground_under(w.0).map(|g| w.1 - g)).filter(|h| *h > 1.0);
    let between = |a: Point, b: Point| at(a).zip(at(b)).map(|(p, q)| (q.0 - p.0, q.1 - p.1));
    let length = |a: Point, b: Point| between(a, b).map(|(x, y)| x.hypot(y));
    let in_heights = |v: Option<f64>| v.zip(height).map(|(v, h)| v / h);
    let (front, back) = (length(Point::Withers, Point::Poll), length(Point::Withers, Point::Croup));
    let e = |v: Option<f64>| {
        v.filter(|v| v.is_finite()).map(|value| Estimate { value, sd: None, ci95: None, n: 1 })
    };
    let degrees = |y: f64, x: f64| y.atan2(x).to_degrees();
    Frame {
        nose_deg: e(between(Point::Forehead, Point::Nose).map(|(x, y)| degrees(x, -y))),
        front: e(in_heights(front)),
        back: e(in_heights(back)),
        front_by_back: e(front.zip(back).map(|(f, b)| f / b)),
        uphill_deg: e(between(Point::Croup, Point::Withers).map(|(x, y)| degrees(y, x))),
        base: e(in_heights(fore.zip(hind).map(|(f, h)| f.0 - h.0))),
        lean_deg: e(between(Point::Hip, Point::Ear).map(|(x, y)| degrees(x, y))),
        heel_deg: e(between(Point::Hip, Point::Heel).map(|(x, y)| degrees(x, -y))),
        line_share: e(rider_line(
            at(Point::Ear),
            at(Point::Shoulder),
            at(Point::Hip),
            at(Point::Heel),
        )),
        rein_deg: e(rein_line(at(Point::Elbow), at(Point::Hand), at(Point::Bit))),
        levelled: tilt != 0.0,
    }
}

/// 1 when the horse faces the right of the picture, −1 the left.
fn facing(points: &Points) -> f64 {
    let x = |p: Point| points.get(&p).map(|q| q.0);
    let pairs = [
        (Point::Croup, Point::Withers),
        (Point::Withers, Point::Poll),
        (Point::Poll, Point::Nose),
        (Point::Croup, Point::Poll),
        (Point::Elbow, Point::Bit),
    ];
    let ahead = pairs.into_iter().find_map(|(a, b)| x(b).zip(x(a)).map(|(b, a)| b - a));
    if ahead.is_some_and(|d| d < 0.0) { -1.0 } else { 1.0 }
}

type At = Option<(f64, f64)>;

fn rider_line(ear: At, shoulder: At, hip: At, heel: At) -> Option<f64> {
    let (a, b) = (ear?, heel?);
    let length = (b.0 - a.0).hypot(b.1 - a.1);
    let off = |p: (f64, f64)| {
        ((b.0 - a.0) * (p.1 - a.1) - (b.1 - a.1) * (p.0 - a.0)).abs() / (length * length)
    };
    Some(off(shoulder?).max(off(hip?)))
}

fn rein_line(elbow: At, hand: At, bit: At) -> Option<f64> {
    let (e, h, b) = (elbow?, hand?, bit?);
    let first = (h.1 - e.1).atan2(h.0 - e.0);
    let second = (b.1 - h.1).atan2(b.0 - h.0);
    Some((first - second).to_degrees())
}
