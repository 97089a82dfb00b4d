//! What comes from outside is hostile until it is read: every handler that writes refuses what cannot
//! be, in words, and nothing that was there before changes.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::Program;
use common::http::{Answer, get, send};
use serde_json::{Value, json};

/// A clip of the demo whose marks are stepped at 60 frames/s.
const TROT: i64 = 5;

/// One yard bears it all, while its footage is still being prepared.
#[test]
fn what_cannot_be_is_refused_in_words_and_changes_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let program = Program::start(&["demo"], &folder.path().join("yard"));
    let before = everything(&program);
    what_is_said_of_horses_and_sessions(&program);
    what_is_said_of_a_clip(&program);
    marks_and_tags(&program);
    questions_without_an_answer(&program);
    bytes_that_are_no_json_no_text_or_far_too_many(&program);
    assert_eq!(everything(&program), before);
}

/// JSON sent to an address of the interface.
fn ask(program: &Program, method: &str, path: &str, body: &Value) -> Answer {
    let json = [("Content-Type", "application/json")];
    send(method, &format!("{}/api/{path}", program.url), &json, body.to_string().as_bytes())
}

/// What a coach would miss: the yard, a desk, a horse's record, the choices.
fn everything(program: &Program) -> Vec<Value> {
    ["yard", &format!("clips/{TROT}/desk"), "horses/1/record", "setup", "keys", "hand", "uploads"]
        .iter()
        .map(|path| {
            let answer = get(&format!("{}/api/{path}", program.url));
            assert_eq!(answer.status, 200, "{path}: {}", answer.text);
            without_pictures(answer.json())
        })
        .collect()
}

/// Filmstrips come while the program works on its own.
fn without_pictures(mut value: Value) -> Value {
    match &mut value {
        Value::Object(map) => {
            map.remove("filmstrip");
            map.values_mut().for_each(|v| *v = without_pictures(v.take()));
        }
        Value::Array(list) => list.iter_mut().for_each(|v| *v = without_pictures(v.take())),
        _ => {}
    }
    value
}

/// Refused with a sentence of its own, whatever the status in the 400s.
fn refused(answer: &Answer, what: &str) {
    assert!((400..500).contains(&answer.status), "{what}: {} {:.300}", answer.status, answer.text);
    assert!(answer.head.contains("application/problem+json"), "{what}: {}", answer.head);
    let problem = answer.json();
    assert_eq!(problem["status"], answer.status, "{what}");
    assert!(problem["detail"].as_str().unwrap().len() > 10, "{what}: {problem}");
    assert_ne!(problem["code"], "internal", "{what}");
}

/// A value with one key changed.
fn with(value: &Value, key: &str, to: Value) -> Value {
    let mut out = value.clone();
    out[key] = to;
    out
}

