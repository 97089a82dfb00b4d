//! Yards from outside: a ZIP that is made to harm, or was damaged on its way, changes nothing, inside the yard's folder
//! or out of it, and a killed import leaves nothing that the next one trusts.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::process::Command;

use common::Program;
use common::http::{get, post, send};
use common::packed::{FILM, Yard, and, below, content, film, packed, restore, tables, zip};
use serde_json::{Value, json};
use umlauf_store::Store;
use umlauf_store::archive::VERSION;
use zip::CompressionMethod;

#[test]
fn a_zip_that_would_lead_out_of_the_yard_or_break_a_page_changes_nothing() {
    let yard = Yard::empty();
    let outside = yard.outside.to_str().unwrap().to_owned();
    let clip = |own: Value| zip(&tables(&own));
    let twice = {
        let mut all = tables(&json!({}));
        let mut second = tables(&json!({"id": 2, "content": "../../outside"}));
        all.push(second.remove(2));
        zip(&all)
    };
    let bomb = {
        let wide = " ".repeat(64 << 20);
        let document = json!({"schema": "umlauf.yard/1", "version": VERSION, "tables": []});
        packed(&format!("{document}{wide}"), &[])
    };
    let cases = [
        ("a way out", clip(json!({"content": "../../outside"}))),
        ("a way out without a film", clip(json!({"content": "../../outside", "file": ""}))),
        ("an absolute way", clip(json!({"content": outside, "file": ""}))),
        ("no content", clip(json!({"content": "", "file": ""}))),
        ("a film that is a way", clip(json!({"file": "../letter.txt"}))),
        ("a hidden film", clip(json!({"file": ".bashrc"}))),
        ("a content that is a number", clip(json!({"content": 7, "file": ""}))),
        ("the clips twice", twice),
        ("a table of SQLite's", zip(&and("sqlite_schema", &["name"], json!(["x"])))),
        ("a column that is a statement", zip(&and("tag", &["clip) VALUES (1); --"], json!([1])))),
        ("a column twice", zip(&and("choice", &["key", "key"], json!(["a", "b"])))),
        ("a row too short", zip(&and("choice", &["key", "value"], json!(["a"])))),
        (
            "a mark of no clip",
            zip(&and("mark", &["clip", "id", "limb", "on_us"], json!([9, "m", "LF", 1]))),
        ),
        (
            "a mark of no limb",
            zip(&and("mark", &["clip", "id", "limb", "on_us"], json!([1, "m", "XY", 1]))),
        ),
        (
            "a tag that is none",
            zip(&and("tag", &["clip", "id", "from_us", "what"], json!([1, "t", 0, "{"]))),
        ),
        ("settings that are none", clip(json!({"settings": "{"}))),
        ("a clip without frames", clip(json!({"frame_times": "x"}))),
        ("a width that is a word", clip(json!({"width": "wide"}))),
        ("an unknown state", clip(json!({"proxy": "later"}))),
        ("a date that is none", {
            let mut all = tables(&json!({}));
            all[1]["rows"][0][2] = json!("yesterday");
            zip(&all)
        }),
        ("a name that is a list", {
            let mut all = tables(&json!({}));
            all[0]["rows"][0][1] = json!({"hex": "ff"});
            zip(&all)
        }),
        ("a document that is made to grow", bomb),
        ("no tables at all", packed("{\"schema\":\"umlauf.yard/1\"", &[])),
        (
            "a later version",
            packed(
                &json!({"schema": "umlauf.yard/1", "version": VERSION + 1, "tables": []})
                    .to_string(),
                &[],
            ),
        ),
        (
            "rows before their table",
            packed(
                "{\"schema\":\"umlauf.yard/1\",\"version\":7,\"tables\":[{\"rows\":[[1]],\"name\":\"horse\",\"columns\":[\"id\"]}]}",
                &[],
            ),
        ),
    ];
    for (name, hostile) in &cases {
        let (status, says) = yard.import(hostile);
        assert_eq!(status, 422, "{name}: {says}");
        yard.is_untouched(name);
        // What is thrown away for good takes nothing else along.
        assert_eq!(post(&yard.at("space/empty"), &Value::Null).status, 200, "{name}");
    }
    assert!(yard.program.peak_memory_kib() < 200 << 10, "{} KiB", yard.program.peak_memory_kib());
    // The same yard without harm comes in, and what acts on the machine stays outside.
    let mut good = and("choice", &["key", "value"], json!(["watched_folder", outside]));
    good[3]["rows"].as_array_mut().unwrap().push(json!(["target.1.trot.tempo", "78"]));
    let (status, says) = yard.import(&zip(&good));
    assert_eq!(status, 200, "{says}");
    assert_eq!(get(&yard.at("setup")).json()["watched_folder"], Value::Null);
    assert_eq!(get(&yard.at("yard")).json()["horses"][0]["name"], "Kiebitz");
    let back = yard.data.join("footage").join(content()).join("watt.mp4");
    assert_eq!(std::fs::read(back).unwrap(), FILM);
}

