//! The report on a session.

use std::fmt::Write as _;

use umlauf_gait::base::schools::Schools;
use umlauf_gait::findings::finding::Finding;
use umlauf_gait::season::session;
use umlauf_gait::{Analysis, words};
use umlauf_store::{Store, StoreError};

use crate::clip::reading;
use crate::dates::in_words;
use crate::document::wheel::{self, Wheel};
use crate::report::drawing::wheel_svg;
use crate::report::paper::{CAUTIONS, Reader, escape, page, plus_minus, schools, with, with_tags};

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
        .map(|c| reading::analysis_of(store, c, Some(&horse)))
        .collect::<Result<Vec<Analysis>, StoreError>>()?;
    let (ridden, matters) = (session::ridden(&analyses), session::matters(&analyses));
    let untimed = analyses.iter().filter(|a| a.strides.is_empty()).count();
    let headline = words::session::of_session(&ridden, &matters, &analyses, untimed);
    let mut out = String::new();
    // Writing to a string cannot fail.
    let _ = write!(
        out,
        "<h1>{}</h1><p class=\"soft\">{}, {}{}{}{}</p>",
        escape(&headline),
        escape(&horse.card.name),
        in_words(&own.date),
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
                escape(&words::names::label_name(line.label)),
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
    Ok(page(&format!("{}, {}", horse.card.name, in_words(&own.date)), &out))
}

fn finding(f: &Finding, schools: &Schools, times: usize, tries: &mut Vec<&'static str>) -> String {
    let said = words::finding::say(f, schools);
    for t in said.advice {
        if !tries.contains(&t.says) {
            tries.push(t.says);
        }
    }
    let often = if times > 1 { format!(" Found {times} times.") } else { String::new() };
    let sure = words::names::certainty(f.sure);
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
fn longest(analyses: &[Analysis], line: &session::RiddenLine) -> Option<Wheel> {
    let all = analyses
        .iter()
        .enumerate()
        .flat_map(|(a, of)| of.bouts.iter().enumerate().map(move |(k, b)| (a, k, b)));
    let (a, k, _) = all
        .filter(|(.., b)| b.rein == line.rein && b.label == line.label)
        .max_by_key(|(.., b)| b.strides)?;
    let mut wheels = wheel::wheels(&analyses[a]);
    (k < wheels.len()).then(|| wheels.swap_remove(k))
}
