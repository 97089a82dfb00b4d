//! The report on a horse over a period, in one gait.

use maud::{Markup, html};
use umlauf_gait::base::schools::Schools;
use umlauf_store::{Store, StoreError};

use crate::clip::reading;
use crate::dates::in_words;
use crate::document::estimate::Estimate;
use crate::document::wheel::{self, Wheel};
use crate::record::card::CardRow;
use crate::record::filter::Filter;
use crate::record::read::{self, Record};
use crate::record::season;
use crate::report::drawing::{trend_svg, wheel_svg};
use crate::report::paper::{Reader, cautions, page, plus_minus, schools};

/// Milestones that one page has room for.
const MOST: usize = 4;

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
    let r = read::read(store, horse, filter)?;
    let coach = reader == Reader::Coach;
    let body = html! {
        (head(&r))
        @if coach && !r.card.history.is_empty() { p { (r.card.history) } }
        @if !r.card.goals.is_empty() { p { b { "Goals:" } " " (r.card.goals) } }
        @if !r.card.cautions.is_empty() { p class="caution" { (r.card.cautions) } }
        @if let Some(says) = &r.now.returning { p class="caution" { (says) "." } }
        (wheels(&r, store)?)
        (next(&r))
        (gait_card(&r, reader))
        (sides(&r))
        (movements(&r))
        (events(&r))
        @if coach { (notes(&r)) }
        (cautions())
        (schools(&Schools::default()))
    };
    Ok(page(&format!("{}, {}", r.name, r.gait), &body))
}

fn head(r: &Record) -> Markup {
    let span = match (r.sessions.first(), r.sessions.last()) {
        (Some(a), Some(b)) if a.date != b.date => {
            format!("{} to {}, {} sessions", in_words(&a.date), in_words(&b.date), r.sessions.len())
        }
        (Some(a), _) => format!("{}, 1 session", in_words(&a.date)),
        _ => "no session".to_owned(),
    };
    let chosen = |what: &Option<String>| match what.as_deref() {
        None | Some("any") => String::new(),
        Some(v) => format!("{v} "),
    };
    html! {
        h1 { (r.headline) }
        p class="soft" {
            (r.name) ", " (chosen(&r.variant)) (chosen(&r.movement)) (r.gait) ", " (span)
        }
        // One of them may stand in the headline.
        @for story in r.stories.iter().filter(|s| !r.headline.starts_with(s.as_str())) {
            p { (story) "." }
        }
        @if let Some(since) = r.since.first() {
            p {
                b { "Since the last time:" } " " (since.headline) " "
                span class="soft" {
                    "("
                    @if since.differs.is_empty() { "under like conditions" }
                    @else { (since.differs.join("; ")) }
                    ")"
                }
            }
        }
    }
}

/// The wheels of the first session's longest bout and this one's.
fn wheels(r: &Record, store: &Store) -> Result<Markup, StoreError> {
    let mut shown = Vec::new();
    for session in [r.sessions.first(), r.sessions.last()].into_iter().flatten() {
        if shown.iter().any(|(date, _)| *date == session.date) {
            continue;
        }
        if let Some(wheel) = longest(store, r, session.id)? {
            shown.push((session.date.clone(), wheel));
        }
    }
    Ok(html! {
        @if !shown.is_empty() {
            p class="wheels" {
                @for (date, wheel) in shown {
                    span {
                        (wheel_svg(&wheel, 88.0))
                        span { (in_words(&date)) "," br; "mean stride of the longest bout" }
                    }
                }
            }
        }
    })
}

fn longest(store: &Store, r: &Record, session: i64) -> Result<Option<Wheel>, StoreError> {
    let horse = store.horse(r.id)?;
    let mut best: Option<(usize, Wheel)> = None;
    for clip in store.clips_of_session(session)? {
        let analysis = reading::analysis_of(store, &clip, Some(&horse))?;
        let own = analysis.bouts.iter().enumerate();
        let Some((place, bout)) =
            own.filter(|(_, b)| b.label.gait.code() == r.gait).max_by_key(|(_, b)| b.strides)
        else {
            continue;
        };
        if best.as_ref().is_none_or(|(n, _)| bout.strides > *n) {
            let mut wheels = wheel::wheels(&analysis);
            if place < wheels.len() {
                best = Some((bout.strides, wheels.swap_remove(place)));
            }
        }
    }
    Ok(best.map(|(_, w)| w))
}

fn next(r: &Record) -> Markup {
    html! {
        h2 { "What to ride next" }
        @if r.next.is_empty() {
            p { "Nothing that was measured asks for a change: go on with the plan." }
        } @else {
            ul {
                @for n in &r.next {
                    li { b { (sentence(&n.why)) } ": " (n.tries.join("; ").trim_end_matches('.')) "." }
                }
            }
        }
    }
}

