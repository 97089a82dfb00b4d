//! The desk over HTTP: tags, foretold strides, the coach's scatter, a session at a glance.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::http::{get, post, send};
use common::{Program, root};
use serde_json::{Value, json};

/// Clips of the demo yard.
const WALK: i64 = 1;
const CHANGES: i64 = 4;

struct Desk {
    _folder: tempfile::TempDir,
    program: Program,
}

impl Desk {
    fn open() -> Self {
        let folder = tempfile::tempdir().unwrap();
        let program = Program::start(&["demo"], &folder.path().join("yard"));
        Self { _folder: folder, program }
    }

    fn at(&self, path: &str) -> String {
        format!("{}/api/{path}", self.program.url)
    }

    fn edit(&self, clip: i64, edit: &Value) -> Value {
        let answer = post(&self.at(&format!("clips/{clip}/edits")), edit);
        assert_eq!(answer.status, 200, "{}", answer.text);
        answer.json()
    }

    fn put(&self, path: &str, body: &Value) -> common::http::Answer {
        let json = [("Content-Type", "application/json")];
        send("PUT", &self.at(path), &json, body.to_string().as_bytes())
    }

    /// Footfalls of a demo table read to the frames of its clip, up to a time.
    fn footfalls(&self, clip: i64, table: &str, until: f64) -> Vec<Value> {
        let frames = get(&self.at(&format!("clips/{clip}/frames"))).json();
        let frames: Vec<i64> = serde_json::from_value(frames["times_us"].clone()).unwrap();
        let text = std::fs::read_to_string(root().join(format!("demo/{table}"))).unwrap();
        let rows =
            text.lines().filter(|l| l.starts_with(['L', 'R'])).map(|l| l.split(',').collect());
        let frame = |s: f64| {
            let us = (s * 1e6).round() as i64;
            frames.get(frames.partition_point(|f| *f < us)).copied()
        };
        rows.map(|r: Vec<&str>| (r[0].to_owned(), r[1].parse().unwrap(), r[2].parse().unwrap()))
            .filter(|(_, on, _): &(String, f64, f64)| *on < until)
            .enumerate()
            .map(|(k, (limb, on, off))| {
                json!({"id": format!("m{k}"), "limb": limb, "on_us": frame(on).unwrap(),
                       "off_us": frame(off)})
            })
            .collect()
    }

    fn mark_all(&self, clip: i64, table: &str, until: f64) -> Vec<Value> {
        let marks = self.footfalls(clip, table, until);
        let changes: Vec<Value> =
            marks.iter().map(|m| json!({"before": null, "after": m})).collect();
        self.edit(clip, &json!({"edit_id": "all", "changes": changes}));
        marks
    }
}

fn tag(id: &str, from_us: i64, to_us: Option<i64>, what: &Value) -> Value {
    let after = json!({"id": id, "from_us": from_us, "to_us": to_us, "what": what});
    json!({"before": null, "after": after})
}

#[test]
fn a_plan_marked_at_the_desk_is_read_against_the_ride() {
    let desk = Desk::open();
    desk.mark_all(CHANGES, "bernsteen-changes.footfalls.csv", 99.0);
    let plan = json!({"kind": "ridden", "movement": "tempi-4x2", "rein": "left"});
    let aid = json!({"kind": "aid", "asked": "change"});
    let edit = json!({"edit_id": "plan", "changes": [], "tags": [
        tag("p", 0, Some(9_700_000), &plan), tag("a", 2_500_000, None, &aid)]});
    let answer = desk.edit(CHANGES, &edit);
    let events = answer["analysis"]["events"].as_array().unwrap();
    let tempi = events.iter().find(|e| e["kind"] == "tempi").unwrap();
    assert_eq!((&tempi["changes"], &tempi["clean"]), (&json!(2), &json!(1)));
    assert_eq!(tempi["faults"], json!([{"change": 2, "what": "late_behind"}]));
    assert_eq!(answer["tags"].as_array().unwrap().len(), 2);
    // Two strides before, the change, the one between, and two after it has come through.
    let near = answer["around_changes"][1].as_array().unwrap();
    let united: Vec<bool> = near.iter().map(|s| s["hind"] == s["fore"]).collect();
    assert_eq!(united, [true, true, false, true, true, true]);
    assert!(answer["checks"].as_array().unwrap().is_empty(), "{}", answer["checks"]);

    let wrong = [
        json!({"kind": "ridden", "gait": "gallopade"}),
        json!({"kind": "ridden", "rein": "middle"}),
        json!({"kind": "aid", "asked": ""}),
        json!({"kind": "note", "text": "x".repeat(501)}),
        json!({"kind": "dance"}),
    ];
    for (k, what) in wrong.iter().enumerate() {
        let edit =
            json!({"edit_id": format!("w{k}"), "changes": [], "tags": [tag("w", 1, None, what)]});
        let answer = post(&desk.at(&format!("clips/{CHANGES}/edits")), &edit);
        assert_eq!(answer.status, 422, "{what}: {}", answer.text);
        assert!(answer.head.contains("application/problem+json"));
    }
}

