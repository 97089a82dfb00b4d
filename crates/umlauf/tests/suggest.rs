//! `umlauf suggest` on the demo's films, whose footfalls are known, and on what has no hoof in it.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::Path;
use std::process::Command;
use std::time::Duration;

use common::{Program, http, root};
use serde_json::Value;
use umlauf_gait::Footfall;
use umlauf_gait::marks::footfall_csv;

fn command(args: &[&str]) -> (Option<i32>, String, String) {
    let out =
        Command::new(env!("CARGO_BIN_EXE_umlauf")).args(args).current_dir(root()).output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    (out.status.code(), text(out.stdout), text(out.stderr))
}

fn on_s(document: &Value) -> Vec<f64> {
    let all = document["footfalls"].as_array().unwrap();
    all.iter().map(|f| f["on_s"].as_f64().unwrap()).collect()
}

#[test]
fn the_beats_of_the_demos_films_are_heard_where_their_hooves_land() {
    for clip in ["kiebitz-walk", "distel-trot", "priel-canter", "bernsteen-changes"] {
        let film = format!("demo/{clip}.mp4");
        let (status, out, _) = command(&["suggest", &film, "--use", "sound", "--json"]);
        assert_eq!(status, Some(0), "{clip}");
        let heard = on_s(&serde_json::from_str(&out).unwrap());
        let table = std::fs::read(root().join(format!("demo/{clip}.footfalls.csv"))).unwrap();
        let mut truth: Vec<f64> =
            footfall_csv::read(&table).unwrap().footfalls.iter().map(|f| f.on.0).collect();
        truth.sort_by(f64::total_cmp);
        // Every beat is a footfall, and every footfall lies in a beat with those about it.
        let near = |of: &[f64], at: f64, within: f64| of.iter().any(|x| (x - at).abs() < within);
        let made_up = heard.iter().filter(|at| !near(&truth, **at, 0.012)).count();
        let missed = truth.iter().filter(|at| !near(&heard, **at, 0.035)).count();
        // One stride before and after the ride sounds, and is not in the table.
        assert!(made_up <= 8, "{clip}: {made_up} of {} beats are no footfall", heard.len());
        assert!(missed <= 2, "{clip}: {missed} of {} footfalls are not heard", truth.len());
    }
}

#[test]
fn a_camera_far_away_hears_late_and_slow_motion_hears_slowly() {
    let film = "demo/distel-trot.mp4";
    let read = |more: &[&str]| {
        let (_, out, _) =
            command(&[&["suggest", film, "--use", "sound", "--json"][..], more].concat());
        on_s(&serde_json::from_str(&out).unwrap())
    };
    let (near, far, slow) =
        (read(&[]), read(&["--distance", "34.3"]), read(&["--slow-factor", "4"]));
    for (k, at) in near.iter().enumerate() {
        assert!((far[k] - (at - 0.1)).abs() < 1e-9);
        assert!((slow[k] - at / 4.0).abs() < 1e-9);
    }
}

#[test]
fn what_is_suggested_can_be_given_limbs_and_analysed() {
    let (_, table, _) = command(&["suggest", "demo/kiebitz-walk.mp4", "--use", "sound"]);
    let folder = tempfile::tempdir().unwrap();
    let put = |text: &str| {
        let path = folder.path().join("beats.csv");
        std::fs::write(&path, text).unwrap();
        path.display().to_string()
    };
    // Beats of nobody's hooves are no ride.
    let (status, _, said) = command(&["analyse", &put(&table)]);
    assert_eq!(status, Some(1));
    assert!(said.contains("has a limb"), "{said}");
    // A walk's beats follow one another; one is left open.
    let limbs = ["LH", "LF", "RH", "RF"];
    let named: Vec<String> = table
        .lines()
        .enumerate()
        .map(|(k, line)| match k {
            0 | 9 => line.to_owned(),
            _ => format!("{}{line}", limbs[(k - 1) % 4]),
        })
        .collect();
    let (status, out, _) = command(&["analyse", &put(&named.join("\n")), "--json"]);
    assert_eq!(status, Some(0));
    let document: Value = serde_json::from_str(&out).unwrap();
    assert_eq!(document["bouts"][0]["gait"], "walk");
    assert_eq!(document["input"]["dropped"][0]["line"], 10);
    // The beats' own errors are the marks'.
    let sd = document["input"]["timing_sd_s"].as_f64().unwrap();
    assert!((0.001..0.004).contains(&sd), "{sd}");
}

