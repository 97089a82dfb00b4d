//! The yard goes out as a ZIP and comes back the same: every table, every figure. Reports say what
//! the screens say.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::Path;
use std::process::Command;

use common::Program;
use common::http::{get, send};
use serde_json::Value;
use umlauf_store::Store;
use umlauf_store::archive::Table;

fn umlauf(args: &[&str], data: &Path) -> std::process::Output {
    Command::new(env!("CARGO_BIN_EXE_umlauf")).args(args).arg("--data").arg(data).output().unwrap()
}

/// Tables without what is made anew: the copy for stepping.
fn tables(store: &Store) -> Vec<Table> {
    let mut tables = store.tables().unwrap();
    for t in &mut tables {
        let made = |c: &String| c == "proxy" || c == "proxy_shift_us";
        let places: Vec<usize> = (0..t.columns.len()).filter(|k| made(&t.columns[*k])).collect();
        for row in &mut t.rows {
            for k in &places {
                row[*k] = Value::Null;
            }
        }
    }
    tables
}

#[test]
fn a_yard_goes_out_and_comes_back_the_same() {
    let folder = tempfile::tempdir().unwrap();
    let (first, second) = (folder.path().join("first"), folder.path().join("second"));
    let zip = folder.path().join("yard.zip");
    let film = std::fs::read(common::root().join("demo/priel-canter.mp4")).unwrap();
    let (before, glance) = {
        let program = Program::start(&["demo"], &first);
        program.wait_for_jobs(std::time::Duration::from_secs(900));
        let api = |path: &str| get(&format!("{}/api/{path}", program.url));
        let downloaded = api("export");
        assert_eq!(downloaded.status, 200);
        (api("horses/3/record").json(), api("clips/5/ground").json())
    };
    let out = umlauf(&["export", zip.to_str().unwrap()], &first);
    assert!(out.status.success(), "{out:?}");
    let out = umlauf(&["restore", zip.to_str().unwrap()], &second);
    assert!(out.status.success(), "{}", String::from_utf8_lossy(&out.stderr));
    let (a, b) = (Store::open(&first, None).unwrap(), Store::open(&second, None).unwrap());
    let (ta, tb) = (tables(&a), tables(&b));
    for (x, y) in ta.iter().zip(&tb) {
        assert!(x.rows.len() == y.rows.len() && x == y, "table {}", x.name);
    }
    assert!(ta.iter().find(|t| t.name == "mark").unwrap().rows.len() > 10_000);
    let clip = b.clips().unwrap().into_iter().find(|c| c.name.starts_with("priel")).unwrap();
    let back = b.footage_folder(&clip.footage.content).join(&clip.footage.file);
    assert!(std::fs::read(back).unwrap() == film);
    drop((a, b));
    // Every figure is worked out from the same marks.
    let program = Program::start(&["serve"], &second);
    let api = |path: &str| get(&format!("{}/api/{path}", program.url)).json();
    assert_eq!(api("horses/3/record"), before);
    assert_eq!(api("clips/5/ground"), glance);
    // A yard that is not empty is left as it is, and a file that is no yard is refused.
    let out = umlauf(&["restore", zip.to_str().unwrap()], &first);
    assert!(!out.status.success());
    assert!(String::from_utf8_lossy(&out.stderr).contains("only where there is none"));
    over_http(folder.path(), &zip, &before);
    let none = folder.path().join("none.zip");
    std::fs::write(&none, b"no zip").unwrap();
    let out = umlauf(&["restore", none.to_str().unwrap()], &folder.path().join("third"));
    assert!(!out.status.success() && String::from_utf8_lossy(&out.stderr).contains("is no ZIP"));
}

/// The page puts the ZIP back where there is no yard, once, and all or nothing.
fn over_http(folder: &Path, zip: &Path, record: &Value) {
    let at = folder.join("over-http");
    let program = Program::start(&["serve"], &at);
    let url = format!("{}/api/import", program.url);
    let kind = [("Content-Type", "application/zip")];
    let whole = std::fs::read(zip).unwrap();
    // A ZIP cut short, and none at all.
    for (bad, says) in [(&whole[..whole.len() / 2], "no ZIP"), (b"nothing".as_slice(), "no ZIP")] {
        let answer = send("POST", &url, &kind, bad);
        assert!(answer.status == 422 && answer.text.contains(says), "{}", answer.text);
        let yard = get(&format!("{}/api/yard", program.url)).json();
        assert_eq!(yard["horses"], serde_json::json!([]));
    }
    let left = walk(&at.join("footage"));
    assert!(left.is_empty(), "{left:?}");
    let back = send("POST", &url, &kind, &whole);
    assert_eq!(back.status, 200, "{}", back.text);
    assert_eq!(back.json()["horses"], 6);
    assert_eq!(back.json()["films"], 5);
    assert_eq!(get(&format!("{}/api/horses/3/record", program.url)).json(), *record);
    let again = send("POST", &url, &kind, &whole);
    assert!(again.status == 422 && again.text.contains("only where there is none"));

    // One bit of a film and one of the tables are wrong: all else comes back.
    let film = whole.windows(8).rposition(|w| w == b"ftypisom").unwrap();
    let tables = whole.windows(9).position(|w| w == b"yard.json").unwrap();
    let mut damaged = whole;
    damaged[film + 5_000] ^= 0x10;
    damaged[tables + 40_000] ^= 0x01;
    let zip = folder.join("damaged.zip");
    std::fs::write(&zip, damaged).unwrap();
    let sound = folder.join("sound");
    let out = umlauf(&["restore", zip.to_str().unwrap()], &sound);
    let says = String::from_utf8(out.stdout).unwrap();
    assert!(out.status.success() && says.contains("6 horses"), "{says}");
    assert!(says.contains("4 films; the film of") && says.contains("is damaged"), "{says}");
    let program = Program::start(&["serve"], &sound);
    assert_eq!(get(&format!("{}/api/horses/3/record", program.url)).json(), *record);
}

