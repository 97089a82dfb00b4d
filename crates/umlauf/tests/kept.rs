//! What the coach says is kept letter by letter, at the limits of what can be said, over a power cut.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::Program;
use common::http::{get, send};
use serde_json::{Value, json};

/// A clip of the demo whose marks are stepped at 60 frames/s.
const TROT: i64 = 5;

fn ask(program: &Program, method: &str, path: &str, body: &Value) -> Value {
    let json = [("Content-Type", "application/json")];
    let url = format!("{}/api/{path}", program.url);
    let answer = send(method, &url, &json, body.to_string().as_bytes());
    let said = format!("{method} {path} {body:.100}: {} {:.300}", answer.status, answer.text);
    assert!((200..300).contains(&answer.status), "{said}");
    serde_json::from_str(&answer.text).unwrap_or(Value::Null)
}

fn read(program: &Program, path: &str) -> Value {
    let answer = get(&format!("{}/api/{path}", program.url));
    assert_eq!(answer.status, 200, "{path}: {:.300}", answer.text);
    answer.json()
}

/// Every key of `said` stands in `kept` with the same value.
fn holds(kept: &Value, said: &Value, what: &str) {
    for (key, value) in said.as_object().unwrap() {
        assert_eq!(&kept[key], value, "{what}: {key}");
    }
}

fn horse_of(yard: &Value, id: &Value) -> Value {
    yard["horses"].as_array().unwrap().iter().find(|h| &h["id"] == id).unwrap().clone()
}

/// Something said, and how it is read again.
struct Said {
    what: &'static str,
    path: String,
    at: fn(&Value) -> Value,
    value: Value,
}

#[test]
fn all_that_is_said_is_read_again_after_a_power_cut() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    let program = Program::start(&["demo"], &data);
    let mut said = horses_and_sessions(&program);
    said.extend(choices(&program));
    said.extend(a_clip(&program));
    for s in &said {
        holds(&(s.at)(&read(&program, &s.path)), &s.value, s.what);
    }
    let desk = read(&program, &format!("clips/{TROT}/desk"));
    program.kill();
    let program = Program::start(&["serve"], &data);
    for s in &said {
        holds(&(s.at)(&read(&program, &s.path)), &s.value, s.what);
    }
    assert_eq!(read(&program, &format!("clips/{TROT}/desk")), desk);
}

fn horses_and_sessions(program: &Program) -> Vec<Said> {
    // Letters of every kind, quotes, line ends, and what looks like something else.
    let words = "Zwölf Übergänge; \"leicht\" & <b>ruhig</b>\n' OR 1=1 -- \u{1F40E} \\n %00 {{x}}";
    let card = json!({
        "name": "Sturmwöge 'die Graue' & <Söhne>", "withers_m": 1.37, "gaited": true, "born": 2011,
        "degree": 4, "intended_gait": "walk", "weak_side": "right", "leads": words,
        "history": words, "goals": words, "cautions": words,
    });
    let added = ask(program, "POST", "horses", &json!({"name": "Sturmwöge", "withers_m": 1.37}));
    let id = added["id"].clone();
    ask(program, "PUT", &format!("horses/{id}"), &card);
    let about = json!({"date": "2028-02-29", "note": words, "rider": "Femke", "arena": "Deichhalle",
                       "surface": "sand", "felt": words, "score": 10.0});
    let first =
        ask(program, "POST", &format!("horses/{id}/sessions"), &json!({"date": "2027-01-01"}));
    ask(program, "PUT", &format!("sessions/{}", first["id"]), &about);
    let none = json!({"date": "1999-12-31", "score": 0.0});
    ask(program, "POST", &format!("horses/{id}/sessions"), &none);
    let yard = read(program, "yard");
    assert_eq!(horse_of(&yard, &id)["name"], card["name"]);
    assert_eq!(horse_of(&yard, &id)["sessions"].as_array().unwrap().len(), 2);
    vec![
        Said {
            what: "a horse's card",
            path: format!("horses/{id}/record"),
            at: |record| record["card"].clone(),
            value: card,
        },
        Said {
            what: "a session",
            path: "yard".into(),
            at: |yard| session(yard, "2028-02-29"),
            value: about,
        },
        Said {
            what: "a session of nothing but a day",
            path: "yard".into(),
            at: |yard| session(yard, "1999-12-31"),
            value: json!({"note": "", "felt": "", "score": 0.0, "clips": []}),
        },
    ]
}

fn session(yard: &Value, date: &str) -> Value {
    let mut all = yard["horses"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|h| h["sessions"].as_array().unwrap().iter());
    all.find(|s| s["date"] == date).unwrap().clone()
}

fn choices(program: &Program) -> Vec<Said> {
    let keys = json!({"keys": {"carry": "F13", "LF": "Ö", "play": "k".repeat(40)}});
    ask(program, "PUT", "keys", &keys);
    let folder = program_folder();
    ask(program, "PUT", "setup", &json!({"watched_folder": format!("  {folder} ")}));
    for (tempo, session, mark) in [(20.0, 1, 0.0), (180.0, 2, 10.0)] {
        ask(program, "PUT", "horses/1/target", &json!({"gait": "trot", "tempo": tempo}));
        let own = json!({"gait": "trot", "figure": "tempo", "mark": mark});
        ask(program, "PUT", &format!("sessions/{session}/mark"), &own);
    }
    let kept = |path: &str, value, what| Said { what, path: path.into(), at: Value::clone, value };
    vec![
        kept("keys", keys, "keys"),
        kept("setup", json!({"watched_folder": folder}), "the watched folder"),
        kept("horses/1/record?gait=trot", json!({"target_tempo": 180.0}), "a target tempo"),
    ]
}

