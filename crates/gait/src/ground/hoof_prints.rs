//! Where hooves stood against one another: overtrack, tracks, and the angles of forehand and body
//! to the direction of travel.
//!
//! Hooves land at different moments, so each print is first moved back along the track by the way
//! the horse has gone since the stride began: what is left is the print's place against the body.
//! The **body angle** is that of the line from the hinds' middle to the fores' middle; the
//! **shoulder angle** that of the forehand's axis, at right angles to the line between the two
//! fores (about twice the body angle in an evenly bent horse). Both are against the direction of
//! travel, in degrees, positive when the forehand points to its left. Arena coordinates: x across,
//! y towards C, left of the direction of travel is a quarter turn counter-clockwise.

use crate::base::gait::Gait;
use crate::base::limb::Limb;
use crate::base::number::count;
use crate::base::units::Metres;
use crate::ground::scale::Scale;
use crate::marks::footfall::GroundPoint;
use crate::stats::descriptive::variance;
use crate::stats::estimate::Estimate;
use crate::stats::quantiles::t95;
use crate::strides::stride::Stride;

/// Figures of the prints of a bout.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Prints {
    /// Hind print ahead of the last fore print of its side, m, positive when it overtracks.
    pub overtrack_m: Option<Estimate>,
    /// Tracks in which the four hooves run.
    pub tracks: Option<u8>,
    /// Shoulder angle, degrees; symmetrical gaits only, in canter the leading fore reaches ahead.
    pub shoulder_angle_deg: Option<Estimate>,
    /// Body angle, degrees.
    pub body_angle_deg: Option<Estimate>,
    /// The forehand's axis against the quarters', degrees, positive when the horse is bent to its
    /// left; symmetrical gaits only.
    pub bend_deg: Option<Estimate>,
    /// How far the hinds' middle runs to the left of the fores' line, m: 0 in a straight horse.
    pub hinds_beside_m: Option<Estimate>,
    /// Mean side-to-side distance of the fores' prints and of the hinds', m.
    pub width_m: Option<(f64, f64)>,
    /// How far the strides stray from a straight line through them, root mean square, m.
    pub strays_m: Option<f64>,
    /// The middle of the prints, and the direction of travel, a unit vector.
    pub way: Option<((f64, f64), (f64, f64))>,
    /// Whether the horse travels against the way it faces.
    pub backwards: Option<bool>,
}

/// Lines of hooves nearer than this are one track, m …
const TRACK_M: f64 = 0.12;

/// Prints of a bout's strides; with the scale they were read by, its error enters every interval.
pub fn hoof_prints(strides: &[Stride], gait: Gait, scale: Option<&Scale>) -> Prints {
    let mut out = plain_prints(strides, gait);
    if scale.is_some_and(|s| !s.is_arena()) {
        // A scale along one line knows no breadth.
        return Prints {
            overtrack_m: out.overtrack_m,
            backwards: out.backwards,
            ..Prints::default()
        };
    }
    let Some(scale) = scale else { return out };
    // What the figures move by with each independent error of the scale.
    let parts = strides
        .iter()
        .flat_map(|s| s.at.iter().flatten())
        .find_map(|at| scale.error(*at))
        .map_or(0, |e| e.common.len());
    let moved: Vec<Prints> =
        (0..parts).map(|k| plain_prints(&shifted(strides, scale, k), gait)).collect();
    let widen = |mine: &mut Option<Estimate>, of: &dyn Fn(&Prints) -> Option<Estimate>| {
        let Some(e) = mine else { return };
        let variance: f64 =
            moved.iter().filter_map(|m| of(m).map(|o| (o.value - e.value).powi(2))).sum();
        e.ci95 = e.half_width().map(|h| {
            let half = h.hypot(1.96 * variance.sqrt());
            (e.value - half, e.value + half)
        });
    };
    widen(&mut out.overtrack_m, &|p| p.overtrack_m);
    widen(&mut out.shoulder_angle_deg, &|p| p.shoulder_angle_deg);
    widen(&mut out.body_angle_deg, &|p| p.body_angle_deg);
    widen(&mut out.bend_deg, &|p| p.bend_deg);
    widen(&mut out.hinds_beside_m, &|p| p.hinds_beside_m);
    out
}

