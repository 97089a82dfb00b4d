//! The HTTP interface: one document for page and command line, problems in words, byte ranges.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::process::Command;

use common::http::{get, post, send};
use common::{Program, root};
use serde_json::{Value, json};

fn demo() -> (tempfile::TempDir, Program) {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["demo"], &folder.path().join("yard"));
    (folder, program)
}

fn command(args: &[&str]) -> (Option<i32>, String, String) {
    let out =
        Command::new(env!("CARGO_BIN_EXE_umlauf")).args(args).current_dir(root()).output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    (out.status.code(), text(out.stdout), text(out.stderr))
}

#[test]
fn the_command_line_and_the_server_give_the_same_document() {
    let (_folder, program) = demo();
    let table = std::fs::read(root().join("demo/priel-canter.footfalls.csv")).unwrap();
    let url = format!("{}/api/analyse?asked-lead=right", program.url);
    let answer = send("POST", &url, &[("Content-Type", "text/csv")], &table);
    let (status, out, _) =
        command(&["analyse", "demo/priel-canter.footfalls.csv", "--asked-lead", "right", "--json"]);
    assert_eq!((answer.status, status), (200, Some(0)));
    let by_command: Value = serde_json::from_str(&out).unwrap();
    assert_eq!(answer.json(), by_command);
    assert_eq!(by_command["schema"], "umlauf.analysis/1");
    assert_eq!(by_command["bouts"][0]["lead"], "left");
    assert_eq!(by_command["bouts"][0]["lead_verdict"], "wrong");
}

#[test]
fn every_key_of_the_document_is_there_and_what_is_missing_says_why() {
    let (_, out, _) = command(&["analyse", "demo/distel-trot.footfalls.csv", "--json"]);
    let document: Value = serde_json::from_str(&out).unwrap();
    let bout = document["bouts"][0].as_object().unwrap();
    for key in [
        "start_s",
        "end_s",
        "strides",
        "gait",
        "confidence",
        "hind_lead",
        "fore_lead",
        "lead",
        "lead_verdict",
        "stride_duration_s",
        "tempo",
        "beats_per_min",
        "drift_per_min",
        "regularity_cv_pct",
        "phases",
        "lateral_advanced_placement",
        "diagonal_dissociation_s",
        "beat_evenness_rms_pct",
        "step_asymmetry_pct",
        "canter_beats",
        "suspension_s",
        "aerial_phases_per_stride",
        "duty_factor",
        "stance_symmetry_pct",
        "speed",
        "stride_length_m",
        "stride_length_source",
        "overtrack_m",
        "tracks",
        "shoulder_angle_deg",
        "body_angle_deg",
        "good_stride_runs",
        "movement",
        "froude",
        "relative_stride_length",
        "why",
    ] {
        assert!(bout.contains_key(key), "{key}");
    }
    let why = bout["why"].as_object().unwrap();
    for key in ["canter_beats", "movement", "lead_verdict", "beat_evenness_rms_pct"] {
        assert!(bout[key].is_null() && why.contains_key(key), "{key}");
    }
    // The table has positions.
    assert!(!bout["overtrack_m"].is_null() && !bout["tracks"].is_null());
    // Without a frame rate or an error nothing is assumed.
    let bare = "limb,on_s\nLH,0\nRH,0.5\nLH,1.1\nRH,1.6\nLH,2.2\n";
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("bare.csv");
    std::fs::write(&file, bare).unwrap();
    let (_, out, _) = command(&["analyse", file.to_str().unwrap(), "--json"]);
    let document: Value = serde_json::from_str(&out).unwrap();
    assert!(document["input"]["timing_sd_s"].is_null());
    assert!(document["bouts"][0]["tempo"]["ci95"].is_null());
    assert!(document["bouts"][0]["why"]["intervals"].as_str().unwrap().contains("frame rate"));
}

#[test]
fn bad_tables_end_with_one_line_and_status_one() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("bad.csv");
    std::fs::write(&file, "limb,on_s\nRH,1\nLX,2\n").unwrap();
    let (status, out, err) = command(&["analyse", file.to_str().unwrap()]);
    assert_eq!((status, out.as_str()), (Some(1), ""));
    assert_eq!(err.lines().count(), 1, "{err}");
    assert!(err.contains("line 3") && err.contains("`LX`"), "{err}");
    assert_eq!(command(&["analyse"]).0, Some(2));
    assert_eq!(command(&["analyse", "x.csv", "--rein", "centre"]).0, Some(2));
}