fn gait_card(r: &Record, reader: Reader) -> Markup {
    let own =
        reader == Reader::Coach && r.rows.iter().any(|row| row.coach.iter().any(Option::is_some));
    html! {
        @if r.rows.is_empty() {
            p { "No stride of this gait is timed in this period." }
        } @else {
            h2 {
                "Gait card"
                // On this line there is room; below the table a page may end.
                @if let Some(of) = r.rows.iter().map(|row| row.best_of).max().filter(|of| *of > 1) {
                    small class="soft" {
                        " · best: picked from " (of) " sessions, and shown without the luck of the pick"
                    }
                }
            }
            table {
                tr {
                    th { "figure" }
                    th { "sessions" }
                    th class="n" { "first" }
                    th class="n" { "best" }
                    th class="n" { "this" }
                    th { "course" }
                    th class="n" { "mark" }
                    @if own { th class="n" { "coach" } }
                }
                @for row in &r.rows { (card_row(row, r, own)) }
            }
            @if let Some(says) = r.agreement.as_ref().filter(|_| own) {
                p class="soft" { (says) "." }
            }
        }
    }
}

fn card_row(row: &CardRow, r: &Record, own: bool) -> Markup {
    let shown = |value: Option<&Estimate>| {
        value.map_or_else(
            || "–".to_owned(),
            |e| plus_minus(e.value, e.ci95.map(|[a, b]| (a, b)), row.digits),
        )
    };
    let at = |k: Option<usize>| shown(k.and_then(|k| row.series.get(k)).and_then(Option::as_ref));
    let mark = |of: &[Option<f64>]| {
        let mark = row.this.and_then(|k| of.get(k).copied()).flatten();
        mark.map_or_else(|| "–".to_owned(), |m| format!("{m:.1}"))
    };
    html! {
        tr {
            td { (row.name.split(':').next().unwrap_or(&row.name)) " " span class="soft" { (row.unit) } }
            td { (trend_svg(row, r)) }
            td class="n" { (at(row.first)) }
            td class="n" { (shown(row.best_value.as_ref())) }
            td class="n" { (at(row.this)) }
            td class="course" { (row.trend_says.as_deref().unwrap_or("")) }
            td class="n" { (mark(&row.marks)) }
            @if own { td class="n" { (mark(&row.coach)) } }
        }
    }
}

fn sides(r: &Record) -> Markup {
    let gap = |metric: &str| r.gaps.iter().find(|g| g.metric == metric);
    html! {
        @if !r.reins.is_empty() {
            h2 { "Right rein less left, the last " (r.recent) " sessions" }
            ul {
                @for c in r.reins.iter().filter(|c| c.headline) {
                    li {
                        (c.says)
                        @if let Some(g) = gap(&c.metric) { " Session by session: " (g.says) "." }
                    }
                }
                @if !r.reins.iter().any(|c| c.headline) {
                    li { "No difference between the reins stands out." }
                }
            }
            @if let Some(says) = &r.weak_side { p { (says) } }
        }
    }
}

fn movements(r: &Record) -> Markup {
    let often = |n: usize| if n == 1 { "once".to_owned() } else { format!("{n} times") };
    html! {
        @if !r.exposures.is_empty() {
            h2 { "Movements" }
            ul {
                @for e in &r.exposures {
                    li {
                        b { (e.movement) } ": " (often(e.times))
                        " (" (e.left) " left, " (e.right) " right), last " (in_words(&e.last)) "."
                        @for h in &e.holds {
                            @let on = h.rein.as_deref().map_or_else(String::new, |r| format!("On the {r} rein "));
                            " " (sentence(&format!("{on}{}", h.says))) "."
                        }
                    }
                }
            }
        }
    }
}

fn events(r: &Record) -> Markup {
    let milestones = r.milestones.iter().map(|m| (m.date.clone(), m.says.clone()));
    let offs =
        r.lay_offs.iter().map(|l| (l.to.clone(), format!("Back after {} days off.", l.days)));
    let mut events: Vec<(String, String)> = milestones.chain(offs).collect();
    events.sort();
    // The page has room for the latest.
    events.drain(..events.len().saturating_sub(MOST));
    html! {
        @if !events.is_empty() {
            h2 { "Milestones" }
            ul { @for (date, says) in events { li { (in_words(&date)) ": " (says) } } }
        }
    }
}

/// With a capital, for a sentence of its own.
fn sentence(text: &str) -> String {
    let mut letters = text.chars();
    letters
        .next()
        .map_or_else(String::new, |c| c.to_uppercase().collect::<String>() + letters.as_str())
}

fn notes(r: &Record) -> Markup {
    let mut notes: Vec<&season::SessionAt> = Vec::new();
    for s in r.sessions.iter().rev().filter(|s| !s.note.is_empty()) {
        // The same words every week are said once.
        if notes.len() < 3 && !notes.iter().any(|n| n.note == s.note) {
            notes.push(s);
        }
    }
    html! {
        @if !notes.is_empty() {
            h2 { "Notes" }
            ul { @for s in notes { li { (in_words(&s.date)) ": " (s.note) } } }
        }
    }
}
