//! The page in a real browser: starts the program with the demo yard, then the Playwright specs.
#![allow(clippy::unwrap_used, reason = "a test that cannot go on has failed")]

mod common;

use std::path::Path;
use std::process::Command;

use common::{Program, root, worn};
use umlauf_gait::base::limb::Limb;
use umlauf_synth::flat::film::{FlatFilm, MARGIN_S};

/// Where wraps are to be clicked, and when each hoof lands.
fn worn_words(film: &FlatFilm) -> String {
    let own = |limb: Limb| {
        let ons: Vec<f64> =
            film.truth.stances[limb.index()].iter().map(|s| s.on + MARGIN_S).collect();
        let at = |(at_s, x, y): (f64, f64, f64)| serde_json::json!({"at_s": at_s, "x": x, "y": y});
        let [wrap, hoof] = [worn::click, worn::hoof].map(|of| at(of(film, limb)));
        serde_json::json!({"limb": limb.code(), "wrap": wrap, "hoof": hoof, "on_s": ons})
    };
    serde_json::Value::from(Limb::ALL.map(own).to_vec()).to_string()
}

#[test]
fn the_page_does_its_work_in_chromium() {
    for needed in ["web/dist/index.html", "e2e/node_modules/@playwright/test/package.json"] {
        assert!(root().join(needed).exists(), "{needed} is missing: run `make test`");
    }
    let folder = tempfile::tempdir().expect("a folder");
    let clip = folder.path().join("counting.mp4");
    common::counting_clip(&clip, 1280, 480, 120);
    let worn_clip = folder.path().join("wraps.mp4");
    let film = worn::film();
    worn::encode(&film, &worn_clip);
    // Without its sound more of it is doubtful.
    let silent = folder.path().join("silent-canter.mp4");
    let made = Command::new("ffmpeg")
        .args(["-v", "error", "-i", "demo/priel-canter.mp4", "-an", "-c", "copy"])
        .arg(&silent)
        .current_dir(root())
        .status();
    assert!(made.expect("ffmpeg runs").success());
    let program = Program::start(&["demo"], &folder.path().join("yard"));
    let set: Vec<serde_json::Value> = common::footage_set::good(folder.path())
        .iter()
        .map(|file| {
            let id = program.send_file(&file.path, None).expect("it comes in");
            let name = file.path.file_name().expect("a name").to_string_lossy();
            serde_json::json!({"clip": id, "name": name, "rotation": file.rotation, "first": file.first})
        })
        .collect();
    // Two films of different length, to be locked stride for stride.
    let locked: Vec<i64> = [("lock-a.mp4", 1000), ("lock-b.mp4", 900)]
        .iter()
        .map(|(name, frames)| {
            let path = folder.path().join(name);
            common::counting_clip(&path, 320, *frames, 60);
            program.send_file(&path, None).expect("it comes in")
        })
        .collect();
    program.wait_for_jobs(std::time::Duration::from_secs(900));
    // A yard that is to be brought back goes into an empty one.
    let empty = Program::start(&["serve"], &folder.path().join("empty"));
    // One in which footfalls find themselves.
    let looking = Program::looking(&["serve"], &folder.path().join("looking"));
    let status = Command::new("npx")
        .args(["playwright", "test"])
        .current_dir(root().join("e2e"))
        .env("UMLAUF_URL", &program.url)
        .env("UMLAUF_EMPTY", &empty.url)
        .env("UMLAUF_LOOKING", &looking.url)
        .env("UMLAUF_SET", serde_json::Value::from(set).to_string())
        .env("UMLAUF_COUNTING_CLIP", Path::new(&clip))
        .env("UMLAUF_SILENT_CLIP", &silent)
        .env("UMLAUF_WORN_CLIP", &worn_clip)
        .env("UMLAUF_WORN", worn_words(&film))
        .env("UMLAUF_LOCKED", serde_json::Value::from(locked).to_string())
        .status()
        .expect("npx runs");
    assert!(status.success(), "Playwright specs failed; their report stands above");
}
