//! A long evening: twenty desks that mark and ten records that are looked at, with films coming in, copies being made and
//! footfalls looked for all the while. Prints how long an edit takes and how much memory the program has; an hour, or
//! `UMLAUF_MINUTES`. Run by `make torture`.
#![allow(clippy::unwrap_used, reason = "a bench that cannot go on has failed")]

mod common;

use std::sync::Mutex;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::time::{Duration, Instant};

use common::http::{get, post};
use common::{Program, counting_clip, root};
use serde_json::{Value, json};
use umlauf::demo::season;
use umlauf_store::Store;

const DESKS: u64 = 20;
const RECORDS: u64 = 10;

/// Between two marks of a desk: a stride of a trot is four of them in three quarters of a second, seen in slow motion.
const MARKS: Duration = Duration::from_millis(800);

/// Between two looks at a record.
const LOOKS: Duration = Duration::from_secs(4);

/// Between two films.
const FILMS: Duration = Duration::from_secs(90);

/// Milliseconds at a share of all.
fn at_share(all: &mut [f64], share: f64) -> f64 {
    all.sort_by(f64::total_cmp);
    all.get(((all.len() as f64 * share) as usize).min(all.len().saturating_sub(1)))
        .copied()
        .unwrap_or(0.0)
}

#[test]
#[ignore = "a measurement of an hour: run by `make torture`"]
fn a_long_evening_of_many() {
    let minutes: u64 =
        std::env::var("UMLAUF_MINUTES").ok().and_then(|m| m.parse().ok()).unwrap_or(60);
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    season::fill(&Store::open(&data, None).unwrap(), season::DEMO).unwrap();
    let program = Program::looking(&["serve"], &data);
    let api = |path: &str| format!("{}/api/{path}", program.url);
    let horses: Vec<i64> = get(&api("yard")).json()["horses"]
        .as_array()
        .unwrap()
        .iter()
        .map(|h| h["id"].as_i64().unwrap())
        .collect();
    // A clip for each desk.
    let clips: Vec<i64> = (0..DESKS)
        .map(|k| {
            let film = folder.path().join(format!("{k}.mp4"));
            counting_clip(&film, 320, 600 + k as u32, 60);
            program.send_file(&film, None).unwrap()
        })
        .collect();
    for horse in &horses {
        assert_eq!(get(&api(&format!("horses/{horse}/record"))).status, 200);
    }
    program.wait_for_jobs(Duration::from_secs(900));

    let begun = Instant::now();
    let over = || begun.elapsed() > Duration::from_secs(60 * minutes);
    let (edits, looks) = (Mutex::new(Vec::new()), Mutex::new(Vec::new()));
    let (made, films, failed) = (AtomicU64::new(0), AtomicU64::new(0), AtomicBool::new(false));
    std::thread::scope(|s| {
        for (desk, clip) in (0..DESKS).zip(&clips) {
            let (edits, made, failed, over, api) = (&edits, &made, &failed, &over, &api);
            s.spawn(move || {
                let at = api(&format!("clips/{clip}/edits"));
                for k in 0u64.. {
                    if over() {
                        return;
                    }
                    std::thread::sleep(MARKS.mul_f64(0.8 + 0.4 * ((k * 7 + desk) % 10) as f64 / 10.0));
                    // Set, and, when there are many, taken away again.
                    let mark = |k: u64| {
                        let limb = ["LH", "LF", "RH", "RF"][(k % 4) as usize];
                        json!({"id": format!("m{desk}-{k}"), "limb": limb, "on_us": 10_000 + (k % 600) * 15_000, "off_us": null})
                    };
                    let (before, after) = match k {
                        k if k % 600 < 300 => (Value::Null, mark(k)),
                        k => (mark(k - 300), Value::Null),
                    };
                    let edit = json!({"edit_id": format!("e{desk}-{k}"), "changes": [{"before": before, "after": after}]});
                    let sent = Instant::now();
                    let answer = post(&at, &edit);
                    edits.lock().unwrap().push(sent.elapsed().as_secs_f64() * 1e3);
                    made.fetch_add(1, Ordering::Relaxed);
                    if answer.status != 200 && !failed.swap(true, Ordering::Relaxed) {
                        println!("an edit was refused: {} {}", answer.status, answer.text);
                    }
                }
            });
        }
        for k in 0..RECORDS {
            let (looks, over, api) = (&looks, &over, &api);
            let horse = horses[(k as usize) % horses.len()];
            s.spawn(move || {
                std::thread::sleep(LOOKS.mul_f64(k as f64 / RECORDS as f64));
                while !over() {
                    let sent = Instant::now();
                    assert_eq!(get(&api(&format!("horses/{horse}/record"))).status, 200);
                    looks.lock().unwrap().push(sent.elapsed().as_secs_f64() * 1e3);
                    std::thread::sleep(LOOKS);
                }
            });
        }
        s.spawn(|| {
            // Each a little different: no film is taken for one that is there.
            for k in 0u64.. {
                if over() {
                    return;
                }
                let name = ["priel-canter", "distel-trot", "kiebitz-walk"][(k % 3) as usize];
                let mut bytes = std::fs::read(root().join(format!("demo/{name}.mp4"))).unwrap();
                bytes.extend_from_slice(&[0, 0, 0, 16]);
                bytes.extend_from_slice(b"free");
                bytes.extend_from_slice(&k.to_be_bytes());
                let film = folder.path().join(format!("{name}-{k}.mp4"));
                std::fs::write(&film, bytes).unwrap();
                program.send_file(&film, None).unwrap();
                std::fs::remove_file(&film).unwrap();
                films.fetch_add(1, Ordering::Relaxed);
                std::thread::sleep(FILMS);
            }
        });
        s.spawn(|| {
            println!(
                "min  edits  p50 ms  p95 ms  p99 ms  record p95 ms  films  memory MiB  peak MiB"
            );
            let every = Duration::from_secs(60 * (minutes / 12).max(1));
            while !over() {
                std::thread::sleep(
                    every
                        .min(Duration::from_secs(60 * minutes + 1).saturating_sub(begun.elapsed())),
                );
                let mut e = std::mem::take(&mut *edits.lock().unwrap());
                let mut l = std::mem::take(&mut *looks.lock().unwrap());
                println!(
                    "{:3.0}  {:5}  {:6.1}  {:6.1}  {:6.1}  {:13.1}  {:5}  {:10}  {:8}",
                    begun.elapsed().as_secs_f64() / 60.0,
                    e.len(),
                    at_share(&mut e, 0.5),
                    at_share(&mut e, 0.95),
                    at_share(&mut e, 0.99),
                    at_share(&mut l, 0.95),
                    films.load(Ordering::Relaxed),
                    program.memory_kib() / 1024,
                    program.peak_memory_kib() / 1024,
                );
            }
        });
    });
    println!("{} edits, none refused: {}", made.into_inner(), !failed.into_inner());
    let store = Store::open(&data, None).unwrap();
    assert!(store.disagreeing().unwrap().is_empty());
}