#[test]
fn the_next_stride_is_foretold_near_the_true_one() {
    let desk = Desk::open();
    let all = desk.footfalls(CHANGES, "bernsteen-changes.footfalls.csv", 99.0);
    let known = desk.mark_all(CHANGES, "bernsteen-changes.footfalls.csv", 1.5);
    let last = known.iter().map(|m| m["on_us"].as_i64().unwrap()).max().unwrap();
    let next = get(&desk.at(&format!("clips/{CHANGES}/next?after_us={last}"))).json();
    let next = next["next"].as_array().unwrap();
    assert_eq!(next.len(), 4);
    for foretold in next {
        let due = all
            .iter()
            .filter(|m| m["limb"] == foretold["limb"])
            .find(|m| !known.iter().any(|k| k["id"] == m["id"]))
            .unwrap();
        let apart = foretold["on_us"].as_i64().unwrap() - due["on_us"].as_i64().unwrap();
        // Three frames of 120 a second: the horse's own unsteadiness.
        assert!(apart.abs() < 25_000, "{foretold} {due}");
    }
    let bad = get(&desk.at(&format!("clips/{CHANGES}/next?after_us=soon")));
    assert_eq!(bad.status, 400);
}

#[test]
fn a_hand_that_scatters_widens_every_error_once_it_is_kept() {
    let desk = Desk::open();
    let error = |d: &Value| d["analysis"]["input"]["timing_sd_s"].as_f64().unwrap();
    let read = || get(&desk.at(&format!("clips/{WALK}/desk"))).json();
    let before = read();
    let shaken: Vec<Value> = before["marks"]
        .as_array()
        .unwrap()
        .iter()
        .enumerate()
        .map(|(k, m)| {
            let mut m = m.clone();
            // Two frames early, two late, in turn: 16.7 ms / √2 a mark, near enough.
            let by = if k % 2 == 0 { 16_667 } else { -16_667 };
            m["on_us"] = json!(m["on_us"].as_i64().unwrap() + by);
            m["off_us"] = Value::Null;
            m
        })
        .collect();
    let again = desk.at(&format!("clips/{WALK}/again"));
    let few = post(&again, &json!({"marks": shaken[..3]})).json();
    assert!(few["sd_s"].is_null() && few["says"].as_str().unwrap().contains("at least 8"));
    let found = post(&again, &json!({"marks": shaken})).json();
    let sd = found["sd_s"].as_f64().unwrap();
    assert!((sd - 0.016_667 / 2f64.sqrt()).abs() < 0.0006, "{sd}");
    let frame = error(&before);
    assert!((frame - 1.0 / (120.0 * 12f64.sqrt())).abs() < 1e-6);
    assert_eq!(error(&read()), frame);
    post(&again, &json!({"marks": shaken, "keep": true}));
    let after = read();
    // Rounding to frames was alike both times and comes on top.
    assert!((error(&after) - sd.hypot(frame)).abs() < 1e-5);
    // What stood above the frames' error may not stand above the hand's.
    let regularity = &after["analysis"]["bouts"][0]["regularity_cv_pct"];
    assert_eq!(regularity["resolved"], false, "{regularity}");
    assert!(after["timing_says"].as_str().unwrap().contains("±12"), "{}", after["timing_says"]);
    // Forgotten, the errors are those of the frames again.
    let hand = get(&desk.at("hand")).json();
    assert!((hand["scatter_s"].as_f64().unwrap() - sd).abs() < 1e-5);
    assert_eq!(send("DELETE", &desk.at("hand"), &[], &[]).json()["scatter_s"], Value::Null);
    assert_eq!(error(&read()), frame);
}

#[test]
fn a_session_at_a_glance_names_what_was_ridden_and_what_matters() {
    let desk = Desk::open();
    desk.mark_all(CHANGES, "bernsteen-changes.footfalls.csv", 99.0);
    let yard = get(&desk.at("yard")).json();
    let horse = yard["horses"].as_array().unwrap().iter().find(|h| h["name"] == "Bernsteen");
    let sessions = horse.unwrap()["sessions"].as_array().unwrap();
    let own = |s: &&Value| s["clips"].as_array().unwrap().iter().any(|c| c["id"] == CHANGES);
    let session = sessions.iter().find(own).unwrap().clone();
    let id = session["id"].as_i64().unwrap();
    let glance = get(&desk.at(&format!("sessions/{id}/glance"))).json();
    assert_eq!(glance["horse"], "Bernsteen");
    let first = &glance["matters"][0]["finding"];
    assert!(first["fault"].as_bool().unwrap(), "{glance}");
    assert!(glance["headline"].as_str().unwrap().starts_with("Mostly canter"), "{glance}");
    let lines = glance["ridden"].as_array().unwrap();
    assert!(lines.iter().any(|l| l["rein"] == "left" && l["label"] == "Canter, left lead"));

    let felt = json!({"date": session["date"], "felt": "the second one hung", "score": 6.5});
    assert_eq!(desk.put(&format!("sessions/{id}"), &felt).status, 204);
    let glance = get(&desk.at(&format!("sessions/{id}/glance"))).json();
    assert_eq!((&glance["felt"], &glance["score"]), (&json!("the second one hung"), &json!(6.5)));
    let beyond = json!({"date": session["date"], "score": 11});
    assert_eq!(desk.put(&format!("sessions/{id}"), &beyond).status, 422);
    assert_eq!(get(&desk.at("sessions/99/glance")).status, 404);
}

#[test]
fn keys_are_kept_and_bounded() {
    let desk = Desk::open();
    let mine = json!({"keys": {"carry": "Y"}});
    assert_eq!(desk.put("keys", &mine).status, 200);
    assert_eq!(get(&desk.at("keys")).json(), mine);
    assert_eq!(desk.put("keys", &json!({"keys": {"x": "y".repeat(41)}})).status, 422);
    assert_eq!(get(&desk.at("keys")).json(), mine);
}