fn what_is_said_of_horses_and_sessions(program: &Program) {
    let long = "x".repeat(5000);
    let card = json!({"name": "Kiebitz", "withers_m": 1.6});
    let session = json!({"date": "2026-11-14"});
    let wrong = [
        ("POST", "horses", json!({"name": ""})),
        ("POST", "horses", json!({"name": long})),
        ("POST", "horses", json!({"name": "Strandläufer", "withers_m": 0.0})),
        ("POST", "horses", json!({"name": "Strandläufer", "withers_m": 16.0})),
        ("POST", "horses", json!({"name": "Strandläufer", "withers_m": "tall"})),
        ("POST", "horses", json!([])),
        ("POST", "horses", json!(null)),
        ("PUT", "horses/1", json!({})),
        ("PUT", "horses/99999", card.clone()),
        ("PUT", "horses/1", with(&card, "name", json!(" \t"))),
        ("PUT", "horses/1", with(&card, "born", json!(1066))),
        ("PUT", "horses/1", with(&card, "born", json!(2999))),
        ("PUT", "horses/1", with(&card, "degree", json!(0))),
        ("PUT", "horses/1", with(&card, "degree", json!(5))),
        ("PUT", "horses/1", with(&card, "degree", json!(-1))),
        ("PUT", "horses/1", with(&card, "intended_gait", json!("gallopade"))),
        ("PUT", "horses/1", with(&card, "weak_side", json!("up"))),
        ("PUT", "horses/1", with(&card, "goals", json!(long.repeat(10)))),
        ("PUT", "horses/1", with(&card, "owner", json!("who"))),
        ("POST", "horses/1/sessions", json!({})),
        ("POST", "horses/1/sessions", json!({"date": "yesterday"})),
        ("POST", "horses/1/sessions", json!({"date": "2026-02-30"})),
        ("POST", "horses/99999/sessions", session.clone()),
        ("PUT", "sessions/99999", session.clone()),
        ("PUT", "sessions/1", with(&session, "score", json!(10.5))),
        ("PUT", "sessions/1", with(&session, "score", json!(-0.5))),
        ("PUT", "sessions/1", with(&session, "felt", json!(long.repeat(10)))),
        ("PUT", "sessions/1/mark", json!({"gait": "trot", "figure": "tempo", "mark": 11.0})),
        ("PUT", "sessions/1/mark", json!({"gait": "trot", "figure": "tempo", "mark": -1.0})),
        ("PUT", "sessions/1/mark", json!({"gait": "hop", "figure": "tempo", "mark": 7.0})),
        ("PUT", "sessions/1/mark", json!({"gait": "trot", "figure": "looks", "mark": 7.0})),
        ("PUT", "sessions/99999/mark", json!({"gait": "trot", "figure": "tempo", "mark": 7.0})),
        ("PUT", "horses/1/target", json!({"gait": "trot", "tempo": 19.9})),
        ("PUT", "horses/1/target", json!({"gait": "trot", "tempo": 181.0})),
        ("PUT", "horses/1/target", json!({"gait": "", "tempo": 80.0})),
        ("PUT", "horses/99999/target", json!({"gait": "trot", "tempo": 80.0})),
        ("DELETE", "horses/99999", json!(null)),
        ("DELETE", "sessions/99999", json!(null)),
        ("DELETE", "clips/99999", json!(null)),
        ("POST", "horses/99999/restore", json!(null)),
        ("PUT", "setup", json!({"watched_folder": "/nowhere/at/all"})),
        ("PUT", "setup", json!({"watched_folder": "/etc/passwd"})),
        ("PUT", "keys", json!({"keys": {"carry": ""}})),
        ("PUT", "keys", json!({"keys": {"": "C"}})),
        ("PUT", "keys", json!({"keys": {"carry": long}})),
        ("PUT", "keys", json!({"keys": {"carry": 7}})),
        ("POST", "jobs/99999/cancel", json!(null)),
        ("POST", "jobs/99999/retry", json!(null)),
    ];
    for (method, path, body) in wrong {
        let what = format!("{method} {path} {:.80}", body.to_string());
        refused(&ask(program, method, path, &body), &what);
    }
}

