//! Stride length and speed from the places where hooves stood, with the error of the places.
//!
//! Between neighbouring strides the horse has gone the mean of what its limbs' prints have moved.
//! The interval holds three parts: the horse's own spread over the strides (with few of them drawn
//! towards what horses usually show); the clicks, which largely cancel along a row of prints (each print ends one stride and begins the next); and the
//! scale itself, which is the same for all strides and never averages out.

use crate::base::limb::Limb;
use crate::base::number::count;
use crate::base::usual;
use crate::ground::scale::Scale;
use crate::ground::source::Source;
use crate::ground::track_line::{self, Steadied};
use crate::marks::footfall::GroundPoint;
use crate::stats::descriptive::variance;
use crate::stats::estimate::Estimate;
use crate::stats::series::Series;
use crate::stats::wander::{Wander, variance_of_mean};
use crate::strides::stride::Stride;

/// Speed (m/s) and stride length (m) of a bout, each a mean over strides.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Travel {
    /// Metres per second.
    pub speed: Estimate,
    /// Metres from one footfall of a limb to its next, along the ground.
    pub stride_length: Estimate,
    /// Which way it was found.
    pub source: Source,
}

/// A print in the sum: where it stands in the list of strides, whose it is, and by how much the
/// sum moves with it along x and y.
struct Pull {
    at: GroundPoint,
    key: (usize, usize),
    by: (f64, f64),
    /// The same for the click's own error, which a print's line holds back.
    own_by: (f64, f64),
    /// What the horse's straying from that line moves the sum by, one standard deviation.
    stray: f64,
}

/// Travel from hoof positions read by `scale`; without one the positions are taken as given, and
/// the interval carries the spread between strides only. `None` without a limb that stood at known
/// places in two strides in a row.
pub fn travel(strides: &[Stride], scale: Option<&Scale>) -> Option<Travel> {
    let line = scale.and_then(|s| track_line::steadied(strides, s));
    let strides = line.as_ref().map_or(strides, |l| l.strides.as_slice());
    let mut lengths = Lengths::default();
    let mut speeds = Lengths::default();
    for (k, w) in strides.windows(2).enumerate() {
        if (w[1].start - w[0].end).abs() > 1e-9 {
            continue;
        }
        let moved: Vec<(usize, GroundPoint, GroundPoint, f64)> = (0..4)
            .filter_map(|l| Some((l, w[0].at[l]?, w[1].at[l]?, w[1].on[l]? - w[0].on[l]?)))
            .collect();
        if moved.is_empty() {
            continue;
        }
        let n = count(moved.len());
        let phases = moved.iter().map(|(l, ..)| w[0].on[*l].map_or(0.0, |on| on - w[0].start));
        let late = (phases.sum::<f64>() / (n * w[0].duration())).clamp(0.0, 1.0);
        let sum = |weight: &dyn Fn(f64) -> f64| {
            moved.iter().fold((0.0, 0.0), |s, (_, p, q, t)| {
                (s.0 + weight(*t) * (q.x.0 - p.x.0) / n, s.1 + weight(*t) * (q.y.0 - p.y.0) / n)
            })
        };
        for (series, rate) in [(&mut lengths, false), (&mut speeds, true)] {
            let weight = |t: f64| if rate { 1.0 / t } else { 1.0 };
            let way = sum(&weight);
            let length = way.0.hypot(way.1);
            let unit = if length > 0.0 { (way.0 / length, way.1 / length) } else { (0.0, 0.0) };
            let pulls = moved.iter().flat_map(|(l, p, q, t)| {
                let by = weight(*t) / n;
                let towards = (unit.0 * by, unit.1 * by);
                [
                    Pull::new(*p, (k, *l), (-towards.0, -towards.1), line.as_ref()),
                    Pull::new(*q, (k + 1, *l), towards, line.as_ref()),
                ]
            });
            series.push(length, pulls.collect());
            series.next += late;
        }
    }
    let speed = speeds.estimate(scale)?;
    let stride_length = lengths.estimate(scale)?;
    Some(Travel { speed, stride_length, source: scale.map_or(Source::Ground, Scale::source) })
}

/// Length of the fores' steps, m, along the way: from the `from` fore's footfall to the other's.
pub fn steps(strides: &[Stride], from: Limb, scale: Option<&Scale>) -> Option<Estimate> {
    let line = scale.and_then(|s| track_line::steadied(strides, s));
    let strides = line.as_ref().map_or(strides, |l| l.strides.as_slice());
    let (a, b) = (from.index(), from.opposite().index());
    let mut series = Lengths::default();
    for (k, w) in strides.windows(2).enumerate() {
        let step = || {
            let (p, r) = (w[0].at[a]?, w[1].at[a]?);
            let on = w[0].on[a]?;
            let (place, q) = if w[0].on[b]? > on { (k, w[0].at[b]?) } else { (k + 1, w[1].at[b]?) };
            let (dx, dy) = (r.x.0 - p.x.0, r.y.0 - p.y.0);
            let length = dx.hypot(dy);
            (length > 0.0).then(|| {
                let unit = (dx / length, dy / length);
                let step = (q.x.0 - p.x.0) * unit.0 + (q.y.0 - p.y.0) * unit.1;
                let pulls = vec![
                    Pull::new(p, (k, a), (-unit.0, -unit.1), line.as_ref()),
                    Pull::new(q, (place, b), unit, line.as_ref()),
                ];
                (step, pulls)
            })
        };
        if let Some((step, pulls)) = step() {
            series.push(step, pulls);
        }
    }
    series.estimate(scale)
}