#[test]
fn a_film_nobody_marked_tells_its_late_change() {
    let (status, table, _) = command(&["suggest", "demo/bernsteen-changes.mp4"]);
    assert_eq!(status, Some(0));
    for said in ["# camera: panning", "# near: left", "# gait: canter", "# sound_late_s: "] {
        assert!(table.contains(said), "{said} in {}", &table[..300]);
    }
    let path = root().join("demo/bernsteen-changes.footfalls.csv");
    let truth = footfall_csv::read(&std::fs::read(&path).unwrap()).unwrap().footfalls;
    let found = footfall_csv::read(table.as_bytes()).unwrap().footfalls;
    let near = |t: &Footfall, f: &Footfall| (t.on.0 - f.on.0).abs() < 1.5 / 60.0;
    // What stood when the film began has no on.
    let asked: Vec<&Footfall> = truth.iter().filter(|t| t.on.0 > 0.6).collect();
    let seen = asked.iter().filter(|t| found.iter().any(|f| near(t, f) && f.limb == t.limb));
    let share = seen.count() as f64 / asked.len() as f64;
    assert!(share >= 0.95, "{share}");
    // Analysed as it is, nobody looking, it says what the truth says.
    let folder = tempfile::tempdir().unwrap();
    let suggested = folder.path().join("suggested.csv");
    std::fs::write(&suggested, &table).unwrap();
    let changes = |csv: &Path| {
        let (_, out, _) = command(&["analyse", csv.to_str().unwrap()]);
        out.split(';').next().unwrap().to_owned()
    };
    assert_eq!(changes(&suggested), changes(&path));
    let (_, out, _) = command(&["analyse", suggested.to_str().unwrap()]);
    assert!(out.contains("Nobody has looked at"), "{out}");
    assert!(changes(&path).contains("late behind by 1"), "{}", changes(&path));
}

#[test]
fn what_is_too_small_to_be_seen_is_still_heard() {
    let (_, table, _) = command(&["suggest", "demo/tinne-lengthening.mp4"]);
    assert!(table.starts_with("# unseen: 0.0 to 11.5 s: "), "{}", &table[..200]);
    assert!(!table.contains("# refused") && table.lines().count() > 30);
}

#[test]
fn nothing_heard_is_said_with_its_reason_and_no_film_is_an_error() {
    let folder = tempfile::tempdir().unwrap();
    let made = |name: &str, sound: &[&str]| {
        let path = folder.path().join(name);
        let picture = ["-v", "error", "-f", "lavfi", "-i", "color=gray:s=64x64:r=25:d=12"];
        let coded = ["-c:v", "libx264", "-shortest", path.to_str().unwrap()];
        let done = Command::new("ffmpeg").args(picture).args(sound).args(coded).status().unwrap();
        assert!(done.success());
        path.display().to_string()
    };
    let mute = made("mute.mp4", &[]);
    let hiss = made("hiss.mp4", &["-f", "lavfi", "-i", "anoisesrc=d=12:a=0.1", "-c:a", "aac"]);
    for (film, why) in [(mute, "no sound"), (hiss, "no hoofbeats")] {
        let (status, out, _) = command(&["suggest", &film]);
        assert_eq!(status, Some(0));
        assert!(out.starts_with("# refused: ") && out.contains(why), "{out}");
        // No horse either, and then the empty table.
        assert!(out.contains("no horse") && out.contains("# unseen: 0.0 to 12.0 s"), "{out}");
        assert_eq!(out.lines().count(), 3, "{out}");
    }
    let text = folder.path().join("no.mp4");
    std::fs::write(&text, "no film").unwrap();
    for film in [text.as_path(), Path::new("/nowhere.mp4")] {
        let (status, out, said) = command(&["suggest", film.to_str().unwrap()]);
        assert_eq!((status, out.as_str()), (Some(1), ""));
        assert!(said.contains(film.to_str().unwrap()), "{said}");
    }
}

