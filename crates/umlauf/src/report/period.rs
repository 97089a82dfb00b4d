//! The report on a horse over a period, in one gait.

use std::fmt::Write as _;

use umlauf_store::{Store, StoreError};

use crate::clip::reading;
use crate::dates::in_words;
use crate::document::wheel::{self, Wheel};
use crate::record::card::CardRow;
use crate::record::filter::Filter;
use crate::record::read::{self, Record};
use crate::record::season;
use crate::report::drawing::{trend_svg, wheel_svg};
use crate::report::paper::{CAUTIONS, Reader, escape, page, plus_minus, schools, with_tags};

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
    let mut out = String::new();
    head(&mut out, &r);
    if reader == Reader::Coach {
        out.push_str(&with_tags("<p>", &r.card.history, "</p>"));
    }
    out.push_str(&with_tags("<p><b>Goals:</b> ", &r.card.goals, "</p>"));
    out.push_str(&with_tags("<p class=\"caution\">", &r.card.cautions, "</p>"));
    if let Some(says) = &r.now.returning {
        let _ = write!(out, "<p class=\"caution\">{}.</p>", escape(says));
    }
    wheels(&mut out, &r, store)?;
    next(&mut out, &r);
    gait_card(&mut out, &r, reader);
    sides(&mut out, &r);
    movements(&mut out, &r);
    events(&mut out, &r);
    if reader == Reader::Coach {
        notes(&mut out, &r);
    }
    out.push_str(CAUTIONS);
    out.push_str(&schools(&umlauf_gait::base::schools::Schools::default()));
    Ok(page(&format!("{}, {}", r.name, r.gait), &out))
}

fn head(out: &mut String, r: &Record) {
    let span = match (r.sessions.first(), r.sessions.last()) {
        (Some(a), Some(b)) if a.date != b.date => {
            format!("{} to {}, {} sessions", in_words(&a.date), in_words(&b.date), r.sessions.len())
        }
        (Some(a), _) => format!("{}, 1 session", in_words(&a.date)),
        _ => "no session".to_owned(),
    };
    let chosen = |what: &Option<String>| match what.as_deref() {
        None | Some("any") => String::new(),
        Some(v) => format!("{} ", escape(v)),
    };
    let _ = write!(
        out,
        "<h1>{}</h1><p class=\"soft\">{}, {}{}{}, {span}</p>",
        escape(&r.headline),
        escape(&r.name),
        chosen(&r.variant),
        chosen(&r.movement),
        escape(&r.gait)
    );
    // The first story stands in the headline.
    for story in r.stories.iter().skip(1) {
        let _ = write!(out, "<p>{}.</p>", escape(story));
    }
    if let Some(since) = r.since.first() {
        let differs = if since.differs.is_empty() {
            "under like conditions".to_owned()
        } else {
            since.differs.join("; ")
        };
        let _ = write!(
            out,
            "<p><b>Since the last time:</b> {} <span class=\"soft\">({})</span></p>",
            escape(&since.headline),
            escape(&differs)
        );
    }
}

