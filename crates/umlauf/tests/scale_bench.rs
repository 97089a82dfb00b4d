//! A large yard beside a small one: 60 horses, 6,000 sessions, 3 million footfalls against 60
//! sessions. Run with `--ignored --nocapture` in release.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::Path;
use std::process::Command;
use std::time::Instant;

use common::http::get;
use common::{Program, root};
use umlauf_gait::Limb;
use umlauf_store::Store;
use umlauf_store::clip::Settings;
use umlauf_store::marks::Mark;
use umlauf_store::origin::Origin;
use umlauf_store::person::Person;
use umlauf_store::ride::TableRide;
use umlauf_store::yard::About;

/// A trot of 500 footfalls on 120 frames/s, a little different from session to session.
fn ride(session: i64, seed: u64) -> TableRide {
    let mut state = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1);
    let mut noise = || {
        state =
            state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 40) as f64 / f64::from(1 << 24) - 0.5
    };
    let mut marks = Vec::with_capacity(500);
    let mut start = 1.0;
    for k in 0..125 {
        let t = 0.756 * (1.0 + 0.05 * noise());
        for (limb, phase) in [(Limb::LH, 0.0), (Limb::RF, 0.01), (Limb::RH, 0.5), (Limb::LF, 0.51)]
        {
            let frame = |s: f64| ((s * 120.0).ceil() / 120.0 * 1e6) as i64;
            let on = start + phase * t;
            let id = format!("{limb}{k}");
            let off_us = Some(frame(on + 0.42 * t));
            marks.push(Mark {
                id,
                limb,
                on_us: frame(on),
                off_us,
                origin: Origin::Stepped,
                author: Person::coach(),
                hoof: None,
            });
        }
        // Five bouts a session.
        start += if k % 25 == 24 { 4.0 } else { t };
    }
    TableRide {
        session,
        name: "trot".into(),
        content: format!("{seed:064x}"),
        frame_times: (0..200).map(|k| k * 8333).collect(),
        frame_rate: 120.0,
        settings: Settings { rein: Some("left".into()), ..Settings::default() },
        marks,
        tags: Vec::new(),
    }
}

fn fill(folder: &Path, horses: u64, sessions: u64) {
    let store = Store::open(folder, None).unwrap();
    let first: jiff::civil::Date = "2016-01-01".parse().unwrap();
    for h in 0..horses {
        let horse = store.add_horse(&format!("Horse {h:02}"), Some(1.6), false).unwrap();
        let mut rides = Vec::new();
        for s in 0..sessions {
            let days = (s * 3650 / sessions) as i64;
            let date = first.saturating_add(jiff::Span::new().days(days)).to_string();
            let session = store.add_session(horse.id, &date, &About::default()).unwrap();
            rides.push(ride(session.id, 1 + h * 10_000 + s));
        }
        store.add_table_rides(&rides).unwrap();
    }
}

/// Milliseconds at a share of the requests, of requests to addresses in turn.
fn timed(url: &str, paths: &[String], times: usize) -> (f64, f64, f64) {
    let mut all: Vec<f64> = (0..times)
        .map(|k| {
            let began = Instant::now();
            let answer = get(&format!("{url}/api/{}", paths[k % paths.len()]));
            assert_eq!(answer.status, 200, "{}", answer.text);
            began.elapsed().as_secs_f64() * 1e3
        })
        .collect();
    let first = all[0];
    all.sort_by(f64::total_cmp);
    (first, all[all.len() / 2], all[all.len() * 95 / 100])
}

#[test]
#[ignore = "a benchmark"]
fn a_large_yard_beside_a_small_one() {
    let folder = tempfile::tempdir().unwrap();
    let mut rows: Vec<(String, f64, f64)> = Vec::new();
    for (what, horses, sessions) in [("60 sessions", 6, 10), ("6,000 sessions", 60, 100)] {
        let at = folder.path().join(what.replace(' ', "-"));
        let began = Instant::now();
        fill(&at, horses, sessions);
        println!("{what}: filled in {:.1} s", began.elapsed().as_secs_f64());
        // A new version of the program finds no digests: it makes them ahead, and the yard must not
        // wait for all of them.
        let program = Program::start(&["serve"], &at);
        let began = Instant::now();
        assert_eq!(get(&format!("{}/api/yard", program.url)).status, 200);
        println!("{what}: yard without digests: {:.0} ms", began.elapsed().as_secs_f64() * 1e3);
        for h in 1..=horses {
            assert_eq!(get(&format!("{}/api/horses/{h}/record", program.url)).status, 200);
        }
        println!("{what}: digests of all clips made in {:.1} s", began.elapsed().as_secs_f64());
        drop(program);
        // Cold: a server that has just been started, with all pages sealed.
        let began = Instant::now();
        let program = Program::start(&["serve"], &at);
        println!("{what}: started in {:.0} ms", began.elapsed().as_secs_f64() * 1e3);
        assert_eq!(get(&format!("{}/api/yard", program.url)).status, 200);
        println!(
            "{what}: and the yard was there after {:.0} ms",
            began.elapsed().as_secs_f64() * 1e3
        );
        let last = horses * sessions;
        let records: Vec<String> = (1..=horses).map(|h| format!("horses/{h}/record")).collect();
        let pairs: Vec<String> = (0..20)
            .map(|k| {
                let (a, b) = (1 + k * last / 21, last - k * last / 21);
                format!("compare?a=session:{a}:trot&b=session:{b}:trot")
            })
            .collect();
        for (name, paths) in
            [("yard", vec!["yard".to_owned()]), ("record", records), ("side by side", pairs)]
        {
            let (cold, median, p95) = timed(&program.url, &paths, 60);
            println!("{what}: {name}: cold {cold:.0} ms, median {median:.1} ms, 95 % {p95:.1} ms");
            rows.push((name.to_owned(), median, p95));
        }
        let status = Command::new("npx")
            .args(["playwright", "test", "--config", "bench.config.ts", "pages"])
            .current_dir(root().join("e2e"))
            .env("UMLAUF_URL", &program.url)
            .env("UMLAUF_RECORD", "/horses/1")
            .env("UMLAUF_BESIDE", "/beside?a=session:1:trot&b=session:2:trot")
            .status();
        assert!(status.unwrap().success());
    }
    for k in 0..3 {
        println!("{}: {:.1} times the small yard's median", rows[k].0, rows[k + 3].1 / rows[k].1);
    }
}