#[test]
fn a_film_that_is_not_what_its_name_says_stays_outside_and_takes_nothing_else_along() {
    let huge = vec![0u8; 4 << 20];
    let film_bomb = {
        let hash = blake3::hash(&huge).to_hex().to_string();
        let document = json!({"schema": "umlauf.yard/1", "version": VERSION, "tables":
            tables(&json!({"content": hash, "bytes": huge.len()}))});
        let name = format!("footage/{hash}/watt.mp4");
        packed(&document.to_string(), &[(name, &huge, CompressionMethod::Deflated)])
    };
    let document =
        json!({"schema": "umlauf.yard/1", "version": VERSION, "tables": tables(&json!({}))});
    let other: &[u8] = b"something else that is as long as this is....";
    assert_eq!(other.len(), FILM.len());
    let other = packed(&document.to_string(), &[(film().0, other, CompressionMethod::Stored)]);
    for hostile in [film_bomb, other] {
        let yard = Yard::empty();
        let (status, says) = yard.import(&hostile);
        assert!(status == 200 && says.contains("the film of watt is damaged"), "{says}");
        assert_eq!(below(&yard.data.join("footage")), vec![]);
        assert_eq!(get(&yard.at("yard")).json()["horses"][0]["name"], "Kiebitz");
        assert_eq!(get(&yard.at("clips/1/desk")).status, 200);
    }
}

#[test]
fn what_a_killed_import_left_is_swept_away_and_never_trusted() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("yard");
    drop(Store::open(&data, None).unwrap());
    // A film cut short lies where the whole one belongs; an import was killed while it moved another one in.
    let short = data.join("footage").join(content());
    let other = data.join("footage").join("0b".repeat(32));
    let aside = data.join("coming-back");
    for folder in [&short, &other, &aside.join("footage")] {
        std::fs::create_dir_all(folder).unwrap();
    }
    std::fs::write(short.join("watt.mp4"), &FILM[..9]).unwrap();
    std::fs::write(other.join("watt.mp4"), "half").unwrap();
    std::fs::write(aside.join("moved.txt"), "0b".repeat(32)).unwrap();
    std::fs::write(data.join("incoming/.tmpGone"), vec![0; 1000]).unwrap();
    let program = Program::start(&["serve"], &data);
    assert!(!other.exists() && !aside.exists() && below(&data.join("incoming")).is_empty());
    let url = format!("{}/api/import", program.url);
    let kind = [("Content-Type", "application/zip")];
    let answer = send("POST", &url, &kind, &zip(&tables(&json!({}))));
    assert_eq!(answer.status, 200, "{}", answer.text);
    assert_eq!(std::fs::read(short.join("watt.mp4")).unwrap(), FILM);
    // A film that the ZIP lacks is said to be missing.
    drop(program);
    let lacking = folder.path().join("lacking.zip");
    let document =
        json!({"schema": "umlauf.yard/1", "version": VERSION, "tables": tables(&json!({}))});
    std::fs::write(&lacking, packed(&document.to_string(), &[])).unwrap();
    let said = restore(&lacking, &folder.path().join("second")).1;
    assert!(said.contains("the film of watt is not in there"), "{said}");
}

#[test]
fn one_program_holds_a_yard_and_a_second_one_is_told_who() {
    let yard = Yard::empty();
    let second = Command::new(env!("CARGO_BIN_EXE_umlauf"))
        .args(["serve", "--port", "0", "--data", yard.data.to_str().unwrap()])
        .output()
        .unwrap();
    let said = String::from_utf8(second.stderr).unwrap();
    assert!(!second.status.success() && said.contains("by a server (process "), "{said}");
    let file = yard.data.with_file_name("yard.zip");
    std::fs::write(&file, zip(&tables(&json!({})))).unwrap();
    let (done, said) = restore(&file, &yard.data);
    assert!(!done && said.contains("is open already"), "{said}");
    yard.is_untouched("a restore beside a server");
    // A killed server holds nothing.
    let data = yard.data.clone();
    let Yard { folder: _folder, program, .. } = yard;
    program.kill();
    let (done, said) = restore(&file, &data);
    assert!(done, "{said}");
    // Once more is refused, and what was made of its film since is left alone.
    let made = data.join("footage").join(content()).join("made.jpg");
    std::fs::write(&made, "a picture").unwrap();
    let (done, said) = restore(&file, &data);
    assert!(!done && said.contains("only where there is none") && made.exists(), "{said}");
}