#[test]
fn a_film_that_comes_in_is_looked_at_and_what_is_found_waits_for_an_answer() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::looking(&["serve"], &folder.path().join("yard"));
    let at = |path: &str| format!("{}{path}", program.url);
    let clip = program.send_file(&root().join("demo/distel-trot.mp4"), None).unwrap();
    program.wait_for_jobs(Duration::from_secs(600));
    let desk_at = at(&format!("/api/clips/{clip}/desk"));
    let desk = http::get(&desk_at).json();
    let open = desk["marks"].as_array().unwrap().clone();
    assert!(open.len() > 35, "{} found", open.len());
    assert!(open.iter().all(|m| m["origin"]["answer"] == "open"));
    let says = desk["found"]["says"].as_str().unwrap();
    assert!(says.starts_with(&format!("{} footfalls found by themselves", open.len())), "{says}");
    assert!(desk["analysis"]["headline"].as_str().unwrap().starts_with("Trot at 79"));
    assert_eq!(desk["unlooked"][0]["unlooked"], desk["unlooked"][0]["footfalls"]);
    // Nothing but the desk counts them: not the yard, not a table, not another search.
    let line = http::get(&at("/api/yard")).json()["unsorted"][0].clone();
    assert_eq!((line["footfalls"].as_u64(), line["label"].as_str()), (Some(0), None));
    assert_eq!(line["found"].as_u64(), Some(open.len() as u64));
    let table = http::get(&at(&format!("/api/clips/{clip}/footfalls.csv"))).text;
    assert!(!table.contains("LF,") && !table.contains("RH,"), "{table}");
    let again = http::post(&at(&format!("/api/clips/{clip}/find")), &Value::Null);
    assert_eq!(again.status, 422, "{}", again.text);

    let edit = |name: &str, changes: Vec<Value>| {
        let body = serde_json::json!({"edit_id": name, "changes": changes});
        let answer = http::post(&at(&format!("/api/clips/{clip}/edits")), &body);
        assert_eq!(answer.status, 200, "{}", answer.text);
    };
    let change = |m: &Value, limb: &Value, answer: &str| {
        let mut after = m.clone();
        after["limb"] = limb.clone();
        after["origin"]["answer"] = answer.into();
        serde_json::json!({"before": m, "after": after})
    };
    let other = |limb: &Value| -> Value {
        let limb = limb.as_str().unwrap();
        format!("{}{}", if limb.starts_with('L') { "R" } else { "L" }, &limb[1..]).into()
    };
    let marks = || http::get(&desk_at).json()["marks"].as_array().unwrap().clone();
    // One that is not there is missed where it is due.
    let gone = &open[20];
    edit("gone", vec![serde_json::json!({"before": gone, "after": null})]);
    let found = || http::get(&desk_at).json()["found"].clone();
    let missed = found()["missed"].as_array().unwrap().clone();
    assert_eq!(missed.len(), 1, "{missed:?}");
    assert_eq!(missed[0]["limb"], gone["limb"]);
    let us = |at: &Value| at.as_i64().unwrap();
    assert!((us(&missed[0]["at_us"]) - us(&gone["on_us"])).abs() < 30_000, "{missed:?} {gone}");
    assert!(found()["says"].as_str().unwrap().ends_with("1 seems to be missed"), "{}", found());
    edit("back again", vec![serde_json::json!({"before": null, "after": gone})]);
    assert_eq!(found()["missed"], serde_json::json!([]));
    let anew = || {
        let changes = http::get(&at(&format!("/api/clips/{clip}/told-anew"))).json();
        changes["changes"].as_array().unwrap().clone()
    };
    // Some are of the wrong side; the coach sets one right, and those about it follow.
    let turned = |k: usize| change(&open[k], &other(&open[k]["limb"]), "open");
    edit("wrong", (10..18).map(turned).collect());
    assert_eq!(anew(), Vec::<Value>::new(), "before the coach has said anything");
    edit("right", vec![change(&marks()[14], &open[14]["limb"], "looked")]);
    edit("anew", anew());
    let mended = marks();
    let limbs = |of: &[Value]| of.iter().map(|m| m["limb"].clone()).collect::<Vec<_>>();
    assert_eq!(limbs(&mended), limbs(&open));
    assert_eq!(mended.iter().filter(|m| m["origin"]["answer"] == "looked").count(), 1);

    // Left and right of the whole clip changed by the coach stay so.
    let all = |limb: &dyn Fn(&Value) -> Value| {
        let of = |m: &Value| change(m, &limb(&m["limb"]), m["origin"]["answer"].as_str().unwrap());
        marks().iter().map(of).collect::<Vec<_>>()
    };
    edit("swapped", all(&other));
    assert_eq!(anew(), Vec::<Value>::new());
    edit("back", all(&other));

    // Taken, they count, and what nobody looked at is said.
    edit("taken", marks().iter().map(|m| change(m, &m["limb"], "taken")).collect());
    let line = http::get(&at("/api/yard")).json()["unsorted"][0].clone();
    assert_eq!(line["footfalls"].as_u64(), Some(open.len() as u64));
    assert!(line["label"].as_str().is_some_and(|l| l.starts_with("Trot")), "{line}");
}

#[test]
fn a_film_without_a_horse_says_why_nothing_is_found_and_one_timed_by_hand_is_left_alone() {
    let folder = tempfile::tempdir().unwrap();
    let film = folder.path().join("counting.mp4");
    common::counting_clip(&film, 320, 240, 60);
    let program = Program::looking(&["serve"], &folder.path().join("yard"));
    let clip = program.send_file(&film, None).unwrap();
    program.wait_for_jobs(Duration::from_secs(300));
    let desk_at = format!("{}/api/clips/{clip}/desk", program.url);
    let found = http::get(&desk_at).json()["found"].clone();
    assert_eq!(found["open"].as_u64(), Some(0));
    assert!(found["says"].as_str().unwrap().starts_with("No footfalls were found"), "{found}");
    assert!(found["refused"].as_str().is_some_and(|why| why.len() > 20), "{found}");
    // The switch.
    let setup = format!("{}/api/setup", program.url);
    let off = serde_json::json!({"watched_folder": null, "find_footfalls": false}).to_string();
    let json = [("Content-Type", "application/json")];
    assert_eq!(http::send("PUT", &setup, &json, off.as_bytes()).status, 200);
    let other = folder.path().join("another.mp4");
    common::counting_clip(&other, 320, 120, 60);
    program.send_file(&other, None).unwrap();
    let jobs = http::get(&format!("{}/api/jobs", program.url)).json();
    let looks = jobs.as_array().unwrap().iter().filter(|j| j["kind"] == "footfalls").count();
    assert_eq!(looks, 1, "{jobs}");
}