#[test]
fn problems_are_said_in_words() {
    let (_folder, program) = demo();
    let at = |path: &str| format!("{}{path}", program.url);
    let csv = [("Content-Type", "text/csv")];
    for (answer, status, code) in [
        (get(&at("/api/clips/99999")), 404, "not-found"),
        (get(&at("/api/clips/x")), 400, "bad-request"),
        (get(&at("/api/nothing")), 404, "not-found"),
        (post(&at("/api/yard"), &json!({})), 405, "method-not-allowed"),
        (post(&at("/api/horses"), &json!({"name": " "})), 422, "invalid"),
        (post(&at("/api/horses"), &json!({"name": "A", "colour": 1})), 422, "bad-request"),
        (post(&at("/api/horses/1/sessions"), &json!({"date": "2026-02-30"})), 422, "bad-request"),
        (send("POST", &at("/api/analyse"), &csv, b"limb,on_s\nRH,abc\n"), 422, "table"),
        (send("POST", &at("/api/analyse?rein=up"), &csv, b"limb,on_s\nRH,1\n"), 400, "bad-request"),
        (
            post(
                &at("/api/uploads"),
                &json!({"id": "../../etc", "session": 1, "name": "a", "bytes": 1}),
            ),
            422,
            "invalid",
        ),
        (
            post(
                &at("/api/uploads"),
                &json!({"id": "abcdefgh", "session": 1, "name": "a", "bytes": 0}),
            ),
            422,
            "invalid",
        ),
    ] {
        assert_eq!(answer.status, status, "{}", answer.text);
        assert!(answer.head.contains("application/problem+json"), "{}", answer.head);
        let problem = answer.json();
        assert_eq!(problem["code"], code, "{problem}");
        assert!(problem["detail"].as_str().unwrap().len() > 10, "{problem}");
    }
}

