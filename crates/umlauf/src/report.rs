//! Reports on paper: one page a session or a period, self-contained HTML that prints in black and
//! white on A4. The rider's version leaves out the coach's own notes.

use std::fmt::Write as _;

use umlauf_gait::finding::Finding;
use umlauf_gait::schools::Schools;
use umlauf_gait::{Analysis, session, wording};
use umlauf_store::{Store, StoreError};

use crate::api::record::{self, CardRow, Filter, Record};
use crate::desk::{self, Wheel, WheelStride};
use crate::document::Estimate;

/// Who it is for.
#[derive(Clone, Copy, Debug, Eq, PartialEq)]
pub enum Reader {
    /// The coach: everything.
    Coach,
    /// The rider: without the coach's notes.
    Rider,
}

const STYLE: &str = "
@page { size: A4; margin: 14mm }
body { font: 10.5pt/1.35 'Alegreya Sans', 'Gill Sans', sans-serif; color: #000; background: #fff; max-width: 182mm; margin: 0 auto; padding: 8mm 0 }
h1 { font-size: 17pt; line-height: 1.15; margin: 0 0 2mm } h2 { font-size: 12pt; margin: 5mm 0 1mm; border-bottom: 0.6pt solid #000 }
p { margin: 0 0 1.5mm } table { border-collapse: collapse; width: 100% } th, td { text-align: left; vertical-align: middle; padding: 0.7mm 2mm 0.7mm 0; border-bottom: 0.3pt solid #999; font-weight: normal }
td.n, th.n { text-align: right; font-variant-numeric: tabular-nums; white-space: nowrap } .soft { color: #444 } .caution { border-left: 2pt solid #000; padding-left: 2.5mm; margin: 2mm 0 }
ol, ul { margin: 0; padding-left: 5mm } li { margin-bottom: 1mm; break-inside: avoid } tr, svg { break-inside: avoid } .try { font-style: italic }
@media screen { body { padding: 12mm } }
";

fn page(title: &str, body: &str) -> String {
    format!(
        "<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>{}</title><style>{STYLE}</style></head><body>{body}</body></html>\n",
        escape(title)
    )
}

fn escape(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            '\'' => out.push_str("&#39;"),
            c => out.push(c),
        }
    }
    out
}

const CAUTIONS: &str = "<p class=\"caution\">Uneven steps, a new difference between left and right, a head nod or reluctance: stop, and have a vet look. Umlauf times footfalls; it does not diagnose lameness. Young, unfit and returning horses: short doses, walk breaks. Local rules and licensed professionals decide.</p>";

/// A day in words, `14 November 2026`; what is no day stays as it is.
pub fn day(iso: &str) -> String {
    const MONTHS: [&str; 12] = [
        "January",
        "February",
        "March",
        "April",
        "May",
        "June",
        "July",
        "August",
        "September",
        "October",
        "November",
        "December",
    ];
    iso.parse::<jiff::civil::Date>().map_or_else(
        |_| iso.to_owned(),
        |d| {
            let month = usize::try_from(d.month()).unwrap_or(1) - 1;
            format!("{} {} {}", d.day(), MONTHS[month], d.year())
        },
    )
}

/// The report on a session.
///
/// # Errors
/// What the store meets.
pub fn of_session(store: &Store, id: i64, reader: Reader) -> Result<String, StoreError> {
    let own = store.session(id)?;
    let horse = store.horse(own.horse)?;
    let clips = store.clips_of_session(id)?;
    let analyses = clips
        .iter()
        .map(|c| desk::analysis_of(store, c, Some(&horse)))
        .collect::<Result<Vec<Analysis>, StoreError>>()?;
    let (ridden, matters) = (session::ridden(&analyses), session::matters(&analyses));
    let untimed = analyses.iter().filter(|a| a.strides.is_empty()).count();
    let headline = wording::session(&ridden, &matters, &analyses, untimed);
    let mut out = String::new();
    // Writing to a string cannot fail.
    let _ = write!(
        out,
        "<h1>{}</h1><p class=\"soft\">{}, {}{}{}{}</p>",
        escape(&headline),
        escape(&horse.name),
        day(&own.date),
        with(", ridden by ", &own.about.rider),
        with(", ", &own.about.arena),
        with(", ", &own.about.surface)
    );
    if reader == Reader::Coach {
        out.push_str(&with_tags("<p>", &own.about.note, "</p>"));
    }
    if !ridden.is_empty() {
        out.push_str("<h2>What was ridden</h2><table><tr><th></th><th>gait</th><th>rein</th><th class=\"n\">bouts</th><th class=\"n\">strides</th><th class=\"n\">tempo, strides/min</th></tr>");
        for line in &ridden {
            let wheel = longest(&analyses, line);
            let _ = write!(
                out,
                "<tr><td>{}</td><td>{}</td><td>{}</td><td class=\"n\">{}</td><td class=\"n\">{}</td><td class=\"n\">{}</td></tr>",
                wheel.map_or_else(String::new, |w| wheel_svg(&w, 78.0)),
                escape(&wording::label(line.label)),
                line.rein.map_or("not given", |r| r.word()),
                line.bouts,
                line.strides,
                line.tempo.map_or_else(|| "–".to_owned(), |t| plus_minus(t.value, t.ci95, 1))
            );
        }
        out.push_str("</table>");
    }
    out.push_str("<h2>What matters most</h2>");
    let mut tries: Vec<&'static str> = Vec::new();
    if matters.is_empty() {
        out.push_str("<p>No finding yet: no stride is timed.</p>");
    } else {
        out.push_str("<ol>");
        for m in &matters {
            let a = &analyses[m.analysis];
            out.push_str(&finding(&a.findings[m.finding], &a.schools, m.times, &mut tries));
        }
        out.push_str("</ol>");
    }
    if !tries.is_empty() {
        out.push_str("<h2>What to ride next</h2><ul>");
        for t in tries {
            let _ = write!(out, "<li>{}</li>", escape(t));
        }
        out.push_str("</ul>");
    }
    if !own.about.felt.is_empty() || own.about.score.is_some() {
        let _ = write!(
            out,
            "<h2>Felt</h2><p>{}{}</p>",
            escape(&own.about.felt),
            own.about.score.map_or_else(String::new, |s| format!(" Own score: {s}."))
        );
    }
    out.push_str(CAUTIONS);
    out.push_str(&schools(&Schools::default()));
    Ok(page(&format!("{}, {}", horse.name, day(&own.date)), &out))
}

fn with(before: &str, text: &str) -> String {
    if text.is_empty() { String::new() } else { format!("{before}{}", escape(text)) }
}

fn with_tags(open: &str, text: &str, close: &str) -> String {
    if text.is_empty() { String::new() } else { format!("{open}{}{close}", escape(text)) }
}

fn schools(schools: &Schools) -> String {
    let words = if *schools == Schools::default() {
        "The default schools are in force."
    } else {
        "Other schools than the default are in force."
    };
    format!(
        "<p class=\"soft\">Intervals hold the truth in 95 of 100 cases. {words} Made by Umlauf.</p>"
    )
}

fn finding(f: &Finding, schools: &Schools, times: usize, tries: &mut Vec<&'static str>) -> String {
    let said = wording::say(f, schools);
    for t in said.try_next {
        if !tries.contains(&t) {
            tries.push(t);
        }
    }
    let often = if times > 1 { format!(" Found {times} times.") } else { String::new() };
    let sure = wording::sure(f.sure);
    format!(
        "<li><b>{}</b> ({}): {}{often} <span class=\"soft\">({sure})</span>{}</li>",
        escape(&said.title),
        escape(&said.figure),
        escape(&said.says),
        said.caution
            .map_or_else(String::new, |c| format!("<p class=\"caution\">{}</p>", escape(c)))
    )
}

/// The wheel of the longest bout of a line.
fn longest(analyses: &[Analysis], line: &session::Ridden) -> Option<Wheel> {
    let all = analyses
        .iter()
        .enumerate()
        .flat_map(|(a, of)| of.bouts.iter().enumerate().map(move |(k, b)| (a, k, b)));
    let (a, k, _) = all
        .filter(|(.., b)| b.rein == line.rein && b.label == line.label)
        .max_by_key(|(.., b)| b.strides)?;
    let mut wheels = desk::wheels(&analyses[a]);
    (k < wheels.len()).then(|| wheels.swap_remove(k))
}

fn plus_minus(value: f64, ci95: Option<(f64, f64)>, digits: usize) -> String {
    match ci95 {
        Some((lo, hi)) => format!("{value:.digits$} ± {:.digits$}", (hi - lo) / 2.0),
        None => format!("{value:.digits$}"),
    }
}

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

/// The report on a horse over a period, in one gait.
///
/// # Errors
/// What the store meets.
pub fn of_period(
    store: &Store,
    horse: i64,
    filter: &Filter,
    reader: Reader,
) -> Result<String, StoreError> {
    let r = record::read(store, horse, filter)?;
    let mut out = String::new();
    let span = match (r.sessions.first(), r.sessions.last()) {
        (Some(a), Some(b)) if a.date != b.date => {
            format!("{} to {}, {} sessions", day(&a.date), day(&b.date), r.sessions.len())
        }
        (Some(a), _) => format!("{}, 1 session", day(&a.date)),
        _ => "no session".to_owned(),
    };
    let variant = r.variant.as_deref().map_or_else(String::new, |v| format!("{v} "));
    let _ = write!(
        out,
        "<h1>{}</h1><p class=\"soft\">{}, {variant}{}, {span}</p>",
        escape(&r.headline),
        escape(&r.name),
        escape(&r.gait)
    );
    for story in &r.stories {
        let _ = write!(out, "<p>{}.</p>", escape(story));
    }
    out.push_str("<h2>Gait card</h2><table><tr><th>figure</th><th>sessions</th><th class=\"n\">first</th><th class=\"n\">best</th><th class=\"n\">last</th><th>course</th><th class=\"n\">mark</th></tr>");
    for row in &r.rows {
        card_row(&mut out, row, &r);
    }
    out.push_str("</table>");
    if !r.reins.is_empty() {
        let _ = write!(out, "<h2>Left rein against right, the last {} sessions</h2><ul>", r.recent);
        for c in &r.reins {
            let _ = write!(out, "<li>{}</li>", escape(&c.says));
        }
        out.push_str("</ul>");
    }
    let milestones = r.milestones.iter().map(|m| (m.date.clone(), m.says.clone()));
    let offs =
        r.lay_offs.iter().map(|l| (l.to.clone(), format!("Back after {} days off.", l.days)));
    let mut events: Vec<(String, String)> = milestones.chain(offs).collect();
    events.sort();
    if !events.is_empty() {
        out.push_str("<h2>Milestones</h2><ul>");
        for (date, says) in events {
            let _ = write!(out, "<li>{}: {}</li>", day(&date), escape(&says));
        }
        out.push_str("</ul>");
    }
    if reader == Reader::Coach {
        let notes: Vec<&record::SessionAt> =
            r.sessions.iter().filter(|s| !s.note.is_empty()).rev().take(4).collect();
        if !notes.is_empty() {
            out.push_str("<h2>Notes</h2><ul>");
            for s in notes {
                let _ = write!(out, "<li>{}: {}</li>", day(&s.date), escape(&s.note));
            }
            out.push_str("</ul>");
        }
    }
    out.push_str(CAUTIONS);
    out.push_str(&schools(&Schools::default()));
    Ok(page(&format!("{}, {}", r.name, r.gait), &out))
}

fn card_row(out: &mut String, row: &CardRow, r: &Record) {
    let at = |k: Option<usize>| {
        let value = k.and_then(|k| row.series.get(k)).and_then(Option::as_ref);
        value.map_or_else(
            || "–".to_owned(),
            |e| plus_minus(e.value, e.ci95.map(|[a, b]| (a, b)), row.digits),
        )
    };
    let _ = write!(
        out,
        "<tr><td>{}<br><span class=\"soft\">{}</span></td><td>{}</td><td class=\"n\">{}</td><td class=\"n\">{}</td><td class=\"n\">{}</td><td>{}</td><td class=\"n\">{}</td></tr>",
        escape(&row.name),
        escape(&row.unit),
        trend_svg(row, r),
        at(row.first),
        at(row.best),
        at(row.last),
        row.trend_says.as_deref().map_or_else(String::new, escape),
        row.mark.map_or_else(|| "–".to_owned(), |m| format!("{m:.1}"))
    );
}

/// Sessions with their intervals, by days.
pub fn trend_svg(row: &CardRow, r: &Record) -> String {
    const W: f64 = 130.0;
    const H: f64 = 34.0;
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
