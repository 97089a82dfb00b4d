//! Reports as documents: well-formed, escaped, drawn within their frames, the same figures as the
//! record, and nothing of the coach's own on the rider's.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

use umlauf::demo::season;
use umlauf::record::filter::Filter;
use umlauf::record::read;
use umlauf::report::paper::Reader;
use umlauf::report::{period, session};
use umlauf_store::Store;
use umlauf_store::horse::HorseCard;
use umlauf_store::yard::About;

fn season() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    season::fill(&store, season::DEMO).unwrap();
    (folder, store)
}

/// Elements with their attributes' text; panics where tags do not close in order.
fn elements(html: &str) -> Vec<(String, String)> {
    let mut open: Vec<String> = Vec::new();
    let mut out = Vec::new();
    let mut rest = html.strip_prefix("<!DOCTYPE html>").unwrap();
    while let Some(at) = rest.find('<') {
        let end = rest[at..].find('>').unwrap() + at;
        let tag = &rest[at + 1..end];
        rest = &rest[end + 1..];
        if let Some(name) = tag.strip_prefix('/') {
            assert_eq!(open.pop().as_deref(), Some(name), "closes out of order");
            continue;
        }
        let bare = tag.trim_end_matches('/');
        let (name, attributes) = bare.split_once(' ').unwrap_or((bare, ""));
        out.push((name.to_owned(), attributes.to_owned()));
        if !tag.ends_with('/') && !["meta", "link", "br"].contains(&name) {
            open.push(name.to_owned());
        }
        if name == "style" {
            rest = &rest[rest.find("</style>").unwrap()..];
        }
    }
    assert!(open.is_empty(), "left open: {open:?}");
    out
}

fn number(attributes: &str, name: &str) -> Option<f64> {
    let from = attributes
        .find(&format!(" {name}=\""))
        .map(|k| k + name.len() + 3)
        .or_else(|| attributes.starts_with(&format!("{name}=\"")).then_some(name.len() + 2))?;
    let text = &attributes[from..];
    text[..text.find('"')?].parse().ok()
}

#[test]
fn every_report_is_a_whole_document_with_figures_that_are_numbers() {
    let (_folder, store) = season();
    for horse in store.horses().unwrap() {
        let gaits = read::read(&store, horse.id, &Filter::default()).unwrap().gaits;
        let mut all = Vec::new();
        for reader in [Reader::Coach, Reader::Rider] {
            for gait in &gaits {
                let of = Filter::of_gait(&gait.gait);
                all.push(period::of_period(&store, horse.id, &of, reader).unwrap());
            }
            for s in store.sessions_of(horse.id).unwrap().iter().take(2) {
                all.push(session::of_session(&store, s.id, reader).unwrap());
            }
        }
        for html in all {
            let tags = elements(&html);
            let count = |name: &str| tags.iter().filter(|(n, _)| n == name).count();
            assert_eq!((count("h1"), count("title"), count("style")), (1, 1, 1));
            assert!(count("svg") >= 2 && count("script") == 0);
            for wrong in ["NaN", "inf ", "inf)", "null", "undefined", "±  ", ".."] {
                let body = &html[html.find("<body>").unwrap()..];
                assert!(!body.contains(wrong), "{}: {wrong} in {body}", horse.card.name);
            }
            // Trends lie in their frames; every dot of a session is seen.
            for (name, at) in &tags {
                let (x, y) = (number(at, "cx"), number(at, "cy"));
                if let ("circle", Some(x), Some(y), Some(_)) =
                    (name.as_str(), x, y, at.contains("r=\"2.2\"").then_some(()))
                {
                    assert!((0.0..=130.0).contains(&x) && (0.0..=26.0).contains(&y), "{at}");
                }
            }
        }
    }
}

#[test]
fn a_report_says_the_records_figures() {
    let (_folder, store) = season();
    let tinne = store.horses().unwrap().into_iter().find(|h| h.card.name == "Tinne").unwrap();
    let r = read::read(&store, tinne.id, &Filter::default()).unwrap();
    let html = period::of_period(&store, tinne.id, &Filter::default(), Reader::Rider).unwrap();
    assert!(html.contains(&format!("<h1>{}</h1>", r.headline)));
    for row in &r.rows {
        let this = row.series[row.this.unwrap()].as_ref().unwrap();
        let (digits, [lo, hi]) = (row.digits, this.ci95.unwrap());
        let says = format!("{:.digits$} ± {:.digits$}", this.value, (hi - lo) / 2.0);
        // A value that rounds to nothing has no side to be on.
        let says = match says.strip_prefix('-') {
            Some(bare) if this.value.abs() < 0.5 * 10f64.powi(-(digits as i32)) => bare,
            _ => &says,
        };
        assert!(html.contains(says), "{} {says}", row.name);
        if let Some(mark) = row.marks[row.this.unwrap()] {
            assert!(html.contains(&format!("{mark:.1}")), "{}", row.name);
        }
    }
    for c in r.reins.iter().filter(|c| c.headline) {
        assert!(html.contains(&c.says), "{}", c.says);
    }
    for n in &r.next {
        assert!(n.tries.iter().all(|t| html.contains(t.as_str())), "{n:?}");
    }
}

#[test]
fn words_from_outside_stay_words_and_the_coachs_own_stay_with_the_coach() {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(folder.path(), None).unwrap();
    let horse = store.add_horse("<b>Möwe</b> & \"Co\"", Some(1.5), false).unwrap();
    let own = "history <script>alert(1)</script>";
    let card = HorseCard {
        history: own.into(),
        goals: "to go <straight>".into(),
        cautions: "kicks & bites".into(),
        ..horse.card.clone()
    };
    store.change_horse(horse.id, &card).unwrap();
    let about = About {
        note: "my own <i>note</i>".into(),
        rider: "W & W".into(),
        felt: "like </p> flying".into(),
        ..About::default()
    };
    let day = store.add_session(horse.id, "2026-11-20", &about).unwrap();
    for reader in [Reader::Coach, Reader::Rider] {
        let period = period::of_period(&store, horse.id, &Filter::default(), reader).unwrap();
        let session = session::of_session(&store, day.id, reader).unwrap();
        for html in [&period, &session] {
            // Only the report's own bold stands; nothing of what was written became markup.
            let markup = ["i", "script", "straight"];
            assert!(elements(html).iter().all(|(n, _)| !markup.contains(&n.as_str())), "{html}");
            assert!(!html.contains("<b>Möwe"));
            assert!(!html.contains("<script") && !html.contains("<i>note"));
            assert!(html.contains("&lt;b&gt;Möwe&lt;/b&gt; &amp; &quot;Co&quot;"));
        }
        assert!(period.contains("to go &lt;straight&gt;") && period.contains("kicks &amp; bites"));
        assert!(session.contains("like &lt;/p&gt; flying") && session.contains("W &amp; W"));
        let coach = reader == Reader::Coach;
        assert_eq!(period.contains("history &lt;script&gt;"), coach);
        assert_eq!(session.contains("my own &lt;i&gt;note"), coach);
    }
}