/// The strides with every print moved by one error of the scale.
fn shifted(strides: &[Stride], scale: &Scale, part: usize) -> Vec<Stride> {
    let mut out = strides.to_vec();
    for at in out.iter_mut().flat_map(|s| s.at.iter_mut()).flatten() {
        if let Some(by) = scale.error(*at).and_then(|e| e.common.get(part).copied()) {
            *at = GroundPoint { x: Metres(at.x.0 + by[0]), y: Metres(at.y.0 + by[1]) };
        }
    }
    out
}

/// Axis of a pair, at right angles to the line from its right print to its left, degrees to the
/// left of the way: a quarter turn clockwise from that line.
fn axis(left: (f64, f64), right: (f64, f64)) -> f64 {
    (-(left.0 - right.0)).atan2(left.1 - right.1).to_degrees()
}

fn plain_prints(strides: &[Stride], gait: Gait) -> Prints {
    let (mut body, mut shoulder, mut bend, mut beside) = (vec![], vec![], vec![], vec![]);
    let mut places: Vec<[(f64, f64); 4]> = Vec::new();
    for w in strides.windows(2) {
        if (w[1].start - w[0].end).abs() > 1e-9 {
            continue;
        }
        let Some(own) = against_body(&w[0], &w[1]) else { continue };
        let [lf, rf, lh, rh] = own;
        let mid = |a: (f64, f64), b: (f64, f64)| (f64::midpoint(a.0, b.0), f64::midpoint(a.1, b.1));
        let (fore, hind) = (mid(lf, rf), mid(lh, rh));
        body.push((fore.1 - hind.1).atan2(fore.0 - hind.0).to_degrees());
        shoulder.push(axis(lf, rf));
        bend.push(axis(lf, rf) - axis(lh, rh));
        beside.push(hind.1 - fore.1);
        places.push(own);
    }
    let backwards =
        (!body.is_empty()).then(|| body.iter().filter(|a| a.abs() > 90.0).count() * 2 > body.len());
    let mut out = Prints { overtrack_m: overtrack(strides), backwards, ..Prints::default() };
    out.way = way(strides);
    out.strays_m = out.way.and_then(|way| strays(strides, way));
    if places.is_empty() || backwards == Some(true) {
        return out;
    }
    let line = |k: usize| places.iter().map(|p| p[k].1).sum::<f64>() / count(places.len());
    let lines = [line(0), line(1), line(2), line(3)];
    let apart = |a: usize, b: usize| {
        places.iter().map(|p| (p[a].0 - p[b].0).hypot(p[a].1 - p[b].1)).sum::<f64>()
            / count(places.len())
    };
    let widths = ((lines[0] - lines[1]).abs(), (lines[2] - lines[3]).abs());
    out.body_angle_deg = plain(&body);
    out.hinds_beside_m = plain(&beside);
    out.width_m = Some(widths);
    if !gait.is_asymmetrical() {
        out.shoulder_angle_deg = plain(&shoulder);
        out.bend_deg = plain(&bend);
    }
    // The leading fore of a canter lies ahead: its distance along the track is no width.
    let width = if gait.is_asymmetrical() { widths.0.max(widths.1) } else { apart(0, 1) };
    out.tracks = Some(tracks(lines, width));
    out
}

/// Middle of a stride's prints, when all four are known.
fn middle(stride: &Stride) -> Option<(f64, f64)> {
    let mut sum = (0.0, 0.0);
    for at in stride.at.iter() {
        let at = (*at)?;
        sum = (sum.0 + at.x.0 / 4.0, sum.1 + at.y.0 / 4.0);
    }
    Some(sum)
}

/// Middle and direction of the way.
fn way(strides: &[Stride]) -> Option<((f64, f64), (f64, f64))> {
    let middles: Vec<(f64, f64)> = strides.iter().filter_map(middle).collect();
    let (first, last) = (middles.first()?, middles.last()?);
    let (dx, dy) = (last.0 - first.0, last.1 - first.1);
    let length = dx.hypot(dy);
    let n = count(middles.len());
    let sum = middles.iter().fold((0.0, 0.0), |s, m| (s.0 + m.0, s.1 + m.1));
    (length > 0.0).then(|| ((sum.0 / n, sum.1 / n), (dx / length, dy / length)))
}