/// A folder that is on every machine and holds no footage.
fn program_folder() -> String {
    common::root().join("docs").canonicalize().unwrap().display().to_string()
}

fn a_clip(program: &Program) -> Vec<Said> {
    let at = |what: &str| format!("clips/{TROT}/{what}");
    let seen = read(program, &at("desk"))["settings"].clone();
    let mut after = seen.clone();
    for (key, value) in [
        ("slow_factor", json!(4.0)),
        ("slow_confirmed", json!(true)),
        ("mirrored", json!(true)),
        ("rein", json!("right")),
        ("asked_lead", json!("left")),
        ("trim_from_us", json!(0)),
        ("trim_to_us", json!(1)),
        ("note", json!("ö".repeat(4000))),
    ] {
        after[key] = value;
    }
    let edit = json!({"edit_id": "kept-settings", "before": seen, "after": after});
    ask(program, "PUT", &at("settings"), &edit);
    let revision = read(program, &at("revision"))["revision"].clone();
    let px = |x: f64, y: f64| json!({"x_px": x, "y_px": y});
    let calibration = json!({
        "arena": {"width_m": 1.0, "length_m": 500.0}, "letters_out_m": 5.0, "place_sd_m": 0.0,
        "points": [{"name": "der Pfosten", "x_m": -1000.0, "y_m": 1000.0, "seen": px(-3.25, 0.5)}],
        "bar": [{"at_m": 2.5, "seen": px(1.0, 2.0)}],
        "withers": [px(640.0, 700.0), px(641.5, 300.125)],
        "distances": {"to_track_m": 0.5, "to_letters_m": 500.0},
        "rounds": [{"from_us": 0, "to_us": 1, "diameter_m": 1.0, "rounds": 0.1}],
        "from_clip": null,
    });
    let scale = json!({"edit_id": "kept-scale", "revision": revision, "calibration": calibration});
    ask(program, "PUT", &at("calibration"), &scale);

    let mark = |id: &str, limb: &str, on_us: i64, more: Value| {
        let mut mark = json!({"id": id, "limb": limb, "on_us": on_us, "off_us": null});
        mark.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        mark
    };
    let marks = [
        mark("k1", "LF", 1, json!({"origin": {"how": "stepped"}})),
        mark("k2", "RF", 2, json!({"origin": {"how": "tapped", "rate": 0.125}, "off_us": 3})),
        mark(
            "k3",
            "LH",
            4,
            json!({"origin": {"how": "suggested", "detector": "ear-1", "sd_s": 0.0042}}),
        ),
        mark(
            "k4",
            "RH",
            5,
            json!({"origin": {"how": "sensor", "name": "girth", "sd_s": 0.001},
                                   "hoof": px(1279.75, 719.5)}),
        ),
    ];
    let tag = |id: &str, from_us: i64, to_us: Value, what: Value| json!({"id": id, "from_us": from_us, "to_us": to_us, "what": what});
    let tags = [
        tag("g1", 0, Value::Null, json!({"kind": "aid", "asked": "canter-left"})),
        tag("g2", 1, Value::Null, json!({"kind": "letter", "letter": "B"})),
        tag("g3", 2, Value::Null, json!({"kind": "note", "text": "é".repeat(500)})),
        tag("g4", 3, json!(9), json!({"kind": "unseen"})),
        tag(
            "g5",
            4,
            json!(8),
            json!({"kind": "ridden", "gait": "canter", "variant": "collected",
            "rein": "left", "lead": "right", "movement": "tempi-4x5", "attempt": 3,
            "ticks": ["straight"], "words": "better"}),
        ),
        tag(
            "g6",
            5,
            Value::Null,
            json!({"kind": "still", "points": {"poll": px(1.5, 2.5)},
            "working": true, "words": "so"}),
        ),
    ];
    let new = |all: &[Value]| -> Vec<Value> {
        all.iter().map(|after| json!({"before": null, "after": after})).collect()
    };
    let edit = json!({"edit_id": "kept-marks", "mirrored": true, "changes": new(&marks), "tags": new(&tags)});
    ask(program, "POST", &at("edits"), &edit);
    let desk = read(program, &at("desk"));
    for mark in &marks {
        let kept = desk["marks"].as_array().unwrap().iter().find(|m| m["id"] == mark["id"]);
        holds(kept.unwrap(), mark, "a mark");
    }
    for tag in &tags {
        let kept = desk["tags"].as_array().unwrap().iter().find(|t| t["id"] == tag["id"]).unwrap();
        holds(&kept["what"], &tag["what"], "a tag");
        assert_eq!((&kept["from_us"], &kept["to_us"]), (&tag["from_us"], &tag["to_us"]));
    }
    vec![
        Said {
            what: "settings",
            path: at("desk"),
            at: |desk| desk["settings"].clone(),
            value: after,
        },
        Said {
            what: "the scale",
            path: at("ground"),
            at: |ground| ground["calibration"].clone(),
            value: calibration,
        },
    ]
}
