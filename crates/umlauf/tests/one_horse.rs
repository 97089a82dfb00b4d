//! One horse out of a backup, beside what is there: all that is its own comes back as it was, and nothing else is touched.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::Path;
use std::process::Command;

use common::{Program, http};
use serde_json::{Value, json};
use umlauf::demo::season;
use umlauf_store::Store;

fn umlauf(args: &[&str], data: &Path) -> (bool, String) {
    let mut command = Command::new(env!("CARGO_BIN_EXE_umlauf"));
    let out = command.args(args).arg("--data").arg(data).output().unwrap();
    (out.status.success(), String::from_utf8([out.stdout, out.stderr].concat()).unwrap())
}

fn send(program: &Program, method: &str, path: &str, body: &Value) -> (u16, Value) {
    let json = [("Content-Type", "application/json")];
    let url = format!("{}/api/{path}", program.url);
    let answer = http::send(method, &url, &json, body.to_string().as_bytes());
    let read = if answer.text.is_empty() { Value::Null } else { answer.json() };
    (answer.status, read)
}

/// All that is a horse's own, but for its numbers.
fn own(store: &Store, horse: i64) -> Vec<String> {
    let mut all = vec![format!("{:?}", store.horse(horse).unwrap().card)];
    for session in store.sessions_of(horse).unwrap() {
        let log: Vec<_> =
            store.session_log(session.id).unwrap().into_iter().map(|l| l.entry).collect();
        all.push(format!("{} {:?} {log:?}", session.date, session.about));
        for clip in store.clips_of_session(session.id).unwrap() {
            all.push(format!("{} {:?} {:?}", clip.name, clip.footage, clip.settings));
            all.push(format!("{:?}", store.marks_and_suggestions(clip.id).unwrap()));
            all.push(format!("{:?}", store.tags(clip.id).unwrap()));
            all.push(format!("{:?}", store.found(clip.id).unwrap()));
            all.push(format!("{:?}", store.frame_times(clip.id).unwrap()));
            all.push(format!("{:?}", store.journal(clip.id).unwrap()));
        }
    }
    all
}

