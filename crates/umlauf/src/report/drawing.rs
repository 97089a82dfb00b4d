//! Wheels and small trends for paper: black and white, vectors.

use maud::{Markup, html};

use crate::document::estimate::Estimate;
use crate::document::wheel::{Wheel, WheelStride};
use crate::record::card::CardRow;
use crate::record::read::Record;

/// Rings from outside in: LF, RH, LH, RF, as places in the order of the server.
const RINGS: [(usize, f64, bool, bool); 4] = [
    (0, 88.0, true, false),
    (3, 73.0, false, true),
    (2, 58.0, true, true),
    (1, 43.0, false, false),
];

/// A stride wheel in black and white: left limbs round, right square; hinds filled, fores open.
pub fn wheel_svg(wheel: &Wheel, size: f64) -> Markup {
    let at = |phase: f64, r: f64| {
        let a = phase * std::f64::consts::TAU;
        (r * a.sin(), -r * a.cos())
    };
    let WheelStride { on, off, .. } = &wheel.mean;
    html! {
        svg width=(size) height=(size) viewBox="-104 -104 208 208" role="img" aria-label="Stride wheel" {
            @for sector in &wheel.air {
                path d={ "M0 0L" (&arc(sector[0], sector[1], 100.0)[1..]) "Z" } fill="#ddd" {}
            }
            circle r="100" fill="none" stroke="#000" stroke-width="2.5" {}
            @for (k, r, left, hind) in RINGS {
                @if let (Some(a), Some(b)) = (on[k], off[k]) {
                    path d=(arc(a, b, r)) fill="none" stroke=(if left { "#bbb" } else { "#888" })
                        stroke-width="9" {}
                }
                @if let Some(phase) = on[k] {
                    (hoof(at(phase, r), left, hind))
                }
            }
        }
    }
}

/// A footfall: left limbs round, right square; hinds filled, fores open.
fn hoof((x, y): (f64, f64), left: bool, hind: bool) -> Markup {
    let fill = if hind { "#000" } else { "#fff" };
    html! {
        @if left {
            circle cx=(tenth(x)) cy=(tenth(y)) r="9" fill=(fill) stroke="#000" stroke-width="2.4" {}
        } @else {
            rect x=(tenth(x - 8.0)) y=(tenth(y - 8.0)) width="16" height="16" fill=(fill)
                stroke="#000" stroke-width="2.4" {}
        }
    }
}

/// To a tenth of a pixel.
fn tenth(v: f64) -> String {
    format!("{v:.1}")
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
pub fn trend_svg(row: &CardRow, r: &Record) -> Markup {
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
        return html! {};
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
    let trend = row.trend.filter(|_| told(row)).map(|[slope, ..]| {
        // Through the middle point, as on the page.
        let mut values: Vec<f64> = points.iter().map(|(_, e)| e.value).collect();
        values.sort_by(f64::total_cmp);
        let (middle, centre) = (values[values.len() / 2], points[points.len() / 2].0);
        let at = |d: f64| tenth(y(middle + slope * (d - centre) / 30.0));
        (at(from), at(to))
    });
    html! {
        svg width=(W) height=(H) role="img" aria-label=(row.name) {
            @if let Some((first, last)) = trend {
                line x1=(tenth(x(from))) x2=(tenth(x(to))) y1=(first) y2=(last) stroke="#000"
                    stroke-dasharray="3 2" {}
            }
            @for (d, e) in points {
                @if let Some([lo, hi]) = e.ci95 {
                    line x1=(tenth(x(d))) x2=(tenth(x(d))) y1=(tenth(y(lo))) y2=(tenth(y(hi)))
                        stroke="#777" {}
                }
                circle cx=(tenth(x(d))) cy=(tenth(y(e.value))) r="2.2" {}
            }
        }
    }
}