/// The wheels of the first session's longest bout and this one's.
fn wheels(out: &mut String, r: &Record, store: &Store) -> Result<(), StoreError> {
    let mut shown = Vec::new();
    for session in [r.sessions.first(), r.sessions.last()].into_iter().flatten() {
        if shown.iter().any(|(date, _)| *date == session.date) {
            continue;
        }
        if let Some(wheel) = longest(store, r, session.id)? {
            shown.push((session.date.clone(), wheel));
        }
    }
    if shown.is_empty() {
        return Ok(());
    }
    out.push_str("<p class=\"wheels\">");
    for (date, wheel) in shown {
        let _ = write!(
            out,
            "<span>{}<span>{},<br>mean stride of the longest bout</span></span>",
            wheel_svg(&wheel, 88.0),
            in_words(&date)
        );
    }
    out.push_str("</p>");
    Ok(())
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

fn next(out: &mut String, r: &Record) {
    if r.next.is_empty() {
        let says = "Nothing that was measured asks for a change: go on with the plan.";
        let _ = write!(out, "<h2>What to ride next</h2><p>{says}</p>");
        return;
    }
    out.push_str("<h2>What to ride next</h2><ul>");
    for n in &r.next {
        let tries = n.tries.join("; ");
        let tries = tries.trim_end_matches('.');
        let _ = write!(out, "<li><b>{}</b>: {}.</li>", sentence(&n.why), escape(tries));
    }
    out.push_str("</ul>");
}

fn gait_card(out: &mut String, r: &Record, reader: Reader) {
    if r.rows.is_empty() {
        out.push_str("<p>No stride of this gait is timed in this period.</p>");
        return;
    }
    let own =
        reader == Reader::Coach && r.rows.iter().any(|row| row.coach.iter().any(Option::is_some));
    let coach = if own { "<th class=\"n\">coach</th>" } else { "" };
    let _ = write!(
        out,
        "<h2>Gait card</h2><table><tr><th>figure</th><th>sessions</th><th class=\"n\">first</th><th class=\"n\">best</th><th class=\"n\">this</th><th>course</th><th class=\"n\">mark</th>{coach}</tr>"
    );
    for row in &r.rows {
        card_row(out, row, r, own);
    }
    out.push_str("</table>");
    if let Some(says) = r.agreement.as_ref().filter(|_| own) {
        let _ = write!(out, "<p class=\"soft\">{}.</p>", escape(says));
    }
}

fn card_row(out: &mut String, row: &CardRow, r: &Record, own: bool) {
    let at = |k: Option<usize>| {
        let value = k.and_then(|k| row.series.get(k)).and_then(Option::as_ref);
        value.map_or_else(
            || "–".to_owned(),
            |e| plus_minus(e.value, e.ci95.map(|[a, b]| (a, b)), row.digits),
        )
    };
    let mark = |of: &[Option<f64>]| {
        let mark = row.this.and_then(|k| of.get(k).copied()).flatten();
        mark.map_or_else(|| "–".to_owned(), |m| format!("{m:.1}"))
    };
    let _ = write!(
        out,
        "<tr><td>{} <span class=\"soft\">{}</span></td><td>{}</td><td class=\"n\">{}</td><td class=\"n\">{}</td><td class=\"n\">{}</td><td class=\"course\">{}</td><td class=\"n\">{}</td>",
        escape(row.name.split(':').next().unwrap_or(&row.name)),
        escape(&row.unit),
        trend_svg(row, r),
        at(row.first),
        at(row.best),
        at(row.this),
        row.trend_says.as_deref().map_or_else(String::new, escape),
        mark(&row.marks)
    );
    if own {
        let _ = write!(out, "<td class=\"n\">{}</td>", mark(&row.coach));
    }
    out.push_str("</tr>");
}

fn sides(out: &mut String, r: &Record) {
    if r.reins.is_empty() {
        return;
    }
    let _ = write!(out, "<h2>Right rein less left, the last {} sessions</h2><ul>", r.recent);
    for c in r.reins.iter().filter(|c| c.headline) {
        let gap = r.gaps.iter().find(|g| g.metric == c.metric);
        let gap = gap.map_or_else(String::new, |g| format!(" Session by session: {}.", g.says));
        let _ = write!(out, "<li>{}{}</li>", escape(&c.says), escape(&gap));
    }
    if !r.reins.iter().any(|c| c.headline) {
        out.push_str("<li>No difference between the reins stands out.</li>");
    }
    out.push_str("</ul>");
    if let Some(says) = &r.weak_side {
        let _ = write!(out, "<p>{}</p>", escape(says));
    }
}

fn movements(out: &mut String, r: &Record) {
    if r.exposures.is_empty() {
        return;
    }
    out.push_str("<h2>Movements</h2><ul>");
    for e in &r.exposures {
        let times = if e.times == 1 { "once".to_owned() } else { format!("{} times", e.times) };
        let _ = write!(
            out,
            "<li><b>{}</b>: {times} ({} left, {} right), last {}.",
            escape(&e.movement),
            e.left,
            e.right,
            in_words(&e.last)
        );
        for h in &e.holds {
            let on = h.rein.as_deref().map_or_else(String::new, |r| format!("On the {r} rein "));
            let _ = write!(out, " {}.", sentence(&format!("{on}{}", h.says)));
        }
        out.push_str("</li>");
    }
    out.push_str("</ul>");
}

fn events(out: &mut String, r: &Record) {
    let milestones = r.milestones.iter().map(|m| (m.date.clone(), m.says.clone()));
    let offs =
        r.lay_offs.iter().map(|l| (l.to.clone(), format!("Back after {} days off.", l.days)));
    let mut events: Vec<(String, String)> = milestones.chain(offs).collect();
    events.sort();
    // The page has room for the latest.
    events.drain(..events.len().saturating_sub(MOST));
    if events.is_empty() {
        return;
    }
    out.push_str("<h2>Milestones</h2><ul>");
    for (date, says) in events {
        let _ = write!(out, "<li>{}: {}</li>", in_words(&date), escape(&says));
    }
    out.push_str("</ul>");
}

/// With a capital, for a sentence of its own.
fn sentence(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |c| {
        escape(&(c.to_uppercase().collect::<String>() + letters.as_str()))
    })
}

fn notes(out: &mut String, r: &Record) {
    let mut notes: Vec<&season::SessionAt> = Vec::new();
    for s in r.sessions.iter().rev().filter(|s| !s.note.is_empty()) {
        // The same words every week are said once.
        if notes.len() < 3 && !notes.iter().any(|n| n.note == s.note) {
            notes.push(s);
        }
    }
    if notes.is_empty() {
        return;
    }
    out.push_str("<h2>Notes</h2><ul>");
    for s in notes {
        let _ = write!(out, "<li>{}: {}</li>", in_words(&s.date), escape(&s.note));
    }
    out.push_str("</ul>");
}