fn what_is_said_of_a_clip(program: &Program) {
    let desk = get(&format!("{}/api/clips/{TROT}/desk", program.url)).json();
    let seen = &desk["settings"];
    let settings = |key: &str, value: Value| json!({"edit_id": "hostile", "before": seen, "after": with(seen, key, value)});
    let at = format!("clips/{TROT}/settings");
    for (key, value) in [
        ("slow_factor", json!(0.0)),
        ("slow_factor", json!(-2.0)),
        ("slow_factor", json!(1e9)),
        ("slow_factor", json!(null)),
        ("rein", json!("Left")),
        ("rein", json!("inside")),
        ("asked_lead", json!("")),
        ("note", json!("n".repeat(4001))),
        ("speed", json!(1)),
        ("mirrored", json!("yes")),
    ] {
        let what = format!("{key} {value:.40}");
        refused(&ask(program, "PUT", &at, &settings(key, value)), &what);
    }
    let mut backwards = settings("trim_from_us", json!(5_000_000));
    backwards["after"]["trim_to_us"] = json!(5_000_000);
    refused(&ask(program, "PUT", &at, &backwards), "a clip that ends where it begins");
    refused(
        &ask(program, "PUT", "clips/99999/settings", &settings("rein", json!("left"))),
        "no clip",
    );
    for body in
        [json!({"horse": 99999, "date": "2026-11-14"}), json!({"horse": 1, "date": "14.11."})]
    {
        refused(&ask(program, "PUT", &format!("clips/{TROT}/place"), &body), "place");
    }

    let calibration = |key: &str, value: Value| {
        json!({"edit_id": "hostile", "revision": desk["revision"],
               "calibration": with(&json!({}), key, value)})
    };
    let px = json!({"x_px": 1.0, "y_px": 1.0});
    let point = json!({"name": "B", "x_m": 0.0, "y_m": 30.0, "seen": px});
    let round = json!({"from_us": 0, "to_us": 9_000_000, "diameter_m": 20.0, "rounds": 1.0});
    let distances = json!({"to_track_m": 10.0, "to_letters_m": 12.0});
    let at = format!("clips/{TROT}/calibration");
    for (key, value) in [
        ("arena", json!({"width_m": 0.5, "length_m": 60.0})),
        ("arena", json!({"width_m": 20.0, "length_m": 501.0})),
        ("arena", json!({"width_m": 20.0})),
        ("points", json!([with(&point, "name", json!(" "))])),
        ("points", json!([with(&point, "name", json!("n".repeat(25)))])),
        ("points", json!([with(&point, "x_m", json!(1001.0))])),
        ("points", json!([with(&point, "seen", json!({"x_px": 1e9, "y_px": 0.0}))])),
        ("points", json!(vec![point.clone(); 41])),
        ("bar", json!([{"at_m": -1001.0, "seen": px}])),
        ("bar", json!(vec![json!({"at_m": 1.0, "seen": px}); 41])),
        ("withers", json!([px, px, px])),
        ("distances", with(&distances, "to_track_m", json!(0.4))),
        ("distances", with(&distances, "to_letters_m", json!(501.0))),
        ("rounds", json!([with(&round, "to_us", json!(0))])),
        ("rounds", json!([with(&round, "diameter_m", json!(0.5))])),
        ("rounds", json!([with(&round, "rounds", json!(0.0))])),
        ("letters_out_m", json!(-0.1)),
        ("letters_out_m", json!(5.1)),
        ("place_sd_m", json!(2.1)),
        ("place_sd_m", json!(-0.01)),
        ("colour", json!("red")),
    ] {
        let what = format!("{key} {value:.60}");
        refused(&ask(program, "PUT", &at, &calibration(key, value)), &what);
    }
}

/// An edit that makes one mark.
fn edit(mark: &Value) -> Value {
    json!({"edit_id": "hostile-edit", "changes": [{"before": null, "after": mark}]})
}