#[test]
fn a_request_from_a_foreign_page_is_refused() {
    let (_folder, program) = demo();
    let horses = format!("{}/api/horses", program.url);
    let foreign = [("Content-Type", "application/json"), ("Origin", "http://elsewhere.example")];
    assert_eq!(send("POST", &horses, &foreign, br#"{"name":"A"}"#).status, 403);
    let yard = format!("{}/api/yard", program.url);
    assert_eq!(send("GET", &yard, &[("Host", "elsewhere.example")], b"").status, 403);
    assert_eq!(get(&yard).status, 200);
}

#[test]
fn footage_is_served_in_ranges() {
    let (_folder, program) = demo();
    let clip = get(&format!("{}/api/clips/1", program.url)).json();
    let content = clip["media"].as_str().unwrap().split('/').nth(2).unwrap().to_owned();
    let url = format!("{}/media/{content}/original", program.url);
    let file = std::fs::read(root().join("demo/kiebitz-walk.mp4")).unwrap();
    let part = send("GET", &url, &[("Range", "bytes=1000-1999")], b"");
    assert_eq!(part.status, 206);
    assert!(part.body == file[1000..2000]);
    assert_eq!(send("GET", &url, &[("Range", "bytes=99999999-")], b"").status, 416);
    for wrong in ["/media/../yard.sqlite", "/media/%2e%2e/original", &format!("/media/{content}/x")]
    {
        assert_eq!(get(&format!("{}{wrong}", program.url)).status, 404, "{wrong}");
    }
}

#[test]
fn marks_leave_as_a_table_that_analyses_alike() {
    let (folder, program) = demo();
    let desk = get(&format!("{}/api/clips/1/desk", program.url)).json();
    let table = get(&format!("{}/api/clips/1/footfalls.csv", program.url));
    assert!(table.head.contains("kiebitz-walk.footfalls.csv"));
    let file = folder.path().join("out.csv");
    std::fs::write(&file, &table.text).unwrap();
    let (_, out, _) = command(&["analyse", file.to_str().unwrap(), "--json"]);
    let again: Value = serde_json::from_str(&out).unwrap();
    let (a, b) = (&desk["analysis"]["bouts"][0], &again["bouts"][0]);
    assert_eq!(a["gait"], b["gait"]);
    let tempo = |v: &Value| v["tempo"]["value"].as_f64().unwrap();
    assert!((tempo(a) - tempo(b)).abs() < 1e-3);
}

/// Percent-encoded for a query.
fn encoded(text: &str) -> String {
    text.bytes().map(|b| format!("%{b:02X}")).collect()
}

const LINE_OF_MARKS: &str = "time_s,kind,detail\n0.5,aid,canter-left\n2.0,start,circle-20 left\n\
     4.5,end,circle-20\n3.0,letter,C\n3.2,note,\"lighter, in front\"\n";

#[test]
fn marks_and_schools_reach_the_document_by_both_ways() {
    let (folder, program) = demo();
    let table = std::fs::read(root().join("demo/priel-canter.footfalls.csv")).unwrap();
    let marks = folder.path().join("m.marks.csv");
    std::fs::write(&marks, LINE_OF_MARKS).unwrap();
    let url = format!(
        "{}/api/analyse?rein=left&degree=2&schools=counting%3Dbeats&marks={}",
        program.url,
        encoded(LINE_OF_MARKS)
    );
    let answer = send("POST", &url, &[("Content-Type", "text/csv")], &table);
    let file = "demo/priel-canter.footfalls.csv";
    let marks = marks.to_str().unwrap();
    let with = ["--marks", marks, "--rein", "left", "--degree", "2", "--school", "counting=beats"];
    let (status, out, err) = command(&[&["analyse", file, "--json"][..], &with].concat());
    assert_eq!((answer.status, status), (200, Some(0)), "{} {err}", answer.text);
    let by_command: Value = serde_json::from_str(&out).unwrap();
    assert_eq!(answer.json(), by_command);
    let bouts = by_command["bouts"].as_array().unwrap();
    assert!(bouts.iter().any(|b| b["movement"] == "circle-20 left"), "{out}");
    assert!(bouts.iter().any(|b| b["movement"].is_null()), "{out}");

    let csv = [("Content-Type", "text/csv")];
    for wrong in ["degree=5", "schools=counting%3Dtoes", "marks=time_s%2Ckind%0A1%2Cx"] {
        let url = format!("{}/api/analyse?{wrong}", program.url);
        let answer = send("POST", &url, &csv, &table);
        assert!((400..=422).contains(&answer.status), "{wrong}: {}", answer.text);
        assert!(answer.head.contains("application/problem+json"), "{wrong}");
    }
}

#[test]
fn captions_and_clicks_leave_by_page_and_command() {
    let (folder, program) = demo();
    let captions = get(&format!("{}/api/clips/1/footfalls.vtt", program.url));
    assert_eq!(captions.status, 200);
    assert!(captions.head.contains("text/vtt"), "{}", captions.head);
    assert!(captions.text.starts_with("WEBVTT\n"));
    let table = get(&format!("{}/api/clips/1/footfalls.csv", program.url)).text;
    let rows = table.lines().filter(|l| !l.starts_with('#')).count() - 1;
    assert_eq!(captions.text.matches(" --> ").count(), rows);

    // A click a beat at 60 strides/min of walk: four a second, each an attack out of silence.
    let (wav, vtt) = (folder.path().join("c.wav"), folder.path().join("c.vtt"));
    let out = ["--clicks", wav.to_str().unwrap(), "--captions", vtt.to_str().unwrap()];
    let walk = ["analyse", "demo/kiebitz-walk.footfalls.csv", "--click-tempo", "60"];
    let (status, _, err) = command(&[&walk[..], &out].concat());
    assert_eq!(status, Some(0), "{err}");
    assert!(std::fs::read_to_string(vtt).unwrap().starts_with("WEBVTT\n"));
    let mut sound = hound::WavReader::open(wav).unwrap();
    let rate = sound.spec().sample_rate as usize;
    let samples: Vec<i32> = sound.samples::<i16>().map(|s| i32::from(s.unwrap()).abs()).collect();
    let quiet = rate / 10;
    let attacks: Vec<usize> = (quiet..samples.len())
        .filter(|&k| samples[k] > 1000 && samples[k - quiet..k].iter().all(|s| *s <= 1000))
        .collect();
    assert!(attacks.len() > 8, "{}", attacks.len());
    for pair in attacks.windows(2) {
        let apart = (pair[1] - pair[0]) as f64 / rate as f64;
        assert!((apart - 0.25).abs() < 0.002, "{apart}");
    }

    let served = get(&format!("{}/api/clips/1/clicks.wav?tempo=60", program.url));
    assert_eq!((served.status, &served.body[..4]), (200, &b"RIFF"[..]));
    assert_eq!(get(&format!("{}/api/clips/1/clicks.wav?tempo=0", program.url)).status, 400);
}
