//! The report on a session.

use maud::{Markup, html};
use umlauf_gait::base::schools::Schools;
use umlauf_gait::findings::finding::Finding;
use umlauf_gait::season::session;
use umlauf_gait::{Analysis, words};
use umlauf_store::{Store, StoreError};

use crate::clip::reading;
use crate::dates::in_words;
use crate::document::wheel::{self, Wheel};
use crate::report::drawing::wheel_svg;
use crate::report::paper::{Reader, cautions, page, plus_minus, schools};

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
    let about = &own.about;
    let said: Vec<Said> = matters
        .iter()
        .map(|m| {
            let a = &analyses[m.analysis];
            Said { of: &a.findings[m.finding], schools: &a.schools, times: m.times }
        })
        .collect();
    let mut tries: Vec<&'static str> = Vec::new();
    for advice in said.iter().flat_map(|s| words::finding::say(s.of, s.schools).advice) {
        if !tries.contains(&advice.says) {
            tries.push(advice.says);
        }
    }
    let body = html! {
        h1 { (headline) }
        p class="soft" {
            (horse.card.name) ", " (in_words(&own.date))
            @if !about.rider.is_empty() { ", ridden by " (about.rider) }
            @if !about.arena.is_empty() { ", " (about.arena) }
            @if !about.surface.is_empty() { ", " (about.surface) }
        }
        @if reader == Reader::Coach && !about.note.is_empty() { p { (about.note) } }
        @if !ridden.is_empty() { (ridden_table(&ridden, &analyses)) }
        @if ridden.is_empty() {
            p { "No finding yet: no stride is timed." }
        } @else if said.is_empty() {
            (looked_for(&analyses))
        } @else {
            h2 { "What matters most" }
            ol { @for s in &said { (s.line()) } }
        }
        @if !tries.is_empty() {
            h2 { "What to ride next" }
            ul { @for t in &tries { li { (t) } } }
        }
        @if !about.felt.is_empty() || about.score.is_some() {
            h2 { "Felt" }
            p {
                (about.felt)
                @if let Some(score) = about.score { " Own score: " (score) "." }
            }
        }
        (cautions())
        (schools(&Schools::default()))
    };
    Ok(page(&format!("{}, {}", horse.card.name, in_words(&own.date)), &body))
}

/// Nothing found is an answer: what was looked for, and how large it would have had to be.
fn looked_for(analyses: &[Analysis]) -> Markup {
    html! {
        h2 { "Looked for, and not found" }
        table {
            tr { th { "looked for" } th { "in" } th class="n" { "told from" } }
            @for l in words::looked_for::of_session(analyses) {
                tr {
                    td { (l.what) }
                    td { (l.places) }
                    td class="n" { (l.told_from.as_deref().unwrap_or("each one")) }
                }
            }
        }
    }
}

fn ridden_table(ridden: &[session::RiddenLine], analyses: &[Analysis]) -> Markup {
    html! {
        h2 { "What was ridden" }
        table {
            tr {
                th {}
                th { "gait" }
                th { "rein" }
                th class="n" { "bouts" }
                th class="n" { "strides" }
                th class="n" { "tempo, strides/min" }
            }
            @for line in ridden {
                tr {
                    td { @if let Some(wheel) = longest(analyses, line) { (wheel_svg(&wheel, 78.0)) } }
                    td { (words::names::label_name(line.label)) }
                    td { (line.rein.map_or("not given", |r| r.word())) }
                    td class="n" { (line.bouts) }
                    td class="n" { (line.strides) }
                    td class="n" {
                        (line.tempo.map_or_else(|| "–".to_owned(), |t| plus_minus(t.value, t.ci95, 1)))
                    }
                }
            }
        }
    }
}

/// A finding that is told, and how often it was made.
struct Said<'a> {
    of: &'a Finding,
    schools: &'a Schools,
    times: usize,
}

impl Said<'_> {
    fn line(&self) -> Markup {
        let said = words::finding::say(self.of, self.schools);
        html! {
            li {
                b { (said.title) } " (" (said.figure) "): " (said.says)
                @if self.times > 1 { " Found " (self.times) " times." }
                " " span class="soft" { "(" (words::names::certainty(self.of.sure)) ")" }
                @if let Some(caution) = said.caution { p class="caution" { (caution) } }
            }
        }
    }
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