fn marks_and_tags(program: &Program) {
    let at = format!("clips/{TROT}/edits");
    let good = json!({"id": "new-mark", "limb": "LF", "on_us": 1_000_000, "off_us": 1_300_000});
    for (key, value) in [
        ("id", json!("")),
        ("id", json!("x".repeat(200))),
        ("limb", json!("FL")),
        ("limb", json!("lf")),
        ("on_us", json!(1.5)),
        ("on_us", json!("1")),
        ("on_us", json!(-1_000_000_000_000_000_i64)),
        ("on_us", json!(9_000_000_000_000_000_000_u64)),
        ("off_us", json!(999_999)),
        ("origin", json!({"how": "guessed"})),
        ("origin", json!({"how": "tapped"})),
        ("origin", json!({"how": "tapped", "rate": 0.0})),
        ("origin", json!({"how": "tapped", "rate": -1.0})),
        ("origin", json!({"how": "suggested", "detector": "ear", "sd_s": -0.01})),
        ("origin", json!({"how": "sensor", "name": "girth", "sd_s": 1e6})),
        ("hoof", json!({"x_px": 1.0})),
        ("hoof", json!({"x_px": 1e300, "y_px": 0.0})),
        ("author", json!("someone else")),
    ] {
        let what = format!("{key} {value:.60}");
        refused(&ask(program, "POST", &at, &edit(&with(&good, key, value))), &what);
    }
    // One change that cannot be takes the whole edit with it.
    let other = with(&with(&good, "id", json!("other")), "on_us", json!(2_000_000));
    let mixed = json!({"edit_id": "mixed", "changes": [
        {"before": null, "after": with(&other, "off_us", json!(null))},
        {"before": {"id": "never", "limb": "RF", "on_us": 5, "off_us": null}, "after": null},
    ]});
    let answer = ask(program, "POST", &at, &mixed);
    assert_eq!((answer.status, &answer.json()["code"]), (409, &json!("conflict")));
    let tag = |what: Value| {
        json!({"edit_id": "hostile-tag", "changes": [], "tags": [{"before": null,
               "after": {"id": "t", "from_us": 0, "to_us": null, "what": what}}]})
    };
    let many: Vec<String> = (0..21).map(|k| format!("tick {k}")).collect();
    for what in [
        json!({"kind": "aid", "asked": ""}),
        json!({"kind": "aid", "asked": "a".repeat(41)}),
        json!({"kind": "letter", "letter": " "}),
        json!({"kind": "letter", "letter": "nine char"}),
        json!({"kind": "note", "text": ""}),
        json!({"kind": "note", "text": "n".repeat(501)}),
        json!({"kind": "verdict", "text": "lame"}),
        json!({"kind": "ridden", "rein": "centre"}),
        json!({"kind": "ridden", "lead": "both"}),
        json!({"kind": "ridden", "gait": "gallopade"}),
        json!({"kind": "ridden", "movement": "m".repeat(61)}),
        json!({"kind": "ridden", "ticks": many}),
        json!({"kind": "ridden", "ticks": [""]}),
        json!({"kind": "ridden", "words": "w".repeat(1001)}),
        json!({"kind": "ridden", "attempt": -1}),
        json!({"kind": "still", "points": {"tail": {"x_px": 0.0, "y_px": 0.0}}}),
        json!({"kind": "still", "points": {"poll": {"x_px": -1e6, "y_px": 0.0}}}),
        json!({"kind": "still", "points": {}, "words": "w".repeat(501)}),
    ] {
        let said = format!("{what:.60}");
        refused(&ask(program, "POST", &at, &tag(what)), &said);
    }
    for revision in [-1_i64, 0, 1_000_000] {
        for way in ["undo", "redo"] {
            let answer = ask(
                program,
                "POST",
                &format!("clips/{TROT}/{way}"),
                &json!({"revision": revision}),
            );
            refused(&answer, &format!("{way} from {revision}"));
        }
    }
    let too_many = json!({"marks": vec![good; 5001]});
    refused(&ask(program, "POST", &format!("clips/{TROT}/again"), &too_many), "5001 marks again");
}

