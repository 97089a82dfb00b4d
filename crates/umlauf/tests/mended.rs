//! Faults seen on the running program, each held shut over HTTP: the bin, two windows, origins of
//! marks, one list of movements.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::Program;
use common::http::{Answer, get, post, send};
use serde_json::{Value, json};

/// A clip of the demo whose marks are stepped at 60 frames/s.
const TROT: i64 = 5;

fn demo() -> (tempfile::TempDir, Program) {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["demo"], &folder.path().join("yard"));
    (folder, program)
}

fn put(url: &str, body: &Value) -> Answer {
    let json = [("Content-Type", "application/json")];
    send("PUT", url, &json, body.to_string().as_bytes())
}

#[test]
fn the_bin_is_emptied_of_horses_with_tags_and_the_coachs_own_marks() {
    let (_folder, program) = demo();
    let at = |path: &str| format!("{}/api/{path}", program.url);
    program.wait_for_jobs(std::time::Duration::from_secs(900));
    let yard = get(&at("yard")).json();
    let horses: Vec<i64> =
        yard["horses"].as_array().unwrap().iter().map(|h| h["id"].as_i64().unwrap()).collect();
    assert!(horses.len() >= 4);
    for horse in &horses {
        let sessions = yard["horses"].as_array().unwrap().iter().find(|h| h["id"] == *horse);
        let session = sessions.unwrap()["sessions"][0]["id"].as_i64().unwrap();
        let mark = json!({"gait": "trot", "figure": "tempo", "mark": 7.5});
        assert!(put(&at(&format!("sessions/{session}/mark")), &mark).status < 300);
        assert!(send("DELETE", &at(&format!("horses/{horse}")), &[], &[]).status < 300);
    }
    let emptied = send("POST", &at("space/empty"), &[], &[]);
    assert_eq!(emptied.status, 200, "{}", String::from_utf8_lossy(&emptied.body));
    let left = get(&at("yard")).json();
    assert_eq!(left["horses"], json!([]));
    assert_eq!(get(&at("jobs")).json(), json!([]));
    assert_eq!(get(&at(&format!("clips/{TROT}"))).status, 404);
    let space = get(&at("space")).json();
    assert_eq!(space["footage"], 0, "{space}");
}

#[test]
fn settings_changed_in_two_windows_both_stand_and_the_same_one_is_told() {
    let (_folder, program) = demo();
    let at = |path: &str| format!("{}/api/clips/{TROT}/{path}", program.url);
    let seen = get(&at("desk")).json()["settings"].clone();
    let changed = |key: &str, value: Value| {
        let mut after = seen.clone();
        after[key] = value;
        after
    };
    let edit = |id: &str, after: &Value| {
        put(&at("settings"), &json!({"edit_id": id, "before": seen, "after": after}))
    };
    let other = if seen["rein"] == "left" { "right" } else { "left" };
    assert_eq!(edit("one", &changed("rein", json!(other))).status, 200);
    let both = edit("two", &changed("note", json!("steady"))).json();
    assert_eq!(
        (&both["settings"]["rein"], &both["settings"]["note"]),
        (&json!(other), &json!("steady"))
    );
    // Sent once more, it is made once.
    let again = edit("two", &changed("note", json!("steady"))).json();
    assert_eq!(again["revision"], both["revision"]);
    let late = edit("three", &changed("rein", Value::Null));
    assert_eq!((late.status, late.json()["code"].as_str()), (409, Some("conflict")));
    for bad in
        [("slow_factor", json!(0)), ("rein", json!("middle")), ("note", json!("x".repeat(4001)))]
    {
        assert_eq!(edit("bad", &changed(bad.0, bad.1.clone())).status, 422, "{bad:?}");
    }
    assert_eq!(put(&at("settings"), &json!({"edit_id": "x", "settings": seen})).status, 422);
}