impl Pull {
    fn new(at: GroundPoint, key: (usize, usize), by: (f64, f64), line: Option<&Steadied>) -> Self {
        let Some(line) = line else { return Self { at, key, by, own_by: by, stray: 0.0 } };
        let share = line.share[key.0][key.1];
        // Signed length of the pull along the track.
        let along = by.0 * line.across.1 - by.1 * line.across.0;
        let back = along * share;
        let own_by = (by.0 - back * line.across.0, by.1 - back * line.across.1);
        Self { at, key, by, own_by, stray: back * track_line::STRAY_M }
    }
}

/// Values, one a stride, each with the prints it rests on.
#[derive(Default)]
struct Lengths {
    values: Vec<f64>,
    pulls: Vec<Vec<Pull>>,
    /// Sum of the shares of the next stride in the values.
    next: f64,
}

impl Lengths {
    fn push(&mut self, value: f64, pulls: Vec<Pull>) {
        self.values.push(value);
        self.pulls.push(pulls);
    }

    /// Mean with its interval, by the model of [`Wander`] with what horses usually show before it.
    fn estimate(&self, scale: Option<&Scale>) -> Option<Estimate> {
        let n = self.values.len();
        if n == 0 {
            return None;
        }
        let value = self.values.iter().sum::<f64>() / count(n);
        let clicks = scale.and_then(|s| self.clicks(s)).unwrap_or_default();
        if n < 2 {
            return Some(Estimate { value, sd: None, ci95: None, n });
        }
        let sd = (variance(&self.values) - clicks.one).max(0.0).sqrt();
        let series = Series {
            values: &self.values,
            noise: clicks.one,
            shared: -0.5,
            next: self.next / count(n),
            detrended: false,
        };
        let wander = Wander::read(&series, &usual::LENGTHS.scaled(value.abs()));
        // Clicks cancel along a row of prints: they leave less in the mean than one/n.
        let left = clicks.mean + clicks.scale;
        let half = wander.half_width(0.95, |c| c.variance * variance_of_mean(n, c.likeness) + left);
        Some(Estimate { value, sd: Some(sd), ci95: Some((value - half, value + half)), n })
    }

    /// What clicks and scale put into the mean, m² (or (m/s)²).
    fn clicks(&self, scale: &Scale) -> Option<Clicked> {
        let n = count(self.values.len());
        let mut prints: Vec<&Pull> = Vec::new();
        let mut one = 0.0;
        for pulls in &self.pulls {
            for pull in pulls {
                let e = scale.error(pull.at)?;
                one += (own_variance(&e.own, pull.own_by) + pull.stray.powi(2)) / n;
                prints.push(pull);
            }
        }
        // A print that ends one stride and begins the next counts once.
        prints.sort_by_key(|p| p.key);
        let mut mean = 0.0;
        let mut common: Vec<f64> = Vec::new();
        for same in prints.chunk_by(|a, b| a.key == b.key) {
            let sum = |of: &dyn Fn(&Pull) -> f64| same.iter().map(|p| of(p)).sum::<f64>() / n;
            let own = (sum(&|p| p.own_by.0), sum(&|p| p.own_by.1));
            let by = (sum(&|p| p.by.0), sum(&|p| p.by.1));
            let e = scale.error(same[0].at)?;
            mean += own_variance(&e.own, own) + sum(&|p| p.stray).powi(2);
            common.resize(common.len().max(e.common.len()), 0.0);
            for (sum, c) in common.iter_mut().zip(&e.common) {
                *sum += by.0 * c[0] + by.1 * c[1];
            }
        }
        Some(Clicked { one, mean, scale: common.iter().map(|c| c * c).sum() })
    }
}

#[derive(Default)]
struct Clicked {
    /// Mean variance that clicks put into one value.
    one: f64,
    /// Variance that clicks put into the mean.
    mean: f64,
    /// Variance that the scale puts into the mean.
    scale: f64,
}

fn own_variance(own: &[[f64; 2]; 2], by: (f64, f64)) -> f64 {
    let u = by.0 * own[0][0] + by.1 * own[1][0];
    let v = by.0 * own[0][1] + by.1 * own[1][1];
    u * u + v * v
}

/// What of a stride length's relative error comes from the scale and the clicks alone, one stride
/// of `length` m from `at` along `direction`: standard deviation as a share. For saying, before a
/// hoof is clicked, what a camera's place is good for.
pub fn scale_error(
    scale: &Scale,
    at: (f64, f64),
    direction: (f64, f64),
    length: f64,
) -> Option<f64> {
    use crate::base::units::Metres;
    let norm = direction.0.hypot(direction.1);
    let unit = (direction.0 / norm, direction.1 / norm);
    let half = length / 2.0;
    let point = |k: f64| GroundPoint {
        x: Metres(at.0 + k * unit.0 * half),
        y: Metres(at.1 + k * unit.1 * half),
    };
    let (a, b) = (scale.error(point(-1.0))?, scale.error(point(1.0))?);
    let clicks = along_track(&a.own, unit) + along_track(&b.own, unit);
    let common: f64 = a
        .common
        .iter()
        .zip(&b.common)
        .map(|(p, q)| ((q[0] - p[0]) * unit.0 + (q[1] - p[1]) * unit.1).powi(2))
        .sum();
    Some((clicks + common).sqrt() / length)
}

/// Variance that a click leaves along a straight track whose line is known, m².
fn along_track(own: &[[f64; 2]; 2], along: (f64, f64)) -> f64 {
    let across = (-along.1, along.0);
    let part = |d: (f64, f64), k: usize| d.0 * own[0][k] + d.1 * own[1][k];
    let covariance = part(along, 0) * part(across, 0) + part(along, 1) * part(across, 1);
    let beside = own_variance(own, across) + track_line::STRAY_M.powi(2);
    own_variance(own, along) - covariance * covariance / beside
}