fn questions_without_an_answer(program: &Program) {
    for path in [
        "clips/0",
        "clips/-1",
        "clips/1.5",
        "clips/99999999999999999999",
        "clips/1%00",
        "clips/99999/desk",
        "clips/99999/frames",
        "clips/99999/sound",
        "clips/99999/footfalls.csv",
        "clips/99999/footfalls.vtt",
        "clips/99999/clicks.wav?tempo=60",
        "clips/99999/ground",
        "clips/99999/revision",
        "clips/5/next",
        "clips/5/next?after_us=soon",
        "clips/1/clicks.wav?tempo=-3",
        "clips/1/clicks.wav?tempo=1e9",
        "clips/1/clicks.wav?tempo=NaN",
        "clips/1/clicks.wav?tempo=",
        "compare",
        "compare?a=bout:1:0",
        "compare?a=bout:1:0&b=",
        "compare?a=bout:1:0&b=bout:1",
        "compare?a=bout:1:99&b=bout:1:0",
        "compare?a=bout:x:0&b=bout:1:0",
        "compare?a=clip:1:hop&b=clip:5:trot",
        "compare?a=session:99999:trot&b=session:1:trot",
        "compare?a=session:1:trot:up&b=session:1:trot",
        "compare?a=bout:1:0&b=bout:1:0&c=1",
        "horses/99999/record",
        "horses/x/record",
        "horses/99999/record.csv",
        "reports/session/99999",
        "reports/horse/99999/coach",
        "sessions/99999",
    ] {
        refused(&get(&format!("{}/api/{path}", program.url)), path);
    }
    let figure =
        |figure: Value| json!({"arena": {"width_m": 20.0, "length_m": 60.0}, "figure": figure});
    let circle = json!({"kind": "circle", "from": "F", "to": "H", "at_m": 26.0, "side": "right",
                        "diameter_m": 10.0});
    for wrong in [
        json!({}),
        json!({"kind": "volte"}),
        json!({"kind": "line", "from": "F", "to": "F"}),
        json!({"kind": "line", "from": "F", "to": "Q"}),
        json!({"kind": "line", "from": [1.0], "to": "H"}),
        json!({"kind": "line", "from": [1e12, 0.0], "to": "H"}),
        with(&circle, "side", json!("inside")),
        with(&circle, "diameter_m", json!(0.0)),
        with(&circle, "diameter_m", json!(-10.0)),
        with(&circle, "diameter_m", json!(1e9)),
        json!({"kind": "serpentine", "loops": 0, "first": "left"}),
        json!({"kind": "serpentine", "loops": 200, "first": "left"}),
        json!({"kind": "serpentine", "loops": 256, "first": "left"}),
        json!({"kind": "spiral", "middle": "X", "from_m": 20.0, "to_m": 10.0, "rounds": 1e9, "side": "left"}),
        json!({"kind": "spiral", "middle": "X", "from_m": 20.0, "to_m": 10.0, "rounds": 0.0, "side": "left"}),
    ] {
        let what = format!("{wrong:.70}");
        refused(&ask(program, "POST", "arena/figure", &figure(wrong)), &what);
    }
    let mut vast = figure(circle);
    vast["arena"]["length_m"] = json!(1e7);
    refused(&ask(program, "POST", "arena/figure", &vast), "an arena of 10,000 km");
}

fn bytes_that_are_no_json_no_text_or_far_too_many(program: &Program) {
    let url = format!("{}/api/horses", program.url);
    let json = [("Content-Type", "application/json")];
    let deep = "[".repeat(100_000);
    for body in
        [&b""[..], b"{", b"\xff\xfe", b"{\"name\":\"\xff\"}", b"{\"name\":1e999}", deep.as_bytes()]
    {
        let answer = send("POST", &url, &json, body);
        refused(&answer, &String::from_utf8_lossy(&body[..body.len().min(20)]));
    }
    refused(
        &send("POST", &url, &[("Content-Type", "text/plain")], b"{\"name\":\"A\"}"),
        "plain text",
    );
    refused(&send("POST", &url, &[], b"{\"name\":\"A\"}"), "no type");
    let huge = format!("{{\"name\":\"{}\"}}", "a".repeat(64 << 20));
    let answer = send("POST", &url, &json, huge.as_bytes());
    assert!([400, 413, 422].contains(&answer.status), "{}", answer.status);
    assert!(program.memory_kib() < 700_000, "{} KiB", program.memory_kib());
}