/// Distance of the strides' middles from the line along the way, root mean square; from five
/// strides on.
fn strays(strides: &[Stride], (at, (ux, uy)): ((f64, f64), (f64, f64))) -> Option<f64> {
    let off: Vec<(f64, f64)> = strides
        .iter()
        .filter_map(middle)
        .map(|m| (m.0 - at.0, m.1 - at.1))
        .map(|(x, y)| (x * ux + y * uy, y * ux - x * uy))
        .collect();
    if off.len() < 5 {
        return None;
    }
    // The line of least squares through them.
    let sxx: f64 = off.iter().map(|(a, _)| a * a).sum();
    let slope = off.iter().map(|(a, b)| a * b).sum::<f64>() / sxx;
    let left: f64 = off.iter().map(|(a, b)| (b - slope * a).powi(2)).sum();
    Some((left / count(off.len() - 2)).sqrt())
}

/// Tracks that four lines make: lines nearer than max(0.12 m, half the hoof width) are one.
fn tracks(mut lines: [f64; 4], width: f64) -> u8 {
    lines.sort_by(f64::total_cmp);
    let least = TRACK_M.max(width / 2.0);
    1 + lines.windows(2).fold(0, |n, w| n + u8::from(w[1] - w[0] >= least))
}

/// Places of a stride's prints against the body: along and to the left of the direction of
/// travel, m, by [`Limb::index`].
fn against_body(stride: &Stride, next: &Stride) -> Option<[(f64, f64); 4]> {
    let (mut dx, mut dy) = (0.0, 0.0);
    let mut at = [(0.0, 0.0, 0.0); 4];
    for (k, place) in at.iter_mut().enumerate() {
        let (p, q) = (stride.at[k]?, next.at[k]?);
        let (t, u) = (stride.on[k]?, next.on[k]?);
        dx += (q.x.0 - p.x.0) / (u - t) / 4.0;
        dy += (q.y.0 - p.y.0) / (u - t) / 4.0;
        *place = (p.x.0, p.y.0, t - stride.start);
    }
    let speed = dx.hypot(dy);
    if speed <= 0.0 {
        return None;
    }
    let (ux, uy) = (dx / speed, dy / speed);
    Some(at.map(|(x, y, t)| {
        let (x, y) = (x - dx * t, y - dy * t);
        (x * ux + y * uy, y * ux - x * uy)
    }))
}

/// Each hind print against the last fore print of its side before it, along the way from one
/// print of that fore to its next.
fn overtrack(strides: &[Stride]) -> Option<Estimate> {
    let mut values = Vec::new();
    for (hind, fore) in [(Limb::LH, Limb::LF), (Limb::RH, Limb::RF)] {
        for w in strides.windows(2) {
            let step = || {
                let (a, b) = (w[0].at[fore.index()]?, w[1].at[fore.index()]?);
                let on = w[0].on[fore.index()]?;
                // The hind that lands after this fore: in this stride, else in the next.
                let later = w
                    .iter()
                    .find_map(|s| (s.on[hind.index()]? > on).then_some(s.at[hind.index()]?))?;
                let (dx, dy) = (b.x.0 - a.x.0, b.y.0 - a.y.0);
                let length = dx.hypot(dy);
                (length > 0.0)
                    .then(|| ((later.x.0 - a.x.0) * dx + (later.y.0 - a.y.0) * dy) / length)
            };
            values.extend(step());
        }
    }
    plain(&values)
}

/// Mean with the interval of its spread; the error of the places themselves comes with the
/// calibration they were measured by.
fn plain(values: &[f64]) -> Option<Estimate> {
    let n = values.len();
    if n == 0 {
        return None;
    }
    let value = values.iter().sum::<f64>() / count(n);
    let known = n >= 2;
    let half = t95(count(n) - 1.0) * (variance(values) / count(n)).sqrt();
    Some(Estimate {
        value,
        sd: known.then(|| variance(values).sqrt()),
        ci95: known.then_some((value - half, value + half)),
        n,
    })
}
