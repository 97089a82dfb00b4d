//! Wheels and small trends for paper: black and white, vectors.

use std::fmt::Write as _;

use crate::document::estimate::Estimate;
use crate::document::wheel::{Wheel, WheelStride};
use crate::record::card::CardRow;
use crate::record::read::Record;
use crate::report::paper::escape;

/// Rings from outside in: LF, RH, LH, RF, as places in the order of the server.
const RINGS: [(usize, f64, bool, bool); 4] = [
    (0, 88.0, true, false),
    (3, 73.0, false, true),
    (2, 58.0, true, true),
    (1, 43.0, false, false),
];

/// A stride wheel in black and white: left limbs round, right square; hinds filled, fores open.
pub fn wheel_svg(wheel: &Wheel, size: f64) -> String {
    let at = |phase: f64, r: f64| {
        let a = phase * std::f64::consts::TAU;
        (r * a.sin(), -r * a.cos())
    };
    let mut out = format!(
        "<svg width=\"{size}\" height=\"{size}\" viewBox=\"-104 -104 208 208\" role=\"img\" aria-label=\"Stride wheel\">"
    );
    for sector in &wheel.air {
        let arc = arc(sector[0], sector[1], 100.0);
        let _ = write!(out, "<path d=\"M0 0L{}Z\" fill=\"#ddd\"/>", &arc[1..]);
    }
    out.push_str("<circle r=\"100\" fill=\"none\" stroke=\"#000\" stroke-width=\"2.5\"/>");
    let WheelStride { on, off, .. } = &wheel.mean;
    for (k, r, left, hind) in RINGS {
        if let (Some(a), Some(b)) = (on[k], off[k]) {
            let _ = write!(
                out,
                "<path d=\"{}\" fill=\"none\" stroke=\"{}\" stroke-width=\"9\"/>",
                arc(a, b, r),
                if left { "#bbb" } else { "#888" }
            );
        }
        let Some(phase) = on[k] else { continue };
        let (x, y) = at(phase, r);
        let fill = if hind { "#000" } else { "#fff" };
        let shape = if left {
            format!("<circle cx=\"{x:.1}\" cy=\"{y:.1}\" r=\"9\"")
        } else {
            format!("<rect x=\"{:.1}\" y=\"{:.1}\" width=\"16\" height=\"16\"", x - 8.0, y - 8.0)
        };
        let _ = write!(out, "{shape} fill=\"{fill}\" stroke=\"#000\" stroke-width=\"2.4\"/>");
    }
    out.push_str("</svg>");
    out
}

fn arc(from: f64, to: f64, r: f64) -> String {
    let span = (to - from).rem_euclid(1.0);
    let point = |phase: f64| {
        let a = phase * std::f64::consts::TAU;
        (r * a.sin(), -r * a.cos())
    };
    let ((x0, y0), (x1, y1)) = (point(from), point(from + span));
    let large = u8::from(span > 0.5);
    format!("M{x0:.2} {y0:.2}A{r} {r} 0 {large} 1 {x1:.2} {y1:.2}")
}

/// Whether a trend is told.
fn told(row: &CardRow) -> bool {
    matches!(row.course.as_deref(), Some("better" | "worse" | "changes"))
}

/// Sessions with their intervals, by days, and the trend where one is told.
pub fn trend_svg(row: &CardRow, r: &Record) -> String {
    const W: f64 = 130.0;
    const H: f64 = 26.0;
    let points: Vec<(f64, &Estimate)> = row
        .series
        .iter()
        .zip(&r.sessions)
        .filter_map(|(e, s)| {
            #[expect(clippy::cast_precision_loss, reason = "days")]
            let day = s.day as f64;
            Some((day, e.as_ref()?))
        })
        .collect();
    if points.is_empty() {
        return String::new();
    }
    let (from, to) =
        points.iter().fold((f64::MAX, f64::MIN), |(a, b), (d, _)| (a.min(*d), b.max(*d)));
    let n = points.len() as u32;
    let mean = points.iter().map(|(_, e)| e.value).sum::<f64>() / f64::from(n);
    let mut widths: Vec<f64> =
        points.iter().map(|(_, e)| e.ci95.map_or(0.0, |[a, b]| (b - a) / 2.0)).collect();
    widths.sort_by(f64::total_cmp);
    let half = points
        .iter()
        .map(|(_, e)| (e.value - mean).abs())
        .fold(0.0, f64::max)
        .max(0.03 * mean.abs())
        + 1.3 * widths[widths.len() / 2]
        + 1e-9;
    let x = |d: f64| 4.0 + (d - from) / (to - from).max(1.0) * (W - 8.0);
    let y = |v: f64| (H / 2.0 - (v - mean) / half * (H / 2.0 - 3.0)).clamp(1.0, H - 1.0);
    let mut out = format!(
        "<svg width=\"{W}\" height=\"{H}\" role=\"img\" aria-label=\"{}\">",
        escape(&row.name)
    );
    if let (Some([slope, ..]), true) = (row.trend, told(row)) {
        // Through the middle point, as on the page.
        let mut values: Vec<f64> = points.iter().map(|(_, e)| e.value).collect();
        values.sort_by(f64::total_cmp);
        let (middle, centre) = (values[values.len() / 2], points[points.len() / 2].0);
        let at = |d: f64| y(middle + slope * (d - centre) / 30.0);
        let _ = write!(
            out,
            "<line x1=\"{:.1}\" x2=\"{:.1}\" y1=\"{:.1}\" y2=\"{:.1}\" stroke=\"#000\" stroke-dasharray=\"3 2\"/>",
            x(from),
            x(to),
            at(from),
            at(to)
        );
    }
    for (d, e) in points {
        if let Some([lo, hi]) = e.ci95 {
            let _ = write!(
                out,
                "<line x1=\"{0:.1}\" x2=\"{0:.1}\" y1=\"{1:.1}\" y2=\"{2:.1}\" stroke=\"#777\"/>",
                x(d),
                y(lo),
                y(hi)
            );
        }
        let _ = write!(out, "<circle cx=\"{:.1}\" cy=\"{:.1}\" r=\"2.2\"/>", x(d), y(e.value));
    }
    out.push_str("</svg>");
    out
}