#[test]
fn a_horse_comes_back_with_all_that_is_its_own_beside_what_is_there() {
    let folder = tempfile::tempdir().unwrap();
    let [data, stick, other] = ["yard", "stick", "other"].map(|n| folder.path().join(n));
    std::fs::create_dir(&stick).unwrap();
    season::fill(&Store::open(&data, None).unwrap(), season::DEMO).unwrap();
    let program = Program::start(&["serve"], &data);
    let id = |program: &Program, name: &str| {
        let yard = send(program, "GET", "yard", &json!(null)).1;
        let all = yard["horses"].as_array().unwrap();
        all.iter().find(|h| h["name"] == name).unwrap()["id"].as_i64().unwrap()
    };
    let priel = id(&program, "Priel");
    let store = Store::open(&data, None).unwrap();
    let session = store.sessions_of(priel).unwrap()[0].id;
    for (film, session) in [("priel-canter", Some(session)), ("distel-trot", None)] {
        let film = common::root().join(format!("demo/{film}.mp4"));
        program.send_file(&film, session).unwrap();
    }
    assert_eq!(send(&program, "GET", "backups/days", &json!(null)).0, 422);
    send(&program, "PUT", "backups", &json!({"folder": stick}));
    assert_eq!(send(&program, "POST", "backups", &json!(null)).0, 200);
    let zip = folder.path().join("yard.zip");
    assert!(umlauf(&["export", zip.to_str().unwrap()], &data).0);
    let before = own(&store, priel);
    let marks: usize = store.all_clips().unwrap().len();
    let record =
        http::get(&format!("{}/api/horses/{priel}/record.csv?gait=trot", program.url)).text;
    assert!(before.len() > 60 && record.lines().count() > 1, "{record}");

    // Gone for good, and back.
    assert_eq!(send(&program, "DELETE", &format!("horses/{priel}"), &json!(null)).0, 204);
    assert_eq!(send(&program, "POST", "space/empty", &json!(null)).0, 200);
    let days = send(&program, "GET", "backups/days", &json!(null)).1["days"].clone();
    let day = days[0].as_str().unwrap();
    let there = send(&program, "GET", &format!("backups/days/{day}"), &json!(null)).1;
    let packed = there["horses"].as_array().unwrap().iter().find(|h| h["name"] == "Priel").unwrap();
    assert_eq!(packed["sessions"].as_u64().unwrap(), 12, "{packed}");
    let bring = format!("backups/days/{day}/horses/{}", packed["id"]);
    let (status, back) = send(&program, "POST", &bring, &json!(null));
    assert_eq!(
        (status, &back["name"], &back["lacks"]),
        (200, &json!("Priel"), &Value::Null),
        "{back}"
    );
    let new = back["horse"].as_i64().unwrap();
    assert!(new > priel && back["films"].as_u64().unwrap() > 0, "{back}");
    assert_eq!(own(&store, new), before);
    assert_eq!(store.all_clips().unwrap().len(), marks);
    let again = http::get(&format!("{}/api/horses/{new}/record.csv?gait=trot", program.url)).text;
    assert_eq!(again, record);
    // Numbers go on from there.
    let (_, added) = send(&program, "POST", "horses", &json!({"name": "Neu"}));
    assert_eq!(added["id"].as_i64().unwrap(), new + 1);

    // Beside one that is there it is told apart, and the films are here.
    let (_, twice) = send(&program, "POST", &bring, &json!(null));
    let words = umlauf::dates::in_words(day);
    assert!(words.ends_with(&day[..4]) && words.contains(' '), "{words}");
    assert_eq!(twice["name"], format!("Priel, as of {words}"));
    assert_eq!(twice["films"], 0);
    assert_eq!(own(&store, twice["horse"].as_i64().unwrap())[1..], before[1..]);
    for wrong in ["backups/days/2020-01-01/horses/1", "backups/days/today/horses/1"] {
        assert_eq!(send(&program, "POST", wrong, &json!(null)).0, 422);
    }
    let nobody = format!("backups/days/{day}/horses/999");
    assert_eq!(send(&program, "POST", &nobody, &json!(null)).0, 422);
    // Where a day's document is damaged, its copy says which horses there were.
    let place = std::fs::read_dir(&stick).unwrap().next().unwrap().unwrap().path();
    let zip_of_day = place.join(format!("yard-{day}.zip"));
    let good = std::fs::read(&zip_of_day).unwrap();
    let mut bad = good.clone();
    bad[2000] ^= 1;
    std::fs::write(&zip_of_day, bad).unwrap();
    assert_eq!(send(&program, "GET", &format!("backups/days/{day}"), &json!(null)).1, there);
    std::fs::write(&zip_of_day, good).unwrap();
    program.wait_for_jobs(std::time::Duration::from_secs(600));
    drop((store, program));
    let (sound, says) = umlauf(&["check"], &data);
    assert!(sound, "{says}");

    // At the command line, into another yard.
    drop(Store::open(&other, None).unwrap().add_horse("Distel", None, false).unwrap());
    let (done, says) = umlauf(&["restore", zip.to_str().unwrap(), "--horse", "priel"], &other);
    assert!(done && says.starts_with("Priel is back: "), "{says}");
    let (done, says) = umlauf(&["restore", stick.to_str().unwrap(), "--horse", "Distel"], &other);
    assert!(done && says.starts_with(&format!("Distel, as of {words} is back: ")), "{says}");
    let (done, says) = umlauf(&["restore", stick.to_str().unwrap(), "--horse", "Nobody"], &other);
    assert!(!done && says.contains("there is no horse of that name in it"), "{says}");
    let there = Store::open(&other, None).unwrap();
    assert_eq!(own(&there, 2), before);
    let names: Vec<String> = there.horses().unwrap().into_iter().map(|h| h.card.name).collect();
    assert_eq!(names.len(), 3, "{names:?}");
}