#[test]
fn an_export_takes_no_wrong_folder_for_a_yard_and_says_what_is_missing() {
    let folder = tempfile::tempdir().unwrap();
    let (data, zip) = (folder.path().join("yard"), folder.path().join("yard.zip"));
    let part = folder.path().join("yard.part");
    std::fs::write(&part, "the coach's own").unwrap();
    let mistyped = umlauf(&["export", zip.to_str().unwrap()], &folder.path().join("yrad"));
    assert!(!mistyped.status.success() && !zip.exists() && !folder.path().join("yrad").exists());
    let says = String::from_utf8(mistyped.stderr).unwrap();
    assert!(says.contains("there is no yard in") && says.contains("--data"), "{says}");
    let program = Program::start(&["serve"], &data);
    for name in ["distel-trot", "priel-canter"] {
        program.send_file(&common::root().join(format!("demo/{name}.mp4")), None).unwrap();
    }
    program.kill();
    let films = walk(&data.join("footage"));
    let of = |name: &str| {
        let film = std::fs::read(common::root().join(format!("demo/{name}.mp4"))).unwrap();
        films.iter().find(|f| std::fs::read(f).unwrap() == film).unwrap()
    };
    let (trot, canter) = (of("distel-trot"), of("priel-canter"));
    std::fs::remove_file(trot).unwrap();
    let mut bytes = std::fs::read(canter).unwrap();
    bytes[9_000] ^= 1;
    std::fs::write(canter, bytes).unwrap();
    let out = umlauf(&["export", zip.to_str().unwrap()], &data);
    let says = String::from_utf8(out.stderr).unwrap();
    assert!(!out.status.success() && zip.exists(), "{says}");
    assert!(
        says.contains("distel-trot, is missing") && says.contains("canter, is damaged"),
        "{says}"
    );
    assert_eq!(std::fs::read_to_string(&part).unwrap(), "the coach's own");
}

/// Files below a folder.
fn walk(folder: &Path) -> Vec<std::path::PathBuf> {
    let mut out = Vec::new();
    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        if entry.path().is_dir() {
            out.extend(walk(&entry.path()));
        } else {
            out.push(entry.path());
        }
    }
    out
}

#[test]
fn reports_say_what_was_found_and_keep_the_coachs_notes_from_the_rider() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["demo"], &folder.path().join("yard"));
    let api = |path: &str| get(&format!("{}/api/{path}", program.url));
    let session = api("clips/5").json()["session"].clone();
    let coach = api(&format!("reports/session/{session}?for=coach"));
    let rider = api(&format!("reports/session/{session}?for=rider"));
    let note = "Longer, or only quicker?";
    assert!(coach.text.contains(note) && !rider.text.contains(note));
    let headline = api(&format!("sessions/{session}/glance")).json()["headline"].clone();
    for report in [&coach, &rider] {
        assert_eq!(report.status, 200);
        assert!(report.text.contains(headline.as_str().unwrap()), "{}", report.text);
        assert!(report.text.contains("have a vet look") && report.text.contains("<svg"));
        // Self-contained: nothing is fetched.
        assert!(!report.text.contains("src=") && !report.text.contains("http"));
    }
    let yard = api("yard").json();
    let id = |name: &str| {
        let all = yard["horses"].as_array().unwrap();
        all.iter().find(|h| h["name"] == name).unwrap()["id"].clone()
    };
    for (name, story) in [
        ("Priel", "get better over 12 sessions"),
        ("Distel", "After 49 days off"),
        ("Bernsteen", "Clean flying changes: 24 of 30"),
        ("Queller", "Slips to stepping pace"),
        ("Tinne", "the left rein is the weaker one"),
    ] {
        let report = api(&format!("reports/horse/{}/rider", id(name)));
        assert!(report.text.contains(story), "{name}: {}", report.text);
        assert!(!report.text.contains("<h2>Notes</h2>"));
    }
    let csv = api(&format!("horses/{}/record.csv?gait=trot", id("Tinne"))).text;
    let lines: Vec<&str> = csv.lines().collect();
    assert!(
        lines[0].starts_with("date,bouts,strides,regularity,regularity_lo,regularity_hi,tempo")
    );
    assert_eq!(lines.len(), 14);
    assert!(lines.iter().all(|l| l.split(',').count() == lines[0].split(',').count()));
}