#[test]
fn a_mark_keeps_where_it_came_from_and_its_own_error_counts() {
    let (_folder, program) = demo();
    let at = |path: &str| format!("{}/api/clips/{TROT}/{path}", program.url);
    let desk = get(&at("desk")).json();
    // In the middle of a bout: its error enters the tempo.
    let first = desk["marks"][14].clone();
    assert_eq!(first["origin"], json!({"how": "stepped"}));
    let half = |desk: &Value| {
        let ci95 = &desk["analysis"]["bouts"][0]["tempo"]["ci95"];
        (ci95[1].as_f64().unwrap() - ci95[0].as_f64().unwrap()) / 2.0
    };
    let stepped = half(&desk);
    let change = |id: &str, origin: Value| {
        let before = get(&at("desk")).json()["marks"][14].clone();
        let mut after = before.clone();
        after["origin"] = origin;
        post(&at("edits"), &json!({"edit_id": id, "changes": [{"before": before, "after": after}]}))
    };
    let suggested = json!({"how": "suggested", "detector": "eye", "sd_s": 0.05});
    assert_eq!(change("s", suggested.clone()).status, 200);
    let now = get(&at("desk")).json();
    assert_eq!(now["marks"][14]["origin"], suggested);
    // One of many: the interval widens, and by no means to that of marks all as bad.
    let widened = half(&now) / stepped;
    assert!(widened > 1.0 && widened < 4.0, "{widened}");
    for impossible in [
        json!({"how": "suggested", "detector": "", "sd_s": 0.01}),
        json!({"how": "suggested", "detector": "eye", "sd_s": 7}),
        json!({"how": "tapped", "rate": 0}),
        json!({"how": "dreamt"}),
        json!({"how": "sensor"}),
    ] {
        assert_eq!(change("x", impossible.clone()).status, 422, "{impossible}");
    }
    let revision = now["revision"].clone();
    assert_eq!(post(&at("undo"), &json!({"revision": revision})).status, 200);
    assert_eq!(get(&at("desk")).json()["marks"][14], first);
}

#[test]
fn every_movement_on_the_list_can_be_ridden_and_is_read_as_itself() {
    let (_folder, program) = demo();
    let at = |path: &str| format!("{}/api/{path}", program.url);
    let list = get(&at("vocabulary")).json();
    let ids = |key: &str| -> Vec<String> {
        let all = list[key].as_array().unwrap();
        all.iter().map(|c| c["id"].as_str().unwrap().to_owned()).collect()
    };
    assert!(ids("gaits").contains(&"rein-back".to_owned()));
    let clip = format!("clips/{TROT}");
    let desk = get(&at(&format!("{clip}/desk"))).json();
    let (from, to) = (desk["marks"][0]["on_us"].clone(), desk["marks"][27]["on_us"].clone());
    for (k, id) in ids("movements").into_iter().enumerate() {
        let name = match id.as_str() {
            "tempi" => "tempi-4x5".to_owned(),
            "drill" => "drill-2x2".to_owned(),
            other => other.to_owned(),
        };
        let what = json!({"kind": "ridden", "movement": name, "ticks": [], "words": ""});
        let tag = json!({"id": format!("m{k}"), "from_us": from, "to_us": to, "what": what});
        let edit = json!({"edit_id": format!("e{k}"), "changes": [],
                          "tags": [{"before": null, "after": tag}]});
        let answer = post(&at(&format!("{clip}/edits")), &edit);
        assert_eq!(answer.status, 200, "{name}");
        let read: Vec<Value> = answer.json()["analysis"]["bouts"]
            .as_array()
            .unwrap()
            .iter()
            .map(|b| b["movement"].clone())
            .collect();
        assert!(read.contains(&json!(name)), "{name}: {read:?}");
        let revision = answer.json()["revision"].clone();
        assert_eq!(post(&at(&format!("{clip}/undo")), &json!({"revision": revision})).status, 200);
    }
}
