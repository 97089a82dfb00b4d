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

use crate::classify::Gait;
use crate::limb::Limb;
use crate::phase::count;
use crate::stride::Stride;
use crate::uncertainty::{Estimate, t95, variance};

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
    /// Mean side-to-side distance of the fores' prints and of the hinds', m.
    pub width_m: Option<(f64, f64)>,
    /// Whether the horse travels against the way it faces.
    pub backwards: Option<bool>,
}

/// Lines of hooves nearer than this are one track, m …
const TRACK_M: f64 = 0.12;

/// Prints of a bout's strides.
pub fn prints(strides: &[Stride], gait: Gait) -> Prints {
    let mut body = Vec::new();
    let mut shoulder = Vec::new();
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
        // From right fore to left fore; its axis a quarter turn clockwise.
        shoulder.push((-(lf.0 - rf.0)).atan2(lf.1 - rf.1).to_degrees());
        places.push(own);
    }
    let backwards =
        (!body.is_empty()).then(|| body.iter().filter(|a| a.abs() > 90.0).count() * 2 > body.len());
    let mut out = Prints { overtrack_m: overtrack(strides), backwards, ..Prints::default() };
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
    out.width_m = Some(widths);
    if !gait.is_asymmetrical() {
        out.shoulder_angle_deg = plain(&shoulder);
    }
    // The leading fore of a canter lies ahead: its distance along the track is no width.
    let width = if gait.is_asymmetrical() { widths.0.max(widths.1) } else { apart(0, 1) };
    out.tracks = Some(tracks(lines, width));
    out
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
