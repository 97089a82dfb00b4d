//! The season's stories are found in the records of its horses, and nowhere else.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use common::Program;
use common::http::{Answer, get, send};
use serde_json::{Value, json};

struct Yard {
    _folder: tempfile::TempDir,
    program: Program,
}

impl Yard {
    fn open(task: &str) -> Self {
        let folder = tempfile::tempdir().unwrap();
        let program = Program::start(&[task], &folder.path().join("yard"));
        Self { _folder: folder, program }
    }

    fn get(&self, path: &str) -> Answer {
        get(&format!("{}/api/{path}", self.program.url))
    }

    fn horse(&self, name: &str) -> i64 {
        let yard = self.get("yard").json();
        let found = yard["horses"].as_array().unwrap().iter().find(|h| h["name"] == name).unwrap();
        found["id"].as_i64().unwrap()
    }

    fn record(&self, name: &str, query: &str) -> Value {
        self.get(&format!("horses/{}/record{query}", self.horse(name))).json()
    }
}

fn row<'a>(record: &'a Value, metric: &str) -> &'a Value {
    record["rows"].as_array().unwrap().iter().find(|r| r["metric"] == metric).unwrap()
}

fn says(record: &Value) -> &str {
    record["headline"].as_str().unwrap()
}

#[test]
fn every_story_of_the_season_is_found() {
    let yard = Yard::open("demo");
    // Priel finds its balance: the spread of stride durations was made to fall from 5.5 to 1.8 %.
    let priel = yard.record("Priel", "");
    assert!(says(&priel).contains("get better over 12 sessions"), "{priel}");
    let rhythm = row(&priel, "regularity");
    assert_eq!(rhythm["course"], "better");
    let month = rhythm["trend"][0].as_f64().unwrap();
    assert!((-1.9..=-0.9).contains(&month), "{month}");
    assert_eq!(row(&priel, "stride_length")["course"], "steady");
    // Distel comes back: 9 % shorter after seven weeks, as before at the end.
    let distel = yard.record("Distel", "");
    assert!(says(&distel).starts_with("After 49 days off: stride length 0.2"), "{distel}");
    assert!(says(&distel).contains("now as before"));
    assert_eq!(distel["lay_offs"][0]["days"], 49);
    // Bernsteen's third change of five was late until the seventh session.
    let bernsteen = yard.record("Bernsteen", "");
    assert!(says(&bernsteen).contains("Clean flying changes: 24 of 30"), "{bernsteen}");
    let first = bernsteen["milestones"].as_array().unwrap().last().unwrap();
    assert_eq!(
        (&first["says"], &first["date"]),
        (&json!("First session in which every flying change was clean."), &json!("2026-10-24"))
    );
    assert_eq!(bernsteen["exposures"][0]["times"], 12);
    // Queller slips: 13 of 48 stretches, most of them late in the season.
    let queller = yard.record("Queller", "");
    assert!(says(&queller).contains("Slips to stepping pace: 2 of 24"), "{queller}");
    assert!(says(&queller).contains("more often as time goes by"));
    // Tinne's left rein lags in rhythm and in stride.
    let tinne = yard.record("Tinne", "");
    assert!(says(&tinne).contains("the left rein is the weaker one (rhythm)"), "{tinne}");
    let reins = tinne["reins"].as_array().unwrap();
    let length = reins.iter().find(|r| r["metric"] == "stride_length").unwrap();
    assert_eq!((&length["verdict"], &length["headline"]), (&json!("differs"), &json!(true)));
    // Kiebitz has no story: one session says nothing of progress.
    let kiebitz = yard.record("Kiebitz", "");
    assert!(says(&kiebitz).contains("a trend needs 4") && kiebitz["stories"] == json!([]));
    for name in ["Priel", "Distel", "Bernsteen", "Queller"] {
        let reins = yard.record(name, "")["reins"].clone();
        let told = reins.as_array().unwrap().iter().filter(|r| r["headline"] == true).count();
        assert_eq!(told, 0, "{name}: {reins}");
    }
}

#[test]
fn sides_are_compared_and_conditions_named() {
    let yard = Yard::open("demo");
    let sessions = yard.record("Priel", "")["sessions"].clone();
    let id = |k: usize| sessions[k]["id"].as_i64().unwrap();
    let compare = |a: &str, b: &str| yard.get(&format!("compare?a={a}&b={b}"));
    let pair = compare(&format!("session:{}:trot", id(0)), &format!("session:{}:trot", id(11)));
    let pair = pair.json();
    let rhythm = pair["rows"].as_array().unwrap().iter().find(|r| r["metric"] == "regularity");
    let rhythm = rhythm.unwrap();
    assert_eq!((&rhythm["verdict"], &rhythm["headline"]), (&json!("better"), &json!(true)));
    assert!(
        pair["headline"].as_str().unwrap().contains("is better than 5 September 2026"),
        "{pair}"
    );
    assert_eq!(pair["differs"], json!(["footing: dry sand against damp sand"]));
    // The other way round is worse.
    let back = compare(&format!("session:{}:trot", id(11)), &format!("session:{}:trot", id(0)));
    assert!(back.json()["headline"].as_str().unwrap().contains("is worse than"));
    // One bout a side is provisional.
    let clip = pair["a"]["shown"]["clip"].as_i64().unwrap();
    let one = compare(&format!("bout:{clip}:0"), &format!("bout:{clip}:2")).json();
    assert_eq!(one["rows"][0]["provisional"], true);
    for bad in ["bout:1", "session:1:gallopp", "clip:x:trot", "session:1:trot:up"] {
        assert_eq!(compare(bad, bad).status, 422, "{bad}");
    }
    assert_eq!(compare("session:99999:trot", "bout:1:0").status, 404);
    // Filters choose; a target the coach sets is used for the mark.
    let left = yard.record("Tinne", "?gait=trot&rein=left");
    assert!(
        left["rows"]
            .as_array()
            .unwrap()
            .iter()
            .all(|r| { r["from"].as_array().unwrap().iter().all(|b| b["rein"] == "left") })
    );
    let autumn = yard.record("Tinne", "?gait=trot&from=2026-10-01&to=2026-10-31");
    assert_eq!(autumn["sessions"].as_array().unwrap().len(), 5);
    let horse = yard.horse("Tinne");
    let url = format!("{}/api/horses/{horse}/target", yard.program.url);
    let json_type = [("Content-Type", "application/json")];
    let put = |tempo: Value| {
        let body = json!({"gait": "trot", "tempo": tempo}).to_string();
        send("PUT", &url, &json_type, body.as_bytes()).status
    };
    assert_eq!((put(json!(500.0)), put(json!(84.0))), (422, 204));
    let marked = yard.record("Tinne", "");
    let tempo = row(&marked, "tempo");
    assert_eq!(tempo["target"], 84.0);
    assert!(tempo["marks"][12].as_f64().unwrap() < 7.0, "{tempo}");
}

#[test]
fn an_empty_yard_has_no_stories() {
    let yard = Yard::open("serve");
    let url = format!("{}/api/horses", yard.program.url);
    let new = json!({"name": "Lach", "withers_m": 1.6, "gaited": false}).to_string();
    let answer = send("POST", &url, &[("Content-Type", "application/json")], new.as_bytes());
    assert_eq!(answer.status, 200);
    let record = yard.record("Lach", "");
    assert!(says(&record).starts_with("Nothing of Lach is timed yet"), "{record}");
    assert!(record["gaits"] == json!([]) && record["stories"] == json!([]));
    assert!(record["rows"] == json!([]) && record["reins"] == json!([]), "{record}");
}
